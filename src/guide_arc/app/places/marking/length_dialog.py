"""What a line drawn on the picture is, and how long."""

from __future__ import annotations

from typing import Final

from PyQt6.QtWidgets import QComboBox, QFormLayout, QWidget

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.app.widgets.decimal_box import DecimalBox

# What usually is in a picture with a known length, metres.
_KNOWN: Final = (
    ("a large plate", 0.45),
    ("a long bar", 2.20),
    ("a short bar", 1.20),
    ("a measuring pole", 1.00),
    ("the client, standing upright", 1.75),
    ("something else", 0.50),
)


class LengthDialog(AskingDialog):
    """What the drawn line is, and how long."""

    def __init__(self, parent: QWidget, stature_m: float | None) -> None:
        super().__init__(parent, "Known length", "Use it")
        self.what = QComboBox()
        for words, metres in _KNOWN:
            self.what.addItem(words, stature_m if "client" in words and stature_m else metres)
        self.metres = DecimalBox()
        self.metres.setRange(0.05, 20.0)
        self.metres.setDecimals(3)
        self.metres.setSingleStep(0.01)
        self.metres.setSuffix(" m")
        self.what.currentIndexChanged.connect(
            lambda _i: self.metres.setValue(float(self.what.currentData()))
        )
        self.metres.setValue(float(self.what.currentData()))
        form = QFormLayout()
        form.setSpacing(8)
        form.addRow("The line is along", self.what)
        form.addRow("and is as long as", self.metres)
        self.box.addLayout(form)
        self.finish()
