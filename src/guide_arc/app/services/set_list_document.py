"""The list of sets that the coach goes through, as one frozen value: what is searched for, the rows
that were read, and which one is chosen."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final

from guide_arc.library.queue_rows import PAGE, QueueFilter, QueuePage, QueueRow

STATES: Final[tuple[tuple[str, str | None], ...]] = (
    ("waiting", "waiting"),
    ("reviewed", "done"),
    ("all", None),
)


@dataclass(frozen=True, eq=False)
class SetListDocument:
    """words, state : what is searched for; rows : those that were read; loaded : whether any were
    asked : how many rows are asked for: the list asks for more as it is scrolled
    waiting : sets that wait for the coach, and takes_s : how long they will take, seconds
    chosen : a set's number
    coach : only sets of this coach's clients; empty for all; coaches : those there are
    """

    words: str = ""
    state: str | None = "waiting"
    coach: str = ""
    coaches: tuple[str, ...] = ()
    rows: tuple[QueueRow, ...] = ()
    loaded: bool = False
    asked: int = PAGE
    waiting: int = 0
    takes_s: float = 0.0
    chosen: int | None = None

    def wanted(self, limit: int, after: int = 0) -> QueueFilter:
        """So many of the rows that are searched for, from the one after so many."""
        return QueueFilter(self.words, self.state, self.coach, limit, after)

    @property
    def has_more(self) -> bool:
        """Whether there may be rows after those that were read."""
        return len(self.rows) >= self.asked

    @property
    def chosen_row(self) -> QueueRow | None:
        return next((row for row in self.rows if row.id == self.chosen), None)

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

    # Another one

    def with_page(self, page: QueuePage) -> SetListDocument:
        """Rows as they were read now; the selection is kept if it still exists."""
        ids = [row.id for row in page.rows]
        chosen = self.chosen if self.chosen in ids else next(iter(ids), None)
        return replace(
            self,
            rows=page.rows,
            loaded=True,
            waiting=page.waiting,
            takes_s=page.takes_s,
            coaches=page.coaches,
            chosen=chosen,
        )

    def searching(self, words: str) -> SetListDocument:
        return self if words == self.words else replace(self, words=words, asked=PAGE)

    def of_state(self, state: str | None) -> SetListDocument:
        return self if state == self.state else replace(self, state=state, asked=PAGE)

    def of_coach(self, coach: str) -> SetListDocument:
        return self if coach == self.coach else replace(self, coach=coach, asked=PAGE)

    def choosing(self, set_id: int | None) -> SetListDocument:
        return self if set_id == self.chosen else replace(self, chosen=set_id)
