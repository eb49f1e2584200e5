"""A week of all clients next to one another: who trains when, who is overdue, who waits for the
coach."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import pairwise
from statistics import median_low
from typing import Final, Literal

DayState = Literal["done", "planned", "missed"]
# The usual time between two sessions is the middle of so many; days at most.
_LAST_GAPS: Final = 5
_MOST_APART: Final = 7


@dataclass(frozen=True)
class ClientFacts:
    """What is known of a client's days. trained : with a set, filmed or noted; planned : with a
    session; waiting : sets that the coach has not reviewed yet
    pain : reported in a set that waits; sore : places that are sore now
    """

    name: str
    trained: frozenset[date]
    planned: frozenset[date]
    waiting: int = 0
    pain: bool = False
    sore: tuple[str, ...] = ()


@dataclass(frozen=True)
class ClientWeek:
    """days : what each day of the week was or is; due : when the next session is; overdue : by how
    many days it is late"""

    name: str
    days: Mapping[date, DayState]
    due: date | None
    overdue: int
    waiting: int
    pain: bool
    sore: tuple[str, ...]

    @property
    def words(self) -> str:
        """What is to be done for this client, what is worst first."""
        out = []
        if self.pain:
            out.append("pain was reported")
        if self.sore:
            out.append(f"{' and '.join(self.sore)} sore")
        if self.overdue:
            out.append(f"{self.overdue} day{'' if self.overdue == 1 else 's'} overdue")
        if self.waiting:
            out.append(f"{self.waiting} set{'' if self.waiting == 1 else 's'} to review")
        return " · ".join(out)


def practice_week(
    facts: Iterable[ClientFacts], monday: date, today: date
) -> tuple[ClientWeek, ...]:
    """The week of every client, those in need first: pain and sore places, then who is overdue the
    longest, then who waits."""
    weeks = [_of(one, monday, today) for one in facts]
    return tuple(
        sorted(
            weeks,
            key=lambda w: (not w.pain, not w.sore, -w.overdue, -w.waiting, w.name.casefold()),
        )
    )


def _of(facts: ClientFacts, monday: date, today: date) -> ClientWeek:
    days: dict[date, DayState] = {}
    for day in (monday + timedelta(days=n) for n in range(7)):
        if day in facts.trained:
            days[day] = "done"
        elif day in facts.planned:
            days[day] = "missed" if day < today else "planned"
    due = due_on(facts, today)
    late = (today - due).days if due is not None else 0
    return ClientWeek(
        name=facts.name,
        days=days,
        due=due,
        overdue=max(late, 0),
        waiting=facts.waiting,
        pain=facts.pain,
        sore=facts.sore,
    )


def due_on(facts: ClientFacts, today: date) -> date | None:
    """When the next session is: as it is planned, or as long after the last one as sessions usually
    are apart. A planned one that was missed is due since its day. None of who never trained and has
    nothing planned."""
    last = max(facts.trained, default=None)
    open_ones = [d for d in facts.planned if d not in facts.trained and (last is None or d > last)]
    if open_ones:
        return min(open_ones)
    if last is None:
        return None
    days = sorted(facts.trained)[-_LAST_GAPS - 1 :]
    gaps = [(b - a).days for a, b in pairwise(days)]
    usual = min(median_low(gaps), _MOST_APART) if gaps else _MOST_APART
    return last + timedelta(days=usual)
