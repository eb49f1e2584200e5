"""range-over: the rep goes past the standard's range, at the top or at the bottom.

Value: the larger of what goes beyond the end of the lift and beyond its start, of each arm's own
driving measure. Unit: that of the measure, degrees for all but a shrug.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, per_limb, without_reps
from guide_arc.core.checks.ends import some_ends
from guide_arc.core.checks.spec import CheckSpec, FromModel
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule
from guide_arc.core.model.units import UNIT
from guide_arc.core.reps.driven import by_pose


def range_over(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    def value_of(side: Side, rep: Rep) -> RepValue | None:
        ends = some_ends(ctx, side, rep)
        if ends is None:
            return None
        span = ctx.standard.range
        top = span.direction * (ends.turn_deg - span.to_deg)
        bottom = span.direction * (span.from_deg - ends.start_deg)
        whole = ends.start_seen and ends.turn_seen
        if np.isnan(bottom) or top >= bottom:
            words = f"{top:.0f}{sign} past the end of the lift" if top > 0.5 else ""
            return RepValue(
                rep=rep.number,
                value=top,
                u=ends.turn_u,
                at_s=ends.turn_s,
                way="turn",
                words=words,
                whole=whole,
            )
        words = f"{bottom:.0f}{sign} past the start of the lift" if bottom > 0.5 else ""
        return RepValue(
            rep=rep.number,
            value=bottom,
            u=ends.start_u,
            at_s=ends.start_s,
            way="start",
            words=words,
            whole=whole,
        )

    sign = UNIT[ctx.standard.drive_unit]
    blocked = [without_reps(ctx, rule, side, ctx.standard.drive_unit) for side in ctx.sides]
    if ctx.repset.reps and any(blocked):
        return [b for b in blocked if b]
    return per_limb(
        ctx,
        rule,
        ctx.standard.drive,
        ctx.standard.drive_unit,
        value_of,
        lambda _v: "stops in time",
        by_fit=by_pose(ctx.body, ctx.standard),
    )


SPEC: Final = CheckSpec(
    "range-over",
    range_over,
    "drive",
    90,
    "degrees beyond the turn",
    evidence="range",
    ways=("turn", "start"),
    from_model=FromModel("tolerance", least=2.0),
)
