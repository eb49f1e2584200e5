"""What is due and what is coming: done, put off, or the client's newest set opened."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta
from typing import TYPE_CHECKING, Final

from PyQt6.QtWidgets import (
    QCheckBox,
    QDialogButtonBox,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.app.widgets.panels import scrolled
from guide_arc.drawings.days import short_day

if TYPE_CHECKING:
    from guide_arc.app.places.queue.needs import QueueNeeds
    from guide_arc.app.services.follow_ups import FollowUps
    from guide_arc.library.follow_ups import FollowUp

_SIZE: Final = (640, 420)
_WEEK: Final = timedelta(days=7)


def due_words(one: FollowUp, today: date) -> str:
    """`due since 24 Mar`, `due today`, `due on 3 Apr`."""
    late = one.late_days(today)
    if late == 0:
        return "due today"
    return f"due since {short_day(one.due)}" if late > 0 else f"due on {short_day(one.due)}"


def line_words(due: Sequence[FollowUp]) -> str:
    """The line that is in the queue."""
    count = f"{len(due)} follow-up{'' if len(due) == 1 else 's'} due"
    told = "; ".join(f"{f.client}: {f.words}" for f in due[:2])
    return f"{count}: {told}{'; …' if len(due) > 2 else ''}"


class FollowUpsDialog(AskingDialog):
    """What is ticked is marked done, or put off by a week."""

    def __init__(self, parent: QWidget, program: QueueNeeds, today: date) -> None:
        super().__init__(parent, "Follow-ups", "Mark done")
        self.program, self.today = program, today
        self.resize(*_SIZE)
        self.boxes: dict[int, QCheckBox] = {}
        service: FollowUps = program.follow_ups
        inner = QWidget()
        lines = QVBoxLayout(inner)
        lines.setContentsMargins(0, 0, 12, 0)
        lines.setSpacing(6)
        for one in service.open:
            box = QCheckBox(f"{one.client}: {one.words}")
            box.setChecked(False)
            box.toggled.connect(lambda _on: self._counted())
            told = QLabel(due_words(one, today))
            told.setObjectName("warning" if one.due <= today else "hint")
            row = QHBoxLayout()
            row.addWidget(box, 1)
            row.addWidget(told)
            if one.set_id is not None:
                see = QPushButton("Its set")
                see.setAutoDefault(False)
                see.clicked.connect(lambda _on, i=one.set_id: self._see(i))
                row.addWidget(see)
            self.boxes[one.id] = box
            lines.addLayout(row)
        if not service.open:
            nothing = QLabel(
                "Nothing is to be followed up. Ctrl+U in the queue or in Review keeps something to"
                " come back to."
            )
            nothing.setObjectName("muted")
            nothing.setWordWrap(True)
            lines.addWidget(nothing)
        lines.addStretch(1)
        area = scrolled(inner, keys=True)
        self.later = QPushButton("A week later")
        self.later.setAutoDefault(False)
        self.later.clicked.connect(self._put_off)
        self.buttons.addButton(self.later, QDialogButtonBox.ButtonRole.ActionRole)
        self.box.addWidget(area, 1)
        self.finish()
        self._counted()

    def ids(self) -> tuple[int, ...]:
        return tuple(id for id, box in self.boxes.items() if box.isChecked())

    def error(self) -> str | None:
        return None if self.ids() else "Nothing is ticked."

    def mark_done(self) -> None:
        """What is ticked was done today."""
        due = {f.id: f.due for f in self.program.follow_ups.open}
        count = len(self.ids())
        words = f"{count} follow-up{'' if count == 1 else 's'} done"
        self.program.follow_ups.settle({id: (self.today, due[id]) for id in self.ids()}, words)

    def _put_off(self) -> None:
        if not self.ids():
            self.wrong.setText("Nothing is ticked.")
            return
        due = {f.id: max(f.due, self.today) for f in self.program.follow_ups.open}
        after = {id: (None, due[id] + _WEEK) for id in self.ids()}
        self.program.follow_ups.settle(after, "Put off by a week")
        self.reject()

    def _see(self, set_id: int) -> None:
        self.reject()
        self.program.measuring.open(set_id)

    def _counted(self) -> None:
        self.wrong.setText("")
        self.later.setEnabled(bool(self.ids()))
