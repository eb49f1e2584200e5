"""The queue: which sets wait, filtered by words and state, and which one is chosen."""

from __future__ import annotations

from collections.abc import Callable

from psygnal import Signal

from guide_arc.library.records import QueueRow

Find = Callable[[str, str | None], list[QueueRow]]
STATES: tuple[tuple[str, str | None], ...] = (
    ("waiting", "waiting"),
    ("reviewed", "done"),
    ("all", None),
)


class QueueModel:
    """find : asks the library for rows by words and state"""

    changed = Signal()
    chosen_changed = Signal()

    def __init__(self, find: Find) -> None:
        self._find = find
        self.words = ""
        self.state: str | None = "waiting"
        self.rows: list[QueueRow] = []
        self.chosen: int | None = None

    def refresh(self) -> None:
        """Ask again, keeping the choice where it is still there."""
        self.rows = self._find(self.words, self.state)
        ids = [row.id for row in self.rows]
        if self.chosen not in ids:
            self.chosen = ids[0] if ids else None
        self.changed.emit()

    def search(self, words: str) -> None:
        if words != self.words:
            self.words = words
            self.refresh()

    def show_state(self, state: str | None) -> None:
        if state != self.state:
            self.state = state
            self.refresh()

    def choose(self, set_id: int | None) -> None:
        if set_id != self.chosen:
            self.chosen = set_id
            self.chosen_changed.emit()

    def position(self, set_id: int) -> tuple[int, int]:
        """(place from 1, how many) of a set in the list; place 0 when it is not in it."""
        ids = [row.id for row in self.rows]
        return (ids.index(set_id) + 1 if set_id in ids else 0), len(ids)

    def beside(self, set_id: int, by: int) -> int | None:
        """The set before or after one in the list."""
        ids = [row.id for row in self.rows]
        if set_id not in ids:
            return ids[0] if ids else None
        at = ids.index(set_id) + by
        return ids[at] if 0 <= at < len(ids) else None
