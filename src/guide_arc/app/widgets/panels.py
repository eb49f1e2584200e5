"""The parts that every place's page is arranged with."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QLabel, QScrollArea, QWidget


def panel() -> QFrame:
    """A sheet of the page with its border."""
    frame = QFrame()
    frame.setObjectName("panel")
    return frame


def scrolled(inside: QWidget, *, keys: bool = False) -> QScrollArea:
    """A part that scrolls vertically if it is taller than its space. keys : whether it takes the
    focus"""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    if not keys:
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setWidget(inside)
    return area


def heading(words: str) -> QLabel:
    """The name of a panel."""
    return _label(words, "heading")


def hint(words: str) -> QLabel:
    """Quiet words next to a heading or below a panel."""
    return _label(words, "hint")


def _label(words: str, role: str) -> QLabel:
    label = QLabel(words)
    label.setObjectName(role)
    return label
