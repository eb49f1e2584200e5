"""The commands as Qt's actions: menus, shortcuts, and which can be used now."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QMainWindow, QMenu

from guide_arc.app.contract.command import Command
from guide_arc.app.contract.registry import Registry


class Actions:
    """run : called with the command that was chosen"""

    def __init__(
        self, window: QMainWindow, registry: Registry, run: Callable[[Command], None]
    ) -> None:
        self.registry = registry
        self.by_id: dict[str, QAction] = {}
        self.menus: dict[str, QMenu] = {}
        bar = window.menuBar()
        assert bar is not None
        for name, commands in registry.menus().items():
            menu = bar.addMenu(name)
            assert menu is not None
            self.menus[name] = menu
            for command in commands:
                action = QAction(command.words, window)
                action.setShortcuts([QKeySequence(k) for k in command.keys])
                action.triggered.connect(lambda _on=False, c=command: run(c))
                menu.addAction(action)
                window.addAction(action)
                self.by_id[command.id] = action

    def usable(self, command: Command, place_id: str, place: Any) -> bool:
        return command.place in (None, place_id) and place is not None and command.when(place)

    def refresh(self, place_id: str, place: Any) -> None:
        """What belongs to another place is neither shown nor heard; what can't be used now is grey."""
        for command in self.registry:
            action = self.by_id[command.id]
            action.setVisible(command.place in (None, place_id))
            action.setEnabled(self.usable(command, place_id, place))
        for name, commands in self.registry.menus().items():
            menu = self.menus[name].menuAction()
            if menu is not None:
                menu.setVisible(any(c.place in (None, place_id) for c in commands))
