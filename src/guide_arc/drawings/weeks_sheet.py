"""Over the weeks: each measure as a row of dots with their doubt, and what it comes to in words."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

import numpy as np

from guide_arc.core.model.units import amount
from guide_arc.core.planning.weeks import Measure
from guide_arc.drawings.shapes import Area, Disc, Drawing, Stroke, Words

# A measure has three lines next to its dots, pixels.
ROW: Final = 70.0
# Room for them.
_WORDS: Final = 168.0
# The largest number of dots that can still be distinguished.
_MOST_DOTS: Final = 60


def height_of(measures: Sequence[Measure]) -> float:
    return max(ROW * len(measures), ROW)


def weeks_sheet(width: float, measures: Sequence[Measure], chosen: int | None = None) -> Drawing:
    """One row a measure. chosen : the id of the set that is chosen"""
    out = Drawing(width, height_of(measures))
    if not measures:
        out.add(Words(14, 30, "Two reviewed sets show how it goes.", "muted", 12))
    for i, measure in enumerate(measures):
        top = i * ROW
        if i:
            out.add(Stroke(np.array([(12, top), (width - 12, top)]), "rule"))
        out.add(Words(14, top + 20, measure.name, "ink", 12.5, True))
        out.add(Words(14, top + 37, measure.latest, "ink", 12.5))
        worse = measure.word.endswith("worse")
        out.add(Words(14, top + 58, measure.word, "off" if worse else "muted", 11))
        _dots(
            out,
            measure,
            _WORDS,
            right=width - 18,
            top=top + 9,
            bottom=top + 42,
            chosen=chosen,
        )
    return out


def _dots(
    out: Drawing,
    measure: Measure,
    left: float,
    right: float,
    top: float,
    bottom: float,
    chosen: int | None,
) -> None:
    points = measure.points[-_MOST_DOTS:]
    days = np.array([p.day for p in points], dtype=float)
    low = min(
        [p.value - p.u for p in points] + ([measure.limit] if measure.limit is not None else [])
    )
    high = max(
        [p.value + p.u for p in points] + ([measure.limit] if measure.limit is not None else [])
    )
    span = max(high - low, 1e-6)
    wide = max(float(np.ptp(days)), 1.0)

    def y_of(value: float) -> float:
        return bottom - (bottom - top) * (value - low) / span

    if measure.limit is not None:
        y = y_of(measure.limit)
        out.add(Stroke(np.array([(left, y), (right, y)]), "guide", 1.0, dash=True))
    elif measure.slope is not None and measure.slope.sure:
        mid = np.median(days), np.median([p.value for p in points])
        ends = [mid[1] + measure.slope.per_week * (d - mid[0]) / 7.0 for d in (days[0], days[-1])]
        line = np.array(
            [
                (left, y_of(float(np.clip(ends[0], low, high)))),
                (right, y_of(float(np.clip(ends[1], low, high)))),
            ]
        )
        out.add(Stroke(line, "guide", 1.0, dash=True))
    for p in points:
        x = (
            left + (right - left) * (p.day - days[0]) / wide
            if len(points) > 1
            else 0.5 * (left + right)
        )
        out.add(
            Stroke(np.array([(x, y_of(p.value - p.u)), (x, y_of(p.value + p.u))]), "muted", 1.0)
        )
        if p.set_id == chosen:
            out.add(Disc(x, y_of(p.value), 5.5, outline="guide", width=1.5))
        y = y_of(p.value)
        if p.off:
            wedge = np.array([(x, y - 4), (x + 4, y + 3.4), (x - 4, y + 3.4)])
            out.add(Area(wedge, "off"))
        else:
            out.add(Disc(x, y, 3.0, "actual"))


def change_words(before: float, after: Sequence[float], unit: str) -> str:
    """`25° → 9°`."""
    return " → ".join(amount(v, unit) for v in (before, *after[-2:]))
