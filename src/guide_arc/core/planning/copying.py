"""A session, or a week of them, taken from one day or client to another: exercises, schemes and
pairs go along; weights don't, as each client lifts their own."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date, timedelta

from guide_arc.core.planning.plan import Plan, PlannedLine, PlannedSession


@dataclass(frozen=True)
class CopiedSessions:
    """sessions : by days from the first day that was copied; whose : the client, and from_day : the
    day, or the Monday of the week; whole_week : which of the two"""

    sessions: tuple[tuple[int, tuple[PlannedLine, ...]], ...]
    whose: str
    from_day: date
    whole_week: bool

    @property
    def words(self) -> str:
        """`Ada Quill's session of 4 May`"""
        what = "week from" if self.whole_week else "session of"
        return f"{self.whose}’s {what} {self.from_day.day} {self.from_day:%b}"


def copied_session(session: PlannedSession, whose: str) -> CopiedSessions:
    return CopiedSessions(((0, _without_own(session.lines)),), whose, session.on, whole_week=False)


def copied_week(sessions: Iterable[PlannedSession], monday: date, whose: str) -> CopiedSessions:
    """The sessions of the week that begins on a Monday, planned ones and the lines of done ones."""
    return copied_weeks(sessions, monday, 1, whose)


def copied_weeks(
    sessions: Iterable[PlannedSession], monday: date, count: int, whose: str
) -> CopiedSessions:
    """So many weeks of sessions from a Monday on, as one block."""
    last = 7 * count
    own = [s for s in sessions if 0 <= (s.on - monday).days < last and s.lines]
    offsets = tuple(((s.on - monday).days, _without_own(s.lines)) for s in own)
    return CopiedSessions(tuple(sorted(offsets)), whose, monday, whole_week=True)


def _without_own(lines: Iterable[PlannedLine]) -> tuple[PlannedLine, ...]:
    """Lines without what was meant for one client on one day: a weight, a reason, one arm alone."""
    return tuple(
        replace(line, arm=None, override=replace(line.override, load_kg=None, why=""))
        for line in lines
    )


def pasted(
    plan: Plan, copied: CopiedSessions, on: date, done: Iterable[date], known: Iterable[str]
) -> tuple[Plan, list[date]]:
    """A plan with the copied sessions from a day on (of a week: from its Monday), and the days that
    they came to. Days on which something was done stay; exercises that there are no more stay out.
    """
    taken, ids, days = set(done), set(known), []
    first = on - timedelta(days=on.weekday()) if copied.whole_week else on
    for offset, lines in copied.sessions:
        day = first + timedelta(days=offset)
        own = tuple(line for line in lines if line.standard in ids)
        if day in taken or not own:
            continue
        plan = plan.with_session(PlannedSession(day, own))
        days.append(day)
    return plan, days
