"""Reviewed sets, the latest ones kept: opening, comparing, the next one beforehand, and reviewing
again."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING, Final, Literal

from guide_arc.app.contract.app import App
from guide_arc.app.contract.job import Job, Lane, on_library
from guide_arc.app.contract.signal import Signal
from guide_arc.app.services.destinations import ToMarking, ToReview
from guide_arc.app.services.open_library import OpenLibrary
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import set_jobs

if TYPE_CHECKING:
    from guide_arc.app.services.set_jobs import OpenedSet
    from guide_arc.drawings.shown_set import ShownSet

_KEPT: Final = 4
# What is requested of a set: its review, the marks on its clip, or both.
SetPurpose = Literal["review", "marks", "both"]


class Measuring:
    """reviewed : sets (their ids) have a new review in the library"""

    reviewed: Signal[()] = Signal()

    def __init__(self, app: App, library: OpenLibrary) -> None:
        self._app, self._library = app, library
        self._kept: OrderedDict[int, OpenedSet] = OrderedDict()
        library.gone.connect(self._forget)
        library.standards_changed.connect(self._standard_changed)

    # Opening

    def open(self, set_id: int) -> None:
        """Show a set in the right place: in the review, or with its clip to be marked first."""
        self._app.say("" if set_id in self._kept else "Measuring…")

        def done(opened: OpenedSet) -> None:
            self._app.say("")
            if opened.shown is None:
                self._app.go(ToMarking(opened))
                if opened.search.state != "asks":
                    self._app.say("There is nothing to review yet: mark the joints first.")
            else:
                self._app.go(ToReview(opened))

        self._open(set_id, "open", done)

    def open_marks(self, set_id: int) -> None:
        """Show a set's clip to be marked."""
        self._open(set_id, "open", lambda o: self._app.go(ToMarking(o)), "marks")

    def look_up(
        self,
        set_id: int,
        then: Callable[[OpenedSet], None],
        key: str,
        wanted: SetPurpose = "review",
    ) -> None:
        """A set with its review, for who shows it next to another or shows it again."""
        self._open(set_id, key, then, wanted)

    def beforehand(self, set_id: int | None) -> None:
        """Measure a set so that it opens at once."""
        if set_id is not None and set_id not in self._kept:
            self._open(set_id, "beforehand", lambda _opened: None)

    def _open(
        self,
        set_id: int,
        key: str,
        then: Callable[[OpenedSet], None],
        wanted: SetPurpose = "review",
    ) -> None:
        work = on_library(set_jobs.open_set, set_id, self._kept.get(set_id), wanted)
        lane: Lane = "long" if key == "beforehand" else "now"

        def done(opened: OpenedSet) -> None:
            self._keep(opened)
            then(opened)

        self._app.start(Job("", work, key, lane), done)

    def _keep(self, opened: OpenedSet) -> None:
        if opened.shown is None:
            return
        self._kept[opened.record.id] = opened
        self._kept.move_to_end(opened.record.id)
        while len(self._kept) > _KEPT:
            self._kept.popitem(last=False)

    def renew(self, opened: OpenedSet, shown: ShownSet) -> None:
        """What is kept of an open set follows what was changed in it by hand."""
        self._keep(replace(opened, shown=shown))

    def _forget(self, ids: frozenset[int]) -> None:
        for set_id in ids:
            self._kept.pop(set_id, None)

    # Reviewing again

    def review_missing(self) -> None:
        """Sets whose review is not there yet get one."""
        self._review(Job("", on_library(set_jobs.review_missing), "review-missing"))

    def review_again(self, ids: tuple[int, ...], words: str = "Reviewing again") -> None:
        if ids:
            self._review(Job(words, on_library(set_jobs.review_each, ids), "review-again"))

    def _review(self, job: Job[list[str]]) -> None:
        def done(wrong: list[str]) -> None:
            self.reviewed.emit()
            if wrong:
                self._app.say(wrong[0])

        self._app.start(job, done)

    def _standard_changed(self, standard: str) -> None:
        """Sets that follow a standard are reviewed again; a later change starts over."""

        def done(ids: list[int]) -> None:
            self._forget(frozenset(ids))
            self._library.changed.emit(frozenset(ids))
            self.reviewed.emit()

        work = on_library(set_jobs.review_standard, standard)
        self._app.start(Job("Reviewing its sets again", work, f"standard/{standard}"), done)
