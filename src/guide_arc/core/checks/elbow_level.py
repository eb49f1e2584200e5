"""Elbow height over a span of the rep: shared by elbow-low and elbow-high."""

from __future__ import annotations

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep


def lowest(ctx: SetContext, side: Side, rep: Rep, sign: float) -> RepValue | None:
    """The elbow's departure from shoulder level in a direction, at the turn of the rep.

    sign : +1 counts above the shoulder, -1 below; percent of the upper arm
    """
    height = ctx.around("elbow_height", side, rep.turn_s, half_s=0.2)
    if not np.isfinite(height) or not rep.turn_seen:
        return None
    i = int(np.argmin(np.abs(ctx.body.time_s - rep.turn_s)))
    u = ctx.body.measure("elbow_height", side).u[i]
    return RepValue(rep.number, sign * height, float(u), rep.turn_s)
