"""What the coach means to come back to: what is due is reported in the queue until it is done."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import TYPE_CHECKING

from guide_arc.app.contract.app import App
from guide_arc.app.contract.destination import Destination
from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, on_library
from guide_arc.app.contract.signal import Signal
from guide_arc.app.services.destinations import ToQueue
from guide_arc.app.services.open_library import OpenLibrary
from guide_arc.app.services.recorded_step import RecordedStep
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import follow_up_jobs

if TYPE_CHECKING:
    from guide_arc.library.changes import Changes
    from guide_arc.library.follow_ups import FollowUp

# By id: the day on which it was done, or None, and the day on which it is due.
States = Mapping[int, tuple[date | None, date]]


class FollowUps:
    """changed : others are open than before"""

    changed: Signal[()] = Signal()

    def __init__(self, app: App, library: OpenLibrary) -> None:
        self._app, self._library = app, library
        self.open: tuple[FollowUp, ...] = ()

    def refresh(self) -> None:
        self._app.start(Job("", on_library(follow_up_jobs.read), "follow-ups", "now"), self._came)

    def _came(self, found: list[FollowUp]) -> None:
        if self.open != tuple(found):
            self.open = tuple(found)
            self.changed.emit()

    def due(self, today: date) -> tuple[FollowUp, ...]:
        return tuple(f for f in self.open if f.due <= today)

    def add(
        self, client: str, words: str, due: date, set_id: int | None, shows: Destination
    ) -> None:
        """Store a follow-up; undo deletes it."""
        job = Job("", on_library(follow_up_jobs.keep, client, words, due, set_id), lane="now")

        def done(changes: Changes) -> None:
            self.refresh()
            step = RecordedStep(self._library, changes, lambda _done: self.refresh())
            self._app.did(step.step(f"Follow up on {client}", shows))
            self._app.say(f"{client}: “{words}”, due on {due:%a} {due.day} {due:%b}.")

        self._app.start(job, done)

    def settle(self, after: States, words: str) -> None:
        """Say that some were done, or put them off; undo takes it back."""
        open_ones = {f.id: f for f in self.open}
        before = {id: (open_ones[id].done, open_ones[id].due) for id in after if id in open_ones}

        def task(states: States) -> Task[None]:
            work = Job("", on_library(follow_up_jobs.settle, dict(states)), lane="now")
            return Task(work, lambda _none: self.refresh())

        def first(_none: object) -> None:
            self.refresh()
            self._app.did(Step(words, ToQueue(), lambda: task(before), lambda: task(after)))

        self._app.start(task(after).job, first)
