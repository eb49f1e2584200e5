"""Which place the window shows, and the rail of buttons that leads from one to another."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QPushButton, QStackedWidget, QVBoxLayout, QWidget

from guide_arc.app.contract.destination import Destination
from guide_arc.app.contract.place import Door, Place
from guide_arc.app.contract.registry import Registry
from guide_arc.app.shell.needs import ShellNeeds

_RAIL_WIDE: Final = 92


class PlacesShown:
    """say : shows a message in the foot; entered : called when a place is shown"""

    def __init__(
        self,
        program: ShellNeeds,
        registry: Registry,
        say: Callable[[str], None],
        entered: Callable[[], None],
    ) -> None:
        self.program, self.doors = program, registry.doors
        self._say, self._entered = say, entered
        self.id = next(iter(self.doors))
        self.stack = QStackedWidget()
        self.buttons: dict[str, QPushButton] = {}

    def rail(self) -> QVBoxLayout:
        """A button for each place, one below the other."""
        box = QVBoxLayout()
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(2)
        for door in self.doors.values():
            entry = door.about
            button = QPushButton(entry.words)
            button.setObjectName("rail")
            button.setCheckable(True)
            button.setFixedWidth(_RAIL_WIDE)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.setToolTip(f"{entry.help or entry.words} ({entry.key})")
            button.clicked.connect(lambda _on, id=entry.id: self.visit(id))
            self.buttons[entry.id] = button
            box.addWidget(button)
        box.addStretch(1)
        return box

    @property
    def made(self) -> dict[str, Place]:
        """The places that were made so far."""
        return {id: d.place for id, d in self.doors.items() if d.place is not None}

    @property
    def door(self) -> Door:
        """The door of the place that is shown."""
        return self.doors[self.id]

    def visit(self, place: str, *, again: bool = False) -> None:
        """The user goes to a place: what was said in another one is not about it.

        again : it is gone to by its key, so that even a sentence about itself ends
        """
        if again or place != self.id:
            self._say("")
        self.go(self.doors[place])

    def go(self, door: Door, to: Destination | None = None) -> None:
        """Show a place; one that needs the core waits until that is loaded."""
        if door.about.needs_core and not self.program.library.ready:
            self._say("One moment…")
            self.program.library.when_ready(lambda: self.show(door, to))
        else:
            self.show(door, to)

    def make_early(self) -> None:
        """The places that are to open at once."""
        for door in self.doors.values():
            if door.about.early and self.program.library.ready:
                self._widget(door)

    def _widget(self, door: Door) -> QWidget:
        new = door.place is None
        made = door.make()
        assert isinstance(made, QWidget), f"{door.about.id} is no widget"
        if new:
            self.stack.addWidget(made)
        return made

    def show(self, door: Door, to: Destination | None = None) -> None:
        shown, before = self._widget(door), self.door.place
        if before is not None and before is not door.place:
            before.leave()
        self.id = door.about.id
        self.stack.setCurrentWidget(shown)
        door.enter(to)  # which may lead on: to a place without what it needs
        for name, button in self.buttons.items():
            button.setChecked(name == self.id)
        self._entered()
