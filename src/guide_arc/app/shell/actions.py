"""The commands as Qt's actions: menus, shortcuts, and which can be used now."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QMainWindow, QMenu

from guide_arc.app.contract.command import Action
from guide_arc.app.contract.registry import Registry


class Actions:
    """run : called with the command that was chosen"""

    def __init__(
        self, window: QMainWindow, registry: Registry, run: Callable[[Action], None]
    ) -> None:
        self.window, self.registry, self._run = window, registry, run
        self.by_id: dict[str, QAction] = {}
        self.menus: dict[str, QMenu] = {}
        self._shown: tuple[str, int] | None = None

    def make(self, place: str | None = None) -> None:
        """The actions of a place and of the window, or of all places: those that are not there
        yet."""
        bar = self.window.menuBar()
        assert bar is not None
        wanted = self.registry.menus()
        for name, commands in wanted.items():
            menu = self.menus.get(name)
            if menu is None:
                menu = self.menus[name] = QMenu(name, self.window)
                later = list(wanted)[list(wanted).index(name) + 1 :]
                before = next((self.menus[n].menuAction() for n in later if n in self.menus), None)
                bar.insertMenu(before, menu)
            for command in commands:
                if command.id not in self.by_id and (
                    place is None or command.place in (None, place)
                ):
                    menu.addAction(self._action(command))

    def _action(self, command: Action) -> QAction:
        action = QAction(command.words, self.window)
        action.setShortcuts([QKeySequence(k) for k in command.keys])
        action.triggered.connect(lambda _on=False: self._run(command))
        self.window.addAction(action)
        self.by_id[command.id] = action
        return action

    def usable(self, command: Action, place_id: str) -> bool:
        return command.place in (None, place_id) and command.usable()

    def refresh(self, place_id: str) -> None:
        """Commands of other places are hidden and disabled; what can't be used now is
        grey."""
        for command in self.registry:
            action = self.by_id.get(command.id)
            if action is not None:
                action.setEnabled(self.usable(command, place_id))
        if self._shown != (place_id, len(self.by_id)):
            self._shown = (place_id, len(self.by_id))
            self._show(place_id)

    def _show(self, place_id: str) -> None:
        for id, action in self.by_id.items():
            action.setVisible(self.registry.commands[id].place in (None, place_id))
        for name, commands in self.registry.menus().items():
            menu = self.menus[name].menuAction()
            if menu is not None:
                menu.setVisible(any(c.place in (None, place_id) for c in commands))
