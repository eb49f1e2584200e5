"""The week of all clients: arrows go through clients and weeks, Enter opens a client's plan."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from datetime import date, timedelta
from typing import Final

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent
from PyQt6.QtWidgets import QDialog, QDialogButtonBox, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from guide_arc.app.widgets.canvas import Canvas
from guide_arc.app.widgets.panels import heading, hint, scrolled
from guide_arc.core.planning.practice import ClientFacts, ClientWeek, practice_week
from guide_arc.drawings import practice_sheet
from guide_arc.drawings.shapes import Drawing

_SIZE: Final = (980, 620)
_STEPS: Final = {
    Qt.Key.Key_Up: (-1, 0),
    Qt.Key.Key_Down: (1, 0),
    Qt.Key.Key_Left: (0, -1),
    Qt.Key.Key_Right: (0, 1),
}


class _Sheet(Canvas):
    def __init__(self, dialog: PracticeDialog, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self._dialog = dialog
        self.setAccessibleName("Week of all clients")

    def drawn(self, width: float, height: float) -> Drawing:
        d = self._dialog
        return practice_sheet.practice_sheet(width, d.weeks, d.monday, d.today, d.chosen)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self._dialog.choose(
                practice_sheet.row_at(event.position().y(), len(self._dialog.weeks))
            )

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        self._dialog.open_chosen()


class PracticeDialog(QDialog):
    """opened : the client whose plan is wanted"""

    def __init__(
        self,
        parent: QWidget,
        facts: Sequence[ClientFacts],
        today: date,
        colours: Mapping[str, str],
        then: Callable[[str], object],
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("The week of all clients")
        self.resize(*_SIZE)
        self._facts, self.today, self._then = tuple(facts), today, then
        self.monday = today - timedelta(days=today.weekday())
        self.weeks: tuple[ClientWeek, ...] = ()
        self.chosen: int | None = None
        self.title, self.sums = heading(""), QLabel()
        self.sums.setObjectName("hint")
        self.sheet = _Sheet(self, colours)
        top = QHBoxLayout()
        top.addWidget(self.title)
        top.addStretch(1)
        top.addWidget(self.sums)
        self.area = scrolled(self.sheet)
        below = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        below.rejected.connect(self.reject)
        foot = QHBoxLayout()
        foot.addWidget(hint("↑ ↓ client    ← → week    Enter opens the plan"), 1)
        foot.addWidget(below)
        box = QVBoxLayout(self)
        box.setContentsMargins(16, 12, 16, 10)
        box.addLayout(top)
        box.addWidget(self.area, 1)
        box.addLayout(foot)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._renew()
        self.choose(0 if self.weeks else None)
        self.setFocus()

    def _renew(self) -> None:
        self.weeks = practice_week(self._facts, self.monday, self.today)
        last = self.monday + timedelta(days=6)
        self.title.setText(
            f"{self.monday.day} {self.monday:%B} to {last.day} {last:%B} {last.year}"
        )
        states = [state for week in self.weeks for state in week.days.values()]
        done, planned = states.count("done"), states.count("planned")
        overdue = sum(bool(week.overdue) for week in self.weeks)
        self.sums.setText(f"{done} sessions done, {planned} planned, {overdue} clients overdue")
        self.sheet.setMinimumHeight(round(practice_sheet.practice_height(len(self.weeks))))
        self.sheet.redraw()

    def choose(self, row: int | None) -> None:
        if row is None or not 0 <= row < len(self.weeks):
            return
        self.chosen = row
        week = self.weeks[row]
        self.sheet.setAccessibleDescription(f"{week.name}: {week.words or 'nothing to do'}")
        self.sheet.redraw()
        y = round(practice_sheet.HEAD + row * practice_sheet.ROW)
        self.area.ensureVisible(0, y, 0, round(2 * practice_sheet.ROW))

    def step(self, clients: int, weeks: int) -> None:
        """Another client, or the week before or after; the client stays chosen."""
        if weeks:
            name = self.weeks[self.chosen].name if self.chosen is not None else ""
            self.monday += timedelta(weeks=weeks)
            self._renew()
            self.choose(next((i for i, w in enumerate(self.weeks) if w.name == name), None))
        elif self.chosen is not None:
            self.choose(min(max(self.chosen + clients, 0), len(self.weeks) - 1))

    def open_chosen(self) -> None:
        if self.chosen is not None:
            name = self.weeks[self.chosen].name
            self.accept()
            self._then(name)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        key = Qt.Key(event.key()) if event is not None else None
        if key in _STEPS:
            self.step(*_STEPS[key])
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.open_chosen()
        else:
            super().keyPressEvent(event)
