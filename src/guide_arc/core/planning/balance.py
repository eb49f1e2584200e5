"""Time under tension by muscle and head, and whether front, side and rear, left and right, get
alike."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final

from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.core.planning.plan import DosedLine, Knowledge

SHOULDERS: Final = ("front shoulder", "side shoulder", "rear shoulder")
# A rep of an exercise whose tempo asks for nothing.
_USUAL_REP_S: Final = 3.0
_HALVES: Final = ("front", "side", "rear", "upper", "lower")


@dataclass(frozen=True)
class Tension:
    """Seconds under tension of one muscle or head: done within the window, and planned."""

    muscle: str
    done_s: float
    planned_s: float

    @property
    def total_s(self) -> float:
        return self.done_s + self.planned_s


@dataclass(frozen=True)
class Balance:
    """heads : the most trained first; arms : full reps of the left and the right arm within the
    window"""

    heads: tuple[Tension, ...]
    arms: tuple[int, int]

    def of(self, muscle: str) -> float:
        return next((h.total_s for h in self.heads if h.muscle == muscle), 0.0)


def heads_of(muscle: str) -> tuple[str, ...]:
    """The muscles and heads that a standard names: `front and side shoulder` is two."""
    parts = muscle.split(" and ")
    noun = parts[-1].rsplit(" ", 1)[-1]
    return tuple(f"{part} {noun}" if part in _HALVES else part for part in parts)


def balance_of(lines: Sequence[DosedLine], known: Knowledge, on: date) -> Balance:
    """Over the days that a region may go without a set, up to a day, with what is planned for it.

    A set's time counts whole for every muscle that its standard names.
    """
    since = on - timedelta(days=known.client.neglect_days)
    done: dict[str, float] = {}
    planned: dict[str, float] = {}
    left = right = 0
    for one in known.sets:
        plan = known.standards.get(one.standard)
        if plan is None or not since <= one.on < on:
            continue
        for head in heads_of(plan.muscle):
            done[head] = done.get(head, 0.0) + _tension_s(one, plan)
        left += one.done.left_reps
        right += one.done.right_reps
    for d in lines:
        if not d.asked.ask_first:
            for head in heads_of(d.plan.muscle):
                planned[head] = planned.get(head, 0.0) + d.as_line().under_tension_s
    every = (Tension(h, done.get(h, 0.0), planned.get(h, 0.0)) for h in {**done, **planned})
    return Balance(tuple(sorted(every, key=lambda t: (-t.total_s, t.muscle))), (left, right))


def _tension_s(one: KeptSet, plan: Standard) -> float:
    """Of a set that was not filmed, the asked tempo's sum for each rep."""
    if one.logged is None:
        return one.trace.tension_s
    tempo, rep_s = plan.tempo, 0.0
    for part in (tempo.lower_s, tempo.bottom_s, tempo.lift_s, tempo.top_s):
        rep_s += part or 0.0
    return max(one.done.left_reps, one.done.right_reps) * (rep_s or _USUAL_REP_S)


def balance_words(balance: Balance) -> str:
    """`Shoulders: front 3:10, side 2:00, rear 1:20. Arms: left 120 reps, right 118.`"""
    parts = [f"{m.split()[0]} {minutes(balance.of(m))}" for m in SHOULDERS]
    left, right = balance.arms
    arms = f" Arms: left {left} reps, right {right}." if left or right else ""
    return f"Shoulders: {', '.join(parts)}.{arms}"


def minutes(seconds: float) -> str:
    """`3:10`"""
    whole = round(seconds)
    return f"{whole // 60}:{whole % 60:02d}"
