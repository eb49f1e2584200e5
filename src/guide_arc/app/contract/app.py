"""What a place, a command or a service may ask of the program, split by need.

A place says in its `needs.py` which of these it takes, and which services.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol

from guide_arc.app.contract.destination import Destination
from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Runs
from guide_arc.app.contract.signal import BoundSignal


class Says(Protocol):
    """The foot of the window."""

    def say(self, words: str) -> None:
        """One sentence at the foot of the window, for a few seconds."""


class Goes(Protocol):
    """The way to other places."""

    def go(self, to: Destination) -> None:
        """Show a place: `app.go(ToReview(set_id=7))`."""


class Undoes(Protocol):
    """The one list of what was done."""

    def did(self, step: Step) -> None:
        """A step of undo: called after it succeeded, never before."""

    def break_off(self) -> None:
        """The next change is a separate step, even if it continues the last one."""

    def start_over(self) -> None:
        """All that was shown is of another library now: no step of before can be taken back."""


class Refreshes(Protocol):
    """The window's header and commands."""

    def changed(self) -> None:
        """What the header says or what can be done has changed: both are asked for again."""


class Coloured(Protocol):
    """The colours of the light or the dark look."""

    @property
    def colours(self) -> Mapping[str, str]: ...

    @property
    def recoloured(self) -> BoundSignal[Mapping[str, str]]:
        """The look has changed; its colours are handed over."""


class Closes(Protocol):
    """The end of the window."""

    @property
    def closing(self) -> BoundSignal[()]:
        """No news comes after this."""


class RememberedSettings(Protocol):
    """What the window remembers between two starts."""

    def text(self, key: str, default: str = "") -> str: ...

    def keep(self, key: str, value: str) -> None: ...


class Remembers(Protocol):
    """Who gives what the window remembers."""

    @property
    def remembered(self) -> RememberedSettings: ...


class App(Says, Goes, Runs, Undoes, Refreshes, Protocol):
    """The program as a service sees it."""
