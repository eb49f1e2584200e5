"""The shipped type at a size in pixels of the design, scaled as the desktop's own font is."""

from __future__ import annotations

from functools import lru_cache
from typing import Final

from PyQt6.QtGui import QFont, QFontInfo

from guide_arc.drawings.typeface import FAMILY

# What a desktop's font usually is, in pixels; a larger one makes all words larger, within reason.
_USUAL_PX: Final = 13.0
_LEAST, _MOST = 1.0, 1.6
_scale = 1.0


def follow_desktop(font: QFont) -> None:
    """Words as large as the desktop's own font asks."""
    global _scale
    size = QFontInfo(font).pixelSize()
    _scale = min(max(size / _USUAL_PX, _LEAST), _MOST)
    type_of.cache_clear()


def px(size: float) -> int:
    """A size of the design in pixels of this desktop."""
    return max(round(size * _scale), 11)


@lru_cache(maxsize=32)
def type_of(size: float, bold: bool) -> QFont:
    """The shipped family at a pixel size."""
    font = QFont(FAMILY)
    font.setPixelSize(px(size))
    font.setBold(bold)
    return font
