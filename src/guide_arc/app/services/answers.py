"""Clients' answers on their way into the library: from files, the drop folder or the clipboard."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING

from guide_arc.app.contract.app import App
from guide_arc.app.contract.job import Job, on_library
from guide_arc.app.contract.signal import Signal
from guide_arc.app.services.destinations import ToReview
from guide_arc.app.services.intake import Intake
from guide_arc.app.services.open_library import OpenLibrary
from guide_arc.app.services.recorded_step import RecordedStep, tell
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import answer_jobs

if TYPE_CHECKING:
    from guide_arc.app.services.answer_jobs import Arrived
    from guide_arc.library.answers import Matched, TakenAnswer


class Answers:
    """Takes answers in, each as one step of undo.

    needs_decision : an answer has an odd date, and the coach decides whether it is taken in
    """

    needs_decision: Signal[Matched] = Signal()

    def __init__(self, app: App, library: OpenLibrary, intake: Intake) -> None:
        self._app, self._library, self._intake = app, library, intake
        intake.answers_came.connect(self.receive)

    def receive(self, texts: tuple[tuple[Path | None, str], ...]) -> None:
        """Match answers to their sets, and take in those without a doubt."""
        job = Job("", on_library(answer_jobs.match_all, texts, date.today()), lane="now")
        self._app.start(job, self._matched)

    def _matched(self, arrived: tuple[Arrived, ...]) -> None:
        self._intake.settled.emit(tuple(a.path for a in arrived if a.path is not None))
        self._intake.quarantined.emit()
        for one in arrived:
            if one.matched is None:
                name = one.path.name if one.path is not None else "The clipboard"
                self._app.say(f"{name}: {one.why}.")
            elif one.matched.known:
                self._app.say(f"This answer was taken in before: {one.matched.about}.")
            elif one.matched.doubt:
                self.needs_decision.emit(one.matched)
            else:
                self.take(one.matched)

    def take(self, matched: Matched) -> None:
        """Take one answer in, whatever its date."""
        self._app.start(Job("", on_library(answer_jobs.take, matched), lane="now"), self._taken)

    def _taken(self, taken: TakenAnswer) -> None:
        matched = taken.matched
        step = RecordedStep(self._library, taken.changes)
        self._app.did(step.step(f"Answer of {matched.client}", ToReview(set_id=matched.set_id)))
        tell(self._library, taken.changes)
        self._app.say(taken.words)
