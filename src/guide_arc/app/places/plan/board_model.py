"""The weeks of the client who is planned for, as the board shows them and as sessions move on it.
Without Qt."""

from __future__ import annotations

from datetime import date, timedelta
from typing import TYPE_CHECKING

from guide_arc.app.contract.job import Job, on_library
from guide_arc.core.planning.board import Card, Week
from guide_arc.core.planning.plan import Plan, moved
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import plan_jobs

if TYPE_CHECKING:
    from guide_arc.app.places.plan.model import PlanModel
    from guide_arc.app.places.plan.needs import PlanNeeds


class BoardModel:
    """shown : whether the weeks are looked at instead of one session"""

    def __init__(self, plan: PlanModel, program: PlanNeeds) -> None:
        self._plan, self._program = plan, program
        self.shown = False
        self.weeks: tuple[Week, ...] = ()
        self.chosen_day: date | None = None

    @property
    def today(self) -> date:
        sheet = self._plan.sheet
        return sheet.known.today if sheet else date.min

    def sheet_came(self) -> None:
        """The plan is another than before."""
        sheet = self._plan.sheet
        if self.shown and sheet is not None:
            self.chosen_day = sheet.session.on
            self._read()

    def show(self, on: bool) -> None:
        self.shown = on
        if on and self._plan.sheet is not None:
            self.chosen_day = self._plan.sheet.session.on
            self._read()
        self._plan.tell()

    def _read(self) -> None:
        if self._plan.client is None:
            return

        def came(weeks: tuple[Week, ...]) -> None:
            self.weeks = weeks
            self._plan.tell()

        self._program.start(
            Job("", on_library(plan_jobs.board, self._plan.client), "plan-board", "now"), came
        )

    def choose_day(self, day: date) -> None:
        if self.weeks and self.weeks[0].monday <= day <= self.weeks[-1].monday + timedelta(days=6):
            self.chosen_day = day
            self._plan.tell()

    def step_day(self, days: int) -> None:
        if self.chosen_day is not None:
            self.choose_day(self.chosen_day + timedelta(days=days))

    @property
    def chosen_card(self) -> Card | None:
        day = self.chosen_day
        return next((c for w in self.weeks for c in w.cards if c.on == day), None)

    def open_day(self) -> None:
        """The session of the chosen day, or a new one there."""
        day, sheet = self.chosen_day, self._plan.sheet
        if day is None or sheet is None:
            return
        if self.chosen_card is None and day < sheet.known.today:
            self._program.say("Nothing was done on that day.")
            return
        self.shown = False
        self._plan.show_day(day)

    def move_session(self, start: date, to: date) -> None:
        """A planned session goes to another day; what is planned there takes its place."""
        if self._plan.sheet is None:
            return
        card = next((c for w in self.weeks for c in w.cards if c.on == start), None)
        taken = next((c for w in self.weeks for c in w.cards if c.on == to), None)
        if card is None or card.state == "done" or to == start:
            return
        if to < self._plan.sheet.known.today or (taken is not None and taken.state == "done"):
            self._program.say("A session can only move to a day that is still ahead.")
            return
        plan = self._plan.sheet.plan
        if card.state == "proposed":
            plan = plan.with_session(self._plan.sheet.session)
        self.chosen_day = to
        self._plan.keep(f"Move the session to {to:%a} {to.day} {to:%b}", moved(plan, start, to), to)

    def move_chosen(self, days: int) -> None:
        if self.chosen_day is not None:
            self.move_session(self.chosen_day, self.chosen_day + timedelta(days=days))

    def plan_weeks(self, count: int) -> None:
        if self._plan.client is None:
            return
        work = on_library(plan_jobs.weeks, self._plan.client, count)

        def came(plan: Plan) -> None:
            had = {s.on for s in self._plan.sheet.plan.sessions} if self._plan.sheet else set()
            new = [s.on for s in plan.sessions if s.on not in had]
            if not new:
                nothing = self._plan.sheet is not None and not self._plan.sheet.known.sets
                self._program.say(
                    "Nothing was done yet to plan from: add exercises to a session (A)."
                    if nothing
                    else (
                        "Nothing new to plan: these weeks are planned, or nothing was done in the"
                        " last three."
                    )
                )
                return
            self._plan.keep(f"Plan {count} weeks", plan, new[0])
            self._program.say(
                f"{len(new)} sessions are planned; each rests on what is done until then."
            )

        self._program.start(Job("", work, "plan-weeks", "now"), came)
