"""Collecting garbage on the window's thread only, a little at a time.

Python collects in whichever thread is running; on a job's thread it might take a closed dialog
apart there, which Qt does not survive. While a window is open, collection is this timer's work:
what is young is gone through often, and what has lived on is frozen until the window has nothing to
do."""

from __future__ import annotations

import contextlib
import ctypes
import gc
from typing import Final

from PyQt6.QtCore import QObject, QTimer

_EVERY_MS: Final = 100
# So many new objects are gone through in a few milliseconds.
_YOUNG: Final = 1500
_OLDER_EVERY: Final = 8
# More than so many are not left to pile up: going through them would be felt.
_OLDER_MOST: Final = 15_000
# So little made between two looks, for so many looks on end: nobody is at the window.
_STILL_OBJECTS: Final = 300
_STILL_LOOKS: Final = 150


class WindowThreadGarbage(QObject):
    """Takes collection over from Python until `stop`."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._looks = self._still = self._before = self._older = 0
        gc.disable()
        self._timer = QTimer(self)
        self._timer.setInterval(_EVERY_MS)
        self._timer.timeout.connect(self._look)

    def begin(self) -> None:
        """What is there now, the program itself, stays until the end, so it is frozen."""
        gc.freeze()
        self._timer.start()

    def _look(self) -> None:
        made = gc.get_count()[0]
        self._still = self._still + 1 if made - self._before < _STILL_OBJECTS else 0
        self._looks += 1
        if self._still == _STILL_LOOKS:
            self.everything()
        elif made > _YOUNG:
            self._older += made
            older = self._looks % _OLDER_EVERY == 0 or self._older > _OLDER_MOST
            gc.collect(1 if older else 0)
            if older:
                gc.freeze()
                self._older = 0
        self._before = gc.get_count()[0]

    def everything(self) -> None:
        """What was frozen is gone through as well: closed dialogs and sets go with it, and the
        system has their memory again."""
        gc.unfreeze()
        gc.collect()
        gc.freeze()
        with contextlib.suppress(AttributeError, OSError):  # other C libraries do so on their own
            ctypes.CDLL(None).malloc_trim(0)

    def stop(self) -> None:
        self._timer.stop()
        gc.unfreeze()
        gc.enable()
