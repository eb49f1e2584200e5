"""What a standard asks: setup, range, tempo, dose, care; range and tempo can be typed."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
)

from guide_arc.app.places.standards.document import PULLS
from guide_arc.app.places.standards.model import StandardsModel
from guide_arc.app.places.standards.sheets.sheet import ScrolledSheet, number
from guide_arc.app.widgets.decimal_box import DecimalBox
from guide_arc.core.kinematics.measures.registry import spec_of_measure
from guide_arc.core.mechanics.fibres import FIBRES, along_pct
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.standard import Standard
from guide_arc.drawings.standard_sheet import stays
from guide_arc.drawings.words import sentence
from guide_arc.standards.cautions import caution_words
from guide_arc.standards.tempo import parse_tempo

_BASES = {
    "standing": "standing",
    "seated": "seated",
    "hinged": "hinged at the hips",
    "kneeling": "kneeling",
    "prone": "face down on a bench",
    "plank": "in one line on hands and feet",
    "pike": "hips high, feet raised",
    "on-hands": "on the hands, feet free",
    "side-lying": "lying on the side",
}
_ELBOWS = {
    "still": "stays where it is",
    "close": "close to the body",
    "between": "about 45° between close and wide",
    "wide": "wide",
    "leads": "leads, the hand follows",
    "level-arc": "on a level arc",
    "arc-to-hip": "in an arc back to the hip",
    "over-and-up": "opens on its way",
    "turns-with-trunk": "turns with the trunk",
}
_HOLDS = {
    "every": "in every rep",
    "first": "in the first rep",
    "last": "in the last rep",
    "first-and-last": "in the first and the last rep",
}


class AsksSheet(ScrolledSheet):
    """Setup, range, tempo, dose; range and tempo can be typed."""

    went = pyqtSignal(str)

    def __init__(self, model: StandardsModel) -> None:
        super().__init__()
        self.model = model

    def show_plan(self, plan: Standard) -> None:
        self._fresh()
        self.words(plan.setup)
        form = QFormLayout()
        form.setSpacing(6)
        form.setLabelAlignment(Qt.AlignmentFlag.AlignLeft)
        for label, text in self._facts(plan):
            value = QLabel(text)
            value.setWordWrap(True)
            head = QLabel(label)
            head.setObjectName("muted")
            form.addRow(head, value)
        self.box.addLayout(form)
        self._range(form, plan)
        self._tempo(form, plan)
        self._links(plan)
        self.words("Care", "heading")
        for caution in plan.cautions:
            self.words(caution_words().get(caution, caution))
        self.box.addStretch(1)

    def _facts(self, plan: Standard) -> list[tuple[str, str]]:
        along = along_pct(plan)
        fibres = FIBRES[plan.line].words
        if along is not None:
            fibres += f"; {along:.0f} % of the elbow's way runs along it"
        pull = dict(PULLS)[plan.pull]
        held = "" if plan.held == "none" else f", {plan.held.replace('-', ' ')}"
        where = plan.pulley_m or plan.anchor_m
        if where:
            side = (
                "in the middle"
                if abs(where[0]) < 0.05
                else f"{abs(where[0]):.1f} m {'out' if where[0] > 0 else 'on the other side'}"
            )
            depth = "ahead" if where[2] > 0 else "behind"
            held += f"; from {where[1]:.1f} m up, {side}, {abs(where[2]):.1f} m {depth}"
        low, high = plan.trunk_lean_deg
        bench = "" if plan.bench_deg is None else f", bench at {plan.bench_deg:g}°"
        still = [stays()[c.name].words for c in plan.checks if c.name in stays()]
        rows = [
            ("Works", f"{plan.muscle}: {fibres}"),
            ("Body", f"{_BASES[plan.base]}, trunk {_signed(low)} to {_signed(high)}°{bench}"),
            ("Kit", f"{pull}{held}"),
            ("Elbow", _ELBOWS[plan.elbow_path]),
            ("Stays", ", ".join(still) or "nothing has to stay still"),
            (
                "Dose",
                (
                    f"{plan.dose.sets[0]}–{plan.dose.sets[1]} ×"
                    f" {plan.dose.reps[0]}–{plan.dose.reps[1]}, {plan.dose.rest_s} s rest"
                ),
            ),
            ("Film", ", ".join(f"from the {v}" for v in plan.views)),
        ]
        if plan.holds.opening_stretch_s:
            rows.append(("Opens", f"with a stretch of {plan.holds.opening_stretch_s:g} s"))
        if plan.holds.on != "every":
            rows.append(("Holds", _HOLDS[plan.holds.on]))
        return rows

    def _range(self, form: QFormLayout, plan: Standard) -> None:
        unit = "pct" if plan.drive_unit == "pct" else "deg"
        row = QHBoxLayout()
        row.setSpacing(4)
        self.ends: dict[str, DecimalBox] = {}
        keys = {
            "from": plan.range.from_deg,
            "to": plan.range.to_deg,
            "tolerance": plan.range.tolerance_deg,
        }
        for key, value in keys.items():
            if key != "from":
                row.addWidget(QLabel("to" if key == "to" else "±"))
            box = number(value, "°" if unit == "deg" else " %", f"Range {key}")
            box.valueChanged.connect(lambda v, k=key: self._set_range(plan, k, v))
            self.ends[key] = box
            row.addWidget(box)
        row.addStretch(1)
        head = QLabel(f"Range, {spec_of_measure(plan.drive).joint}")
        head.setObjectName("muted")
        form.addRow(head, row)

    def _set_range(self, plan: Standard, key: str, value: float) -> None:
        unit = "pct" if plan.drive_unit == "pct" else "deg"
        values = {f"range.{key}_{unit}": value}
        number_of = {
            "elbow_flexion": "arm.elbow_deg",
            "shoulder_elevation": "arm.elevation_deg",
            "shoulder_plane": "arm.plane_deg",
        }.get(plan.drive)
        if number_of and key != "tolerance":
            values[f"pose.{'start' if key == 'from' else 'turn'}.{number_of}"] = value
        self.model.set_values(values, f"Range {key} {value:g}")

    def _tempo(self, form: QFormLayout, plan: Standard) -> None:
        self.tempo = QLineEdit(str(plan.tempo))
        self.tempo.setMaximumWidth(130)
        self.tempo.setToolTip("Lower – bottom – lift – top in seconds, x for no demand")
        self.tempo.setAccessibleName("Tempo: lower, bottom, lift, top in seconds")
        self.tempo.editingFinished.connect(self._set_tempo)
        head = QLabel("Tempo")
        head.setObjectName("muted")
        form.addRow(head, self.tempo)

    def _set_tempo(self) -> None:
        plan = self.model.doc.plan
        if plan is None or self.tempo.text().strip() == str(plan.tempo):
            return
        try:
            tempo = parse_tempo(self.tempo.text())
        except BadInput as error:
            self.model.refused.emit(f"{sentence(str(error))}.")
            self.tempo.setText(str(plan.tempo))
            return
        values = {
            f"tempo.{part}": value
            for part in ("lower_s", "bottom_s", "lift_s", "top_s")
            if (value := getattr(tempo, part)) is not None or getattr(plan.tempo, part) is not None
        }
        self.model.set_values(values, f"Tempo {tempo}")

    def _links(self, plan: Standard) -> None:
        for label, ids in (("Easier", plan.easier), ("Harder", plan.harder)):
            known = [i for i in ids if i in self.model.doc.catalogue]
            if not known:
                continue
            row = QHBoxLayout()
            head = QLabel(label)
            head.setObjectName("muted")
            row.addWidget(head)
            for id in known:
                button = QPushButton(self.model.doc.catalogue.standard(id).name)
                button.setObjectName("small")
                button.clicked.connect(lambda _on, i=id: self.went.emit(i))
                row.addWidget(button)
            row.addStretch(1)
            self.box.addLayout(row)


def _signed(value: float) -> str:
    """A whole number with a minus sign that is one."""
    return f"{value + 0.0:.0f}".replace("-0", "0").replace("-", "−")
