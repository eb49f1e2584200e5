"""The weeks ahead of a client, planned in one go: on the weekdays and with the exercises that are
usual."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, timedelta

from guide_arc.core.planning.plan import (
    Knowledge,
    Plan,
    PlannedLine,
    PlannedSession,
    dosed,
    ordered,
)
from guide_arc.core.planning.rules import PLAN


def usual_sessions(known: Knowledge) -> Mapping[int, tuple[str, ...]]:
    """By weekday the standards that are usually done on it, in the weeks before today; empty
    without any set.

    A day with less than half of the exercises of the fullest day does not count as a session: what
    was done only then goes to the session with the fewest exercises."""
    since = known.today - timedelta(days=PLAN.programme_days)
    days: dict[date, dict[str, None]] = {}
    for s in known.sets:
        if since <= s.on <= known.today and s.standard in known.standards:
            days.setdefault(s.on, {})[s.standard] = None
    if not days:
        return {}
    fullest = max(len(own) for own in days.values())
    whole = sorted(day for day, own in days.items() if 2 * len(own) >= fullest)
    weekdays = sorted({day.weekday() for day in whole[-4:]})
    out: dict[int, dict[str, None]] = {weekday: {} for weekday in weekdays}
    for day in whole:
        if day.weekday() in out:
            out[day.weekday()] |= days[day]
    known_ones = {id for own in out.values() for id in own}
    for own in days.values():
        for id in own:
            if id not in known_ones:
                known_ones.add(id)
                min(out.values(), key=len)[id] = None
    return {weekday: tuple(own) for weekday, own in out.items()}


def with_weeks(plan: Plan, known: Knowledge, count: int) -> Plan:
    """The plan with sessions for so many weeks ahead. What is planned, and what was done, stays.

    A weekday goes on as the coach has it in the last session planned before it, else with what is
    usual; where nothing was done in the last weeks there is nothing to plan from, and the plan is
    as it was.
    """
    done = {s.on for s in known.sets}
    schools = {s.standard: s.school for s in known.sets}
    usual = usual_sessions(known)
    out = plan
    for n in range(1, 7 * count + 1):
        day = known.today + timedelta(days=n)
        if out.session_on(day) or day in done:
            continue
        own_day = [
            s
            for s in plan.sessions
            if known.today <= s.on < day and s.on.weekday() == day.weekday()
        ]
        if own_day:
            out = out.with_session(PlannedSession(day, own_day[-1].lines))
        elif day.weekday() in usual:
            lines = [dosed(PlannedLine(id, schools[id]), known, day) for id in usual[day.weekday()]]
            own = tuple(d.line for d in ordered(lines, plan.order, known.client))
            out = out.with_session(PlannedSession(day, own))
    return out
