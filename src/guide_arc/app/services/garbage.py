"""Collecting garbage on the window's thread only.

Python collects wherever it happens to run; on a job's thread it might take a closed dialog apart
there, which Qt does not survive. While a window is open, collection is this timer's work.
"""

from __future__ import annotations

import gc
from typing import Final

from PyQt6.QtCore import QObject, QTimer

_EVERY_MS: Final = 1000


class WindowThreadGarbage(QObject):
    """Takes collection over from Python until `stop`."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._thresholds = gc.get_threshold()
        gc.disable()
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._collect)
        self._timer.start(_EVERY_MS)

    def _collect(self) -> None:
        """The oldest generation that is due by Python's own thresholds, and those before it."""
        for generation in (2, 1, 0):
            if gc.get_count()[generation] > self._thresholds[generation]:
                gc.collect(generation)
                return

    def stop(self) -> None:
        self._timer.stop()
        gc.enable()
