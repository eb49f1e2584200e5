"""Traces: any measures over the whole set, stacked, with the reps shaded and the uncertainty as a
band."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.measures.registry import all_measures, spec_of_measure
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.quantity import Series
from guide_arc.core.model.rep import Rep
from guide_arc.drawings.dial import RepKey
from guide_arc.drawings.ribbon import MARGIN, RibbonState, numbered
from guide_arc.drawings.shapes import Area, Drawing, Points, Role, Stroke, Words
from guide_arc.drawings.shown_set import ShownSet

Trace = tuple[str, Side | None]
# More lines than these are too low to read.
MOST: Final = 6
# Points of a line: more than these fall on one pixel.
_MOST_POINTS: Final = 700
# Room for a line's name, and for the seconds below, pixels.
_HEAD: Final = 15.0
_FOOT: Final = 18.0
_LEAST_SPAN: Final = {"deg": 10.0, "pct": 10.0, "Nm": 2.0, "cm": 5.0}
_UNITS: Final = {"deg": "°", "pct": " %", "Nm": " Nm", "cm": " cm of lever"}
LOAD: Final = "load"
_LOAD_WORDS: Final = "load of the kit"


@dataclass(frozen=True, eq=False)
class TraceState:
    """start_s, duration_s : the stretch of time across the sheet, as on the ribbon"""

    measured: ShownSet
    traces: tuple[Trace, ...]
    start_s: float
    duration_s: float
    chosen: RepKey | None = None
    marked: frozenset[RepKey] = frozenset()


def trace_words(trace: Trace) -> str:
    """`left elbow bend`."""
    measure, side = trace
    words = _LOAD_WORDS if measure == LOAD else spec_of_measure(measure).words
    return f"{side} {words}" if side else words


def can_show(measured: ShownSet) -> tuple[Trace, ...]:
    """Every measure that this recording shows, and the load where the line of pull is known."""
    shown = [(m, s) for m, s in all_measures() if measured.body.shows(m, s)]
    return (*shown, *((LOAD, s) for s, load in measured.loads.items() if load.known))


def series_of(measured: ShownSet, trace: Trace) -> Series:
    measure, side = trace
    if measure == LOAD and side is not None:
        return measured.loads[side]
    return measured.body.measure(measure, side)


def usual_traces(measured: ShownSet) -> tuple[Trace, ...]:
    """What to start with: the driving measure of the working arms, the torso, a shoulder."""
    shown = can_show(measured)
    review = measured.review
    drive = review.reps[0].measure if review.reps else review.standard.drive
    side = measured.shown_side
    wanted: list[Trace] = [(drive, "left"), (drive, "right")]
    if review.side != "both":
        wanted = [(drive, side)]
    wanted += [("trunk_lean", None), ("trunk_side_lean", None), ("shoulder_hike", side)]
    usual = tuple(t for t in wanted if t in shown)[:4] or shown[:3]
    return (*usual, (LOAD, side)) if (LOAD, side) in shown else usual


def traces(state: TraceState, width: float, height: float) -> Drawing:
    """Everything but the playhead, which moves."""
    out = Drawing(width, height)
    if not state.traces:
        out.add(
            Words(width / 2, height / 2, "choose measures to trace", "muted", 12, anchor="middle")
        )
        return out
    lane = (height - _FOOT) / len(state.traces)
    reps = state.measured.review.reps
    axis = RibbonState(
        state.duration_s, state.start_s, (), state.measured.review.tempo, {}, chosen=state.chosen
    )
    named = numbered(axis, reps, width)
    for rep in reps:
        _shade(out, state, rep, width, height, rep.key in named)
    for i, trace in enumerate(state.traces):
        _lane(out, state, trace, width, i * lane, lane)
    return out


def _x(state: TraceState, width: float, at_s: Points | float) -> Points:
    share = (np.asarray(at_s) - state.start_s) / max(state.duration_s, 1e-9)
    return MARGIN + share * (width - 2 * MARGIN)


def _shade(
    out: Drawing, state: TraceState, rep: Rep, width: float, height: float, named: bool
) -> None:
    bad = rep.key in state.marked
    role: Role = "off-soft" if bad else "held"
    for span, strength in ((rep.lift, 0.5), (rep.lower, 0.28)):
        a, b = _x(state, width, span.start_s), _x(state, width, span.end_s)
        box = np.array([[a, 0.0], [b, 0.0], [b, height - _FOOT], [a, height - _FOOT]])
        out.add(Area(box, role, strength))
    if not named:
        return
    strong = state.chosen == rep.key
    at = float(_x(state, width, rep.turn_s))
    words: Role = "guide" if strong else "off" if bad else "muted"
    name = str(rep.number) + ("" if rep.side == "both" else rep.side[0].upper())
    out.add(Words(at, height - 4, name, words, 11, bold=strong, anchor="middle"))


def _lane(
    out: Drawing, state: TraceState, trace: Trace, width: float, top: float, tall: float
) -> None:
    series = series_of(state.measured, trace)
    seen = np.isfinite(series.value)
    base = top + tall - 4
    out.add(Stroke(np.array([[MARGIN, base + 3], [width - MARGIN, base + 3]]), "rule", 1.0))
    unit = _UNITS[series.unit]
    if not seen.any():
        out.add(Words(MARGIN + 2, top + 12, f"{trace_words(trace)}: not seen", "muted", 11))
        return
    low, high = _span(series, seen, series.unit)

    def y_of(value: Points) -> Points:
        share = np.clip((value - low) / (high - low), 0.0, 1.0)
        return base - share * (tall - _HEAD - 6)

    every = max(1, len(series.value) // _MOST_POINTS)
    time = state.measured.time_s[::every]
    value, u = series.value[::every], series.u[::every]
    x = _x(state, width, time)
    for run in _runs(np.isfinite(value)):
        if run.stop - run.start < 2:
            continue
        above, below = y_of(value[run] + 2 * u[run]), y_of(value[run] - 2 * u[run])
        band = np.concatenate(
            (np.stack((x[run], above), axis=-1), np.stack((x[run], below), axis=-1)[::-1])
        )
        out.add(Area(band, "guide-soft", 0.9))
        out.add(Stroke(np.stack((x[run], y_of(value[run])), axis=-1), "actual", 1.2))
    sure = max(2 * float(np.nanmedian(series.u)), 1.0)
    out.add(Words(MARGIN + 2, top + 12, f"{trace_words(trace)}", "ink", 11, bold=True, clear=True))
    span = f"{low:.0f}{unit} to {high:.0f}{unit}, good to ± {sure:.0f}{unit}"
    out.add(Words(width - MARGIN - 2, top + 12, span, "muted", 11, anchor="end", clear=True))


def _span(series: Series, seen: Points, unit: str) -> tuple[float, float]:
    low, high = np.percentile(series.value[seen], (0.5, 99.5))
    missing = max(_LEAST_SPAN[unit] - (high - low), 0.0)
    margin = 0.06 * (high - low) + 0.5 * missing
    return float(low - margin), float(high + margin)


def _runs(seen: Points) -> list[slice]:
    """The stretches in which the measure is seen."""
    edges = np.flatnonzero(np.diff(np.concatenate(([0], seen.astype(np.int8), [0]))))
    return [slice(int(a), int(b)) for a, b in zip(edges[::2], edges[1::2], strict=True)]
