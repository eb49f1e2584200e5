"""The library that the window works on: opened beside the first picture, and what changes sets as a whole."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from guide_arc.app.contract.app import App
from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, later, resolve
from guide_arc.app.contract.signal import Signal
from guide_arc.library.aside import Aside

if TYPE_CHECKING:
    from guide_arc.app.services.set_jobs import LoadedLibrary
    from guide_arc.library.own_standards import OwnStandards
    from guide_arc.library.records import SetNotes, SetPart, SetRecord
    from guide_arc.library.store import Library
    from guide_arc.library.taking_out import Removed
    from guide_arc.standards.catalogue import Catalogue

JOBS = "guide_arc.app.services.set_jobs"
COPY_JOBS = "guide_arc.app.services.copy_jobs"


class OpenLibrary:
    """opened : it is there, with the core; changed : sets (their ids) are other than before; gone : sets
    were taken out; standards_changed : the standard of an id; needs_details : a set is to be corrected (its
    record, what is known to ask with)"""

    opened = Signal()
    changed = Signal()
    gone = Signal()
    standards_changed = Signal()
    needs_details = Signal()

    def __init__(self, app: App, where: Path | str, folder: Path) -> None:
        """where : the folder, or the address of a library on a server, whose recordings are in the folder"""
        self._app, self.where, self.folder = app, where, folder
        self._loaded: LoadedLibrary | None = None
        self._waiting: list[Callable[[], None]] = []
        self._coach = ""
        self._also: tuple[str, ...] = ()
        # What this window takes out waits here, whichever thread does it.
        self.aside = Aside(folder)

    # Opening

    def open(self, also: tuple[str, ...] = ()) -> None:
        """Open it, and load the core. also : modules that the window will need"""
        self._also = also
        job = Job("", later(f"{JOBS}:load", self.where, self.aside, also), "open-library", "now",
                  needs_library=False)  # fmt: skip
        self._app.start(job, self._opened)

    def open_again(self) -> None:
        """Once what was in the way is not any more."""
        self.open(self._also)

    def bring_back(self, backup: Path) -> None:
        """Put a copy of the library in its place; everything is read anew."""
        job = Job(
            "Bringing the backup back",
            later(f"{COPY_JOBS}:bring_back", self.folder, backup),
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
            resolve("guide_arc.library.taking_out:forget_own")(self._loaded.library)
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
        """Take a set out; undo puts it back."""

        def told() -> None:
            self._app.say(f"{client}'s set is erased. Ctrl+Z brings it back.")

        self._take_out((set_id,), f"Erase {client}'s set", told, erased=True)

    def _take_out(
        self, ids: tuple[int, ...], words: str, told: Callable[[], None], *, erased: bool
    ) -> None:
        out = self.taking_out(ids)

        def done(removed: tuple[Removed, ...]) -> None:
            out.done(removed)
            what = {"set_id": ids[0]}
            self._app.did(
                Step(words, "queue", lambda: self.putting_back(removed), lambda: out, what)
            )
            told()

        self._app.start(out.job, done)

    def taking_out(self, ids: tuple[int, ...]) -> Task[Any]:
        job = Job("Taking sets out", later(f"{JOBS}:take_out", ids), lane="now")
        return Task(job, lambda _removed: self.gone.emit(frozenset(ids)))

    def putting_back(self, removed: tuple[Removed, ...]) -> Task[Any]:
        job = Job("Putting sets back", later(f"{JOBS}:put_back", removed), lane="now")
        ids = frozenset(int(r.row["id"]) for r in removed)
        return Task(job, lambda _none: self.changed.emit(ids))

    def added(self, ids: tuple[int, ...], what: str) -> None:
        """Sets came in: taken out again by undo, and put back by redo."""
        held: list[tuple[Removed, ...]] = []
        out = self.taking_out(ids)

        def undo() -> Task[Any]:
            def done(removed: tuple[Removed, ...]) -> None:
                held[:] = [removed]
                out.done(removed)

            return Task(out.job, done)

        count = f"{len(ids)} {what}{'' if len(ids) == 1 else 's'}"
        self._app.did(Step(f"Add {count}", "queue", undo, lambda: self.putting_back(held[0])))
        self.changed.emit(frozenset(ids))

    def ask_for_details(self, set_id: int) -> None:
        """The coach wants to correct what is known of a set."""
        job = Job("", later(f"{JOBS}:to_correct", set_id), "details", "now")
        self._app.start(job, lambda found: self.needs_details.emit(*found))

    def change(self, set_id: int, before: dict[str, Any], after: dict[str, Any]) -> None:
        """Correct what is known of a set; what was computed of it is computed anew."""
        if after == before:
            return
        task = self._changing(set_id, before, after)

        def done(answer: str) -> None:
            task.done(answer)
            self._app.did(
                Step("Set details", "review", lambda: self._changing(set_id, after, before), lambda: task,
                     {"set_id": set_id})
            )  # fmt: skip

        self._app.start(task.job, done)

    def _changing(self, set_id: int, before: dict[str, Any], after: dict[str, Any]) -> Task[str]:
        """Only what is other than before; what another window changed meanwhile stays, and is told."""
        fields = {
            name: (before[name], value) for name, value in after.items() if value != before[name]
        }
        job = Job("Reviewing anew", later(f"{JOBS}:change", set_id, fields), lane="now")

        def done(clash: str) -> None:
            self.changed.emit(frozenset({set_id}))
            if clash:
                self._app.say(clash)

        return Task(job, done)

    def join_views(self, other: int, main: int, *, joined: bool = True) -> None:
        """Another recording shows the same reps from another side, or is a set of its own again."""
        now, back = self._joining(other, main, joined), self._joining(other, main, not joined)
        words = "Two views of one set" if joined else "Two views are two sets"

        def done(answer: None) -> None:
            now.done(answer)
            self._app.did(Step(words, "review", lambda: back, lambda: now, {"set_id": main}))

        self._app.start(now.job, done)

    def _joining(self, other: int, main: int, joined: bool) -> Task[Any]:
        job = Job(
            "Reviewing both views", later(f"{JOBS}:join_views", other, main, joined), lane="now"
        )
        return Task(job, lambda _none: self.changed.emit(frozenset({other, main})))

    def putting_notes(self, set_id: int, notes: SetNotes, since: SetNotes | None) -> Task[Any]:
        """What changed from one of the coach's documents to another, for a set that is not open; of None the note."""
        job = Job("", later(f"{JOBS}:put_notes", set_id, notes, since), lane="now")
        return Task(job, lambda _none: self.changed.emit(frozenset({set_id})))

    def split(
        self, record: SetRecord, parts: Iterable[SetPart], then: Callable[[list[int]], None]
    ) -> None:
        """Make a set of each part of a recording; taken back as one step."""
        chosen = tuple(parts)
        job = Job("Splitting the recording", later(f"{JOBS}:split", record.id, chosen), lane="now")
        held: list[int] = []

        def done(ids: list[int]) -> None:
            held[:] = ids
            self.changed.emit(frozenset(ids))

        def undo() -> Task[Any]:
            extra = tuple(held[1:])
            back = Job("Joining them again", later(f"{JOBS}:join_again", record, extra), lane="now")

            def joined(_none: None) -> None:
                self.gone.emit(frozenset(extra))
                self.changed.emit(frozenset({record.id}))

            return Task(back, joined)

        def first(ids: list[int]) -> None:
            done(ids)
            self._app.did(
                Step("Split between two exercises", "review", undo, lambda: Task(job, done),
                     {"set_id": record.id})
            )  # fmt: skip
            then(ids)

        self._app.start(job, first)
