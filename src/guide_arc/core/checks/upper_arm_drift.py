"""upper-arm-drift: the upper arm leaves the place it should keep.

Value: the largest angle, within the rep, between the upper arm's direction in the trunk's frame
and its direction at the start of the lift (median over the set's reps), settled over 0.25 s. In
a side view the angle in the picture's plane. Unit: degrees.
"""

from __future__ import annotations

import numpy as np

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    largest,
    per_limb,
    settled,
    whole,
)
from guide_arc.core.kinematics.vectors import Array, angle_deg, unit
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule


def upper_arm_drift(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    time = ctx.body.time_s
    places: dict[Side, Array] = {}

    def value_of(side: Side, rep: Rep) -> RepValue | None:
        arm = unit(ctx.body.in_trunk(f"{side}_elbow", side))
        if side not in places:
            places[side] = _place(ctx, side, arm)
        span = whole(rep)
        a, b = np.searchsorted(time, (span.start_s, span.end_s))
        # Settling the direction before the angle: an angle of noise is never negative.
        local = arm[a:b]
        seen = np.isfinite(local).all(axis=-1)
        if seen.sum() < 3:
            return None
        steady = np.stack([settled(time[a:b][seen], c) for c in local[seen].T], axis=-1)
        u = ctx.body.measure("shoulder_elevation", side).u[a:b][seen]
        return largest(rep, time[a:b][seen], angle_deg(steady, places[side]), u)

    return per_limb(
        ctx, rule, "shoulder_elevation", "deg", value_of,
        lambda v: f"upper arm moves {v:.0f}°",
    )  # fmt: skip


def _place(ctx: SetContext, side: Side, arm: Array) -> Array:
    """(3,) the upper arm's usual direction when a lift starts."""
    time = ctx.body.time_s
    starts = [
        np.nanmedian(arm[np.abs(time - rep.start_s) <= 0.12], axis=0)
        for rep in ctx.reps_of(side)
        if np.isfinite(arm[np.abs(time - rep.start_s) <= 0.12]).any()
    ]
    return np.median(starts, axis=0) if starts else np.full(3, np.nan)
