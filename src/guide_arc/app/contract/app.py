"""All that a place, a command or a service may ask of the program."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Protocol, TypeVar

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job

R = TypeVar("R")


class App(Protocol):
    """The program, as everything within it sees it."""

    def say(self, words: str) -> None:
        """One sentence at the foot of the window, for a few seconds."""

    def go(self, place: str, **what: Any) -> None:
        """Show a place; `what` is handed to its `enter`: `app.go("review", set_id=7)`."""

    def start(
        self, job: Job[R], done: Callable[[R], object], over: Callable[[], None] | None = None
    ) -> None:
        """Run a job off the window's thread; `done` hears its answer, `over` that it ended in any
        way."""

    def did(self, step: Step) -> None:
        """A step of undo: told after it succeeded, never before."""

    def start_anew(self) -> None:
        """All that was shown is of another library now: no step of before can be taken back."""

    def changed(self) -> None:
        """What the header says or what can be done has changed: both are asked for anew."""
