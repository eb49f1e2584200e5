"""All that the shell knows of a screen."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, NamedTuple, Protocol

from guide_arc.app.contract.command import Command


class Place(Protocol):
    """A screen. Its widget is what `make` of its module gives."""

    def enter(self, **what: Any) -> None:
        """It is about to be shown; `what` says with what, where anything is asked for."""

    def leave(self) -> None:
        """Another place is about to be shown."""

    def header(self) -> Mapping[str, str]:
        """What the header says: `title`, `what`, `guide`, `load`, `when`, `position`; and the ids
        of the commands behind its two arrows, `before` and `after`. What is missing is not
        shown."""


class PlaceEntry(NamedTuple):
    """One screen as the program lists it. Nothing of it is loaded until it is gone to.

    words : in the rail
    key : goes there from everywhere
    hints : the keys at the foot of the window
    loads : `module:function`; the function is given the program and gives the place's widget
    needs_core : whether it waits until the library and the core are loaded
    also : further modules that it will need, loaded beforehand
    early : made as soon as the core is there, so that it opens at once
    """

    id: str
    words: str
    key: str
    hints: str
    loads: str
    commands: tuple[Command, ...] = ()
    help: str = ""
    needs_core: bool = True
    also: tuple[str, ...] = ()
    early: bool = False
