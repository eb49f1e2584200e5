"""Whole sessions side by side, each line with its reason; one is taken by a click or its number."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import Final

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.widgets.asking import open_dialog, window_of
from guide_arc.app.widgets.panels import heading, hint, panel
from guide_arc.core.planning.propose import ProposedLine, ProposedSession

_WIDE: Final = 400
_TALL: Final = 600


class ProposeDialog(QDialog):
    """taken : the one that was chosen"""

    def __init__(self, parent: QWidget, offered: Sequence[ProposedSession], day: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"A session for {day}")
        self.taken: ProposedSession | None = None
        self.buttons: list[QPushButton] = []
        row = QHBoxLayout()
        row.setSpacing(10)
        for number, one in enumerate(offered, 1):
            row.addWidget(self._column(number, one), 1)
        below = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        below.rejected.connect(self.reject)
        says = hint("What is planned for the day is replaced; undo brings it back.")
        foot = QHBoxLayout()
        foot.addWidget(says, 1)
        foot.addWidget(below)
        box = QVBoxLayout(self)
        box.setContentsMargins(16, 14, 16, 12)
        box.setSpacing(10)
        box.addLayout(row, 1)
        box.addLayout(foot)
        self.resize(min(_WIDE * max(len(offered), 1) + 40, 1060), _TALL)

    def _column(self, number: int, one: ProposedSession) -> QFrame:
        frame = panel()
        box = QVBoxLayout(frame)
        box.setContentsMargins(12, 10, 12, 10)
        box.setSpacing(6)
        box.addWidget(heading(one.title))
        why = hint(f"{one.why} {one.length_s / 60:.0f} min, {len(one.lines)} exercises.")
        why.setWordWrap(True)
        box.addWidget(why)
        lines = QWidget()
        inside = QVBoxLayout(lines)
        inside.setContentsMargins(0, 0, 0, 0)
        inside.setSpacing(8)
        for line in one.lines:
            inside.addWidget(_line(line))
        inside.addStretch(1)
        area = QScrollArea()
        area.setWidget(lines)
        area.setWidgetResizable(True)
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        box.addWidget(area, 1)
        button = QPushButton(f"Take this ({number})")
        button.setAutoDefault(False)
        button.clicked.connect(partial(self._take, one))
        QShortcut(QKeySequence(str(number)), self, button.click)
        self.buttons.append(button)
        box.addWidget(button)
        return frame

    def _take(self, one: ProposedSession) -> None:
        self.taken = one
        self.accept()


def _line(line: ProposedLine) -> QWidget:
    asked = line.dosed.asked
    low, high = asked.reps
    load = f"{asked.load_kg:g} kg · " if asked.load_kg is not None else ""
    reps = f"{low}" if low == high else f"{low}–{high}"
    name = QLabel(f"<b>{line.dosed.plan.name}</b>   {load}{asked.sets} × {reps}")
    name.setWordWrap(True)
    why = hint(line.reason)
    why.setWordWrap(True)
    both = QWidget()
    box = QVBoxLayout(both)
    box.setContentsMargins(0, 0, 0, 0)
    box.setSpacing(1)
    box.addWidget(name)
    box.addWidget(why)
    return both


def ask_for_session(
    place: QWidget,
    offered: Sequence[ProposedSession],
    day: str,
    then: Callable[[ProposedSession], object],
) -> None:
    """Show sessions to choose from; `then` is called with the chosen one."""
    dialog = ProposeDialog(window_of(place), offered, day)
    open_dialog(dialog, lambda: then(dialog.taken) if dialog.taken is not None else None)
