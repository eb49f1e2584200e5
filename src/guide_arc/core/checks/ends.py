"""Where an arm's driving measure starts and ends in a rep: shared by the range checks."""

from __future__ import annotations

import numpy as np

from guide_arc.core.checks.context import ArmEnds, SetContext
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.kinematics.vectors import Array, Flags, median, span_of
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.reps.rules import EDGE


def arm_ends(ctx: SetContext, side: Side, rep: Rep) -> ArmEnds | None:
    """The ends of one arm's range in a rep; None if they were not both seen.

    The start is the lower of where the lift begins and where the lower ends, in lift direction:
    a rep reaches its stretch on either side of the turn.
    """
    ends = some_ends(ctx, side, rep)
    return ends if ends is not None and ends.start_seen and ends.turn_seen else None


def some_ends(ctx: SetContext, side: Side, rep: Rep) -> ArmEnds | None:
    """The same where at least one of the two was seen; the other one is NaN."""
    key = (side, rep.side, rep.number)
    if key not in ctx.ends:
        ctx.ends[key] = _measured_ends(ctx, side, rep)
    return ctx.ends[key]


def _measured_ends(ctx: SetContext, side: Side, rep: Rep) -> ArmEnds | None:
    span = ctx.standard.range
    series = ctx.driven(side)
    start = _level(ctx.body.time_s, series.value, rep.start_s)
    finish = _level(ctx.body.time_s, series.value, rep.end_s)
    turn_value, turn_s = _held(ctx, side, rep)
    start_s, start_u_s = rep.start_s, rep.lift.start_u_s
    if np.isfinite(finish) and span.direction * (finish - start) < 0:
        start, start_s, start_u_s = finish, rep.end_s, rep.lower.end_u_s
    # An error in the time of a phase boundary is an error in the value read there.
    start_u = _moves_by(ctx.body.time_s, series.value, start_s, start_u_s)
    turn_u = min(
        _moves_by(ctx.body.time_s, series.value, rep.lift.end_s, rep.lift.end_u_s),
        _moves_by(ctx.body.time_s, series.value, rep.lower.start_s, rep.lower.start_u_s),
    )
    near = series.u[span_of(ctx.body.time_s, rep.turn_s - 0.3, rep.turn_s + 0.3)]
    u = near[np.isfinite(near)]
    lost = ctx.body.lost(rep.measure, side)
    start_seen = (
        rep.start_seen
        and np.isfinite(start)
        and not (_lost_about(ctx, lost, rep.start_s) or _lost_about(ctx, lost, rep.end_s))
    )
    turn_seen = (
        rep.turn_seen
        and np.isfinite(turn_value)
        and len(u) > 0  # an arm that hangs at the turn has no place about the trunk there
        and not (
            _lost_about(ctx, lost, rep.lift.end_s) or _lost_about(ctx, lost, rep.lower.start_s)
        )
    )
    if not (start_seen or turn_seen):
        return None
    within = series.u[span_of(ctx.body.time_s, rep.start_s, rep.end_s)]
    usual = median(u if len(u) else within[np.isfinite(within)])
    return ArmEnds(
        start_deg=start if start_seen else np.nan,
        turn_deg=turn_value if turn_seen else np.nan,
        start_s=start_s,
        turn_s=turn_s,
        u=usual,
        start_u=float(np.hypot(usual, start_u)),
        turn_u=float(np.hypot(usual, turn_u)),
        start_seen=start_seen,
        turn_seen=turn_seen,
    )


def _lost_about(ctx: SetContext, lost: Flags, at_s: float) -> bool:
    """Whether a sample about an end is lost: what is read there may be anything on the way."""
    half = EDGE.seen_about_s
    return bool(lost[span_of(ctx.body.time_s, at_s - half, at_s + half)].any())


def _held(ctx: SetContext, side: Side, rep: Rep) -> tuple[float, float]:
    """The measure about the turn and the moment at which it is nearest to that."""
    window = span_of(
        ctx.body.time_s,
        rep.lift.end_s - CHECK.end_half_window_s,
        rep.lower.start_s + CHECK.end_half_window_s,
    )
    value = ctx.driven(side).value[window]
    seen = np.isfinite(value)
    if not seen.any():
        return np.nan, rep.turn_s
    held = median(value[seen])
    nearest = int(np.argmin(np.abs(value[seen] - held)))
    return held, float(ctx.body.time_s[window][seen][nearest])


def _moves_by(time_s: Array, value: Array, at_s: float, u_s: float) -> float:
    """Half of what a measure changes over an edge's uncertainty on both sides; 0 if that was not
    seen."""
    if not u_s:
        return 0.0
    before, after = (_level(time_s, value, at_s + sign * u_s) for sign in (-1.0, 1.0))
    apart = 0.5 * abs(after - before)
    return apart if np.isfinite(apart) else 0.0


def _level(time_s: Array, value: Array, at_s: float) -> float:
    near = value[span_of(time_s, at_s - CHECK.end_half_window_s, at_s + CHECK.end_half_window_s)]
    return median(near[np.isfinite(near)])
