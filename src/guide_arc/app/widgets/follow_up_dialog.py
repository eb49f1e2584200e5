"""What to come back to, for one client, and when."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import date, timedelta
from typing import Final

from PyQt6.QtCore import QDate
from PyQt6.QtWidgets import QComboBox, QDateEdit, QFormLayout, QHBoxLayout, QPushButton, QWidget

from guide_arc.app.widgets.asking import AskingDialog, open_dialog

MOST_LETTERS: Final = 200
_SOON: Final = (("Tomorrow", 1), ("In a week", 7), ("In two weeks", 14))


class FollowUpDialog(AskingDialog):
    """words : offered, and free to be typed; due : a week from today at first"""

    def __init__(self, parent: QWidget, client: str, offered: Sequence[str], today: date) -> None:
        super().__init__(parent, f"Follow up on {client}", "Keep")
        self._today = today
        self.words = QComboBox()
        self.words.setEditable(True)
        self.words.addItems(list(offered))
        self.words.setMinimumWidth(380)
        self.words.setAccessibleName("What to come back to")
        self.due = QDateEdit()
        self.due.setCalendarPopup(True)
        self.due.setDisplayFormat("ddd d MMM yyyy")
        self.due.setAccessibleName("When")
        self._in(7)
        row = QHBoxLayout()
        row.addWidget(self.due, 1)
        for title, days in _SOON:
            button = QPushButton(title)
            button.setAutoDefault(False)
            button.clicked.connect(lambda _on, d=days: self._in(d))
            row.addWidget(button)
        form = QFormLayout()
        form.addRow("What", self.words)
        form.addRow("When", row)
        self.box.addLayout(form)
        self.finish()
        line = self.words.lineEdit()
        if line is not None:
            line.selectAll()
        self.words.setFocus()

    def _in(self, days: int) -> None:
        day = self._today + timedelta(days=days)
        self.due.setDate(QDate(day.year, day.month, day.day))

    @property
    def day(self) -> date:
        at = self.due.date()
        return date(at.year(), at.month(), at.day())

    def text(self) -> str:
        return " ".join(self.words.currentText().split())

    def error(self) -> str | None:
        if not self.text():
            return "Say what to come back to."
        if len(self.text()) > MOST_LETTERS:
            return f"That has {len(self.text())} letters; there is room for {MOST_LETTERS}."
        return "This day is in the past." if self.day < self._today else None


def ask_follow_up(
    parent: QWidget, client: str, offered: Sequence[str], then: Callable[[str, date], object]
) -> None:
    """Ask for a follow-up; `then` is called with what and when."""
    dialog = FollowUpDialog(parent.window() or parent, client, offered, date.today())
    open_dialog(dialog, lambda: then(dialog.text(), dialog.day))
