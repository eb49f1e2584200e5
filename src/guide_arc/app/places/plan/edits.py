"""What is changed of a plan: each gives the plan after it, or says why it can't be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import date, timedelta
from typing import NamedTuple

from guide_arc.app.places.plan.document import PlanDocument
from guide_arc.core.planning.copying import copied_session, copied_week, pasted
from guide_arc.core.planning.one_arm import spared_arm
from guide_arc.core.planning.plan import (
    ORDERS,
    Order,
    Override,
    Plan,
    PlannedLine,
    PlannedSession,
    merged_into,
    moved,
    ordered,
    shifted,
    stepped,
)
from guide_arc.core.planning.propose import ProposedSession, next_best, replaced

_MOST_SETS = 12


class PlanEdit(NamedTuple):
    """words : of the step of undo; same : steps with an equal key that follow each other are one
    on : the session that is shown after it, None for the one that is; chosen : its line"""

    words: str
    plan: Plan
    on: date | None = None
    chosen: int | None = None
    same: str = ""


# Words say why it can't be; None changes nothing.
Asked = PlanEdit | str | None


def _lines(
    doc: PlanDocument,
    words: str,
    lines: Sequence[PlannedLine],
    *,
    order: Order | None = None,
    chosen: int | None = None,
    same: str = "",
) -> Asked:
    if doc.sheet is None:
        return None
    plan = doc.sheet.plan if order is None else replace(doc.sheet.plan, order=order)
    session = PlannedSession(doc.sheet.session.on, tuple(lines))
    return PlanEdit(words, plan.with_session(session), chosen=chosen, same=same)


# The chosen line


def _changed(doc: PlanDocument, words: str, change: PlannedLine) -> Asked:
    dosed = doc.chosen_line
    if dosed is None or doc.chosen is None:
        return None
    lines = list(doc.lines)
    lines[doc.chosen] = change
    same = f"plan/{words}/{dosed.plan.id}"
    return _lines(doc, f"{words}: {dosed.plan.name}", lines, same=same)


def overridden(doc: PlanDocument, words: str, override: Override) -> Asked:
    """What the coach asks for in place of what is proposed."""
    dosed = doc.chosen_line
    return None if dosed is None else _changed(doc, words, replace(dosed.line, override=override))


def load_stepped(doc: PlanDocument, by: int) -> Asked:
    """The next weight of the rack."""
    dosed = doc.chosen_line
    if dosed is None or doc.sheet is None:
        return None
    if dosed.asked.ask_first:
        return "Pain or a sore place stops this line. Consult a licensed clinician first."
    override = stepped(dosed, by, doc.sheet.known)
    if override is None:
        return "The rack has no weight further that way."
    return overridden(doc, "Another weight", override)


def asked_step_taken(doc: PlanDocument) -> Asked:
    """The coach says yes to the step that the dose asks for."""
    dosed = doc.chosen_line
    if dosed is None or dosed.proposed.ask is None:
        return None
    override = replace(dosed.line.override, load_kg=dosed.proposed.ask.load_kg)
    return overridden(doc, "Yes to the step", override)


def by_one_arm(doc: PlanDocument) -> Asked:
    """The arm that does not hurt does the exercise alone; again gives it back to both."""
    dosed = doc.chosen_line
    if dosed is None or doc.sheet is None:
        return None
    if dosed.line.arm is not None:
        return _changed(doc, "With both arms", replace(dosed.line, arm=None))
    arm = spared_arm(dosed.plan, doc.sheet.known.client.sore_on(doc.sheet.session.on))
    if arm is None:
        return (
            "One arm alone is not possible: no place is sore on one side only, or the exercise"
            " needs both arms."
        )
    return _changed(doc, f"The {arm} arm only", replace(dosed.line, arm=arm))


def sets_changed(doc: PlanDocument, by: int) -> Asked:
    dosed = doc.chosen_line
    if dosed is None:
        return None
    sets = min(max(dosed.asked.sets + by, 1), _MOST_SETS)
    return overridden(doc, "Another number of sets", replace(dosed.line.override, sets=sets))


def as_proposed(doc: PlanDocument) -> Asked:
    return overridden(doc, "As proposed", Override())


def reasoned(doc: PlanDocument, why: str) -> Asked:
    dosed = doc.chosen_line
    if dosed is None:
        return None
    return overridden(doc, "Your reason", replace(dosed.line.override, why=why))


def by_scheme(doc: PlanDocument, scheme: str) -> Asked:
    dosed = doc.chosen_line
    if dosed is None:
        return None
    return _changed(doc, "Another scheme", replace(dosed.line, scheme=scheme))


# The lines of a session


def paired(doc: PlanDocument) -> Asked:
    """The chosen line paired with the one above it, or the two parted."""
    if doc.chosen is None or doc.chosen_line is None:
        return None
    lines = list(doc.lines)
    own = lines[doc.chosen]
    if own.pair:
        parted = [replace(line, pair="") if line.pair == own.pair else line for line in lines]
        return _lines(doc, "Part the pair", parted)
    if doc.chosen == 0 or lines[doc.chosen - 1].pair:
        return "A line is paired with a single line above it."
    label = next(c for c in "ABCDEFGHIJ" if all(line.pair != c for line in lines))
    for i in (doc.chosen - 1, doc.chosen):
        lines[i] = replace(lines[i], pair=label)
    return _lines(doc, "Pair two lines", lines)


def line_moved(doc: PlanDocument, start: int | None, to: int) -> Asked:
    """A line at another place of the session."""
    lines = list(doc.lines)
    if start is None or start == to or not 0 <= to < len(lines):
        return None
    lines.insert(to, lines.pop(start))
    return _lines(doc, "Another order", lines, order="as-set", chosen=to)


def next_order(doc: PlanDocument) -> Asked:
    """The next rule of order, and the lines by it."""
    if doc.sheet is None:
        return None
    rules = [o for o in ORDERS if o != "as-set"]
    now = doc.sheet.plan.order
    order = rules[(rules.index(now) + 1) % len(rules)] if now in rules else rules[0]
    lines = ordered(doc.sheet.lines, order, doc.sheet.known.client)
    return _lines(doc, f"Order: {ORDERS[order]}", [d.line for d in lines], order=order)


def session_taken(doc: PlanDocument, taken: ProposedSession) -> Asked:
    """A whole proposed session in the place of what is planned for the day."""
    lines = [line.dosed.line for line in taken.lines]
    return _lines(doc, f"Proposed session: {taken.title}", lines, chosen=0)


def next_best_taken(doc: PlanDocument) -> Asked:
    """The next best exercise of the region in the place of the chosen one."""
    dosed, sheet = doc.chosen_line, doc.sheet
    if dosed is None or sheet is None:
        return None
    taken = [line.standard for line in doc.lines]
    plan = next_best(sheet.known, sheet.session.on, dosed.plan.id, taken)
    if plan is None:
        return "There is no other exercise of this region that the kit and sore places allow."
    return _changed(doc, f"{plan.name} instead", replaced(dosed.line, plan))


def added(doc: PlanDocument, standard: str) -> Asked:
    if doc.sheet is None:
        return None
    plan, lines = doc.sheet.known.standards[standard], doc.lines
    new = PlannedLine(standard, plan.school.id)
    return _lines(doc, f"Add {plan.name}", (*lines, new), chosen=len(lines))


def taken_out(doc: PlanDocument) -> Asked:
    """The session without the chosen line; its pair is single then."""
    dosed = doc.chosen_line
    if dosed is None:
        return None
    lines = [line for line in doc.lines if line is not dosed.line]
    pair = dosed.line.pair
    if pair and [line.pair for line in lines].count(pair) == 1:
        lines = [replace(line, pair="") if line.pair == pair else line for line in lines]
    return _lines(doc, f"Take out {dosed.plan.name}", lines)


def what_fits(doc: PlanDocument) -> Asked:
    """The session without what does not fit into the time that there is."""
    if doc.sheet is None:
        return None
    lines, dropped = [], doc.sheet.dropped
    for dosed in doc.sheet.lines:
        if dosed.plan.name in dropped:
            continue
        line = dosed.line
        if f"one set of {dosed.plan.name}" in dropped:
            line = replace(line, override=replace(line.override, sets=dosed.asked.sets - 1))
        lines.append(line)
    return _lines(doc, "Leave out what does not fit", lines)


# Sessions


def missed_shifted(doc: PlanDocument) -> Asked:
    """The first missed session is done next time; those after it move by as much."""
    sheet = doc.sheet
    if sheet is None or not sheet.missed:
        return None
    to = sheet.known.today
    after = shifted(sheet.plan, sheet.missed[0].on, to)
    return PlanEdit("Missed: do it next time", after, on=to)


def missed_merged(doc: PlanDocument) -> Asked:
    """The first missed session joins the next planned one."""
    sheet = doc.sheet
    if sheet is None or not sheet.missed:
        return None
    ahead = [s.on for s in sheet.plan.sessions if s.on >= sheet.known.today]
    if not ahead:
        return "No session is planned to join it with: do it next time instead."
    after = merged_into(sheet.plan, sheet.missed[0].on, ahead[0])
    return PlanEdit("Missed: join it with the next one", after, on=ahead[0])


def session_moved(doc: PlanDocument, start: date, to: date) -> Asked:
    """A planned session on another day; what is planned there takes its place."""
    sheet, card, taken = doc.sheet, doc.card_on(start), doc.card_on(to)
    if sheet is None or card is None or card.state == "done" or to == start:
        return None
    if to < sheet.known.today or (taken is not None and taken.state == "done"):
        return "A session can only move to a day that is still ahead."
    plan = sheet.plan.with_session(sheet.session) if card.state == "proposed" else sheet.plan
    return PlanEdit(f"Move the session to {to:%a} {to.day} {to:%b}", moved(plan, start, to), on=to)


def weeks_planned(doc: PlanDocument, count: int, plan: Plan) -> Asked:
    """So many weeks as they were proposed. plan : with their sessions"""
    had = {s.on for s in doc.sheet.plan.sessions} if doc.sheet else set()
    new = [s.on for s in plan.sessions if s.on not in had]
    if new:
        return PlanEdit(f"Plan {count} weeks", plan, on=new[0])
    if doc.sheet is not None and not doc.sheet.known.sets:
        return "Nothing was done yet to plan from: add exercises to a session (A)."
    return "Nothing new to plan: these weeks are planned, or nothing was done in the last three."


# From one day or client to another


def copied(doc: PlanDocument) -> PlanDocument | str:
    """The session that is shown, or the chosen week of the board, to be pasted elsewhere."""
    sheet, client = doc.sheet, doc.client
    if sheet is None or client is None:
        return "There is no session to copy."
    if not doc.weeks_shown:
        session = replace(sheet.session, lines=tuple(d.line for d in sheet.lines))
        if not session.lines:
            return "The session has no exercise to copy."
        return replace(doc, copied=copied_session(session, client))
    day = doc.chosen_day or sheet.session.on
    monday = day - timedelta(days=day.weekday())
    done = {s.on for s in sheet.known.sets}
    was_done = [PlannedSession(on, _done_on(doc, on)) for on in sorted(done)]
    planned = [s for s in sheet.plan.sessions if s.on not in done]
    week = copied_week((*was_done, *planned), monday, client)
    return (
        replace(doc, copied=week) if week.sessions else "Nothing is planned or done in that week."
    )


def _done_on(doc: PlanDocument, day: date) -> tuple[PlannedLine, ...]:
    """The exercises of a day, as lines."""
    sets = doc.sheet.known.sets if doc.sheet is not None else ()
    schools = {s.standard: s.school for s in sets if s.on == day}
    return tuple(PlannedLine(id, school) for id, school in schools.items())


def pasted_here(doc: PlanDocument) -> Asked:
    """What was copied, on the day that is shown, or in the week of the chosen day."""
    sheet, what = doc.sheet, doc.copied
    if sheet is None or what is None:
        return "Nothing is copied yet: Ctrl+C copies the session, or the week on the board."
    on = doc.chosen_day if doc.weeks_shown and doc.chosen_day is not None else sheet.session.on
    done = {s.on for s in sheet.known.sets}
    plan, days = pasted(sheet.plan, what, on, done, sheet.known.standards)
    if not days:
        return "Nothing was pasted: on those days something was done already."
    return PlanEdit(f"Paste {what.words}", plan, on=days[0])
