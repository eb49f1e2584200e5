"""The room: which columns and holes, distances, bench angles and chains there are."""

from __future__ import annotations

import itertools
import re

from PyQt6.QtWidgets import QFormLayout, QLineEdit, QPlainTextEdit, QWidget

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.core.mechanics.room import Column, HungChain, TrainingRoom
from guide_arc.core.model.errors import BadInput

_STEPS = re.compile(r"^\s*([\d.]+)\s*(?:to|–|-)\s*([\d.]+)\s*(?:every|by)\s*([\d.]+)\s*$")
_CHAIN = re.compile(r"^\s*([\d.]+)\s*kg\s*[,;\s]\s*([\d.]+)\s*(cm|m)\s*$")
_MOST_HOLES = 200


class RoomDialog(AskingDialog):
    """name : of the room; empty for the one room of all"""

    def __init__(self, parent: QWidget, room: TrainingRoom, name: str = "") -> None:
        super().__init__(parent, f"The room: {name}" if name else "The room", "Keep")
        self.resize(640, 400)
        self.columns = QPlainTextEdit("\n".join(_column_line(c) for c in room.columns))
        self.columns.setPlaceholderText(
            "left tower: 10 to 210 every 10\nshort column: 20, 45, 70, 95"
        )
        self.distance = QLineEdit(_words([100 * d for d in room.distance_m or ()]))
        self.side = QLineEdit(_words([100 * d for d in room.side_m or ()]))
        self.benches = QLineEdit(_words(room.bench_deg))
        self.chains = QPlainTextEdit(
            "\n".join(f"{c.name}: {c.kg:g} kg, {c.length_m:g} m" for c in room.chains)
        )
        self.chains.setPlaceholderText("long chains: 12 kg, 1.5 m")
        form = QFormLayout()
        form.setFieldGrowthPolicy(QFormLayout.FieldGrowthPolicy.AllNonFixedFieldsGrow)
        form.addRow("Columns: a name and its holes,\ncm over the floor, lowest first", self.columns)
        form.addRow("Distance, least and most, cm", self.distance)
        form.addRow("Aside, least and most, cm (outward)", self.side)
        form.addRow("Bench angles that lock, degrees", self.benches)
        form.addRow("Chains: a name, kilograms of all\nof them, length of one", self.chains)
        self.distance.setPlaceholderText("30, 180")
        self.side.setPlaceholderText("-40, 90")
        self.benches.setPlaceholderText("0, 15, 30, 45, 60, 75, 85")
        for field in (self.columns, self.chains):
            field.setTabChangesFocus(True)
        self.box.addLayout(form)
        self.finish()

    def room(self) -> TrainingRoom:
        """What the fields say. Raises BadInput with a sentence for what can't be."""
        columns = tuple(_column(line) for line in _lines(self.columns))
        chains = tuple(_chain(line) for line in _lines(self.chains))
        for what, names in (
            ("column", [c.name for c in columns]),
            ("chain", [c.name for c in chains]),
        ):
            twice = next((n for n in names if names.count(n) > 1), None)
            if twice is not None:
                raise BadInput(f"two {what}s are named “{twice}”; give each a name of its own")
        return TrainingRoom(
            columns, _pair(self.distance.text(), "distance", 0, 1000), _pair(self.side.text(), "aside", -500, 500),
            tuple(sorted(set(numbers_from(self.benches.text(), "bench angles", -45, 90)))), chains,
        )  # fmt: skip

    def error(self) -> str | None:
        try:
            self.room()
        except BadInput as error:
            return str(error)
        return None


def _lines(field: QPlainTextEdit) -> list[str]:
    return [line for line in field.toPlainText().splitlines() if line.strip()]


def _named(line: str, what: str) -> tuple[str, str]:
    name, colon, rest = line.partition(":")
    return (name.strip() or what, rest) if colon else (what, line)


def _column(line: str) -> Column:
    name, rest = _named(line, "column")
    steps = _STEPS.match(rest)
    if steps:
        low, high, by = (float(n) for n in steps.groups())
        if by <= 0 or high < low or (high - low) / by > _MOST_HOLES:
            raise BadInput(
                f"{name}: write the lowest hole, the highest and the step, such as 10 to 210 every 10"
            )
        rest = ", ".join(f"{low + i * by:g}" for i in range(int((high - low) / by + 1e-9) + 1))
    holes = numbers_from(rest, name, 0, 350)
    if not holes:
        raise BadInput(f"{name}: it has no hole; write their heights in centimetres")
    return Column(name, tuple(h / 100 for h in sorted(set(holes))))


def _chain(line: str) -> HungChain:
    name, rest = _named(line, "chains")
    read = _CHAIN.match(rest)
    if not read or float(read[1]) <= 0 or float(read[2]) <= 0:
        raise BadInput(f"{name}: write kilograms and length, such as 12 kg, 1.5 m")
    return HungChain(name, float(read[1]), float(read[2]) / (100 if read[3] == "cm" else 1))


def _column_line(column: Column) -> str:
    holes = [round(100 * h, 1) for h in column.holes_m]
    steps = {round(b - a, 3) for a, b in itertools.pairwise(holes)}
    if len(holes) > 3 and len(steps) == 1:
        return f"{column.name}: {holes[0]:g} to {holes[-1]:g} every {steps.pop():g}"
    return f"{column.name}: {_words(holes)}"


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
