"""The line in the queue that reports quarantined files and sets; a click opens the list."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QPushButton

if TYPE_CHECKING:
    from guide_arc.app.places.queue.needs import QueueNeeds
    from guide_arc.library.quarantine import Quarantined


class QuarantineLine(QPushButton):
    """Hidden while the quarantine is empty."""

    def __init__(self, program: QueueNeeds) -> None:
        super().__init__()
        self._program = program
        self.setObjectName("line")
        self.setFlat(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.hide()
        self.clicked.connect(lambda: program.intake.ask_for_quarantine())

    def begin(self) -> None:
        """The services are there."""
        self._program.intake.quarantined.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        self._program.intake.read_quarantine(self._show)

    def _show(self, quarantined: list[Quarantined]) -> None:
        self.setVisible(bool(quarantined))
        if quarantined:
            more = f", and {len(quarantined) - 1} more" if len(quarantined) > 1 else ""
            self.setText(f"Set aside: {quarantined[0].name}{more}. Why, and what to do")

    def hear_no_more(self) -> None:
        if self._program.library.ready:
            self._program.intake.quarantined.disconnect()
