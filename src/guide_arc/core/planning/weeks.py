"""Over the weeks: each measure from set to set, with a word only where its change is surer than its
doubt."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from guide_arc.core.checks.registry import spec_of, specs
from guide_arc.core.model.units import amount
from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.core.planning.rules import PLAN
from guide_arc.core.planning.trend import Sample, told, trend_of


@dataclass(frozen=True)
class Point:
    """One set's value. u : 95 % of the errors stay within it; set_id : the set it is of; off : past
    its limit;
    view, load_kg : from where and with what, as only like sets are compared"""

    day: int
    value: float
    u: float
    set_id: int
    off: bool = False
    view: str = ""
    load_kg: float | None = None


@dataclass(frozen=True)
class Slope:
    """A slope a week, and what it may be with 95 %. sure : whether it is more than scatter, among
    all measures that are shown"""

    per_week: float
    low: float
    high: float
    sure: bool


@dataclass(frozen=True)
class Measure:
    """One measure over the weeks.

    name : as a coach says it; latest : what it is now, in words; word : how it goes, in words
    limit : the bound that it should stay below, or above with `least`; None if there is no target
    """

    name: str
    unit: str
    points: tuple[Point, ...]
    slope: Slope | None
    latest: str
    word: str
    limit: float | None = None
    least: bool = False


@dataclass(frozen=True)
class _Draft:
    """A measure before it is known which of all of them is sure to change."""

    name: str
    unit: str
    points: tuple[Point, ...]
    limit: float | None = None


# What means better when it grows and what when it falls.
_BETTER: Final = {"range": 1, "lowering": 1, "hold": 1, "load × reps, form held": 1}


def measures_of(sets: Sequence[KeptSet]) -> tuple[Measure, ...]:
    """Every measure of one exercise that two sets show, those that are asked for first.

    sets : oldest first. Recordings from another side than the latest take part in a measure only
    where they show it: what a view hides has no value there.
    """
    if not sets:
        return ()
    out: list[_Draft | None] = [
        _measure("range", sets[-1].trace.unit, sets, [s.trace.range_ for s in sets]),
        _measure("lowering", "s", sets, [s.trace.lower_s for s in sets]),
        _measure("hold", "s", sets, [s.trace.hold_s for s in sets]),
    ]
    keys = dict.fromkeys(
        (c.check, c.side) for s in reversed(sets) for c in s.trace.checks if _followed(c.check)
    )
    by_check: dict[str, list[_Draft]] = {}
    for check, side in keys:
        found = _of_check(check, side, sets)
        if found is not None:
            by_check.setdefault(check, []).append(found)
    # Of two arms the one that has lately gone farther.
    out += [
        max(own, key=lambda m: max(p.value for p in m.points[-4:])) for own in by_check.values()
    ]
    out += [
        _measure("under tension", "s", sets, [(s.trace.tension_s, 0.1) for s in sets]),
        _measure("load × reps, form held", "kg", sets, [_work(s) for s in sets]),
    ]
    drafts = [m for m in out if m is not None]
    slopes = slopes_of([d.points for d in drafts])
    known = [_told(draft, slope) for draft, slope in zip(drafts, slopes, strict=True)]
    # What lately went past its limit, or changes for sure, comes before what holds.
    return tuple(sorted(known, key=lambda m: not _stands_out(m)))


def _stands_out(measure: Measure) -> bool:
    return any(p.off for p in measure.points[-3:]) or (
        measure.slope is not None and measure.slope.sure
    )


def _work(done: KeptSet) -> tuple[float, float] | None:
    """Load times reps whose form was seen to hold."""
    if done.load_kg is None:
        return None
    held = [r for r in done.trace.reps if r.full and r.form == "held"]
    arms = [sum(r.side in (side, "both") for r in held) for side in ("left", "right")]
    return done.load_kg * max(min(a for a in arms if a) if any(arms) else 0, 0), 0.0


def _measure(
    name: str, unit: str, sets: Sequence[KeptSet], values: Sequence[tuple[float, float] | None]
) -> _Draft | None:
    points = tuple(
        Point(s.on.toordinal(), v[0], 2.0 * v[1], s.id, view=s.trace.view, load_kg=s.load_kg)
        for s, v in zip(sets, values, strict=True)
        if v is not None
    )
    return _Draft(name, unit, points) if points else None


def _followed(check: str) -> bool:
    return check in specs() and bool(specs()[check].course)


def _of_check(check: str, side: str, sets: Sequence[KeptSet]) -> _Draft | None:
    points, limit, unit = [], None, "deg"
    for s in sets:
        c = s.trace.check(f"{check}/{side}")
        if c is None or c.value is None or c.verdict == "cannot-tell":
            continue
        limit, unit = c.limit, c.unit
        off = c.verdict == "off"
        points.append(
            Point(
                day=s.on.toordinal(),
                value=c.value,
                u=c.u or 0.0,
                set_id=s.id,
                off=off,
                view=s.trace.view,
                load_kg=s.load_kg,
            )
        )
    if not points:
        return None
    arm = "" if side == "both" else f", {side}"
    return _Draft(spec_of(check).course + arm, unit, tuple(points), limit)


def _told(draft: _Draft, slope: Slope | None) -> Measure:
    name, unit, points, limit = draft.name, draft.unit, draft.points, draft.limit
    latest = _amount(points[-1].value, unit)
    if limit is not None and any(p.off for p in points) and not points[-1].off:
        worst = max(points, key=lambda p: p.value)
        latest = f"{_amount(worst.value, unit)} → {latest}"
    return Measure(
        name=name,
        unit=unit,
        points=points,
        slope=slope,
        latest=latest,
        word=_word(name, unit, points, slope),
        limit=limit,
    )


def slopes_of(measures: Sequence[Sequence[Point]]) -> list[Slope | None]:
    """The slope of each measure, and whether it is reported: for clients whose measures are noise,
    in one of twenty any. None where fewer than six sets, or less than a week of them, can be
    compared (`trend.py`)."""
    trends = [
        trend_of([Sample(p.day, p.value, 0.5 * p.u, p.view, p.load_kg) for p in points])
        for points in measures
    ]
    out: list[Slope | None] = []
    for trend, sure in zip(trends, told(trends), strict=True):
        if trend is None:
            out.append(None)
            continue
        half = trend.half_width()
        out.append(Slope(trend.per_week, trend.per_week - half, trend.per_week + half, sure))
    return out


def _word(name: str, unit: str, points: tuple[Point, ...], slope: Slope | None) -> str:
    if slope is None:
        need = PLAN.fewest_for_slope
        return "" if len(points) < 2 else f"too early to tell: it takes {need} like sets"
    if not slope.sure:
        return "no sure change"
    step = f"{'+' if slope.per_week > 0 else '−'} {_step(abs(slope.per_week), unit)} a week"
    better = _BETTER.get(name, -1) * slope.per_week > 0
    return f"{step}: {'better' if better else 'worse'}" if name != "under tension" else step


def _step(value: float, unit: str) -> str:
    return f"{value:.1f}{ {'deg': '°', 'pct': ' %', 's': ' s', 'kg': ' kg'}[unit] }"


def _amount(value: float, unit: str) -> str:
    return f"{value:.0f} kg" if unit == "kg" else amount(value, unit)
