"""The library that the window works on: opened beside the first picture, and what changes sets as a
whole."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any

from guide_arc.app.contract.app import App
from guide_arc.app.contract.destination import Destination
from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, alone, on_library
from guide_arc.app.contract.signal import Signal
from guide_arc.app.services.destinations import ToPlan, ToQueue, ToReview
from guide_arc.app.services.recorded_step import RecordedStep, tell
from guide_arc.lazily import lazily
from guide_arc.library.aside import Aside

with lazily():
    from guide_arc.app.services import copy_jobs, set_jobs
    from guide_arc.library.taking_out import forget_own

if TYPE_CHECKING:
    from guide_arc.app.services.set_jobs import LoadedLibrary
    from guide_arc.library.changes import Changes
    from guide_arc.library.intake import Known
    from guide_arc.library.own_standards import OwnStandards
    from guide_arc.library.records import SetNotes, SetPart, SetRecord
    from guide_arc.library.store import Library
    from guide_arc.library.undoing import Done
    from guide_arc.standards.catalogue import Catalogue


class OpenLibrary:
    """opened : it is there, with the core; changed : sets (their ids) are other than before; gone :
    sets were taken out; standards_changed : the standard of an id; needs_details : a set is to be
    corrected (its record, what is known to ask with); forgot : clients are gone for good (their
    names)"""

    opened: Signal[()] = Signal()
    changed: Signal[frozenset[int]] = Signal()
    gone: Signal[frozenset[int]] = Signal()
    standards_changed: Signal[str] = Signal()
    needs_details: Signal[SetRecord, Known] = Signal()
    forgot: Signal[Sequence[str]] = Signal()

    def __init__(self, app: App, where: Path | str, folder: Path) -> None:
        """where : the folder, or the address of a library on a server, whose recordings are in the
        folder"""
        self._app, self.where, self.folder = app, where, folder
        self._loaded: LoadedLibrary | None = None
        self._waiting: list[Callable[[], None]] = []
        self._coach = ""
        self._also: tuple[object, ...] = ()
        # What this window takes out waits here, whichever thread does it.
        self.aside = Aside(folder)

    # Opening

    def open(self, also: tuple[object, ...] = ()) -> None:
        """Open it, and load the core. also : what the window will need, imported `lazily`"""
        self._also = also
        job = Job(
            "",
            alone(set_jobs.load, self.where, self.aside, also),
            "open-library",
            "now",
        )
        self._app.start(job, self._opened)

    def open_again(self) -> None:
        """Once what was in the way is not any more."""
        self.open(self._also)

    def bring_back(self, backup: Path) -> None:
        """Put a copy of the library in its place; everything is read again."""
        job = Job(
            "Bringing the backup back",
            alone(copy_jobs.bring_back, self.folder, backup),
            lane="now",
        )

        before = self.library.ids()

        def done(brought: tuple[str, frozenset[int]]) -> None:
            words, after = brought
            self._app.start_anew()
            self.gone.emit(before | after)
            self._app.say(words)

        self._app.start(job, done)

    def _opened(self, loaded: LoadedLibrary) -> None:
        self._loaded, self._coach = loaded, loaded.coach
        self.opened.emit()
        self._app.changed()
        self.forgot.emit(loaded.forgotten)
        if loaded.brought_back:
            names = ", ".join(loaded.brought_back)
            self._app.say(f"An undo failed last time and is finished now: {names} came back.")
        waiting, self._waiting = self._waiting, []
        for then in waiting:
            then()

    @property
    def ready(self) -> bool:
        return self._loaded is not None

    def when_ready(self, then: Callable[[], None]) -> None:
        """Call at once, or as soon as the library and the core are there."""
        if self.ready:
            then()
        else:
            self._waiting.append(then)

    def close(self) -> None:
        if self._loaded is not None:
            names = forget_own(self._loaded.library)
            self.forgot.emit(names)
            self._loaded.library.close()
            self._loaded = None

    # What it holds for the window: small things, read at once

    @property
    def library(self) -> Library:
        assert self._loaded is not None, "asked for before it is open"
        return self._loaded.library

    @property
    def own_standards(self) -> OwnStandards:
        assert self._loaded is not None, "asked for before it is open"
        return self._loaded.own

    def catalogue(self) -> Catalogue:
        return self.own_standards.catalogue()

    @property
    def coach(self) -> str:
        """The name that decisions are stored under."""
        return self._coach

    def name_coach(self, name: str, keep: Callable[..., None]) -> None:
        self._coach = name
        keep("coach", "your name", lambda library: library.keep_setting("coach", name))

    # Changing sets: each a task with its step of undo

    def erase(self, set_id: int, client: str) -> None:
        """Erase a set; undo brings it back until the window closes."""
        job = Job("Erasing a set", on_library(set_jobs.take_out, (set_id,)), lane="now")

        def done(changes: Changes) -> None:
            self._recorded(changes, f"Erase {client}'s set", ToQueue(set_id))
            self._app.say(f"{client}'s set is erased. Ctrl+Z brings it back.")

        self._app.start(job, done)

    def _recorded(self, changes: Changes, words: str, shows: Destination) -> None:
        """A job changed sets: tell everybody, and make it a step of undo."""
        tell(self, changes)
        self._app.did(RecordedStep(self, changes).step(words, shows))

    def added(self, ids: tuple[int, ...], what: str) -> None:
        """Sets came in: undo erases them, and redo brings them back."""
        held: list[RecordedStep] = []
        count = f"{len(ids)} {what}{'' if len(ids) == 1 else 's'}"

        def out() -> Task[Any]:
            job = Job("Taking sets out", on_library(set_jobs.take_out, ids), lane="now")

            def done(changes: Changes) -> None:
                held[:] = [RecordedStep(self, changes)]
                tell(self, changes)

            return Task(job, done)

        def turn() -> Task[Any]:
            return held[0].turn() if held else out()

        self._app.did(Step(f"Add {count}", ToQueue(), turn, turn))
        self.changed.emit(frozenset(ids))

    def ask_for_details(self, set_id: int) -> None:
        """The coach wants to correct what is known of a set."""
        job = Job("", on_library(set_jobs.to_correct, set_id), "details", "now")
        self._app.start(job, lambda found: self.needs_details.emit(*found))

    def change(self, set_id: int, before: dict[str, Any], after: dict[str, Any]) -> None:
        """Correct what is known of a set; its review is computed again. What another window changed
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
        work = on_library(set_jobs.call_entry_right, set_id, self._coach, now)

        def done(changes: Changes) -> None:
            self._recorded(changes, "The entry is right", ToPlan())

        self._app.start(Job("", work, lane="now"), done)

    def join_views(self, other: int, main: int, *, joined: bool = True) -> None:
        """Another recording shows the same reps from another side, or is a set of its own again."""
        words = "Two views of one set" if joined else "Two views are two sets"
        job = Job(
            "Reviewing both views", on_library(set_jobs.join_views, other, main, joined), lane="now"
        )

        def both(_done: bool) -> None:
            self.changed.emit(frozenset({other, main}))

        def done(changes: Changes) -> None:
            both(True)
            step = RecordedStep(self, changes, both)
            self._app.did(step.step(words, ToReview(set_id=main)))

        self._app.start(job, done)

    def putting_notes(self, set_id: int, notes: SetNotes, since: SetNotes | None) -> Task[Any]:
        """What changed from one of the coach's documents to another, for a set that is not open; of
        None the note."""
        job = Job("", on_library(set_jobs.put_notes, set_id, notes, since), lane="now")
        return Task(job, lambda _none: self.changed.emit(frozenset({set_id})))

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
