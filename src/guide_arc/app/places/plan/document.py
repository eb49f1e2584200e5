"""What the plan's place shows, as one frozen value: the client, a session of theirs, the weeks."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import TYPE_CHECKING

from guide_arc.core.planning.board import Card, Week
from guide_arc.core.planning.copying import CopiedSessions
from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.core.planning.plan import ORDERS, DosedLine, Override, PlannedLine, jump_of, stepped
from guide_arc.core.planning.rules import PLAN

if TYPE_CHECKING:
    from guide_arc.library.planning import PlanSheet


@dataclass(frozen=True, eq=False)
class PlanDocument:
    """names : of all clients; client : the one that is planned for; loaded : whether both are read
    sheet : a session with its doses; chosen : one of its lines
    by_head : time under tension by muscle and head, instead of the regions' sets
    copied : a session or a week to be put elsewhere
    weeks_shown : whether the weeks are looked at instead of one session; chosen_day : one of them
    """

    names: tuple[str, ...] = ()
    client: str | None = None
    loaded: bool = False
    sheet: PlanSheet | None = None
    chosen: int | None = None
    by_head: bool = False
    weeks_shown: bool = False
    weeks: tuple[Week, ...] = ()
    chosen_day: date | None = None
    copied: CopiedSessions | None = None

    @property
    def lines(self) -> tuple[PlannedLine, ...]:
        return tuple(d.line for d in self.sheet.lines) if self.sheet else ()

    @property
    def chosen_line(self) -> DosedLine | None:
        dosed = self.sheet.lines if self.sheet else ()
        return dosed[self.chosen] if self.chosen is not None and self.chosen < len(dosed) else None

    @property
    def chosen_history(self) -> Sequence[KeptSet]:
        """The sets of the chosen exercise before the session, the oldest first."""
        line = self.chosen_line
        if self.sheet is None or line is None:
            return ()
        return self.sheet.known.sets_of(line.plan.id, self.sheet.session.on)

    @property
    def preference(self) -> Override | None:
        """What is kept for this client of the chosen exercise."""
        line = self.chosen_line
        return self.sheet.known.preferences.get(line.plan.id) if self.sheet and line else None

    @property
    def today(self) -> date:
        return self.sheet.known.today if self.sheet else date.min

    def card_on(self, day: date | None) -> Card | None:
        return next((c for w in self.weeks for c in w.cards if c.on == day), None)

    @property
    def chosen_card(self) -> Card | None:
        return self.card_on(self.chosen_day)

    # How much more the chosen line asks for than last time

    @property
    def jump(self) -> float:
        line = self.chosen_line
        return jump_of(line) if line is not None else 0.0

    @property
    def jump_of_step(self) -> float:
        """How much more than last time the next step up would be, as a share."""
        line = self.chosen_line
        up = stepped(line, 1, self.sheet.known) if line is not None and self.sheet else None
        last = line.last if line is not None else None
        if up is None or last is None or not last.load_kg or up.load_kg is None:
            return 0.0
        return up.load_kg / last.load_kg - 1.0

    @property
    def asks_about_jump(self) -> bool:
        """Whether the next step up is one to be asked about."""
        return self.jump_of_step > PLAN.most_jump_share + 1e-9

    # Another one

    def with_names(self, names: tuple[str, ...]) -> PlanDocument:
        client = self.client if self.client in names else next(iter(names), None)
        return replace(self, names=names, loaded=True, client=client)

    def with_client(self, client: str) -> PlanDocument:
        return replace(self, client=client, chosen=None)

    def with_sheet(self, sheet: PlanSheet) -> PlanDocument:
        count = len(sheet.lines)
        chosen = self.chosen
        if chosen is None or chosen >= count:
            chosen = 0 if count else None
        day = sheet.session.on if self.weeks_shown else self.chosen_day
        return replace(self, sheet=sheet, chosen=chosen, chosen_day=day)

    def choosing(self, index: int) -> PlanDocument:
        return replace(self, chosen=index) if 0 <= index < len(self.lines) else self

    def stepped_line(self, by: int) -> PlanDocument:
        return self.choosing(min(max((self.chosen or 0) + by, 0), len(self.lines) - 1))

    def stepped_client(self, by: int) -> str | None:
        """The client that many farther on, round and round."""
        if not self.names:
            return None
        at = self.names.index(self.client) if self.client in self.names else 0
        return self.names[(at + by) % len(self.names)]

    def stepped_session(self, by: int) -> date | None:
        """The day of the session that many farther on; None if there is none."""
        if self.sheet is None:
            return None
        days = [d for d, _done in self.sheet.days]
        at = days.index(self.sheet.session.on) + by
        return days[at] if 0 <= at < len(days) else None

    def showing_weeks(self, on: bool) -> PlanDocument:
        day = self.sheet.session.on if on and self.sheet else self.chosen_day
        return replace(self, weeks_shown=on, chosen_day=day)

    def choosing_day(self, day: date) -> PlanDocument:
        weeks = self.weeks
        if weeks and weeks[0].monday <= day <= weeks[-1].monday + timedelta(days=6):
            return replace(self, chosen_day=day)
        return self

    def stepped_day(self, days: int) -> PlanDocument:
        day = self.chosen_day
        return self if day is None else self.choosing_day(day + timedelta(days=days))


def last_filmed(doc: PlanDocument) -> KeptSet | None:
    """The last set of the chosen exercise that was filmed."""
    return next((s for s in reversed(doc.chosen_history) if s.logged is None), None)


def order_words(doc: PlanDocument) -> str:
    """By which rule the lines are ordered."""
    return ORDERS[doc.sheet.plan.order] if doc.sheet else ""
