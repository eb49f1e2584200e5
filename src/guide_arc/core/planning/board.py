"""A client's weeks as a board: what was done, what is planned, what was missed, week by week."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final, Literal

from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.core.planning.plan import (
    Knowledge,
    Plan,
    PlannedSession,
    dosed_in,
    length_of,
    weeks_ahead,
)

State = Literal["done", "planned", "proposed", "missed"]
WEEKS: Final = 12
_BEHIND: Final = 2
_WEEK: Final = timedelta(days=7)


@dataclass(frozen=True)
class CardLine:
    """One exercise on a card. sets : done, or asked; stopped : pain or a sore place stops it"""

    name: str
    region: str
    sets: int
    stopped: bool = False


@dataclass(frozen=True)
class Card:
    """One session. length_s : as computed of what is planned; None of what was done; too_long :
    more than there is"""

    on: date
    state: State
    lines: tuple[CardLine, ...]
    length_s: float | None = None
    too_long: bool = False

    @property
    def sets(self) -> int:
        return sum(line.sets for line in self.lines if not line.stopped)


@dataclass(frozen=True)
class Week:
    """monday : its first day; easier : whether it is one of less weight and half the sets"""

    monday: date
    easier: bool
    cards: tuple[Card, ...]

    def card_on(self, day: date) -> Card | None:
        return next((c for c in self.cards if c.on == day), None)


def board_of(
    plan: Plan, known: Knowledge, proposed: PlannedSession | None = None
) -> tuple[Week, ...]:
    """Two weeks behind, this one, and eleven ahead, or as many as are planned. What was done takes
    the place of what was planned.

    proposed : the next session if none is saved
    """
    this = known.today - timedelta(days=known.today.weekday())
    last = max((s.on for s in plan.sessions if s.lines), default=this)
    count = max(WEEKS, 1 + (last - this).days // 7)
    easier = dict(weeks_ahead(known, count))
    done = _by_day(known.sets)
    sessions = {s.on: s for s in plan.sessions if s.lines and s.on not in done}
    new = proposed is not None and bool(proposed.lines) and proposed.on not in {*sessions, *done}
    shown = {proposed.on: proposed} if proposed is not None and new else {}
    out = []
    for i in range(-_BEHIND, count):
        monday = this + i * _WEEK
        cards = []
        for day in (monday + timedelta(days=n) for n in range(7)):
            if day in done:
                cards.append(_done(day, done[day], known))
            elif day in sessions:
                state: State = "missed" if day < known.today else "planned"
                cards.append(_planned(sessions[day], state, plan, known))
            elif day in shown:
                cards.append(_planned(shown[day], "proposed", plan, known))
        out.append(Week(monday, easier.get(monday, False), tuple(cards)))
    return tuple(out)


def _by_day(sets: Sequence[KeptSet]) -> dict[date, list[KeptSet]]:
    out: dict[date, list[KeptSet]] = {}
    for one in sets:
        if one.on > date.min:
            out.setdefault(one.on, []).append(one)
    return out


def _done(day: date, sets: list[KeptSet], known: Knowledge) -> Card:
    counts = Counter(s.standard for s in sets)
    plans = known.standards
    lines = (CardLine(plans[id].name, plans[id].region, n) for id, n in counts.items())
    return Card(day, "done", tuple(lines))


def _planned(session: PlannedSession, state: State, plan: Plan, known: Knowledge) -> Card:
    lines = [
        dosed_in(plan, line, known, session.on)
        for line in session.lines
        if line.standard in known.standards
    ]
    told = (CardLine(d.name, d.plan.region, d.asked.sets, d.asked.ask_first) for d in lines)
    length_s = length_of(lines)
    return Card(
        session.on, state, tuple(told), length_s, length_s > 60.0 * known.client.session_min
    )
