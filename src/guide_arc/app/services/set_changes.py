"""What changes sets as a whole: each change is a task with its step of undo."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from datetime import datetime
from typing import TYPE_CHECKING, Any

from guide_arc.app.contract.app import App
from guide_arc.app.contract.destination import Destination
from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import AnyTask, Job, Task, on_library
from guide_arc.app.contract.signal import Signal
from guide_arc.app.services.destinations import ToPlan, ToQueue, ToReview
from guide_arc.app.services.open_library import OpenLibrary
from guide_arc.app.services.recorded_step import RecordedStep, tell
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import set_jobs

if TYPE_CHECKING:
    from guide_arc.library.changes import Changes
    from guide_arc.library.intake import Known
    from guide_arc.library.records import SetNotes, SetPart, SetRecord
    from guide_arc.library.undoing import Done


class SetChanges:
    """needs_details : a set is to be corrected (its record, the choices for the dialog)"""

    needs_details: Signal[SetRecord, Known] = Signal()

    def __init__(self, app: App, library: OpenLibrary) -> None:
        self._app, self._library = app, library

    def erase(self, set_id: int, client: str) -> None:
        """Erase a set; undo brings it back until the window closes."""
        job = Job("Erasing a set", on_library(set_jobs.take_out, (set_id,)), lane="now")

        def done(changes: Changes) -> None:
            self._recorded(changes, f"Erase {client}'s set", ToQueue(set_id))
            self._app.say(f"{client}'s set is erased. Ctrl+Z brings it back.")

        self._app.start(job, done)

    def _recorded(self, changes: Changes, words: str, shows: Destination) -> None:
        """A job changed sets: notify all places, and make it a step of undo."""
        tell(self._library, changes)
        self._app.did(RecordedStep(self._library, changes).step(words, shows))

    def added(self, ids: tuple[int, ...], what: str) -> None:
        """Sets came in: undo erases them, and redo brings them back."""
        held: list[RecordedStep] = []
        count = f"{len(ids)} {what}{'' if len(ids) == 1 else 's'}"

        def out() -> AnyTask:
            job = Job("Taking sets out", on_library(set_jobs.take_out, ids), lane="now")

            def done(changes: Changes) -> None:
                held[:] = [RecordedStep(self._library, changes)]
                tell(self._library, changes)

            return Task(job, done)

        def turn() -> AnyTask:
            return held[0].turn() if held else out()

        self._app.did(Step(f"Add {count}", ToQueue(), turn, turn))
        self._library.changed.emit(frozenset(ids))

    def ask_for_details(self, set_id: int) -> None:
        """The coach wants to correct the details of a set."""
        job = Job("", on_library(set_jobs.to_correct, set_id), "details", "now")
        self._app.start(job, lambda found: self.needs_details.emit(*found))

    def change(self, set_id: int, before: dict[str, Any], after: dict[str, Any]) -> None:
        """Correct the details of a set; its review is computed again. What another window changed
        meanwhile stays, and is reported."""
        if after == before:
            return
        fields = {
            name: (before[name], value) for name, value in after.items() if value != before[name]
        }
        job = Job("Reviewing again", on_library(set_jobs.change, set_id, fields), lane="now")

        def done(answer: Done[str]) -> None:
            self._recorded(answer.changes, "Set details", ToReview(set_id=set_id))
            if answer.result:
                self._app.say(answer.result)

        self._app.start(job, done)

    def call_entry_right(self, set_id: int) -> None:
        """The coach was asked about what was typed of a set, and says it is right."""
        now = datetime.now().isoformat(timespec="seconds")
        work = on_library(set_jobs.call_entry_right, set_id, self._library.coach, now)

        def done(changes: Changes) -> None:
            self._recorded(changes, "The entry is right", ToPlan())

        self._app.start(Job("", work, lane="now"), done)

    def join_views(self, other: int, main: int, *, joined: bool = True) -> None:
        """Another recording shows the same reps from another side, or becomes a separate set
        again."""
        words = "Two views of one set" if joined else "Two views are two sets"
        job = Job(
            "Reviewing both views", on_library(set_jobs.join_views, other, main, joined), lane="now"
        )

        def both(_done: bool) -> None:
            self._library.changed.emit(frozenset({other, main}))

        def done(changes: Changes) -> None:
            both(True)
            step = RecordedStep(self._library, changes, both)
            self._app.did(step.step(words, ToReview(set_id=main)))

        self._app.start(job, done)

    def putting_notes(self, set_id: int, notes: SetNotes, since: SetNotes | None) -> AnyTask:
        """What changed from one of the coach's documents to another, for a set that is not open; of
        None the note."""
        job = Job("", on_library(set_jobs.put_notes, set_id, notes, since), lane="now")
        return Task(job, lambda _none: self._library.changed.emit(frozenset({set_id})))

    def split(
        self, record: SetRecord, parts: Iterable[SetPart], then: Callable[[list[int]], None]
    ) -> None:
        """Make a set of each part of a recording; taken back as one step."""
        chosen = tuple(parts)
        job = Job(
            "Splitting the recording", on_library(set_jobs.split, record.id, chosen), lane="now"
        )

        def done(answer: Done[list[int]]) -> None:
            shows = ToReview(set_id=record.id)
            self._recorded(answer.changes, "Split between two exercises", shows)
            then(answer.result)

        self._app.start(job, done)
