"""The room: which holes, distances and bench angles there are."""

from __future__ import annotations

import re

from PyQt6.QtWidgets import QFormLayout, QLineEdit, QWidget

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.core.mechanics.find_setup import Room
from guide_arc.core.model.errors import BadInput


class RoomDialog(AskingDialog):
    def __init__(self, parent: QWidget, room: Room) -> None:
        super().__init__(parent, "The room", "Keep")
        self.resize(560, 260)
        self.holes = QLineEdit(_words([100 * h for h in room.pulley_heights_m]))
        self.distance = QLineEdit(_words([100 * d for d in room.distance_m or ()]))
        self.side = QLineEdit(_words([100 * d for d in room.side_m or ()]))
        self.benches = QLineEdit(_words(room.bench_deg))
        form = QFormLayout()
        form.setFieldGrowthPolicy(QFormLayout.FieldGrowthPolicy.AllNonFixedFieldsGrow)
        form.addRow("Holes, cm over the floor, lowest first", self.holes)
        form.addRow("Distance, least and most, cm", self.distance)
        form.addRow("Aside, least and most, cm (outward)", self.side)
        form.addRow("Bench angles that lock, degrees", self.benches)
        self.holes.setPlaceholderText("10, 20, 30 … 210")
        self.distance.setPlaceholderText("30, 180")
        self.side.setPlaceholderText("-40, 90")
        self.benches.setPlaceholderText("0, 15, 30, 45, 60, 75, 85")
        self.box.addLayout(form)
        self.finish()

    def room(self) -> Room:
        """What the fields say. Raises BadInput with a sentence for what can't be."""
        holes = numbers_from(self.holes.text(), "holes", 0, 350)
        return Room(
            tuple(h / 100 for h in sorted(set(holes))), _pair(self.distance.text(), "distance", 0, 1000),
            _pair(self.side.text(), "aside", -500, 500), tuple(sorted(set(numbers_from(self.benches.text(), "bench angles", -45, 90)))),
        )  # fmt: skip

    def error(self) -> str | None:
        try:
            self.room()
        except BadInput as error:
            return str(error)
        return None


def numbers_from(text: str, what: str, low: float, high: float) -> list[float]:
    out = []
    for part in (p for p in re.split(r"[,;\s]+", text.strip()) if p):
        try:
            value = float(part)
        except ValueError:
            raise BadInput(f"{what}: “{part}” is no number") from None
        if not low <= value <= high:
            raise BadInput(f"{what}: {value:g} can't be; it lies between {low:g} and {high:g}")
        out.append(value)
    return out


def _pair(text: str, what: str, low: float, high: float) -> tuple[float, float] | None:
    values = numbers_from(text, what, low, high)
    if not values:
        return None
    if len(values) != 2 or values[0] > values[1]:
        raise BadInput(f"{what}: write the least and the most, such as 30, 180")
    return values[0] / 100, values[1] / 100


def _words(values: object) -> str:
    return ", ".join(f"{v:g}" for v in values)  # type: ignore[attr-defined]
