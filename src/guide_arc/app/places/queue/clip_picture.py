"""A clip's small picture, which plays while the mouse is on it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QEvent, Qt, QTimer
from PyQt6.QtGui import QEnterEvent, QImage, QPixmap
from PyQt6.QtWidgets import QLabel

SIZE: Final = (124, 74)
_EVERY_MS: Final = 125


class ClipPicture(QLabel):
    """Empty until `show_pictures`."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(*SIZE)
        self.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.setObjectName("muted")
        self.pictures: list[QPixmap] = []
        self.at = 0
        self._timer = QTimer(self)
        self._timer.setInterval(_EVERY_MS)
        self._timer.timeout.connect(self._next)

    def show_pictures(self, pictures: Sequence[NDArray[np.uint8]]) -> None:
        """Pictures of a few seconds; the middle one is shown while nothing plays."""
        self.pictures = [_pixmap(p, self.devicePixelRatioF()) for p in pictures]
        self.setToolTip("Plays while the mouse is on it" if len(self.pictures) > 1 else "")
        self._rest()

    def _rest(self) -> None:
        self.at = len(self.pictures) // 2
        if self.pictures:
            self.setPixmap(self.pictures[self.at])

    def _next(self) -> None:
        self.at = (self.at + 1) % len(self.pictures)
        self.setPixmap(self.pictures[self.at])

    def enterEvent(self, event: QEnterEvent | None) -> None:
        if len(self.pictures) > 1:
            self._timer.start()

    def leaveEvent(self, event: QEvent | None) -> None:
        self._timer.stop()
        self._rest()


def _pixmap(picture: NDArray[np.uint8], ratio: float) -> QPixmap:
    high, wide = picture.shape[:2]
    image = QImage(picture.tobytes(), wide, high, 3 * wide, QImage.Format.Format_RGB888)
    fitted = image.scaled(
        round(SIZE[0] * ratio),
        round(SIZE[1] * ratio),
        Qt.AspectRatioMode.KeepAspectRatio,
        Qt.TransformationMode.SmoothTransformation,
    )
    fitted.setDevicePixelRatio(ratio)
    return QPixmap.fromImage(fitted)
