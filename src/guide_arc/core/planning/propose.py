"""Whole sessions to choose from: exercises, their order, sets and first weights, each with its
reason.

Regions take turns by how long they have waited, by what the coach says comes first and by what the
goals name. An exercise is chosen for what the client has done before, the kit that is there and
what is not sore. Lines are added while the session fits the client's minutes and front and rear are
balanced."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Final

from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.goals import goals_of
from guide_arc.core.planning.plan import (
    DosedLine,
    Knowledge,
    Order,
    PlannedLine,
    dosed,
    length_of,
    ordered,
    proposed_session,
    sore_for,
)
from guide_arc.core.planning.rules import PLAN
from guide_arc.core.planning.timeline import region_name

# Where a client with nothing noted begins: large groups first.
_REGIONS: Final = (
    "back",
    "chest-lower",
    "front-shoulder",
    "rear-shoulder",
    "chest-upper",
    "side-shoulder",
    "traps",
    "elbow-flexors",
    "triceps",
    "trunk",
)
_FRONT: Final = ("front-shoulder", "chest-upper", "chest-lower")
_REAR: Final = ("rear-shoulder", "back", "traps")
# Clients do not keep up sessions with more exercises.
_MOST_LINES: Final = 8
# Of a region that comes first.
_OF_WEAK: Final = 2


@dataclass(frozen=True)
class ProposedLine:
    """dosed : the exercise with its dose; reason : why it is here"""

    dosed: DosedLine
    reason: str


@dataclass(frozen=True)
class ProposedSession:
    """One way to fill a session. why : by what it was filled; length_s : with warm-up and rests"""

    title: str
    why: str
    lines: tuple[ProposedLine, ...]
    length_s: float


def proposals(
    known: Knowledge, on: date, order: Order = "weak-first"
) -> tuple[ProposedSession, ...]:
    """Sessions for a day to choose from, those that are alike left out."""
    waited = _by_wait(known, on)
    weak = [r for r in known.client.weak if r in _REGIONS]
    kept = proposed_session(known, on, order).lines
    found = [
        _filled(
            "What has waited longest",
            "Regions by the days since their last set.",
            known,
            on,
            order,
            begun=[],
            regions=waited,
        )
    ]
    if weak:
        first = [r for r in weak for _ in range(_OF_WEAK)]
        found.append(
            _filled(
                "What comes first",
                "Two exercises for each region that comes first, then what has waited.",
                known,
                on,
                order,
                begun=[],
                regions=[*first, *(r for r in waited if r not in weak)],
            )
        )
    goals = [g.region for g in goals_of(known.client.goals) if g.region in _REGIONS]
    if goals:
        first = [r for r in goals for _ in range(_OF_WEAK if len(goals) == 1 else 1)]
        found.insert(
            0,
            _filled(
                "What the goals name",
                f"Regions that the goals name (“{known.client.goals}”), then what has waited.",
                known,
                on,
                order,
                begun=[],
                regions=[*first, *(r for r in waited if r not in goals)],
            ),
        )
    if kept:
        there = {known.standards[line.standard].region for line in kept}
        found.append(
            _filled(
                "What was done lately, filled up",
                "The exercises of the last weeks, then regions that had none.",
                known,
                on,
                order,
                begun=list(kept),
                regions=[r for r in waited if r not in there],
            )
        )
    out: list[ProposedSession] = []
    for one in found:
        ids = {line.dosed.plan.id for line in one.lines}
        if ids and all(ids != {line.dosed.plan.id for line in o.lines} for o in out):
            out.append(one)
    return tuple(out)


def _filled(
    title: str,
    why: str,
    known: Knowledge,
    on: date,
    order: Order,
    *,
    begun: Sequence[PlannedLine],
    regions: Sequence[str],
) -> ProposedSession:
    most_s = 60.0 * known.client.session_min
    chosen: list[DosedLine] = []
    reasons: dict[str, str] = {}
    for line in begun:
        one = dosed(line, known, on)
        if _fits([*chosen, one], most_s):
            chosen.append(one)
            reasons[one.plan.id] = _done_words(known, one.plan, on)
    for region in regions:
        taken = {d.plan.id for d in chosen}
        plan = next((p for p in best_of(region, known, on) if p.id not in taken), None)
        if plan is None or len(chosen) >= _MOST_LINES:
            continue
        one = dosed(PlannedLine(plan.id, plan.school.id), known, on)
        if not one.asked.ask_first and _fits([*chosen, one], most_s) and _even([*chosen, one]):
            chosen.append(one)
            reasons[plan.id] = _reason(known, plan, on)
    lines = [ProposedLine(d, reasons[d.plan.id]) for d in ordered(chosen, order, known.client)]
    return ProposedSession(title, why, tuple(lines), length_of([p.dosed for p in lines]))


def _fits(lines: Sequence[DosedLine], most_s: float) -> bool:
    return len(lines) == 1 or length_of(lines) <= most_s


def _even(lines: Sequence[DosedLine]) -> bool:
    """Whether neither front nor rear has more than twice the sets of the other, if both are
    trained."""
    front, rear = (
        sum(d.asked.sets for d in lines if d.plan.region in part) for part in (_FRONT, _REAR)
    )
    less, more = sorted((front, rear))
    own = [d for d in lines if d.plan.region in (*_FRONT, *_REAR)]
    return len(own) <= 1 or more <= PLAN.most_of_opposite * max(less, own[0].asked.sets)


def best_of(region: str, known: Knowledge, on: date) -> list[Standard]:
    """The exercises of a region that this client can do on a day, the best first: what was done
    before, the one done last at the top; then what asks for no easier one first."""
    own = [
        p
        for p in known.standards.values()
        if p.region == region
        and (not known.client.kit or p.pull in known.client.kit)
        and not sore_for(p, known, on)
    ]
    last = {s.standard: s.on for s in known.sets if s.on < on}

    def rank(plan: Standard) -> tuple[bool, int, bool, str]:
        done = last.get(plan.id)
        ready = not plan.easier or any(id in last for id in plan.easier)
        return (done is None, -done.toordinal() if done else 0, not ready, plan.name)

    return sorted(own, key=rank)


def next_best(known: Knowledge, on: date, now: str, taken: Sequence[str]) -> Standard | None:
    """Exercises that could replace another: the one after it among those of its region,
    round and round; None if there is no other."""
    offered = best_of(known.standards[now].region, known, on)
    ids = [p.id for p in offered]
    at = ids.index(now) if now in ids else -1
    turn = [*offered[at + 1 :], *offered[: max(at, 0)]]
    return next((p for p in turn if p.id not in taken), None)


def _by_wait(known: Knowledge, on: date) -> list[str]:
    """Regions by how long they had no set, the longest first; those that never had any after those
    that are overdue, and before those that are not."""

    def wait(region: str) -> tuple[int, int, int]:
        days = _days_since(known, region, on)
        if days is None:
            return (1, 0, _REGIONS.index(region))
        return (0 if days > known.client.neglect_days else 2, -days, _REGIONS.index(region))

    return sorted(_REGIONS, key=wait)


def _days_since(known: Knowledge, region: str, on: date) -> int | None:
    days = [
        (on - s.on).days
        for s in known.sets
        if date.min < s.on < on
        and s.standard in known.standards
        and known.standards[s.standard].region == region
    ]
    return min(days, default=None)


def _reason(known: Knowledge, plan: Standard, on: date) -> str:
    parts = []
    region = region_name(plan.region).lower()
    days = _days_since(known, plan.region, on)
    if plan.region in known.client.weak:
        parts.append(f"{region} comes first")
    named = next((g for g in goals_of(known.client.goals) if g.region == plan.region), None)
    if named is not None:
        parts.append(f"for the goal “{named.words}”")
    if days is None:
        parts.append(f"{region} had no set yet")
    elif days:
        parts.append(f"{region} had none for {days} day{'' if days == 1 else 's'}")
    parts.append(_done_words(known, plan, on))
    return "; ".join(parts)


def _done_words(known: Knowledge, plan: Standard, on: date) -> str:
    done = known.sets_of(plan.id, on)
    if not done:
        return "new"
    last = done[-1]
    load = f"{last.load_kg:g} kg" if last.load_kg is not None else f"{last.full} reps"
    return f"last {load} on {last.on.day} {last.on:%b}"


def replaced(line: PlannedLine, plan: Standard) -> PlannedLine:
    """Another exercise in the place of one: its pair stays, what was set for the other goes."""
    return replace(PlannedLine(plan.id, plan.school.id), pair=line.pair)
