"""The document of the plan's place, what is read for it, and its steps of undo. Without Qt."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import TYPE_CHECKING, Any

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import AnyTask, Job, Task, on_library
from guide_arc.app.contract.signal import Signal
from guide_arc.app.places.plan.document import PlanDocument
from guide_arc.app.places.plan.edits import Asked, PlanEdit, by_scheme, weeks_planned
from guide_arc.app.services.destinations import ToPlan
from guide_arc.core.planning.board import Week
from guide_arc.core.planning.plan import Knowledge, Override, Plan, preference_words
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import plan_jobs

if TYPE_CHECKING:
    from guide_arc.app.places.plan.needs import PlanNeeds
    from guide_arc.library.planning import PlanSheet


class PlanModel:
    """shown : another document"""

    shown: Signal[()] = Signal()

    def __init__(self, program: PlanNeeds) -> None:
        self._program, self.doc = program, PlanDocument()

    def show(self, doc: PlanDocument) -> None:
        self.doc = doc
        self.shown.emit()
        self._program.changed()

    def look(self, asked: PlanDocument | str) -> None:
        """Another document, which nothing is kept of; words say why it can't be, or what it is."""
        if isinstance(asked, str):
            self._program.say(asked)
            return
        if asked.copied is not None and asked.copied is not self.doc.copied:
            self._program.say(f"Copied: {asked.copied.words}. Ctrl+V puts it elsewhere.")
        self.show(asked)

    # Reading

    def refresh(self) -> None:
        """Read the clients and the session again."""

        def came(names: list[str]) -> None:
            self.doc = self.doc.with_names(tuple(names))
            sheet = self.doc.sheet
            self._read(sheet.session.on if sheet and sheet.kept else None)

        self._program.start(Job("", on_library(plan_jobs.names), "plan-clients", "now"), came)

    def _read(self, on: date | None) -> None:
        if self.doc.client is None:
            self.show(replace(self.doc, sheet=None))
            return
        work = on_library(plan_jobs.read, self.doc.client, on)
        self._program.start(Job("", work, "plan", "now"), self._came)

    def _came(self, sheet: PlanSheet) -> None:
        self.show(self.doc.with_sheet(sheet))
        if self.doc.weeks_shown:
            self._read_weeks()

    def _read_weeks(self) -> None:
        if self.doc.client is None:
            return

        def came(weeks: tuple[Week, ...]) -> None:
            self.show(replace(self.doc, weeks=weeks))

        work = on_library(plan_jobs.board, self.doc.client)
        self._program.start(Job("", work, "plan-board", "now"), came)

    def choose_client(self, name: str | None) -> None:
        if name is not None and name != self.doc.client:
            self.doc = self.doc.with_client(name)
            self._read(None)

    def show_day(self, day: date | None) -> None:
        if day is not None:
            self.doc = replace(self.doc, chosen=None)
            self._read(day)

    def show_weeks(self, on: bool) -> None:
        """The weeks instead of one session, or the session again."""
        self.show(self.doc.showing_weeks(on))
        if on:
            self._read_weeks()

    def open_day(self) -> None:
        """The session of the chosen day, or a new one there."""
        day = self.doc.chosen_day
        if day is None or self.doc.sheet is None:
            return
        if self.doc.chosen_card is None and day < self.doc.today:
            self._program.say("Nothing was done on that day.")
            return
        self.doc = replace(self.doc, weeks_shown=False)
        self.show_day(day)

    # Changing, each a step of undo: the plan before and the plan after

    def edit(self, asked: Asked, *, reread: bool = False) -> None:
        """Keep what was changed, or say why it can't be. reread : what the plan rests on is another
        than was read, too"""
        if isinstance(asked, str):
            self._program.say(asked)
        elif asked is not None:
            self._keep(asked, reread=reread)

    def _keep(self, edit: PlanEdit, *, reread: bool) -> None:
        sheet, client = self.doc.sheet, self.doc.client
        if sheet is None or client is None:
            return
        before, after, shown_day = sheet.plan, edit.plan, edit.on or sheet.session.on
        if edit.chosen is not None:
            self.doc = replace(self.doc, chosen=edit.chosen)
        # Of typing on, the first step's undo takes all of it back.
        typed = bool(edit.same)

        def task(
            plan: Plan, show: date | None, since: Plan | None, known: Knowledge | None = None
        ) -> Task[tuple[PlanSheet, str]]:
            work = on_library(plan_jobs.keep, client, plan, show, since, known)
            job = Job("", work, lane="now")

            def came(found: tuple[PlanSheet, str]) -> None:
                self.doc = replace(self.doc, client=client)
                self._came(found[0])
                if found[1]:
                    self._program.say(found[1])

            return Task(job, came)

        forward = task(after, shown_day, before, None if reread else sheet.known)

        def first(found: tuple[PlanSheet, str]) -> None:
            forward.done(found)
            self._program.did(
                Step(
                    edit.words,
                    ToPlan(),
                    lambda: task(before, sheet.session.on, None if typed else after),
                    lambda: task(after, shown_day, None if typed else before),
                    same=edit.same,
                )
            )

        self._program.start(forward.job, first)

    def plan_weeks(self, count: int) -> None:
        """Propose so many weeks and keep them."""
        if self.doc.client is None:
            return

        def came(plan: Plan) -> None:
            had = len(self.doc.sheet.plan.sessions) if self.doc.sheet else 0
            asked = weeks_planned(self.doc, count, plan)
            self.edit(asked)
            if isinstance(asked, PlanEdit):
                new = len(plan.sessions) - had
                self._program.say(
                    f"{new} sessions are planned; each rests on what is done until then."
                )

        work = on_library(plan_jobs.weeks, self.doc.client, count)
        self._program.start(Job("", work, "plan-weeks", "now"), came)

    def prefer(self, own: Override | None) -> None:
        """Keep sets, reps and rest of the chosen line for this client from now on; None forgets
        them."""
        line, client, sheet = self.doc.chosen_line, self.doc.client, self.doc.sheet
        if line is None or client is None or sheet is None:
            return
        before, day, id = self.doc.preference, sheet.session.on, line.plan.id

        def task(kept: Override | None) -> Task[PlanSheet]:
            job = Job("", on_library(plan_jobs.prefer, client, id, kept, day), lane="now")

            def came(found: PlanSheet) -> None:
                self.doc = replace(self.doc, client=client)
                self._came(found)

            return Task(job, came)

        forward = task(own)
        words = f"Preference for {line.plan.name}"

        def first(found: PlanSheet) -> None:
            forward.done(found)
            self._program.did(Step(words, ToPlan(), lambda: task(before), lambda: task(own)))
            told = f"from now on {preference_words(own)}" if own else "as proposed again"
            self._program.say(f"{client}, {line.plan.name}: {told}.")

        self._program.start(forward.job, first)

    def keep_scheme(self, id: str, fields: dict[str, Any]) -> None:
        """Keep a scheme of the coach's own, and use it for the chosen line; undo takes both
        back."""
        held: list[str] = []
        keep = Job("", on_library(plan_jobs.keep_scheme, id, fields), lane="now")

        def kept(before: str) -> None:
            held[:] = [before]
            self.refresh()

        def undo() -> AnyTask:
            work = Job("", on_library(plan_jobs.put_schemes_back, held[0]), lane="now")
            return Task(work, lambda _none: self.refresh())

        def first(before: str) -> None:
            held[:] = [before]
            words = f"Scheme: {fields['name']}"
            self._program.did(Step(words, ToPlan(), undo, lambda: Task(keep, kept)))
            self.edit(by_scheme(self.doc, id), reread=True)

        self._program.start(keep, first)
