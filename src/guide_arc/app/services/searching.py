"""Finding the landmarks of clips that came in, one after the other, while the coach does something
else."""

from __future__ import annotations

from typing import TYPE_CHECKING

from guide_arc.app.contract.app import App
from guide_arc.app.contract.job import Job, on_library
from guide_arc.app.contract.signal import Signal
from guide_arc.app.services.open_library import OpenLibrary
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import clip_jobs
    from guide_arc.library.searches import Searched

if TYPE_CHECKING:
    from guide_arc.app.services.clip_jobs import SearchedOne


class Searching:
    """ended : all clips were tracked (a sentence with the results). Each clip is a separate job, so
    that each can be reviewed as soon as possible."""

    ended: Signal[str] = Signal()

    def __init__(self, app: App, library: OpenLibrary) -> None:
        self._app, self._library = app, library
        self._running = self._asked_again = False
        self._at = 0
        self._so_far: Searched | None = None

    def go_on(self) -> None:
        """Search what is to be searched, where anything is."""
        if self._running:
            self._asked_again = True
            return
        self._running = True
        work = on_library(clip_jobs.to_search)
        self._app.start(Job("", work), self._next, self._stop_if_idle)

    def _stop_if_idle(self) -> None:
        if self._at == 0:
            self._running = False

    def _next(self, left: int) -> None:
        if not left:
            self._end()
            return
        self._at += 1
        of = f", clip {self._at} of {self._at + left - 1}" if self._at + left > 2 else ""
        answered = False

        def done(one: SearchedOne) -> None:
            nonlocal answered
            answered = True
            self._searched(one)

        def over() -> None:
            if not answered:
                self._stopped()

        job = Job(
            f"Finding the body{of}",
            on_library(clip_jobs.search_next),
            "search",
            stopped="Stopped; the clips that are left can be marked by hand.",
        )
        self._app.start(job, done, over)

    def _searched(self, one: SearchedOne) -> None:
        if self._so_far is None:
            self._so_far = Searched()
        self._so_far.add(one.search)
        if one.set_id is not None:
            self._library.changed.emit(frozenset({one.set_id}))
        self._next(one.left)

    def _stopped(self) -> None:
        """Stopped by the coach, or something broke: what is left is not tried again and again."""
        self._app.start(
            Job("", on_library(clip_jobs.give_up_search), lane="now"), lambda _none: self._end()
        )

    def _end(self) -> None:
        said, self._so_far = self._so_far, None
        if self._at:
            self._library.changed.emit(frozenset())
        self._running, self._at = False, 0
        if self._asked_again:
            self._asked_again = False
            self.go_on()
        if said is not None and said.words:
            self.ended.emit(said.words)
            self._app.say(said.words)
