"""The commands of all places together: checked, and by menu."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import partial
from typing import Any, Final

from guide_arc.app.contract.app import App
from guide_arc.app.contract.command import Command
from guide_arc.app.contract.place import PlaceEntry

# Menus in the order of the bar; what places add stands before the last two.
FIRST_MENUS: Final = ("File", "Edit", "Go")
LAST_MENUS: Final = ("View", "Help")


class Registry:
    """entries : the places, home first; also : the shell's own commands.

    Raises ValueError for an id given twice, a key given twice within one place, or an unknown
    place.
    """

    def __init__(self, entries: Iterable[PlaceEntry], also: Iterable[Command] = ()) -> None:
        also = tuple(also)
        self.entries = {entry.id: entry for entry in entries}
        places = list(self.entries.values())
        going = [_go(entry) for entry in places]
        going += [_back(places[0], entry) for entry in places[1:]]
        own = [c for entry in self.entries.values() for c in entry.commands]
        self.commands = {c.id: c for c in (*also, *going, *own)}
        if len(self.commands) != len(going) + len(own) + len(also):
            raise ValueError("two commands have one id")
        self._check_places()
        self._check_keys()

    def _check_places(self) -> None:
        for command in self.commands.values():
            if command.place is not None and command.place not in self.entries:
                raise ValueError(f"{command.id} belongs to {command.place!r}, which is no place")

    def _check_keys(self) -> None:
        for place in (*self.entries, None):
            seen: dict[str, str] = {}
            for command in self.commands.values():
                if command.place not in (None, place):
                    continue
                for key in command.keys:
                    if key in seen:
                        raise ValueError(f"{key} is on {seen[key]} and on {command.id}")
                    seen[key] = command.id

    def __iter__(self) -> Iterator[Command]:
        return iter(self.commands.values())

    def menus(self) -> dict[str, list[Command]]:
        """The commands by menu, in the order of the bar."""
        names = dict.fromkeys(c.menu for c in self)
        between = [n for n in names if n not in (*FIRST_MENUS, *LAST_MENUS)]
        order = [n for n in (*FIRST_MENUS, *between, *LAST_MENUS) if n in names]
        return {name: [c for c in self if c.menu == name] for name in order}

    def within(self, place: str) -> list[Command]:
        """The commands that can be used in a place."""
        return [c for c in self if c.place in (None, place)]


def _go(entry: PlaceEntry) -> Command:
    help = entry.help or f"Go to {entry.words}"
    keys = (entry.key,) if entry.key else ()
    return Command(f"go.{entry.id}", entry.words, "Go", keys, help, partial(_gone, entry.id))


def _back(home: PlaceEntry, entry: PlaceEntry) -> Command:
    words = f"Back to {home.words}"
    run = partial(_gone, home.id)
    return Command(f"back.{entry.id}", words, "Go", ("Escape",), words, run, entry.id)


def _gone(place: str, app: App, _shown: Any) -> None:
    app.say("")  # what was said in one place is not about the next
    app.go(place)
