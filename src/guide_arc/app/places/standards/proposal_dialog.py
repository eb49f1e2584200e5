"""What was read from a model set, to be confirmed before it becomes a standard."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QTimer, pyqtSignal
from PyQt6.QtWidgets import (
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.places.standards.figure import StandardFigure
from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.core.kinematics.measures.registry import spec_of_measure
from guide_arc.drawings.dial import RepKey
from guide_arc.drawings.standard_sheet import LOOK_DEG, SheetState, stays
from guide_arc.standards.from_set.propose import Proposal
from guide_arc.standards.proof import BRISK, cycle_of

_FRAME_MS = 50
# More reps than this need no choosing.
_MOST_BUTTONS = 12


class ProposalDialog(AskingDialog):
    """The proposed figure moving, what it rests on, and what the recording could not show.

    chosen : the keys of the model reps, when the coach chooses others
    """

    chosen = pyqtSignal(object)

    def __init__(self, parent: QWidget, proposal: Proposal, colours: Mapping[str, str]) -> None:
        super().__init__(parent, "Standard from a model set", "Keep as yours")
        self.setMinimumSize(860, 520)
        self.proposal = proposal
        plan = proposal.standard
        self._cycle = cycle_of(plan, BRISK)
        self._at_s = 0.0
        self.figure = StandardFigure(colours, self._state)
        self.figure.turn_deg = LOOK_DEG[plan.views[0]] - 20.0
        self.field = QLineEdit(plan.name)
        self.field.setCursorPosition(0)
        form = QFormLayout()
        form.setSpacing(6)
        form.addRow("Name", self.field)
        form.addRow(self._reps())
        for label, text in facts(proposal):
            head = QLabel(label)
            head.setObjectName("muted")
            value = QLabel(text)
            value.setWordWrap(True)
            form.addRow(head, value)
        right = QVBoxLayout()
        right.addLayout(form)
        for note in proposal.notes:
            hint = QLabel(note)
            hint.setObjectName("hint")
            hint.setWordWrap(True)
            right.addWidget(hint)
        right.addStretch(1)
        row = QHBoxLayout()
        row.addWidget(self.figure, 5)
        row.addLayout(right, 5)
        self.box.addLayout(row, 1)
        self.finish()
        self._clock = QTimer(self)
        self._clock.setInterval(_FRAME_MS)
        self._clock.timeout.connect(self._tick)
        self._clock.start()

    def _reps(self) -> QWidget:
        """A button for each whole rep: which ones are the model. Another choice is read again."""
        holder = QWidget()
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(3)
        label = QLabel("Reps to go by")
        label.setObjectName("muted")
        row.addWidget(label)
        used = {rep.key for rep in self.proposal.reps}
        self.rep_buttons: dict[RepKey, QPushButton] = {}
        for rep in self.proposal.whole[:_MOST_BUTTONS]:
            button = QPushButton(str(rep.number))
            button.setObjectName("small")
            button.setCheckable(True)
            button.setChecked(rep.key in used)
            button.setFixedWidth(30)
            button.setAccessibleName(f"Rep {rep.number}")
            button.clicked.connect(self._choose)
            self.rep_buttons[rep.key] = button
            row.addWidget(button)
        row.addStretch(1)
        return holder

    def _choose(self) -> None:
        chosen = frozenset(key for key, button in self.rep_buttons.items() if button.isChecked())
        if chosen:
            self.chosen.emit(chosen)
        else:
            self.wrong.setText("At least one rep must be the model.")

    def _tick(self) -> None:
        self._at_s = (self._at_s + _FRAME_MS / 1000.0) % self._cycle.length_s
        self.figure.redraw()

    def _state(self) -> SheetState:
        cycle = self._cycle
        return SheetState(
            cycle.standard,
            cycle.pose(self._at_s),
            cycle.extent,
            self.figure.turn_deg,
            rings=False,
        )

    def name(self) -> str:
        return self.field.text().strip()

    def error(self) -> str | None:
        if not 3 <= len(self.name()) <= 60:
            return "The name must have 3 to 60 letters."
        return None


def facts(proposal: Proposal) -> list[tuple[str, str]]:
    """What was found, as lines."""
    plan = proposal.standard
    unit = " %" if plan.drive_unit == "pct" else "°"
    limits = {rule.name: rule.limit for rule in plan.checks}
    stayed = ", ".join(
        f"{stays()[n].words} (within {limits[n]:g})" for n in proposal.stayed if n in limits
    )
    corridor = " and ".join(
        f"{part} within {limits[name]:g} % of the arm"
        for part, name in (("elbow", "elbow-path"), ("hand", "hand-path"))
        if name in limits
    )
    not_ok = [f.title.lower() for f in proposal.review.findings if f.verdict in ("off", "near")]
    kept = (
        "everything that can be judged is ok"
        if not not_ok
        else "not sure of " + ", ".join(dict.fromkeys(not_ok))
    )
    span = plan.range
    return [
        ("Rests on", f"{len(proposal.reps)} whole reps; the rest as in {proposal.like.name!r}"),
        (
            "Moves",
            (
                f"{spec_of_measure(plan.drive).joint}, {span.from_deg:.0f} to"
                f" {span.to_deg:.0f}{unit}, ±"
                f" {span.tolerance_deg:.0f}{unit}"
            ),
        ),
        ("Stayed", stayed or "nothing stayed still enough to ask for"),
        ("Corridor", corridor or "this recording shows too little of the path"),
        ("Tempo", f"{plan.tempo} (lower–bottom–lift–top)"),
        ("This set against it", kept),
    ]
