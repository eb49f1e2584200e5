"""The shipped type at a size in pixels of the design, scaled as the desktop's own font is."""

from __future__ import annotations

from functools import lru_cache

from PyQt6.QtGui import QFont

from guide_arc.drawings.typeface import FAMILY


@lru_cache(maxsize=32)
def type_of(size: float, bold: bool) -> QFont:
    """The shipped family at a pixel size."""
    font = QFont(FAMILY)
    font.setPixelSize(round(size))
    font.setBold(bold)
    return font
