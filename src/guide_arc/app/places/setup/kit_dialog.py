"""How much hangs on the kit, and how a cable passes it on."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtWidgets import QCheckBox, QComboBox, QFormLayout, QWidget

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.app.widgets.decimal_box import DecimalBox
from guide_arc.core.mechanics.kit import Cable, Chain, FreeWeight

Weighted = FreeWeight | Cable | Chain
_MOST_FRICTION_PCT = 40.0


class KitDialog(AskingDialog):
    def __init__(self, parent: QWidget, kit: Weighted) -> None:
        super().__init__(parent, "Weight", "Use")
        self._kit = kit
        self.kg = _number(kit.kg, 0.5, 500.0, 2, " kg")
        form = QFormLayout()
        form.addRow("On the stack" if isinstance(kit, Cable) else "Kilograms", self.kg)
        self.ratio, self.each = QComboBox(), QCheckBox("each arm has a stack of its own")
        self.friction = _number(0.0, 0.0, _MOST_FRICTION_PCT, 0, " %")
        if isinstance(kit, Cable):
            for words, ratio in (
                ("1 : 1, the hand feels all of it", 1.0),
                ("2 : 1, the hand feels half", 2.0),
            ):
                self.ratio.addItem(words, ratio)
            self.ratio.setCurrentIndex(int(kit.ratio > 1.5))
            self.each.setChecked(kit.each)
            self.friction.setValue(100.0 * kit.friction)
            self.friction.setToolTip(
                "What pulleys and rods take of the stack's weight: more to lift, less to lower"
            )
            form.addRow("Pulleys", self.ratio)
            form.addRow("", self.each)
            form.addRow("Friction, of the stack", self.friction)
        self.box.addLayout(form)
        self.kg.selectAll()
        self.finish()

    def kit(self) -> Weighted:
        kit = replace(self._kit, kg=self.kg.value())
        if isinstance(kit, Cable):
            return replace(
                kit,
                ratio=float(self.ratio.currentData()),
                each=self.each.isChecked(),
                friction=0.01 * self.friction.value(),
            )
        return kit

    def error(self) -> str | None:
        return None


def _number(value: float, low: float, high: float, decimals: int, unit: str) -> DecimalBox:
    box = DecimalBox()
    box.setDecimals(decimals)
    box.setRange(low, high)
    box.setValue(value)
    box.setSuffix(unit)
    return box
