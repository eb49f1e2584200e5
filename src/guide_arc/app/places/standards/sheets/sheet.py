"""What all sheets share: a column that scrolls, fields for numbers, and words for keys and
values."""

from __future__ import annotations

import html

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QLabel,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.widgets.decimal_box import DecimalBox


class ScrolledSheet(QScrollArea):
    """A sheet that scrolls; `body` is arranged again for each standard."""

    def __init__(self) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._fresh()

    def _fresh(self) -> QVBoxLayout:
        inside = QWidget()
        box = QVBoxLayout(inside)
        box.setContentsMargins(14, 10, 14, 10)
        box.setSpacing(8)
        self.setWidget(inside)
        self.box = box
        return box

    def words(self, text: str, name: str = "", rich: bool = False) -> QLabel:
        label = QLabel(text)
        label.setWordWrap(True)
        if name:
            label.setObjectName(name)
        label.setTextFormat(Qt.TextFormat.RichText if rich else Qt.TextFormat.PlainText)
        self.box.addWidget(label)
        return label


def number(value: float, suffix: str, name: str) -> DecimalBox:
    """A field for a limit: typed, or by the arrow keys."""
    box = DecimalBox()
    box.setRange(-180.0, 200.0)
    box.setDecimals(0 if value == round(value) else 1)
    box.setValue(value)
    box.setSuffix(suffix)
    box.setAccessibleName(name)
    box.setKeyboardTracking(False)
    box.setFixedWidth(78)
    box.setButtonSymbols(DecimalBox.ButtonSymbols.NoButtons)
    return box


def cell_words(value: object) -> str:
    if value is None:
        return "–"
    if isinstance(value, list):
        if all(isinstance(v, (int, float)) for v in value):
            return html.escape(" to ".join(f"{v:g}" for v in value))
        return html.escape(", ".join(str(v) for v in value) or "–")
    return html.escape(f"{value:g}" if isinstance(value, (int, float)) else str(value))


def key_words(key: str) -> str:
    """`check.upper-arm-drift.limit_deg` as a coach reads it."""
    words = key.replace("check.", "").replace("pose.", "").replace(".arm.", ": ").replace("_", " ")
    for short, unit in ((" deg", " (°)"), (" pct", " (%)"), (" s", " (s)")):
        if words.endswith(short):
            words = words.removesuffix(short) + unit
    return words.replace(".", ", ").replace("-", " ")
