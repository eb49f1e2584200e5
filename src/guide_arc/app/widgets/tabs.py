"""A few sheets in one place, with their names in a row above."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)


class Tabs(QFrame):
    """Named sheets; `extra` goes to the right end of the row of names."""

    changed = pyqtSignal(str)

    def __init__(
        self, sheets: dict[str, QWidget], tips: dict[str, str], extra: list[QWidget]
    ) -> None:
        super().__init__()
        self.setObjectName("panel")
        box = QVBoxLayout(self)
        box.setContentsMargins(1, 4, 1, 1)
        box.setSpacing(0)
        row = QHBoxLayout()
        row.setContentsMargins(8, 0, 10, 0)
        row.setSpacing(2)
        self.names = list(sheets)
        self.stack = QStackedWidget()
        self.group = QButtonGroup(self)
        self.buttons: dict[str, QPushButton] = {}
        for name, sheet in sheets.items():
            button = QPushButton(name)
            button.setObjectName("tab")
            button.setCheckable(True)
            button.setToolTip(tips.get(name, ""))
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.clicked.connect(lambda _on, n=name: self.show_sheet(n))
            self.group.addButton(button)
            self.buttons[name] = button
            row.addWidget(button)
            self.stack.addWidget(sheet)
        row.addStretch(1)
        for widget in extra:
            row.addSpacing(14)
            row.addWidget(widget)
        box.addLayout(row)
        box.addWidget(self.stack, 1)
        self.buttons[self.names[0]].setChecked(True)

    @property
    def current(self) -> str:
        return self.names[self.stack.currentIndex()]

    def show_sheet(self, name: str) -> None:
        self.buttons[name].setChecked(True)
        self.stack.setCurrentIndex(self.names.index(name))
        self.changed.emit(name)

    def show_next(self) -> None:
        self.show_sheet(self.names[(self.stack.currentIndex() + 1) % len(self.names)])
