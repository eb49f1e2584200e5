"""All that the shell knows of a screen."""

from __future__ import annotations

from collections.abc import Callable
from typing import Generic, NamedTuple, Protocol, TypeVar

from guide_arc.app.contract.command import Action, Command
from guide_arc.app.contract.destination import Destination


class HeaderParts(NamedTuple):
    """What the header says; what is empty is not shown.

    before, after : the ids of the commands behind its two arrows
    """

    title: str = ""
    what: str = ""
    guide: str = ""
    load: str = ""
    when: str = ""
    position: str = ""
    before: str = ""
    after: str = ""


class Place(Protocol):
    """A screen, which is a widget. It has an `enter` too, whose parameter is its own kind of
    destination; the entry names it."""

    def leave(self) -> None:
        """Another place is about to be shown."""

    def header(self) -> HeaderParts: ...


class Door(Protocol):
    """A place as the shell holds it. Nothing of it is loaded until it is made."""

    @property
    def about(self) -> About: ...

    @property
    def actions(self) -> tuple[Action, ...]: ...

    @property
    def place(self) -> Place | None:
        """The place, once it is made."""

    def make(self) -> Place:
        """The place, made on first use."""

    def enter(self, to: Destination | None = None) -> None:
        """It is about to be shown; None: with nothing asked for. Raises TypeError if the
        destination is another place's."""


class About(NamedTuple):
    """What is known of a place before it is made.

    words : in the rail
    key : goes there from everywhere
    hints : the keys at the foot of the window
    needs_core : whether it waits until the library and the core are loaded
    early : made as soon as the core is there, so that it opens at once
    loads : what it will need, loaded beforehand
    """

    id: str
    words: str
    key: str
    hints: str
    help: str
    needs_core: bool
    early: bool
    loads: tuple[object, ...]


N = TypeVar("N")
N_contra = TypeVar("N_contra", contravariant=True)
P = TypeVar("P", bound=Place)
D = TypeVar("D", bound=Destination)


class OpensFor(Protocol[N_contra]):
    """An entry, for a program that offers what its place needs."""

    def door(self, needs: N_contra) -> Door: ...


class PlaceEntry(NamedTuple, Generic[N, P, D]):
    """One screen as the program lists it. What it names of its place is imported `lazily`.

    start : the default entry
    make : the place, of what it needs
    enter : it is about to be shown, with what its destination says
    everywhere : commands that can be used in all places, of what this one needs
    also : further modules that it will need
    The others are as in About.
    """

    words: str
    key: str
    hints: str
    start: D
    make: Callable[[N], P]
    enter: Callable[[P, D], None]
    commands: tuple[Command[P], ...] = ()
    everywhere: tuple[Command[N], ...] = ()
    help: str = ""
    needs_core: bool = True
    also: tuple[object, ...] = ()
    early: bool = False

    def door(self, needs: N) -> Door:
        return _Door(self, needs)


class _Door(Generic[N, P, D]):
    def __init__(self, entry: PlaceEntry[N, P, D], needs: N) -> None:
        self._entry, self._needs = entry, needs
        self._place: P | None = None
        self.about = About(
            id=entry.start.place,
            words=entry.words,
            key=entry.key,
            hints=entry.hints,
            help=entry.help,
            needs_core=entry.needs_core,
            early=entry.early,
            loads=(entry.make, *entry.also),
        )
        self.actions = (
            *(self._within(command) for command in entry.commands),
            *(self._everywhere(command) for command in entry.everywhere),
        )

    @property
    def place(self) -> P | None:
        return self._place

    def make(self) -> P:
        if self._place is None:
            self._place = self._entry.make(self._needs)
        return self._place

    def enter(self, to: Destination | None = None) -> None:
        there = self._entry.start if to is None else to
        if not isinstance(there, type(self._entry.start)):
            raise TypeError(f"{there!r} does not lead to {self.about.id}")
        self._entry.enter(self.make(), there)

    def _within(self, command: Command[P]) -> Action:
        def run() -> None:
            command.run(self.make())

        def usable() -> bool:
            return self._place is not None and command.when(self._place)

        return _action(command, run, usable, self.about.id)

    def _everywhere(self, command: Command[N]) -> Action:
        def run() -> None:
            command.run(self._needs)

        return _action(command, run, lambda: command.when(self._needs), None)


def _action(
    command: Command[N], run: Callable[[], object], usable: Callable[[], bool], place: str | None
) -> Action:
    return Action(
        id=command.id,
        words=command.words,
        menu=command.menu,
        keys=command.keys,
        help=command.help,
        run=run,
        usable=usable,
        place=place,
    )
