"""Fields for numbers: decimal comma and point both work, and what could be read in two ways is
shown as understood."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QValidator
from PyQt6.QtWidgets import QDoubleSpinBox, QHBoxLayout, QLabel, QLineEdit, QWidget

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.typed_number import number_from, understood


class DecimalBox(QDoubleSpinBox):
    """A number with its unit, typed with comma or point and shown as the reader's language writes
    it."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        field = self.lineEdit()
        assert field is not None
        self.understood = show_understood(field)

    def validate(self, text: str | None, pos: int) -> tuple[QValidator.State, str, int]:
        typed = text or ""
        try:
            value = number_from(self._without_prefix(typed), self.suffix())
        except BadInput:
            beginning = self._without_prefix(typed).removesuffix(self.suffix()).strip()
            going_on = not beginning.strip("+-.,")
            return (self._still(ok=going_on), typed, pos)
        inside = self.minimum() <= value <= self.maximum()
        state = QValidator.State.Acceptable if inside else QValidator.State.Intermediate
        return (state, typed, pos)

    def _still(self, *, ok: bool) -> QValidator.State:
        return QValidator.State.Intermediate if ok else QValidator.State.Invalid

    def _without_prefix(self, text: str) -> str:
        return text.removeprefix(self.prefix())

    def valueFromText(self, text: str | None) -> float:
        try:
            return number_from(self._without_prefix(text or ""), self.suffix())
        except BadInput:
            return self.value()


class Understood(QLabel):
    """How the numbers in a field are understood, at its right edge; hidden where there is only one
    reading."""

    def __init__(self, field: QLineEdit) -> None:
        super().__init__(field)
        self._field = field
        self.setObjectName("hint")
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        inside = QHBoxLayout(field)
        inside.setContentsMargins(0, 0, 8, 0)
        inside.addStretch(1)
        inside.addWidget(self)
        self.hide()
        field.textChanged.connect(self._show)

    def _show(self, text: str) -> None:
        said = understood(text)
        self.setText(f"= {said}" if said else "")
        self.setVisible(bool(said))
        self._field.setAccessibleDescription(f"understood as {said}" if said else "")


def show_understood(field: QLineEdit) -> Understood:
    """Show in a field how its numbers are understood while they are typed."""
    return Understood(field)
