"""A step of undo that rests on the changes which its job recorded."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any, Final, Protocol

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, later
from guide_arc.app.contract.signal import BoundSignal

if TYPE_CHECKING:
    from guide_arc.library.changes import Changes
    from guide_arc.library.undoing import TakenBack

JOBS: Final = "guide_arc.app.services.set_jobs"
_NOTHING: Final[Mapping[str, Any]] = {}


class SetNews(Protocol):
    """Who tells which sets are gone, and which came or changed; each by their numbers."""

    @property
    def gone(self) -> BoundSignal: ...

    @property
    def changed(self) -> BoundSignal: ...


class RecordedStep:
    """Undo and redo of one step: each takes back what the one before changed, in one transaction.

    shown : what is shown again after either; hears whether the step is done (True) or undone
    """

    def __init__(
        self,
        library: SetNews,
        changes: Changes,
        shown: Callable[[bool], None] = lambda _done: None,
    ) -> None:
        self._library, self._changes, self._shown = library, changes, shown
        self._is_done = True

    def step(self, words: str, place: str, what: Mapping[str, Any] = _NOTHING) -> Step:
        return Step(words, place, self._turn, self._turn, what)

    def _turn(self) -> Task[Any]:
        job = Job("Taking it back", later(f"{JOBS}:take_back", self._changes), lane="now")
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
    if changes.set_ids() - gone or not gone:
        library.changed.emit(changes.set_ids() - gone)
