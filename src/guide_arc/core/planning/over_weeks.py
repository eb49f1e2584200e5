"""What a history of one exercise says over the weeks: loads at which form held, trends, and what
cues did."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Literal

from guide_arc.core.checks.registry import specs
from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.history import DoneSet, History, shown_in
from guide_arc.core.planning.rules import PLAN
from guide_arc.core.planning.trend import (
    Sample,
    TrendOverSets,
    comparable,
    sure_change,
    told,
    trend_of,
)

TrendWord = Literal["better", "worse", "none", "too-few"]
CueWord = Literal["worked", "no-change", "worse", "too-soon"]


@dataclass(frozen=True)
class GivenCue:
    """A cue that was given after a set, and the measure that it is about."""

    check: str
    measure: str
    words: str = ""


@dataclass(frozen=True)
class SeenSet:
    """A set with what was measured. measures : by name, (value, standard uncertainty); cues : given
    after it"""

    done: DoneSet
    view: str = ""
    measures: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    cues: tuple[GivenCue, ...] = ()


@dataclass(frozen=True)
class ToldTrend:
    """per_week, uncertainty : None where too few sets can be compared; uncertainty holds 95 % of
    the errors"""

    measure: str
    word: TrendWord
    per_week: float | None
    uncertainty: float | None


@dataclass(frozen=True)
class ToldCue:
    """sets_after : how many sets after it could be compared with those before"""

    check: str
    measure: str
    on: date
    word: CueWord
    sets_after: int


@dataclass(frozen=True)
class CheckLoads:
    """The hardest load at which a check held, and the easiest one at which it broke."""

    check: str
    held_kg: float | None
    broke_kg: float | None


@dataclass(frozen=True)
class HeldSet:
    """reps_held : all of them where every check that was seen held, None if that is not known"""

    on: date
    load_kg: float | None
    reps: int
    reps_held: int | None


@dataclass(frozen=True)
class Weeks:
    held: tuple[HeldSet, ...]
    trends: tuple[ToldTrend, ...]
    cues: tuple[ToldCue, ...]
    loads: tuple[CheckLoads, ...]


def weeks_of(history: History, sets: Sequence[SeenSet]) -> Weeks:
    """The conclusions from these sets, oldest first."""
    names = list(dict.fromkeys(name for s in sets for name in s.measures))
    trends = [trend_of(_samples(sets, name)) for name in names]
    return Weeks(
        tuple(_held(s.done) for s in sets),
        tuple(
            _told(history.standard, name, trend, sure=sure)
            for name, trend, sure in zip(names, trends, told(trends), strict=True)
        ),
        tuple(
            _cue(history.standard, sets, i, cue)
            for i, given in enumerate(sets)
            for cue in given.cues
        ),
        _loads(history),
    )


def _samples(sets: Sequence[SeenSet], measure: str) -> list[Sample]:
    return [_sample(s, measure) for s in sets if measure in s.measures]


def _sample(one: SeenSet, measure: str) -> Sample:
    value, u = one.measures[measure]
    return Sample(one.done.on.toordinal(), value, u, one.view, one.done.load_kg)


def _told(standard: Standard, name: str, trend: TrendOverSets | None, *, sure: bool) -> ToldTrend:
    if trend is None:
        return ToldTrend(name, "too-few", None, None)
    word: TrendWord = "none"
    if sure and abs(trend.change) >= _worth_telling(standard, name):
        word = "better" if _sign(name) * trend.per_week > 0 else "worse"
    return ToldTrend(name, word, trend.per_week, trend.half_width())


def _worth_telling(standard: Standard, measure: str) -> float:
    """A tenth of the limit of the measure's check, or of the checks that are about it; nothing if
    there is none."""
    limits = [
        abs(rule.limit)
        for rule in standard.checks
        if rule.name == measure or specs()[rule.name].evidence == measure
    ]
    return PLAN.worth_telling_share * min(limits, default=0.0)


def _sign(measure: str) -> int:
    """Whether the measure is better when it grows (1) or when it falls (-1)."""
    spec = specs().get(measure)
    return -1 if spec is not None and not spec.least else 1


def _cue(standard: Standard, sets: Sequence[SeenSet], at: int, cue: GivenCue) -> ToldCue:
    given = sets[at]

    def said(word: CueWord, count: int) -> ToldCue:
        return ToldCue(cue.check, cue.measure, given.done.on, word, count)

    if cue.measure not in given.measures:
        return said("too-soon", 0)
    own = _sample(given, cue.measure)
    before = [s for s in _samples(sets[: at + 1], cue.measure) if comparable(own, s)]
    after = [s for s in _samples(sets[at + 1 :], cue.measure) if comparable(own, s)]
    change = sure_change(before, after)
    if change is None:
        return said("too-soon", len(after))
    if not change or abs(change) < _worth_telling(standard, cue.measure):
        return said("no-change", len(after))
    return said("worked" if _sign(cue.measure) * change > 0 else "worse", len(after))


def _held(done: DoneSet) -> HeldSet:
    shown = shown_in((done,))
    reps = max(done.left_reps, done.right_reps) if done.one_arm else done.weaker
    held = bool(shown) and all(how == "held" for how in shown.values())
    return HeldSet(done.on, done.load_kg, reps, reps if held else None)


def _loads(history: History) -> tuple[CheckLoads, ...]:
    held: dict[str, list[float]] = {}
    broke: dict[str, list[float]] = {}
    for done in history.sets:
        for check, how in shown_in((done,)).items():
            held.setdefault(check, [])
            broke.setdefault(check, [])
            if done.load_kg is not None and how != "unseen":
                (held if how == "held" else broke)[check].append(done.load_kg)
    hardest, easiest = (min, max) if history.assisted else (max, min)
    return tuple(
        CheckLoads(
            check,
            hardest(held[check]) if held[check] else None,
            easiest(broke[check]) if broke[check] else None,
        )
        for check in held
    )
