"""A step of undo that rests on the changes which its job recorded."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Protocol

from guide_arc.app.contract.destination import Destination
from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, on_library
from guide_arc.app.contract.signal import BoundSignal
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import set_jobs

if TYPE_CHECKING:
    from guide_arc.library.changes import Changes
    from guide_arc.library.undoing import TakenBack


class SetNews(Protocol):
    """Reports which sets were deleted, and which were added or changed; each by their numbers."""

    @property
    def gone(self) -> BoundSignal[frozenset[int]]: ...

    @property
    def changed(self) -> BoundSignal[frozenset[int]]: ...


class RecordedStep:
    """Undo and redo of one step: each takes back what the one before changed, in one transaction.

    shown : called after either with True if the step is done and False if it is undone
    """

    def __init__(
        self,
        library: SetNews,
        changes: Changes,
        shown: Callable[[bool], None] = lambda _done: None,
    ) -> None:
        self._library, self._changes, self._shown = library, changes, shown
        self._is_done = True

    def step(self, words: str, shows: Destination) -> Step:
        return Step(words, shows, self.turn, self.turn)

    def turn(self) -> Task[TakenBack]:
        """Take back what was changed last: the change itself, or its undo."""
        job = Job("Taking it back", on_library(set_jobs.take_back, self._changes), lane="now")
        return Task(job, self._turned)

    def _turned(self, taken: TakenBack) -> str | None:
        self._changes = taken.changes
        self._is_done = not self._is_done
        tell(self._library, taken.changes)
        self._shown(self._is_done)
        return taken.left or None


def tell(library: SetNews, changes: Changes) -> None:
    """Let everybody hear which sets are gone, and which came or changed."""
    gone = frozenset(int(str(row["id"])) for row in changes.erased())
    if gone:
        library.gone.emit(gone)
    other = (changes.set_ids() | changes.decided_ids()) - gone
    if other or not gone:
        library.changed.emit(other)
