"""The log of training that nobody filmed: a day is read, changed, and taken back."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import date
from typing import TYPE_CHECKING

from guide_arc.app.contract.app import App
from guide_arc.app.contract.destination import Destination
from guide_arc.app.contract.job import Job, on_library
from guide_arc.app.services.open_library import OpenLibrary
from guide_arc.app.services.recorded_step import RecordedStep, tell
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import log_jobs

if TYPE_CHECKING:
    from guide_arc.core.planning.training_log import LoggedSet
    from guide_arc.library.changes import Changes
    from guide_arc.library.log_sheet import LogSheet


class TrainingLog:
    def __init__(self, app: App, library: OpenLibrary) -> None:
        self._app, self._library = app, library

    def read(self, client: str, on: date, then: Callable[[LogSheet], None]) -> None:
        work = on_library(log_jobs.read_day, client, on)
        self._app.start(Job("", work, "log", "now"), then)

    def keep(
        self, shows: Destination, sheet: LogSheet, sets: Sequence[LoggedSet], tired: bool
    ) -> None:
        """The sets of a day in place of those that its sheet had, and whether the client was
        tired."""
        other = tired if tired != sheet.tired else None
        self.change(sheet.client, sheet.on, sets, sheet.logged, shows, tired=other)

    def change(
        self,
        client: str,
        on: date,
        sets: Sequence[LoggedSet],
        since: Sequence[LoggedSet],
        shows: Destination,
        *,
        tired: bool | None = None,
    ) -> None:
        """Other sets of a day, as one step of undo. since : those that it had; tired : whether the
        client was, where that is another than before"""
        if tuple(sets) == tuple(since) and tired is None:
            return
        work = on_library(log_jobs.change, client, on, tuple(sets), tuple(since), tired)

        def done(changes: Changes) -> None:
            tell(self._library, changes)
            step = RecordedStep(self._library, changes)
            self._app.did(step.step(f"Log of {client}, {on:%d %b}", shows))
            count = f"{len(sets)} set{'' if len(sets) == 1 else 's'}"
            self._app.say(f"{count} noted for {client} on {on:%a} {on.day} {on:%b}.")

        self._app.start(Job("", work, lane="now"), done)

    def correct(self, client: str, wrong: LoggedSet, right: LoggedSet, shows: Destination) -> None:
        """Put one set in the place of another of its day."""
        self.change(client, wrong.on, (right,), (wrong,), shows)
