"""The checks of a standard, each with its limit to change."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QGridLayout,
    QLabel,
    QLineEdit,
    QPushButton,
)

from guide_arc.app.places.standards.model import StandardsModel
from guide_arc.app.places.standards.sheets.sheet import ScrolledSheet, number
from guide_arc.app.widgets.decimal_box import DecimalBox
from guide_arc.core.checks.registry import spec_of
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import CheckRule, Standard


def unit_of(rule: CheckRule, plan: Standard) -> str:
    """`°` or `%` behind a limit."""
    return "%" if spec_of(rule.name).limit_unit(plan.drive_unit) == "pct" else "°"


class ChecksSheet(ScrolledSheet):
    """Each check with its limit to change, what the clean set gives, and what is said."""

    marked = pyqtSignal(str)

    def __init__(self, model: StandardsModel) -> None:
        super().__init__()
        self.model = model
        self.limits: dict[str, DecimalBox] = {}
        self._clean: dict[str, QLabel] = {}

    def show_plan(self, plan: Standard) -> None:
        self._fresh()
        self.limits, self._clean = {}, {}
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(4)
        for column, words in enumerate(("Check and cue", "Limit", "Clean set")):
            head = QLabel(words)
            head.setObjectName("muted")
            grid.addWidget(head, 0, column)
        for i, rule in enumerate(plan.checks):
            row = 1 + 2 * i
            name = QPushButton(rule.title)
            name.setObjectName("tab")
            felt = f"\nFelt in: {', '.join(rule.felt)}" if rule.felt else ""
            name.setToolTip(f"{rule.name}\n{rule.why}{felt}")
            name.clicked.connect(lambda _on, n=rule.name: self.marked.emit(n))
            grid.addWidget(name, row, 0, Qt.AlignmentFlag.AlignLeft)
            unit = unit_of(rule, plan)
            box = number(rule.limit, unit if unit == "°" else " %", f"Limit of {rule.title}")
            key = f"check.{rule.name}.limit_{'deg' if unit == '°' else 'pct'}"
            box.valueChanged.connect(lambda v, k=key, r=rule: self._set(k, r, v))
            self.limits[rule.name] = box
            grid.addWidget(box, row, 1)
            clean = QLabel("…")
            clean.setObjectName("muted")
            clean.setMinimumWidth(96)
            self._clean[rule.name] = clean
            grid.addWidget(clean, row, 2)
            cue = QLineEdit(rule.cue)
            cue.setToolTip(f"{rule.cue}\n{rule.why}")
            cue.setCursorPosition(0)
            cue.setAccessibleName(f"Cue of {rule.title}")
            cue.editingFinished.connect(lambda c=cue, r=rule: self._say(c, r))
            grid.addWidget(cue, row + 1, 0, 1, 3)
            grid.setRowMinimumHeight(row, 40)
        grid.setColumnStretch(0, 1)
        self.box.addLayout(grid)
        self.box.addStretch(1)

    def _set(self, key: str, rule: CheckRule, value: float) -> None:
        self.marked.emit(rule.name)
        self.model.set_value(key, value, f"{rule.title}: {value:g}")

    def _say(self, cue: QLineEdit, rule: CheckRule) -> None:
        text = cue.text().strip()
        if (
            text
            and text != rule.cue
            and not self.model.set_value(f"check.{rule.name}.cue", text, "Cue")
        ):
            cue.setText(rule.cue)

    def show_clean(self, review: Review | None) -> None:
        """What the simulated client's clean set gives, the worse arm of each check."""
        found: dict[str, Finding] = {}
        for f in review.findings if review else ():
            if f.rule.name not in found:  # ranked: the worst comes first
                found[f.rule.name] = f
        for name, label in self._clean.items():
            worst = found.get(name)
            label.setText("…" if worst is None else _value_words(worst))
            label.setObjectName("muted" if worst is None or worst.verdict == "ok" else "heading")
            style = label.style()
            if style is not None:
                style.polish(label)


def _value_words(f: Finding) -> str:
    verdict = {"ok": "ok", "near": "near", "off": "off", "cannot-tell": "can't tell"}[f.verdict]
    if f.value is None:
        return verdict
    unit = {"deg": "°", "pct": " %", "s": " s"}[f.unit]
    return f"{verdict}, {f.value:.{1 if f.unit == 's' else 0}f}{unit}"
