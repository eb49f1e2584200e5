"""The keys at the foot of the window."""

from __future__ import annotations

from typing import Final

from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QLabel

# Between two keys, as entries write them.
_GAP: Final = "    "
_ALWAYS: Final = 2


class HintsLine(QLabel):
    """As many keys as there is room for, each whole; the way back and the page of keys always."""

    def __init__(self) -> None:
        super().__init__()
        self._all: list[str] = [""]
        self.setObjectName("hint")
        self.setMinimumWidth(1)  # what is said goes before the keys

    def show_hints(self, hints: str) -> None:
        self._all = hints.split(_GAP)
        self._fit()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        first, last = self._all[:-_ALWAYS], self._all[-_ALWAYS:]
        wide = self.fontMetrics().horizontalAdvance
        fitting = (_GAP.join((*first[:n], *last)) for n in range(len(first), -1, -1))
        words = next((w for w in fitting if wide(w) <= self.width()), _GAP.join(last))
        if words != self.text():
            self.setText(words)
