"""Finding a command by typing, and the page of keys: both made from the table."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.contract.command import Action
from guide_arc.app.contract.registry import Registry
from guide_arc.app.widgets.panels import scrolled


class Palette(QDialog):
    """Type a few letters, press Enter."""

    def __init__(self, parent: QWidget, usable: Sequence[Action]) -> None:
        super().__init__(parent)
        self.setWindowTitle("All commands")
        self.setMinimumSize(460, 420)
        self.chosen: Action | None = None
        self._usable = list(usable)
        self.field = QLineEdit()
        self.field.setPlaceholderText("What do you want to do?")
        self.list = QListWidget()
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        box = QVBoxLayout(self)
        box.addWidget(self.field)
        box.addWidget(self.list)
        self.field.textChanged.connect(self._fill)
        self.field.returnPressed.connect(self._take)
        self.list.itemClicked.connect(lambda _item: self._take())
        self.field.installEventFilter(self)
        self._fill("")

    def _fill(self, words: str) -> None:
        self.list.clear()
        for command in self._usable:
            hay = f"{command.words} {command.help} {command.menu}".lower()
            if all(w in hay for w in words.lower().split()):
                keys = f"   {command.keys[0]}" if command.keys else ""
                item = QListWidgetItem(f"{command.words.rstrip('…')}{keys}")
                item.setToolTip(command.help)
                item.setData(Qt.ItemDataRole.UserRole, command)
                self.list.addItem(item)
        self.list.setCurrentRow(0)

    def _take(self) -> None:
        item = self.list.currentItem()
        if item is not None:
            self.chosen = item.data(Qt.ItemDataRole.UserRole)
            self.accept()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
            if step:
                row = min(max(self.list.currentRow() + step, 0), self.list.count() - 1)
                self.list.setCurrentRow(row)
                return True
        return super().eventFilter(watched, event)


class KeysPage(QDialog):
    """All keys: those that work everywhere, then place by place."""

    def __init__(self, parent: QWidget, registry: Registry) -> None:
        super().__init__(parent)
        self.setWindowTitle("Keys")
        self.resize(860, 640)
        inside = QWidget()
        grid = QGridLayout(inside)
        grid.setContentsMargins(4, 0, 16, 8)
        grid.setVerticalSpacing(3)
        grid.setHorizontalSpacing(18)
        groups: dict[str | None, str] = {None: "Everywhere"}
        groups.update((d.about.id, f"In {d.about.words}") for d in registry.doors.values())
        row = 0
        for place, words in groups.items():
            commands = [c for c in registry if c.place == place]
            if not commands:
                continue
            title = QLabel(words)
            title.setObjectName("heading")
            title.setContentsMargins(0, 10, 0, 2)
            grid.addWidget(title, row, 0, 1, 3)
            row += 1
            for command in commands:
                self._line(grid, row, command)
                row += 1
        grid.setColumnStretch(2, 1)
        scroll = scrolled(inside, keys=True)
        box = QVBoxLayout(self)
        box.addWidget(scroll)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        box.addWidget(buttons)

    @staticmethod
    def _line(grid: QGridLayout, row: int, command: Action) -> None:
        name = QLabel(command.words.rstrip("…"))
        keys = QLabel(" or ".join(command.keys) or "–")
        keys.setObjectName("guide")
        helps = QLabel(command.help)
        helps.setObjectName("muted")
        helps.setWordWrap(True)
        for column, label in enumerate((name, keys, helps)):
            label.setAlignment(Qt.AlignmentFlag.AlignTop)
            grid.addWidget(label, row, column)
