"""The coach's evening: the learned pace, clean sets in one go, and the cues by client."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, datetime
from pathlib import Path
from typing import TYPE_CHECKING

from guide_arc.app.contract.app import App
from guide_arc.app.contract.job import Job, on_library
from guide_arc.app.services.destinations import ToQueue
from guide_arc.app.services.open_library import OpenLibrary
from guide_arc.app.services.recorded_step import RecordedStep
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import evening_jobs

if TYPE_CHECKING:
    from guide_arc.library.changes import Changes
    from guide_arc.library.queue_rows import QueueRow


class Evening:
    """Asks and keeps; what comes of it is handed to `then`."""

    def __init__(self, app: App, library: OpenLibrary) -> None:
        self._app, self._library = app, library

    def reviewed(self, set_id: int, seconds: float) -> None:
        """A set was reviewed that was open for so long."""
        work = on_library(evening_jobs.note_reviewed, set_id, seconds, datetime.now())
        self._app.start(Job("", work, lane="now"), lambda _none: None)

    def ask_clean(self, then: Callable[[list[QueueRow]], None]) -> None:
        """The waiting sets with nothing off, to be looked over."""
        self._app.start(Job("", on_library(evening_jobs.clean_rows), "clean", "now"), then)

    def mark_reviewed(self, ids: tuple[int, ...]) -> None:
        """Mark sets reviewed in one step of undo."""
        changed = frozenset(ids)
        job = Job(
            "Marking reviewed",
            on_library(evening_jobs.mark_reviewed, ids, datetime.now()),
            lane="now",
        )

        def done(changes: Changes) -> None:
            self._library.changed.emit(changed)
            words = f"{len(ids)} clean set{'' if len(ids) == 1 else 's'} reviewed"
            self._app.did(RecordedStep(self._library, changes).step(words, ToQueue()))
            self._app.say(f"{words}. Ctrl+Z puts them back.")

        self._app.start(job, done)

    def ask_summary(self, day: date, then: Callable[[str], None]) -> None:
        """The cues of a day by client."""
        self._app.start(Job("", on_library(evening_jobs.evening_text, day), "evening", "now"), then)

    def write_pages(self, day: date, folder: Path) -> None:
        """Write the pages of all sets that were reviewed on a day; each client has a folder."""
        work = on_library(evening_jobs.write_pages, day, folder, self._library.coach)

        job = Job("Writing the pages", work, stopped="Stopped. The pages written so far are whole.")
        self._app.start(job, lambda pages: self._app.say(pages.words))

    def ask_templates(self, then: Callable[[list[str]], None]) -> None:
        """The answers that the coach keeps."""
        self._app.start(Job("", on_library(evening_jobs.templates), "templates", "now"), then)

    def keep_templates(self, texts: tuple[str, ...]) -> None:
        work = on_library(evening_jobs.keep_templates, texts)
        self._app.start(Job("", work, lane="now"), lambda _none: None)
