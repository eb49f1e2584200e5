"""The choice of a coach in the queue: the sets of one coach's clients, or of all."""

from __future__ import annotations

from PyQt6.QtWidgets import QComboBox

from guide_arc.app.places.queue.needs import QueueNeeds

# Where the choice is remembered.
_KEY = "coach"


class CoachChoice(QComboBox):
    """Hidden while no client has a coach."""

    def __init__(self, program: QueueNeeds) -> None:
        super().__init__()
        self._program, self._sets = program, program.sets
        self.setAccessibleName("Coach")
        self.setToolTip("Show the sets of one coach's clients (C)")
        self.activated.connect(lambda _at: self._show_coach(self.currentData()))
        self.hide()

    def come_back(self) -> None:
        """Show the coach who was chosen at the last start."""
        self._sets.show_coach(self._program.remembered.text(_KEY))

    def renew(self) -> None:
        """Offer the coaches to whom clients are assigned, and the chosen one."""
        doc = self._sets.doc
        offered = ["", *dict.fromkeys((*doc.coaches, *([doc.coach] if doc.coach else [])))]
        self.setVisible(len(offered) > 1)
        if offered != self._offered():
            self.clear()
            for name in offered:
                self.addItem(name or "All coaches", name)
        self.setCurrentIndex(offered.index(doc.coach))

    def show_next(self) -> None:
        """Show the clients of the next coach; after the last one, of all."""
        offered = self._offered()
        at = offered.index(self._sets.doc.coach)
        self._show_coach(offered[(at + 1) % len(offered)])

    def _offered(self) -> list[str]:
        return [str(self.itemData(i)) for i in range(self.count())]

    def _show_coach(self, coach: str) -> None:
        self._program.remembered.keep(_KEY, coach)
        self._sets.show_coach(coach)
