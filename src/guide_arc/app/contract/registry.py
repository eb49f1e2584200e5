"""The commands of all places together: checked, and by menu."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from functools import partial
from typing import Final

from guide_arc.app.contract.command import Action
from guide_arc.app.contract.place import About, Door

# Menus in the order of the bar; what places add is before the last two.
FIRST_MENUS: Final = ("File", "Edit", "Go")
LAST_MENUS: Final = ("View", "Help")


class Registry:
    """doors : the places, home first; visit : goes to one by its id; also : the shell's own
    commands.

    Raises ValueError for an id given twice, a key given twice within one place, or an unknown
    place.
    """

    def __init__(
        self, doors: Iterable[Door], visit: Callable[[str], None], also: Iterable[Action] = ()
    ) -> None:
        also = tuple(also)
        self.doors = {door.about.id: door for door in doors}
        places = [door.about for door in self.doors.values()]
        going = [_go(place, visit) for place in places]
        going += [_back(places[0], place, visit) for place in places[1:]]
        own = [action for door in self.doors.values() for action in door.actions]
        self.commands = {c.id: c for c in (*also, *going, *own)}
        if len(self.commands) != len(going) + len(own) + len(also):
            raise ValueError("two commands have one id")
        self._check_places()
        self._check_keys()

    def _check_places(self) -> None:
        for command in self.commands.values():
            if command.place is not None and command.place not in self.doors:
                raise ValueError(f"{command.id} belongs to {command.place!r}, which is no place")

    def _check_keys(self) -> None:
        for place in (*self.doors, None):
            seen: dict[str, str] = {}
            for command in self.commands.values():
                if command.place not in (None, place):
                    continue
                for key in command.keys:
                    if key in seen:
                        raise ValueError(f"{key} is on {seen[key]} and on {command.id}")
                    seen[key] = command.id

    def __iter__(self) -> Iterator[Action]:
        return iter(self.commands.values())

    def menus(self) -> dict[str, list[Action]]:
        """The commands by menu, in the order of the bar."""
        names = dict.fromkeys(c.menu for c in self)
        between = [n for n in names if n not in (*FIRST_MENUS, *LAST_MENUS)]
        order = [n for n in (*FIRST_MENUS, *between, *LAST_MENUS) if n in names]
        return {name: [c for c in self if c.menu == name] for name in order}

    def within(self, place: str) -> list[Action]:
        """The commands that can be used in a place."""
        return [c for c in self if c.place in (None, place)]


def _go(place: About, visit: Callable[[str], None]) -> Action:
    return Action(
        id=f"go.{place.id}",
        words=place.words,
        menu="Go",
        keys=(place.key,) if place.key else (),
        help=place.help or f"Go to {place.words}",
        run=partial(visit, place.id),
        usable=_always,
    )


def _back(home: About, place: About, visit: Callable[[str], None]) -> Action:
    words = f"Back to {home.words}"
    return Action(
        id=f"back.{place.id}",
        words=words,
        menu="Go",
        keys=("Escape",),
        help=words,
        run=partial(visit, home.id),
        usable=_always,
        place=place.id,
    )


def _always() -> bool:
    return True
