"""Collecting garbage on the window's thread only.

Python collects wherever it happens to run; on a job's thread it might take a closed dialog apart
there, which Qt does not survive. While a window is open, collection is this timer's work.
"""

from __future__ import annotations

import gc
from typing import Final

from PyQt6.QtCore import QObject, QTimer

_EVERY_MS: Final = 400
# Going through everything takes longer than a glance: it waits until the window has nothing to do, which
# shows in how little was made since the last look, but not for ever.
_IDLE_OBJECTS: Final = 400
_LONGEST_WAIT: Final = 300


class WindowThreadGarbage(QObject):
    """Takes collection over from Python until `stop`."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._thresholds = gc.get_threshold()
        self._waited = 0
        gc.disable()
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._collect)
        self._timer.start(_EVERY_MS)

    def _collect(self) -> None:
        """The oldest generation that is due by Python's own thresholds, and those before it."""
        made, *_ = count = gc.get_count()
        due = [g for g in (2, 1, 0) if count[g] > self._thresholds[g]]
        if 2 in due and made > _IDLE_OBJECTS and self._waited < _LONGEST_WAIT:
            self._waited += 1
            due.remove(2)
        if due:
            self._waited = 0 if due[0] == 2 else self._waited
            gc.collect(due[0])

    def keep_for_good(self) -> None:
        """What is there now stays until the end: no collection needs to go through it again."""
        gc.freeze()

    def stop(self) -> None:
        self._timer.stop()
        gc.unfreeze()
        gc.enable()
