"""The weeks on a board, with the chosen day in words."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from PyQt6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout, QWidget

from guide_arc.app.places.plan.model import PlanModel
from guide_arc.app.places.plan.sheets import BoardView
from guide_arc.app.widgets.panels import heading, panel, scrolled
from guide_arc.core.planning.board import CardLine
from guide_arc.drawings.days import day_words

_STATES: Final = {
    "done": "Done",
    "planned": "Planned",
    "proposed": "Proposed",
    "missed": "Missed",
}
_KEYS: Final = "Enter opens    Shift+arrows move it    W back to the session"


class WeeksPage(QWidget):
    """foot : the words under the board"""

    def __init__(self, model: PlanModel, colours: Mapping[str, str], foot: str) -> None:
        super().__init__()
        self.model = model
        self.board = BoardView(model, colours)
        self.day, self.lines = QLabel(), QLabel()
        self.day.setObjectName("hint")
        self.lines.setWordWrap(True)
        self.lines.setMinimumHeight(36)
        sheet = panel()
        box = QVBoxLayout(sheet)
        box.setContentsMargins(2, 8, 2, 4)
        top = QHBoxLayout()
        top.setContentsMargins(12, 0, 12, 0)
        top.addWidget(heading("Weeks"))
        top.addStretch(1)
        top.addWidget(self.day)
        box.addLayout(top)
        area = scrolled(self.board)
        box.addWidget(area, 1)
        told = QHBoxLayout()
        told.setContentsMargins(12, 0, 12, 0)
        told.addWidget(self.lines)
        box.addLayout(told)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(10)
        whole.addWidget(sheet, 1)
        below = QLabel(foot)
        below.setObjectName("hint")
        whole.addWidget(below)

    def renew(self) -> None:
        """Another day, or other weeks."""
        day, card = self.model.doc.chosen_day, self.model.doc.chosen_card
        self.day.setText(f"{_KEYS}    {day:%A} {day_words(day.isoformat())}" if day else "")
        there = self.model.doc.sheet.known.client.session_min if self.model.doc.sheet else 0
        long = (
            f" Longer than the {there} min that there are: Enter, then L leaves out what does not"
            " fit."
        )
        self.lines.setText(
            "Nothing on this day. Enter plans a session; dragging, or Shift with an arrow, moves"
            " one here."
            if card is None
            else (
                f"{_STATES[card.state]}:"
                f" {', '.join(_told(line) for line in card.lines) or 'no exercise'}."
                f"{long if card.too_long else ''}"
            )
        )
        self.board.renew()


def _told(line: CardLine) -> str:
    """`Cross-cable rear fly × 3`"""
    return f"{line.name} (ask first)" if line.stopped else f"{line.name} × {line.sets}"
