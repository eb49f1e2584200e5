"""Two reps or two sets of one standard, placed over each other phase by phase.

A difference is reported as one only when it is larger than its uncertainty: what the recordings'
noise and the scatter of the reps allow to be chance.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.figures import RepFigures, SetFigures
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.review import Review
from guide_arc.core.reps.phase import even_positions, moments

CURVE_SAMPLES: Final = 33
MOST_COURSES: Final = 3
# Standard uncertainty of a hold: below 0.15 s it is no hold, so a slow turn may change by as much.
HOLD_U_S: Final = 0.1


@dataclass(frozen=True, eq=False)
class Taken:
    """One side of a comparison: a measured set, and which of its reps are meant."""

    review: Review
    body: Body
    figures: SetFigures
    reps: tuple[Rep, ...]

    @property
    def own(self) -> list[RepFigures]:
        keys = {rep.key for rep in self.reps}
        return [f for f in self.figures.reps if f.rep.key in keys]


@dataclass(frozen=True)
class Row:
    """One figure of both sides and how it changed; `says` in words, with its uncertainty."""

    name: str
    unit: str
    before: Quantity
    after: Quantity
    change: Quantity
    sure: bool
    says: str


@dataclass(frozen=True, eq=False)
class MeasureCourse:
    """One measure over the phases: mean of the reps and its standard uncertainty.

    position : (N,) as `reps.phase`; value, u : (N,) NaN if it was not seen
    """

    measure: str
    side: Side | None
    position: Array
    value: Array
    u: Array


@dataclass(frozen=True, eq=False)
class Comparison:
    """rows : figure by figure; courses : measure by measure, before and after"""

    rows: tuple[Row, ...]
    courses: tuple[tuple[MeasureCourse, MeasureCourse], ...]

    @property
    def changes(self) -> tuple[Row, ...]:
        """The rows that surely changed, the largest change for its uncertainty first."""
        sure = [row for row in self.rows if row.sure]
        return tuple(sorted(sure, key=lambda r: -abs(r.change.value) / max(r.change.u, 1e-9)))


# Name: unit, words for more and for less, and the value of a rep.
_ROWS: Final[dict[str, tuple[str, str, str, Callable[[RepFigures], Quantity | None]]]] = {
    "range": ("deg", "more range", "less range", lambda f: f.range_deg),
    "turn": ("deg", "turns later", "turns earlier", lambda f: f.turn_deg),
    "lift": ("s", "slower lift", "faster lift", lambda f: Quantity(f.lift_s, 0.05)),
    "top hold": ("s", "longer hold", "shorter hold", lambda f: Quantity(f.top_s, HOLD_U_S)),
    "lowering": ("s", "slower lowering", "faster lowering", lambda f: Quantity(f.lower_s, 0.05)),
    "burst": (
        "pct",
        "more of the lift in one burst",
        "less of the lift in one burst",
        lambda f: f.burst_pct,
    ),
    "arms apart": ("deg", "more apart", "closer together", lambda f: f.arms_apart_deg),
}
_UNIT: Final = {"deg": "°", "pct": " %", "s": " s"}


def whole_set(review: Review, body: Body, figures: SetFigures) -> Taken:
    """All full reps of a set, or all reps if none is full."""
    full = tuple(rep for rep in review.reps if rep.full)
    return Taken(review, body, figures, full or review.reps)


def compare(before: Taken, after: Taken) -> Comparison:
    """What changed from one to the other.

    Raises BadInput for two different standards, or a side without reps.
    """
    one, other = before.review.standard, after.review.standard
    if one.id != other.id:
        raise BadInput(
            f"{one.name} and {other.name} can't be compared; choose two sets of one exercise"
        )
    if not before.reps or not after.reps:
        raise BadInput("there is no rep to compare; a set without reps was chosen")
    rows: list[Row] = []
    for name, (unit, more, less, value_of) in _ROWS.items():
        rows += _row(name, unit, (more, less), before, after, value_of)
    for stay, worn, unit in dict.fromkeys(
        (s.name, s.side, s.unit) for f in before.own for s in f.stays
    ):
        arm = "" if worn == "both" else f", {worn}"
        rows += _row(
            f"{stay}{arm}",
            unit,
            ("moves more", "moves less"),
            before,
            after,
            lambda f, key=(stay, worn): next(  # type: ignore[misc]
                (s.largest for s in f.stays if (s.name, s.side) == key), None
            ),
            worse_half=True,
        )
    return Comparison(tuple(rows), _courses(before, after))


def _row(
    name: str,
    unit: str,
    words: tuple[str, str],
    before: Taken,
    after: Taken,
    value_of: Callable[[RepFigures], Quantity | None],
    *,
    worse_half: bool = False,
) -> list[Row]:
    a, b = (_usual(taken.own, value_of, worse_half) for taken in (before, after))
    if a is None or b is None:
        return []
    change = Quantity(b.value - a.value, float(np.hypot(a.u, b.u)))
    sure = abs(change.value) > 2.0 * change.u
    digits = 1 if unit == "s" else 0
    sign = _UNIT[unit]
    if sure:
        says = (
            f"{words[0] if change.value > 0 else words[1]}: {abs(change.value):.{digits}f}{sign}"
            f" ± {2 * change.u:.{digits}f}{sign}"
        )
    else:
        says = f"as before, within {2 * change.u:.{digits}f}{sign}"
    return [Row(name=name, unit=unit, before=a, after=b, change=change, sure=sure, says=says)]


def _usual(
    own: list[RepFigures],
    value_of: Callable[[RepFigures], Quantity | None],
    worse_half: bool,
) -> Quantity | None:
    """Median over the reps; its uncertainty from their scatter and from the measuring itself.

    worse_half : of the larger half of the values only, as form that goes late in a set is still
        gone
    """
    known = [q for f in own if (q := value_of(f)) is not None and np.isfinite(q.value)]
    if not known:
        return None
    values = np.sort([q.value for q in known])
    if worse_half:
        values = values[len(values) // 2 :]
    middle = float(np.median(values))
    scatter = 1.4826 * float(np.median(np.abs(values - middle)))
    measured = float(np.median([q.u for q in known]))
    # A median is 1.25 times as uncertain as a mean of the same values; what two recordings get
    # wrong alike within themselves does not average out.
    return Quantity(middle, float(np.hypot(1.25 * scatter / np.sqrt(len(values)), measured)))


def _courses(before: Taken, after: Taken) -> tuple[tuple[MeasureCourse, MeasureCourse], ...]:
    """The courses of what both recordings show, those that differ most for their uncertainty first;
    the driving measure is always among them."""
    drive = before.reps[0].measure
    arms: list[tuple[Side, Side]] = [(s, s) for s in SIDES]
    one, other = _one_arm(before), _one_arm(after)
    if one and other:
        arms = [(one, other)]  # each by the arm that works
    measures = [drive, *(m for m in ("shoulder_elevation", "elbow_flexion") if m != drive)]
    wanted: list[tuple[str, Side | None, Side | None]] = [
        (m, *sides) for m in measures for sides in arms
    ]
    wanted.append(("trunk_lean", None, None))
    pairs = [
        (course(before, measure, a), course(after, measure, b))
        for measure, a, b in wanted
        if before.body.shows(measure, a) and after.body.shows(measure, b)
    ]
    pairs.sort(key=lambda pair: -_apart(*pair))
    kept = pairs[:MOST_COURSES]
    if kept and all(pair[0].measure != drive for pair in kept):
        kept[-1] = next((pair for pair in pairs if pair[0].measure == drive), kept[-1])
    return tuple(kept)


def _one_arm(taken: Taken) -> Side | None:
    """The arm that does all of the reps; None if both do."""
    sides = {rep.side for rep in taken.reps}
    return next((s for s in SIDES if sides == {s}), None)


def _apart(a: MeasureCourse, b: MeasureCourse) -> float:
    """The largest difference of two courses for its uncertainty; 0 if it is within that."""
    share = np.abs(a.value - b.value) / np.maximum(2.0 * np.hypot(a.u, b.u), 1e-9)
    most = float(np.nanmax(share, initial=0.0))
    return most if most > 1.0 else 0.0


def course(taken: Taken, measure: str, side: Side | None) -> MeasureCourse:
    """A measure over lift and lower, the mean of the reps placed over each other."""
    series = taken.body.measure(measure, side)
    position = even_positions(CURVE_SAMPLES)
    reps = [r for r in taken.reps if side is None or r.side in ("both", side)] or list(taken.reps)
    at = np.stack([moments(rep, position) for rep in reps])
    seen = np.isfinite(series.value)
    if seen.sum() < 2:
        empty = np.full(len(position), np.nan)
        return MeasureCourse(measure, side, position, empty, empty)
    time = taken.body.time_s[seen]
    values = np.interp(at, time, series.value[seen])
    us = np.interp(at, time, series.u[seen])
    scatter = values.std(axis=0, ddof=1) if len(reps) > 1 else np.zeros(len(position))
    u = np.hypot(scatter / np.sqrt(len(reps)), us.mean(axis=0))
    return MeasureCourse(measure, side, position, values.mean(axis=0), u)
