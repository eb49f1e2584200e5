"""What the plan's place shows and what is changed there. Without Qt."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import TYPE_CHECKING, Any

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, on_library
from guide_arc.app.contract.signal import Signal
from guide_arc.app.places.plan.board_model import BoardModel
from guide_arc.app.services.destinations import ToPlan
from guide_arc.core.planning.plan import (
    ORDERS,
    DosedLine,
    Order,
    Override,
    Plan,
    PlannedLine,
    PlannedSession,
    jump_of,
    merged_into,
    ordered,
    preference_words,
    shifted,
    stepped,
)
from guide_arc.core.planning.rules import PLAN
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import plan_jobs

if TYPE_CHECKING:
    from guide_arc.app.places.plan.needs import PlanNeeds
    from guide_arc.library.planning import PlanSheet


class PlanModel:
    """shown : another session, or another thing chosen in it"""

    shown: Signal[()] = Signal()

    def __init__(self, program: PlanNeeds) -> None:
        self._program = program
        self.names: tuple[str, ...] = ()
        self.client: str | None = None
        self.sheet: PlanSheet | None = None
        self.chosen: int | None = None
        self.loaded = False
        # Time under tension by muscle and head, instead of the regions' sets.
        self.by_head = False
        self.board = BoardModel(self, program)

    # What is shown

    def refresh(self) -> None:
        """Read the clients and the session again."""

        def came(names: list[str]) -> None:
            self.names, self.loaded = tuple(names), True
            if self.client not in names:
                self.client = names[0] if names else None
            self._read(self.sheet.session.on if self.sheet and self.sheet.kept else None)

        self._program.start(Job("", on_library(plan_jobs.names), "plan-clients", "now"), came)

    def _read(self, on: date | None) -> None:
        if self.client is None:
            self.sheet = None
            self.tell()
            return
        self._program.start(
            Job("", on_library(plan_jobs.read, self.client, on), "plan", "now"), self._came
        )

    def _came(self, sheet: PlanSheet) -> None:
        self.sheet = sheet
        self.board.sheet_came()
        count = len(sheet.lines)
        if self.chosen is None or self.chosen >= count:
            self.chosen = 0 if count else None
        self.tell()

    def tell(self) -> None:
        self.shown.emit()
        self._program.changed()

    def choose_client(self, name: str) -> None:
        if name != self.client:
            self.client, self.chosen = name, None
            self._read(None)

    def show_heads(self, on: bool) -> None:
        self.by_head = on
        self.tell()

    def step_client(self, by: int) -> None:
        if self.names:
            at = self.names.index(self.client) if self.client in self.names else 0
            self.choose_client(self.names[(at + by) % len(self.names)])

    def step_session(self, by: int) -> None:
        if self.sheet is None:
            return
        days = [d for d, _done in self.sheet.days]
        at = days.index(self.sheet.session.on) + by
        if 0 <= at < len(days):
            self.chosen = None
            self._read(days[at])

    def show_day(self, day: date) -> None:
        self.chosen = None
        self._read(day)

    @property
    def chosen_line(self) -> DosedLine | None:
        if (
            self.sheet is None
            or self.chosen is None
            or not 0 <= self.chosen < len(self.sheet.lines)
        ):
            return None
        return self.sheet.lines[self.chosen]

    def choose(self, index: int) -> None:
        if self.sheet and 0 <= index < len(self.sheet.lines):
            self.chosen = index
            self.tell()

    def step_line(self, by: int) -> None:
        if self.sheet and self.sheet.lines:
            self.choose(min(max((self.chosen or 0) + by, 0), len(self.sheet.lines) - 1))

    # Changing, each a step of undo: the plan before and the plan after

    def keep(self, words: str, after: Plan, on: date | None = None, same: str = "") -> None:
        sheet, client = self.sheet, self.client
        if sheet is None or client is None:
            return
        before, day = sheet.plan, on or sheet.session.on

        # Of typing on, the first step's undo takes all of it back.
        typed = bool(same)

        def task(plan: Plan, show: date | None, since: Plan | None) -> Task[Any]:
            job = Job("", on_library(plan_jobs.keep, client, plan, show, since), lane="now")

            def came(found: tuple[PlanSheet, str]) -> None:
                self.client = client
                self._came(found[0])
                if found[1]:
                    self._program.say(found[1])

            return Task(job, came)

        forward = task(after, day, before)

        def first(found: tuple[PlanSheet, str]) -> None:
            forward.done(found)
            self._program.did(
                Step(
                    words,
                    ToPlan(),
                    lambda: task(before, sheet.session.on, None if typed else after),
                    lambda: task(after, day, None if typed else before),
                    same=same,
                )
            )

        self._program.start(forward.job, first)

    def _with_lines(
        self, words: str, lines: tuple[PlannedLine, ...], order: Order | None = None, same: str = ""
    ) -> None:
        if self.sheet is None:
            return
        plan = self.sheet.plan if order is None else replace(self.sheet.plan, order=order)
        self.keep(words, plan.with_session(PlannedSession(self.sheet.session.on, lines)), same=same)

    def _change(self, words: str, **fields: Any) -> None:
        """Change the chosen line."""
        line = self.chosen_line
        if line is None or self.sheet is None or self.chosen is None:
            return
        lines = [d.line for d in self.sheet.lines]
        lines[self.chosen] = replace(line.line, **fields)
        self._with_lines(
            f"{words}: {line.plan.name}", tuple(lines), same=f"plan/{words}/{line.plan.id}"
        )

    def step_load(self, by: int) -> None:
        line = self.chosen_line
        if line is None or self.sheet is None:
            return
        if line.asked.ask_first:
            self._program.say(
                "Pain or a sore place stops this line: a licensed clinician is asked first."
            )
            return
        override = stepped(line, by, self.sheet.known)
        if override is None:
            self._program.say("The rack has no weight further that way.")
            return
        self._change("Another weight", override=override)

    def jump_of_step(self) -> float:
        """How much more than last time the next step up would be, as a share."""
        line = self.chosen_line
        if line is None or self.sheet is None:
            return 0.0
        override = stepped(line, 1, self.sheet.known)
        if (
            override is None
            or line.last is None
            or not line.last.load_kg
            or override.load_kg is None
        ):
            return 0.0
        return override.load_kg / line.last.load_kg - 1.0

    def change_sets(self, by: int) -> None:
        line = self.chosen_line
        if line is not None:
            sets = min(max(line.asked.sets + by, 1), 12)
            self._change("Another number of sets", override=replace(line.line.override, sets=sets))

    def as_proposed(self) -> None:
        self._change("As proposed", override=Override())

    @property
    def preference(self) -> Override | None:
        """What is kept for this client of the chosen exercise."""
        line = self.chosen_line
        return self.sheet.known.preferences.get(line.plan.id) if self.sheet and line else None

    def prefer(self, own: Override | None) -> None:
        """Keep sets, reps and rest of the chosen line for this client from now on; None forgets
        them."""
        line, client, sheet = self.chosen_line, self.client, self.sheet
        if line is None or client is None or sheet is None:
            return
        before, day, id = self.preference, sheet.session.on, line.plan.id

        def task(kept: Override | None) -> Task[Any]:
            job = Job("", on_library(plan_jobs.prefer, client, id, kept, day), lane="now")

            def came(found: PlanSheet) -> None:
                self.client = client
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

    def say_why(self, words: str) -> None:
        line = self.chosen_line
        if line is not None:
            self._change("Your reason", override=replace(line.line.override, why=words))

    def use_scheme(self, scheme: str) -> None:
        self._change("Another scheme", scheme=scheme)

    def keep_scheme(self, id: str, fields: dict[str, Any]) -> None:
        """Keep a scheme of the coach's own, and use it for the chosen line; undo takes both
        back."""
        held: list[str] = []
        keep = Job("", on_library(plan_jobs.keep_scheme, id, fields), lane="now")

        def kept(before: str) -> None:
            held[:] = [before]
            self.refresh()

        def undo() -> Task[Any]:
            work = Job("", on_library(plan_jobs.put_schemes_back, held[0]), lane="now")
            return Task(work, lambda _none: self.refresh())

        def first(before: str) -> None:
            held[:] = [before]
            words = f"Scheme: {fields['name']}"
            self._program.did(Step(words, ToPlan(), undo, lambda: Task(keep, kept)))
            self.use_scheme(id)

        self._program.start(keep, first)

    def pair(self) -> None:
        """Pair the chosen line with the one above it, or part the two."""
        if self.sheet is None or self.chosen is None:
            return
        lines = [d.line for d in self.sheet.lines]
        own = lines[self.chosen]
        if own.pair:
            parted = [replace(line, pair="") if line.pair == own.pair else line for line in lines]
            self._with_lines("Part the pair", tuple(parted))
            return
        if self.chosen == 0 or lines[self.chosen - 1].pair:
            self._program.say("A line is paired with a single line above it.")
            return
        label = next(c for c in "ABCDEFGHIJ" if all(line.pair != c for line in lines))
        for i in (self.chosen - 1, self.chosen):
            lines[i] = replace(lines[i], pair=label)
        self._with_lines("Pair two lines", tuple(lines))

    def move(self, by: int) -> None:
        if self.sheet is None or self.chosen is None:
            return
        to = self.chosen + by
        lines = [d.line for d in self.sheet.lines]
        if not 0 <= to < len(lines):
            return
        lines.insert(to, lines.pop(self.chosen))
        self.chosen = to
        self._with_lines("Another order", tuple(lines), "as-set")

    def move_to(self, start: int, to: int) -> None:
        """A line dragged to another place."""
        if self.sheet is None or start == to:
            return
        lines = [d.line for d in self.sheet.lines]
        lines.insert(to, lines.pop(start))
        self.chosen = to
        self._with_lines("Another order", tuple(lines), "as-set")

    def next_order(self) -> None:
        """The next rule of order, and the lines by it."""
        if self.sheet is None:
            return
        rules = [o for o in ORDERS if o != "as-set"]
        now = self.sheet.plan.order
        order = rules[(rules.index(now) + 1) % len(rules)] if now in rules else rules[0]
        lines = ordered(self.sheet.lines, order, self.sheet.known.client)
        self._with_lines(f"Order: {ORDERS[order]}", tuple(d.line for d in lines), order)

    def add_line(self, standard: str) -> None:
        if self.sheet is None:
            return
        plan = self.sheet.known.standards[standard]
        lines = tuple(d.line for d in self.sheet.lines)
        self.chosen = len(lines)
        self._with_lines(f"Add {plan.name}", (*lines, PlannedLine(standard, plan.school.id)))

    def remove_line(self) -> None:
        line = self.chosen_line
        if line is None or self.sheet is None:
            return
        lines = tuple(d.line for d in self.sheet.lines if d is not line)
        alone = [o.pair for o in lines].count(line.line.pair) == 1 if line.line.pair else False
        if alone:
            lines = tuple(replace(o, pair="") if o.pair == line.line.pair else o for o in lines)
        self._with_lines(f"Take out {line.plan.name}", lines)

    def drop(self) -> None:
        """Leave out what does not fit into the time that there is."""
        if self.sheet is None:
            return
        lines = []
        for d in self.sheet.lines:
            if d.plan.name in self.sheet.dropped:
                continue
            own = d.line
            if f"one set of {d.plan.name}" in self.sheet.dropped:
                own = replace(own, override=replace(own.override, sets=d.asked.sets - 1))
            lines.append(own)
        self._with_lines("Leave out what does not fit", tuple(lines))

    def shift_missed(self) -> None:
        """The first missed session is done next time; those after it move by as much."""
        if self.sheet and self.sheet.missed:
            missed_on = self.sheet.missed[0].on
            to = self.sheet.known.today
            self.keep("Missed: do it next time", shifted(self.sheet.plan, missed_on, to), to)

    def merge_missed(self) -> None:
        """The first missed session joins the next planned one."""
        if self.sheet is None or not self.sheet.missed:
            return
        ahead = [s.on for s in self.sheet.plan.sessions if s.on >= self.sheet.known.today]
        if not ahead:
            self._program.say("No session is planned to join it with: do it next time instead.")
            return
        after = merged_into(self.sheet.plan, self.sheet.missed[0].on, ahead[0])
        self.keep("Missed: join it with the next one", after, ahead[0])

    @property
    def order_words(self) -> str:
        return ORDERS[self.sheet.plan.order] if self.sheet else ""

    def jump(self) -> float:
        line = self.chosen_line
        return jump_of(line) if line is not None else 0.0

    @property
    def asks_about_jump(self) -> bool:
        """Whether the next step up is one to be asked about."""
        return self.jump_of_step() > PLAN.most_jump_share + 1e-9
