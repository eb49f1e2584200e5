"""The page of keys, made from the table of commands."""

from __future__ import annotations

from typing import NamedTuple

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QLabel,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.contract.command import Action
from guide_arc.app.contract.registry import Registry
from guide_arc.app.widgets.panels import scrolled
from guide_arc.app.widgets.picker import matches


class _Line(NamedTuple):
    """A command on the page. searched : by what it is found"""

    labels: tuple[QLabel, ...]
    searched: str


class KeysPage(QDialog):
    """All keys: those of the place that is open first, then those that work everywhere, then the
    other places'. What is typed narrows the page."""

    def __init__(self, parent: QWidget, registry: Registry, here: str) -> None:
        super().__init__(parent)
        self.setWindowTitle("Keys")
        self.resize(860, 640)
        self.field, self.none = QLineEdit(), QLabel()
        self.field.setPlaceholderText("Type to search, such as undo or Ctrl")
        self.field.setAccessibleName("Search the keys")
        self.field.setClearButtonEnabled(True)
        self.none.setObjectName("muted")
        self._groups: list[tuple[QLabel, list[_Line]]] = []
        inside = QWidget()
        self._grid = QGridLayout(inside)
        self._grid.setContentsMargins(4, 0, 16, 8)
        self._grid.setVerticalSpacing(3)
        self._grid.setHorizontalSpacing(18)
        places = {d.about.id: f"In {d.about.words}" for d in registry.doors.values()}
        groups: dict[str | None, str] = {here: places[here]} if here in places else {}
        groups[None] = "Everywhere"
        groups.update(places)
        for place, words in groups.items():
            commands = [c for c in registry if c.place == place]
            if commands:
                self._add(words, commands)
        self._grid.setColumnStretch(2, 1)
        box = QVBoxLayout(self)
        box.addWidget(self.field)
        box.addWidget(self.none)
        box.addWidget(scrolled(inside, keys=True))
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        box.addWidget(buttons)
        self.field.textChanged.connect(self._narrow)
        self._narrow("")
        self.field.setFocus()

    def _add(self, words: str, commands: list[Action]) -> None:
        title = QLabel(words)
        title.setObjectName("heading")
        title.setContentsMargins(0, 10, 0, 2)
        self._grid.addWidget(title, self._grid.rowCount(), 0, 1, 3)
        self._groups.append((title, [self._line(words, command) for command in commands]))

    def _line(self, place: str, command: Action) -> _Line:
        name = QLabel(command.words.rstrip("…"))
        keys = QLabel(" or ".join(command.keys) or "–")
        keys.setObjectName("guide")
        helps = QLabel(command.help)
        helps.setObjectName("muted")
        helps.setWordWrap(True)
        row = self._grid.rowCount()
        for column, label in enumerate((name, keys, helps)):
            label.setAlignment(Qt.AlignmentFlag.AlignTop)
            self._grid.addWidget(label, row, column)
        return _Line((name, keys, helps), f"{name.text()} {keys.text()} {command.help} {place}")

    def _narrow(self, typed: str) -> None:
        found = False
        for title, lines in self._groups:
            some = False
            for line in lines:
                fits = matches(typed, line.searched)
                some = some or fits
                for label in line.labels:
                    label.setVisible(fits)
            title.setVisible(some)
            found = found or some
        self.none.setVisible(not found)
        self.none.setText(f"Nothing matches “{typed.strip()}”.")
