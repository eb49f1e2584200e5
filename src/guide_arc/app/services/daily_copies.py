"""A copy of the library a day, as long as the program is used."""

from __future__ import annotations

from pathlib import Path
from typing import Final

from PyQt6.QtCore import QObject, QTimer

from guide_arc.app.contract.app import App
from guide_arc.app.contract.job import Job, on_library
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import copy_jobs

# A window may stay open over midnight.
_LOOK_EVERY_MS: Final = 3_600_000


class DailyCopies(QObject):
    """The first is made once the window is there; searched for again every hour."""

    def __init__(self, app: App, parent: QObject) -> None:
        super().__init__(parent)
        self._app = app
        self.timer = QTimer(self)
        self.timer.setInterval(_LOOK_EVERY_MS)
        self.timer.timeout.connect(self.look)

    def start(self) -> None:
        self.timer.start()
        self.look()

    def look(self) -> None:
        self._app.start(Job("", on_library(copy_jobs.daily_copy), "daily-copy"), self._made)

    def _made(self, _copy: Path | None) -> None:
        """Success is not reported."""
