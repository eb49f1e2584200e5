"""The coach's evening: the pace that is learned, clean sets in one go, and what was said to whom."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import date, datetime
from typing import Any

from guide_arc.app.contract.app import App
from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, later
from guide_arc.app.services.open_library import OpenLibrary

JOBS = "guide_arc.app.services.evening_jobs"


class Evening:
    """Asks and keeps; what comes of it is handed to `then`."""

    def __init__(self, app: App, library: OpenLibrary) -> None:
        self._app, self._library = app, library

    def reviewed(self, set_id: int, seconds: float) -> None:
        """A set was reviewed that was open for so long."""
        work = later(f"{JOBS}:note_reviewed", set_id, seconds, datetime.now())
        self._app.start(Job("", work, lane="now"), lambda _none: None)

    def ask_clean(self, then: Callable[[list[Any]], None]) -> None:
        """The waiting sets with nothing off, to be looked over."""
        self._app.start(Job("", later(f"{JOBS}:clean_rows"), "clean", "now"), then)

    def mark_reviewed(self, ids: tuple[int, ...]) -> None:
        """Mark sets reviewed in one step of undo."""
        held: list[Mapping[int, Any]] = []
        changed = frozenset(ids)
        job = Job(
            "Marking reviewed", later(f"{JOBS}:mark_reviewed", ids, datetime.now()), lane="now"
        )

        def done(before: Mapping[int, Any]) -> None:
            held[:] = [before]
            self._library.changed.emit(changed)

        def undo() -> Task[Any]:
            back = Job("Putting them back", later(f"{JOBS}:put_notes_back", held[0]), lane="now")
            return Task(back, lambda _none: self._library.changed.emit(changed))

        def first(before: Mapping[int, Any]) -> None:
            done(before)
            words = f"{len(ids)} clean set{'' if len(ids) == 1 else 's'} reviewed"
            self._app.did(Step(words, "queue", undo, lambda: Task(job, done)))
            self._app.say(f"{words}. Ctrl+Z puts them back.")

        self._app.start(job, first)

    def ask_summary(self, day: date, then: Callable[[str], None]) -> None:
        """What was said to whom on a day."""
        self._app.start(Job("", later(f"{JOBS}:evening_text", day), "evening", "now"), then)

    def ask_templates(self, then: Callable[[list[str]], None]) -> None:
        """The answers that the coach keeps."""
        self._app.start(Job("", later(f"{JOBS}:templates"), "templates", "now"), then)

    def keep_templates(self, texts: tuple[str, ...]) -> None:
        work = later(f"{JOBS}:keep_templates", texts)
        self._app.start(Job("", work, lane="now"), lambda _none: None)
