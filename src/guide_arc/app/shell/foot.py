"""The foot of the window: the keys of the place, what could not be kept, the work that runs, and
one sentence."""

from __future__ import annotations

from typing import Final

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QWidget

from guide_arc.app.shell.hints_line import HintsLine
from guide_arc.app.shell.needs import ShellNeeds
from guide_arc.app.shell.not_kept import NotKept
from guide_arc.app.shell.work_bar import WorkBar

_SAID_MS: Final = 6000


class Foot(QWidget):
    def __init__(self, program: ShellNeeds) -> None:
        super().__init__()
        self.hints, self.said = HintsLine(), QLabel()
        self.not_kept = NotKept(program.keeper, self.say, self.hints)
        self.said.setObjectName("heading")
        self.work = WorkBar(program.jobs)
        box = QHBoxLayout(self)
        box.setContentsMargins(0, 4, 0, 0)
        box.setSpacing(14)
        box.addWidget(self.hints, 1)
        for widget in (self.not_kept, self.work, self.said):
            box.addWidget(widget)
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.timeout.connect(self.said.clear)

    def say(self, words: str) -> None:
        """One sentence, for a few seconds."""
        self.said.setText(words)
        self._quiet.start(_SAID_MS)

    def fall_silent(self) -> None:
        """The window closes."""
        self._quiet.stop()
