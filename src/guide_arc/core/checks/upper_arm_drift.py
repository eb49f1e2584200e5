"""upper-arm-drift: the upper arm leaves the place it should keep.

Value: the largest angle, within the rep, between the upper arm's direction in the trunk's frame and
its direction at the start of the lift (median over the set's reps), settled over 0.25 s. In a side
view the angle in the picture's plane; from elsewhere that of the pose that fits the picture. Unit:
degrees.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Final

import numpy as np

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    largest,
    per_limb,
    settled,
)
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec, FromModel, Stays
from guide_arc.core.kinematics.path_fit import upper_arm
from guide_arc.core.kinematics.vectors import Array, angle_deg, median, span_of, unit
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule


def upper_arm_drift(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    time = ctx.body.time_s
    arms: dict[Side, tuple[Array, Array]] = {}

    def value_of(side: Side, rep: Rep) -> RepValue | None:
        if side not in arms:
            arms[side] = _course(ctx, side)
        departure, u = arms[side]
        window = span_of(time, rep.start_s, rep.end_s)
        seen = np.isfinite(departure[window])
        if seen.sum() < 3:
            return None
        return largest(rep, time[window][seen], departure[window][seen], u[window][seen])

    return per_limb(
        ctx,
        rule,
        "shoulder_elevation",
        "deg",
        value_of,
        lambda v: f"upper arm moves {v:.0f}°",
        by_fit=_by_pose(ctx),
    )


def _by_pose(ctx: SetContext) -> bool:
    """Whether the picture's plane is not the plane in which an arm comes forward."""
    facing = ctx.view in ("front", "back")
    return facing or ctx.body.cleaned.aside.deg > CHECK.drift_aside_deg


def _course(ctx: SetContext, side: Side) -> tuple[Array, Array]:
    """(T,) degrees from the arm's place, and the standard uncertainty."""
    arm = upper_arm(ctx.body, ctx.standard, side) if _by_pose(ctx) else None
    if arm is None:
        return upper_arm_departure(ctx, side), ctx.body.measure("shoulder_elevation", side).u
    return replace(arm, way=_steady(ctx, arm.way)).turned_from(_place(ctx, side, arm.way))


def upper_arm_departure(ctx: SetContext, side: Side) -> Array:
    """(T,) degrees between the settled direction of the upper arm and its place."""
    name = f"{side} upper arm"
    if name not in ctx.settled:
        ctx.settled[name] = _departure(ctx, side)
    return ctx.settled[name]


def _departure(ctx: SetContext, side: Side) -> Array:
    direction = unit(ctx.body.in_trunk(f"{side}_elbow", side))
    steady = _steady(ctx, direction)
    return angle_deg(steady, np.broadcast_to(_place(ctx, side, direction), steady.shape))


def _steady(ctx: SetContext, direction: Array) -> Array:
    """(T, 3) a settled direction: an angle of noise is never negative, so that it is settled
    before."""
    seen = np.isfinite(direction[:, 0])
    steady = np.full_like(direction, np.nan)
    for axis in range(3):
        steady[seen, axis] = settled(ctx.body.time_s[seen], direction[seen, axis])
    return steady


def _place(ctx: SetContext, side: Side, arm: Array) -> Array:
    """(3,) the upper arm's usual direction when a lift starts."""
    time = ctx.body.time_s
    starts = []
    for rep in ctx.reps_of(side):
        near = arm[span_of(time, rep.start_s - 0.12, rep.start_s + 0.12)]
        near = near[np.isfinite(near[:, 0])]
        if len(near):
            starts.append([median(axis) for axis in near.T])
    return np.median(starts, axis=0) if starts else np.full(3, np.nan)


SPEC: Final = CheckSpec(
    "upper-arm-drift",
    upper_arm_drift,
    "deg",
    10,
    "degrees the upper arm comes forward at the turn",
    evidence="upper-arm",
    praise="Your upper arms stayed where they should.",
    too_heavy=True,
    stays=Stays("upper arm stays", ("{side}_shoulder", "{side}_elbow")),
    from_model=FromModel("stays", 16.0, 10.0, ("shoulder_elevation", "shoulder_plane")),
    course="upper arm moves",
)
