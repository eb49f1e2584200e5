"""A scheme of the coach's own: how sets and reps are arranged, begun from one that is known."""

from __future__ import annotations

import re
from typing import Any, Final

from PyQt6.QtWidgets import QComboBox, QFormLayout, QLabel, QLineEdit, QSpinBox, QWidget

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.typed_number import number_from
from guide_arc.core.planning.scheme import Scheme

_HOLDS: Final = {
    "every": "every rep",
    "first": "the first rep",
    "last": "the last rep",
    "first-and-last": "the first and the last rep",
}
_REPS: Final = re.compile(r"(\d+)\s*[–-]\s*(\d+)")
_OWN: Final = "as the exercise has it"


class SchemeDialog(AskingDialog):
    """Numbers that are left empty are the exercise's own."""

    def __init__(self, parent: QWidget, begun_from: Scheme) -> None:
        super().__init__(parent, "A scheme of your own", "Keep and use")
        self._from = begun_from
        self.setMinimumWidth(620)
        own = begun_from
        self.name = QLineEdit(own.name)
        self.why = QLineEdit(own.why)
        self.limits = QLineEdit(own.limits)
        self.reps = _typed(f"{own.reps[0]}–{own.reps[1]}" if own.reps else "")
        self.sets = _number(own.sets or 0, 10, _OWN)
        self.rest = _number(
            -1 if own.rest_s is None else own.rest_s, 900, _OWN, least=-1, unit=" s"
        )
        self.most = _number(own.most_reps, 100, "no: then weight")
        self.step = _number(own.step_reps, 20, "", least=1)
        self.lowering = _typed("" if own.lower_s is None else f"{own.lower_s:g}")
        self.top = _typed("" if own.top_s is None else f"{own.top_s:g}")
        self.holds = QComboBox()
        for id, words in _HOLDS.items():
            self.holds.addItem(words, id)
        self.holds.setCurrentIndex(self.holds.findData(own.holds_on))
        self.partials = _number(own.partials, 20, "none")
        self.reserve = _number(own.in_reserve, 10, "none")
        off = own.back_off
        self.off_sets = _number(off.sets if off else 0, 10, "none")
        self.off_reps = _typed(f"{off.reps[0]}–{off.reps[1]}" if off else "", "10–15, say")
        self.off_share = _number(round(100 * off.share) if off else 80, 99, "", least=31, unit=" %")
        form = QFormLayout()
        for words, field in (
            ("Name", self.name),
            ("Why", self.why),
            ("Where it does not belong", self.limits),
            ("Reps", self.reps),
            ("Sets", self.sets),
            ("Rest", self.rest),
            ("More reps each time, up to", self.most),
            ("… by so many", self.step),
            ("Lowering, s", self.lowering),
            ("Hold at the end, s", self.top),
            ("Holds on", self.holds),
            ("Partial reps after the last", self.partials),
            ("Reps left in reserve", self.reserve),
            ("Lighter sets after", self.off_sets),
            ("… of so many reps", self.off_reps),
            ("… at this share of the weight", self.off_share),
        ):
            field.setAccessibleName(words)
            form.addRow(words, field)
        self.box.addLayout(form)
        hint = QLabel(
            "Kept in the library's schemes.toml. Pain, harm and the rack are above every scheme."
        )
        hint.setObjectName("hint")
        hint.setWordWrap(True)
        self.box.addWidget(hint)
        self.finish()

    @property
    def id(self) -> str:
        """From the name; one that begins from a scheme and keeps its name takes its place."""
        if self.name.text().strip() == self._from.name:
            return self._from.id
        return re.sub(r"[^a-z0-9]+", "-", self.name.text().strip().lower()).strip("-")

    def fields(self) -> dict[str, Any]:
        """As the scheme's file holds them."""
        own = self._from
        out: dict[str, Any] = {
            "name": self.name.text().strip(),
            "why": self.why.text().strip(),
            "limits": self.limits.text().strip(),
            "held_by": "the coach",
            "holds_on": self.holds.currentData(),
            "partials": self.partials.value(),
            "in_reserve": self.reserve.value(),
            "rounds": list(own.rounds),
            "pair": own.pair,
            "alternates": own.alternates,
            "step_reps": self.step.value(),
        }
        if reps := _two(self.reps):
            out["reps"] = reps
        if self.sets.value():
            out["sets"] = self.sets.value()
        if self.rest.value() >= 0:
            out["rest_s"] = self.rest.value()
        if self.most.value():
            out |= {"grows": "reps", "most_reps": self.most.value()}
        for key, field in (("lower_s", self.lowering), ("top_s", self.top)):
            if (value := _seconds(field)) is not None:
                out[key] = value
        off_reps = _two(self.off_reps)
        if self.off_sets.value() and off_reps:
            out["back_off"] = {
                "reps": off_reps,
                "sets": self.off_sets.value(),
                "share": self.off_share.value() / 100,
            }
        return out

    def error(self) -> str | None:
        if not self.id:
            return "Give it a name."
        if len(self.why.text().strip()) < 10:
            return "Give the reason in a few words. It is shown with every dose."
        for words, field in (("Reps", self.reps), ("The lighter sets' reps", self.off_reps)):
            if field.text().strip() and _two(field) is None:
                return f"{words}: write a range such as 8–12."
        for words, field in (("Lowering", self.lowering), ("Hold", self.top)):
            if field.text().strip() and _seconds(field) is None:
                return f"{words}: write seconds, such as 4 or 1.5, or leave it empty."
        if self.off_sets.value() and not _two(self.off_reps):
            return "Say how many reps the lighter sets have."
        return None


def _typed(text: str, empty: str = _OWN) -> QLineEdit:
    field = QLineEdit(text)
    field.setPlaceholderText(empty)
    return field


def _number(value: int, most: int, none: str, *, least: int = 0, unit: str = "") -> QSpinBox:
    field = QSpinBox()
    field.setRange(least, most)
    field.setValue(value)
    field.setSuffix(unit)
    field.setSpecialValueText(none)
    field.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
    return field


def _two(field: QLineEdit) -> list[int] | None:
    found = _REPS.fullmatch(field.text().strip())
    return [int(found[1]), int(found[2])] if found else None


def _seconds(field: QLineEdit) -> float | None:
    try:
        return number_from(field.text(), "s")
    except BadInput:
        return None
