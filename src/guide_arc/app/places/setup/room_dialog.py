"""The room: which columns and holes, distances, bench angles and chains there are."""

from __future__ import annotations

import itertools
import re

from PyQt6.QtWidgets import QFormLayout, QLineEdit, QPlainTextEdit, QWidget

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.core.mechanics.room import Column, HungChain, TrainingRoom
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.typed_number import with_points
from guide_arc.core.planning.racks import RACKS

_STEPS = re.compile(r"^\s*([\d.]+)\s*(?:to|–|-)\s*([\d.]+)\s*(?:every|by)\s*([\d.]+)\s*$")
_CHAIN = re.compile(r"^\s*([\d.]+)\s*kg\s*[,;\s]\s*([\d.]+)\s*(cm|m)\s*$")
_MOST_HOLES = 200


class RoomDialog(AskingDialog):
    """name : of the room; empty for the one room of all"""

    def __init__(self, parent: QWidget, room: TrainingRoom, name: str = "") -> None:
        super().__init__(parent, f"The room: {name}" if name else "The room", "Keep")
        self.resize(640, 480)
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
        self.rack = QPlainTextEdit("\n".join(_weights_line(k, w) for k, w in room.rack_kg.items()))
        self.rack.setPlaceholderText("bar: 20 to 60 every 2.5\ndumbbell: 2, 4, 6, 8, 10")
        form.addRow("Weights that are there: a kind\n(" + ", ".join(RACKS) + "), kg", self.rack)
        form.addRow("Chains: a name, kilograms of all\nof them, length of one", self.chains)
        self.distance.setPlaceholderText("30, 180")
        self.side.setPlaceholderText("-40, 90")
        self.benches.setPlaceholderText("0, 15, 30, 45, 60, 75, 85")
        for field in (self.columns, self.rack, self.chains):
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
            columns,
            _pair(self.distance.text(), "distance", 0, 1000),
            _pair(self.side.text(), "aside", -500, 500),
            tuple(sorted(set(numbers_from(self.benches.text(), "bench angles", -45, 90)))),
            chains,
            dict(_weights(line) for line in _lines(self.rack)),
        )

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
    holes = _steps(rest, name, 350, "10 to 210 every 10")
    if not holes:
        raise BadInput(f"{name}: it has no hole; write their heights in centimetres")
    return Column(name, tuple(h / 100 for h in holes))


def _weights(line: str) -> tuple[str, tuple[float, ...]]:
    kind, rest = _named(line, "")
    if kind not in RACKS:
        raise BadInput(
            f"“{kind or line.strip()}” is no kind of weights; there are {', '.join(RACKS)}"
        )
    weights = _steps(rest, kind, 500, "20 to 60 every 2.5")
    if not weights or weights[0] <= 0:
        raise BadInput(f"{kind}: write its weights in kilograms, such as 20 to 60 every 2.5")
    return kind, tuple(weights)


def _steps(text: str, name: str, most: float, such_as: str) -> list[float]:
    """Numbers one by one, or from one to another in even steps; rising, each once."""
    text = with_points(text)
    steps = _STEPS.match(text)
    if not steps:
        return sorted(set(numbers_from(text, name, 0, most)))
    low, high, by = (float(n) for n in steps.groups())
    if by <= 0 or high < low or (high - low) / by > _MOST_HOLES:
        raise BadInput(f"{name}: write the lowest, the highest and the step, such as {such_as}")
    count = int((high - low) / by + 1e-9) + 1
    return numbers_from(", ".join(f"{low + i * by:g}" for i in range(count)), name, 0, most)


def _chain(line: str) -> HungChain:
    name, rest = _named(line, "chains")
    read = _CHAIN.match(with_points(rest))
    if not read or float(read[1]) <= 0 or float(read[2]) <= 0:
        raise BadInput(f"{name}: write kilograms and length, such as 12 kg, 1.5 m")
    return HungChain(name, float(read[1]), float(read[2]) / (100 if read[3] == "cm" else 1))


def _column_line(column: Column) -> str:
    return f"{column.name}: {_evenly([round(100 * h, 1) for h in column.holes_m])}"


def _weights_line(kind: str, weights: tuple[float, ...]) -> str:
    return f"{kind}: {_evenly(list(weights))}"


def _evenly(numbers: list[float]) -> str:
    steps = {round(b - a, 3) for a, b in itertools.pairwise(numbers)}
    if len(numbers) > 3 and len(steps) == 1:
        return f"{numbers[0]:g} to {numbers[-1]:g} every {steps.pop():g}"
    return _words(numbers)


def numbers_from(text: str, what: str, low: float, high: float) -> list[float]:
    out = []
    for part in (p for p in re.split(r"[,;\s]+", with_points(text.strip())) if p):
        try:
            value = float(part)
        except ValueError:
            raise BadInput(f"{what}: “{part}” is no number") from None
        if not low <= value <= high:
            raise BadInput(
                f"{what}: {value:g} is not possible; it must be between {low:g} and {high:g}"
            )
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
