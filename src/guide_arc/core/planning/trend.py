"""Is a measure changing over the weeks, or is that scatter? Slopes with the doubt that sets which
resemble their neighbours leave.

Sets are compared only with sets of the same view and of a load within a tenth. What scatters from
set to set is estimated from the sets themselves. A good day carries over to the next set, so that
ten sets say less than ten: a slope is fitted for neighbours that are more and less alike
(generalised least squares), and each is weighted by its likelihood.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.planning.rules import PLAN
from guide_arc.lazily import lazily

with lazily():
    from scipy.special import stdtr, stdtrit

_WEEK_DAYS: Final = 7.0
# A load within a tenth of the first one of a group belongs to it.
_SAME_LOAD: Final = 0.10
# How much neighbouring sets resemble one another, and how likely that is before they are seen.
_ALIKE: Final = ((0.0, 0.50), (0.3, 0.35), (0.6, 0.15))
# Both with and without the set after which a cue was given a change has to be rarer by chance than
# this, and alone with it rarer than that: together they call one cue in twenty effective that had
# no effect.
_BY_CHANCE: Final = 0.10
_ALONE_BY_CHANCE: Final = 0.02
_MOST_CONDITION: Final = 1e12
# The noise of a client's recordings is at least the median of their own uncertainties.
_OWN_DOUBT: Final = 0.7


@dataclass(frozen=True)
class Sample:
    """One set's value. u : its standard uncertainty; view : the view; load_kg : None
    where not noted"""

    day: int
    value: float
    u: float = 0.0
    view: str = ""
    load_kg: float | None = None


@dataclass(frozen=True)
class TrendOverSets:
    """A slope. per_week, se : of the measure a week; df : effective degrees of freedom; p : of so
    steep a slope by chance
    span_weeks : from the first to the last set; sets : how many were compared"""

    per_week: float
    se: float
    df: float
    p: float
    span_weeks: float
    sets: int

    @property
    def change(self) -> float:
        """Over the whole span."""
        return self.per_week * self.span_weeks

    def half_width(self, share: float = 0.95) -> float:
        """Of the interval that holds the true slope in that share of cases."""
        return self.se * _quantile(0.5 + 0.5 * share, self.df)


def trend_of(samples: Sequence[Sample]) -> TrendOverSets | None:
    """The slope over sets that can be compared; None for fewer than six of them or less than a
    week.

    samples : oldest first
    """
    kept, group = _comparable(samples[-PLAN.most_for_slope :])
    groups = len(set(group.tolist()))
    if len(kept) < PLAN.fewest_for_slope or len({s.day for s in kept}) < PLAN.fewest_days:
        return None
    days = np.array([s.day for s in kept], dtype=float)
    weeks, values = (days - days[0]) / _WEEK_DAYS, np.array([s.value for s in kept])
    span = float(np.ptp(weeks))
    if span < 1.0 or len(kept) - groups < 3:
        return None
    found = _over_alike(weeks, values, group, _least(kept))
    if found is None:
        return None
    slope, se, df, p = found
    return TrendOverSets(slope, se, df, p, span, len(kept))


@dataclass(frozen=True)
class Effect:
    """What a measure did after a moment against before it. change : in its unit; p : of so large a
    change by chance"""

    change: float
    p: float


def effect_of(before: Sequence[Sample], after: Sequence[Sample]) -> Effect | None:
    """The change from before a moment to after it; None where too few sets can be compared."""
    every = (*before, *after)
    if not before or len(every) < PLAN.fewest_for_effect:
        return None
    since = np.array([0.0] * len(before) + [1.0] * len(after))
    values = np.array([s.value for s in every])
    found = _over_alike(since, values, np.zeros(len(every), dtype=int), _least(every))
    return None if found is None else Effect(found[0], found[3])


def sure_change(before: Sequence[Sample], after: Sequence[Sample]) -> float | None:
    """What changed for sure after a cue, in the measure's unit; 0 if it may be chance, None if it
    is too early to tell.

    before : comparable sets, the last of them the one after which the cue was given; after :
        comparable sets since

    A cue is given after a bad set, and what follows a bad set is better by chance alone. So the
    sets before have to say the same without it; where there are too few of those, the change has to
    be beyond what a bad day explains.
    """
    before = before[-PLAN.most_before_cue :]
    if len(after) < PLAN.fewest_after_cue or not before:
        return None
    every = effect_of(before, after)
    if every is None:
        return 0.0
    others = effect_of(before[:-1], after) if len(before) > 2 else None
    if others is None:
        sure = every.p <= _ALONE_BY_CHANCE
    else:
        sure = others.change * every.change > 0 and max(every.p, others.p) <= _BY_CHANCE
    return every.change if sure else 0.0


def _least(samples: Sequence[Sample]) -> float:
    """A scatter below which no recording is believed."""
    return _OWN_DOUBT * float(np.median([s.u for s in samples]))


def _over_alike(
    x: NDArray[np.float64], values: NDArray[np.float64], group: NDArray[np.int_], least: float
) -> tuple[float, float, float, float] | None:
    """(slope, its standard error, degrees of freedom, probability of so much by chance) over how
    alike neighbours may be."""
    fits = [_fit(x, values, group, alike, least) for alike, _share in _ALIKE]
    known = [f for f in fits if f is not None]
    if len(known) < len(fits):
        return None
    weight = np.array([f.log_like for f in known])
    weight = np.exp(weight - weight.max()) * np.array([share for _alike, share in _ALIKE])
    weight /= weight.sum()
    slopes, ses = np.array([f.slope for f in known]), np.array([f.se for f in known])
    slope = float(weight @ slopes)
    se = math.sqrt(float(weight @ (ses**2 + (slopes - slope) ** 2)))
    df = float(len(values) - len(set(group.tolist())) - 1)
    p = float(weight @ np.array([_two_sided(f.slope / f.se, df) for f in known]))
    return slope, se, df, p


@dataclass(frozen=True)
class _Fit:
    slope: float
    se: float
    log_like: float


def _fit(
    over: NDArray[np.float64],
    values: NDArray[np.float64],
    group: NDArray[np.int_],
    alike: float,
    least: float,
) -> _Fit | None:
    """Generalised least squares of a slope and one level a group, for neighbours that are so much
    alike.

    least : a scatter below which no recording is believed; the likelihood is the restricted one
        (Patterson, Thompson 1971)
    """
    at = np.arange(len(values))
    spread = alike ** np.abs(at[:, None] - at[None])
    spread = np.where(group[:, None] == group[None], spread, 0.0)
    own = np.unique(group)
    design = np.column_stack((over, *(group == g for g in own))).astype(float)
    root = np.linalg.cholesky(spread)
    x, y = np.linalg.solve(root, design), np.linalg.solve(root, values)
    normal = x.T @ x
    if np.linalg.cond(normal) > _MOST_CONDITION:
        return None
    inverse = np.linalg.inv(normal)
    found = inverse @ (x.T @ y)
    rest = y - x @ found
    free = len(values) - design.shape[1]
    scatter = max(float(rest @ rest) / free, 1e-18)
    log_like = -0.5 * (
        free * math.log(scatter)
        + 2.0 * float(np.log(np.diag(root)).sum())
        + float(np.linalg.slogdet(normal)[1])
    )
    return _Fit(float(found[0]), math.sqrt(max(scatter, least**2) * float(inverse[0, 0])), log_like)


def told(trends: Sequence[TrendOverSets | None], most_by_chance: float = 0.05) -> tuple[bool, ...]:
    """Which trends are reported: for clients whose measures are noise alone, in at most that share
    any (Holm 1979)."""
    known = sorted((t.p, i) for i, t in enumerate(trends) if t is not None)
    out = [False] * len(trends)
    for rank, (p, i) in enumerate(known):
        if p > most_by_chance / (len(known) - rank):
            break
        out[i] = True
    return tuple(out)


def comparable(a: Sample, b: Sample) -> bool:
    """Whether two sets may be compared: the same view, and loads within a tenth of one another."""
    if a.view != b.view:
        return False
    if a.load_kg is None or b.load_kg is None:
        return a.load_kg is b.load_kg
    return abs(a.load_kg - b.load_kg) <= _SAME_LOAD * max(a.load_kg, b.load_kg) + 1e-9


def _comparable(samples: Sequence[Sample]) -> tuple[list[Sample], NDArray[np.int_]]:
    """The sets that have others to be compared with, and the group of each."""
    firsts: list[Sample] = []
    group = []
    for one in samples:
        at = next((i for i, first in enumerate(firsts) if comparable(first, one)), len(firsts))
        if at == len(firsts):
            firsts.append(one)
        group.append(at)
    own = np.array(group, dtype=int)
    several = np.array([np.sum(own == g) > 1 for g in own], dtype=bool)
    return [s for s, more in zip(samples, several, strict=True) if more], own[several]


def _two_sided(t: float, df: float) -> float:
    return 2.0 * float(stdtr(df, -abs(t)))


def _quantile(share: float, df: float) -> float:
    return float(stdtrit(df, share))
