"""Where an arm's driving measure starts and ends in a rep: shared by the range checks."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.checks.context import SetContext
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import Range, Standard

_HALF_WINDOW_S: Final = 0.1


@dataclass(frozen=True)
class ArmEnds:
    """One arm's driving measure at the two ends of a rep, with the standard uncertainty."""

    start_deg: float
    turn_deg: float
    start_s: float
    turn_s: float
    u: float


def arm_ends(ctx: SetContext, side: Side, rep: Rep) -> ArmEnds | None:
    """The ends of one arm's range in a rep; None where they were not seen.

    The start is the lower of where the lift begins and where the lower ends, in lift direction:
    a rep reaches its stretch on either side of the turn.
    """
    span = intended(ctx.standard, rep.measure)
    series = ctx.body.measure(rep.measure, side)
    start = _level(ctx.body.time_s, series.value, rep.start_s)
    finish = _level(ctx.body.time_s, series.value, rep.end_s)
    turn_value, turn_s = _extreme(ctx, side, rep, span.direction)
    start_s = rep.start_s
    if np.isfinite(finish) and span.direction * (finish - start) < 0:
        start, start_s = finish, rep.end_s
    near = np.abs(ctx.body.time_s - rep.turn_s) <= 0.3
    u = series.u[near & np.isfinite(series.u)]
    if not (np.isfinite(start) and np.isfinite(turn_value) and len(u)):
        return None
    return ArmEnds(start, turn_value, start_s, turn_s, float(np.median(u)))


def intended(standard: Standard, measure: str) -> Range:
    """The standard's span of the measure that the reps were counted by."""
    if measure == standard.drive:
        return standard.range
    return Range(
        standard.start.elevation_deg, standard.turn.elevation_deg, standard.range.tolerance_deg
    )


def _extreme(ctx: SetContext, side: Side, rep: Rep, direction: int) -> tuple[float, float]:
    a, b = np.searchsorted(
        ctx.body.time_s, (rep.lift.end_s - _HALF_WINDOW_S, rep.lower.start_s + _HALF_WINDOW_S)
    )
    value = ctx.body.measure(rep.measure, side).value[a : max(b, a + 1)]
    time = ctx.body.time_s[a : max(b, a + 1)]
    seen = np.isfinite(value)
    if not seen.any():
        return np.nan, rep.turn_s
    held = np.median(value[seen])
    i = int(np.argmin(np.abs(value[seen] - held)))
    return float(held), float(time[seen][i])


def _level(time_s: Array, value: Array, at_s: float) -> float:
    near = value[(np.abs(time_s - at_s) <= _HALF_WINDOW_S) & np.isfinite(value)]
    return float(np.median(near)) if len(near) else np.nan
