"""Measuring a band: hang weights on it, write down its length at each."""

from __future__ import annotations

import re
from typing import Final

from PyQt6.QtWidgets import QFormLayout, QLabel, QLineEdit, QPlainTextEdit, QWidget

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.core.mechanics.band_table import MeasuredBand, measured_band
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.typed_number import number_from

_ROW: Final = re.compile(r"\s*([\d.,]+)\s*(?:kg)?\s*[:;/ ]\s*([\d.,]+)\s*(?:cm)?\s*", re.IGNORECASE)


class BandDialog(AskingDialog):
    """name, its length at rest, and a line for each weight: kilograms and centimetres"""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, "Measure a band", "Keep and use")
        self.resize(520, 380)
        self.name = QLineEdit()
        self.name.setPlaceholderText("green, long")
        self.rest = QLineEdit()
        self.rest.setPlaceholderText("from anchor to handle, hanging loose, cm")
        self.hung = QPlainTextEdit()
        self.hung.setPlaceholderText("2 kg  96 cm\n4 kg  112 cm\n6 kg  125 cm")
        self.hung.setTabChangesFocus(True)
        self.reads = QLabel()
        self.reads.setObjectName("hint")
        self.reads.setWordWrap(True)
        form = QFormLayout()
        for words, field in (
            ("Name", self.name),
            ("At rest", self.rest),
            ("Under weight", self.hung),
        ):
            field.setAccessibleName(words)
            form.addRow(words, field)
        care = QLabel(
            "Look it over first: a band with nicks is thrown away. Its own rated length comes"
            " before any table."
        )
        care.setObjectName("hint")
        care.setWordWrap(True)
        self.box.addLayout(form)
        self.box.addWidget(self.reads)
        self.box.addWidget(care)
        self.finish()
        self.rest.textChanged.connect(self._read)
        self.hung.textChanged.connect(self._read)

    def band(self) -> MeasuredBand:
        """Raises BadInput with what is missing or can't be."""
        rows = []
        for line in self.hung.toPlainText().splitlines():
            if not line.strip():
                continue
            found = _ROW.fullmatch(line)
            if found is None:
                raise BadInput(
                    f"“{line.strip()}”: write kilograms and centimetres, such as 4 kg 112 cm"
                )
            rows.append((_value(found[1]), _value(found[2]) / 100))
        rest = self.rest.text().strip().removesuffix("cm").strip()
        return measured_band(_value(rest) / 100 if rest else 0.0, rows)

    def error(self) -> str | None:
        if not self.name.text().strip():
            return "Give the band a name."
        try:
            self.band()
        except BadInput as error:
            said = str(error)
            return f"{said[:1].upper()}{said[1:]}."
        return None

    def _read(self) -> None:
        try:
            band = self.band()
        except BadInput:
            self.reads.setText("")
            return
        straight = band.straight_to_pct
        form = (
            "nearly even" if straight < 8 else f"up to {straight:.0f} % of its pull off an even one"
        )
        self.reads.setText(f"{band.newton_per_m:.0f} N a metre, {form}.")


def _value(text: str) -> float:
    return number_from(text)
