"""Two reps or two sets side by side: what changed, and their driving measure placed over each other
by phase."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.model.units import amount
from guide_arc.core.review.compare import Comparison, MeasureCourse, Row
from guide_arc.drawings.shapes import Area, Drawing, Points, Stroke, Words
from guide_arc.drawings.traces import trace_words

# A course and a row of figures, pixels.
_CURVE: Final = 104.0
_ROW: Final = 36.0


@dataclass(frozen=True)
class ComparisonState:
    """before, after : what the two sides are called"""

    comparison: Comparison
    before: str
    after: str


def comparison(state: ComparisonState, width: float) -> Drawing:
    """On a sheet as tall as it needs: what surely changed first, then the courses, then the
    rest."""
    found = state.comparison
    sure = found.changes
    rest = [row for row in found.rows if not row.sure]
    tall = len(found.courses) * _CURVE + (len(sure) + len(rest)) * _ROW + 96
    out = Drawing(width, tall)
    out.add(Stroke(np.array([[12.0, 15.0], [30.0, 15.0]]), "guide", 2.0, dash=True))
    out.add(Words(36, 19, state.before, "guide", 12))
    out.add(Stroke(np.array([[12.0, 33.0], [30.0, 33.0]]), "actual", 2.0))
    out.add(Words(36, 37, state.after, "ink", 12))
    y = 46.0
    title = "Changed" if sure else "No change is larger than its uncertainty."
    out.add(Words(12, y + 14, title, "ink" if sure else "muted", 12, bold=bool(sure)))
    y += 24
    for row in sure:
        y = _row(out, row, y, width)
    for before, after in found.courses:
        _courses(out, before, after, y, width)
        y += _CURVE
    if rest:
        out.add(Words(12, y + 18, "Unchanged within the uncertainty", "muted", 12))
        y += 24
    for row in rest:
        y = _row(out, row, y, width)
    return out


def _row(out: Drawing, row: Row, y: float, width: float) -> float:
    out.add(Words(12, y + 15, row.name, "ink" if row.sure else "muted", 12))
    both = f"{amount(row.before.value, row.unit)} → {amount(row.after.value, row.unit)}"
    out.add(Words(width - 12, y + 15, both, "ink" if row.sure else "muted", 12, anchor="end"))
    out.add(Words(12, y + 30, row.says, "guide" if row.sure else "muted", 11, bold=row.sure))
    return y + _ROW


def _courses(
    out: Drawing, before: MeasureCourse, after: MeasureCourse, top: float, width: float
) -> None:
    left, right = 12.0, width - 12.0
    base, tall = top + _CURVE - 20, _CURVE - 40
    every = np.concatenate((before.value, after.value))
    every = every[np.isfinite(every)]
    out.add(Words(left, top + 14, trace_words((before.measure, before.side)), "muted", 11))
    if not len(every):
        out.add(Words(left, top + 40, "not seen in one of them", "muted", 11))
        return
    low, high = float(every.min()), float(every.max())
    room = max(high - low, 8.0)
    low -= 0.5 * (room - (high - low))
    half = len(before.position) // 2

    def line(values: Points) -> Points:
        x = np.linspace(left, right, len(values))
        return np.stack((x, base - (values - low) / room * tall), axis=-1)

    middle = 0.5 * (left + right)
    out.add(Stroke(np.array([[middle, top + 20], [middle, base]]), "rule", 1.0))
    for course, role, dash in ((before, "guide", True), (after, "actual", False)):
        seen = np.isfinite(course.value)
        if seen.sum() < 2:
            continue
        up, down = line(course.value + 2 * course.u)[seen], line(course.value - 2 * course.u)[seen]
        out.add(Area(np.concatenate((up, down[::-1])), "guide-soft" if dash else "held", 0.6))
        out.add(Stroke(line(course.value)[seen], role, 1.8, dash=dash))  # type: ignore[arg-type]
    apart = np.abs(after.value - before.value)
    sure = apart - 2 * np.hypot(before.u, after.u)
    if np.isfinite(sure).any() and np.nanmax(sure) > 0:
        i = int(np.nanargmax(sure))
        where = "lift" if i < half else "lowering"
        at = 100 * (before.position[i] % 1 if i % half != half - 1 else 1.0)
        said = f"up to {apart[i]:.0f}° apart, {at:.0f} % into the {where}"
        out.add(Words(right, top + 14, said, "ink", 11, anchor="end"))
    out.add(Words(left, base + 13, "lift", "muted", 11))
    out.add(Words(right, base + 13, "lower", "muted", 11, anchor="end"))
    out.add(Words(middle, base + 13, "turn", "muted", 11, anchor="middle"))
