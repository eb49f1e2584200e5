"""The line in the queue that says what is set aside; pressed, it opens the list."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QPushButton

if TYPE_CHECKING:
    from guide_arc.app.places.queue.needs import QueueNeeds
    from guide_arc.library.set_aside import Laid


class LaidLine(QPushButton):
    """Hidden as long as nothing is set aside."""

    def __init__(self, program: QueueNeeds) -> None:
        super().__init__()
        self._program = program
        self.setObjectName("line")
        self.setFlat(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.hide()
        self.clicked.connect(lambda: program.intake.ask_for_laid())

    def begin(self) -> None:
        """The services are there."""
        self._program.intake.laid.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        self._program.intake.look_at_laid(self._show)

    def _show(self, laid: list[Laid]) -> None:
        self.setVisible(bool(laid))
        if laid:
            more = f", and {len(laid) - 1} more" if len(laid) > 1 else ""
            self.setText(f"Set aside: {laid[0].name}{more}. Why, and what to do")

    def hear_no_more(self) -> None:
        if self._program.library.ready:
            self._program.intake.laid.disconnect()
