"""A machine's curve: what it asks at the hand over the range."""

from __future__ import annotations

import re
from typing import Final

from PyQt6.QtWidgets import QFormLayout, QLabel, QPlainTextEdit, QWidget

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.core.mechanics.kit import GRAVITY, Machine
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.typed_number import with_points

_ROW: Final = re.compile(r"\s*([\d.]+)\s*%?\s*[:;/, ]\s*([\d.]+)\s*(kg|N)?\s*", re.IGNORECASE)
_MOST_KG: Final = 500.0


class MachineDialog(AskingDialog):
    """A line for each place that was measured: percent of the range, and kilograms at the hand"""

    def __init__(self, parent: QWidget, kit: Machine) -> None:
        super().__init__(parent, "The machine's curve", "Use")
        self.resize(460, 340)
        self.rows = QPlainTextEdit(
            "\n".join(
                f"{100 * share:g} %  {newton / GRAVITY:.1f} kg" for share, newton in kit.table
            )
        )
        self.rows.setTabChangesFocus(True)
        self.rows.setAccessibleName("Percent of the range, and kilograms at each hand")
        form = QFormLayout()
        form.addRow("Of the range, and\nat each hand", self.rows)
        how = QLabel(
            "Hold a hanging scale at the handle at a few places of the range: 0 % is the start, 100"
            " % the turn. Between them the curve runs straight."
        )
        how.setObjectName("hint")
        how.setWordWrap(True)
        self.box.addLayout(form)
        self.box.addWidget(how)
        self.finish()

    def kit(self) -> Machine:
        """Raises BadInput with the line that can't be."""
        rows: dict[float, float] = {}
        for line in self.rows.toPlainText().splitlines():
            if not line.strip():
                continue
            read = _ROW.fullmatch(with_points(line))
            if read is None:
                raise BadInput(f"“{line.strip()}”: write percent and kilograms, such as 50 % 22 kg")
            share, amount = float(read[1]) / 100.0, float(read[2])
            kg = amount / GRAVITY if (read[3] or "").upper() == "N" else amount
            if not 0.0 <= share <= 1.0:
                raise BadInput(f"“{line.strip()}”: the range runs from 0 to 100 %")
            if kg > _MOST_KG:
                raise BadInput(f"“{line.strip()}”: no machine pulls with more than {_MOST_KG:g} kg")
            if share in rows:
                raise BadInput(f"{100 * share:g} % is given twice")
            rows[share] = kg * GRAVITY
        if len(rows) < 2:
            raise BadInput("a curve needs two places or more, such as 0 % and 100 %")
        return Machine(tuple(sorted(rows.items())))

    def error(self) -> str | None:
        try:
            self.kit()
        except BadInput as error:
            return str(error)
        return None
