"""range-short: the rep does not reach the standard's range, at the top or at the bottom.

Value: the larger of what is missing to the end of the lift and to its start, of each arm's own
driving measure. Limit: the tolerance. Unit: that of the measure, degrees for all but a shrug.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import NOTHING_SEEN, RepValue, SetContext, per_limb, without_reps
from guide_arc.core.checks.ends import some_ends
from guide_arc.core.checks.spec import CheckSpec, FromModel
from guide_arc.core.kinematics.vectors import span_of
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule
from guide_arc.core.model.units import UNIT
from guide_arc.core.reps.driven import by_pose


def range_short(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    def value_of(side: Side, rep: Rep) -> RepValue | None:
        ends = some_ends(ctx, side, rep)
        if ends is None:
            return None
        span = ctx.standard.range
        top = span.direction * (span.to_deg - ends.turn_deg)
        bottom = span.direction * (ends.start_deg - span.from_deg)
        whole = ends.start_seen and ends.turn_seen
        if np.isnan(bottom) or top >= bottom:
            words = f"{top:.0f}{sign} short at the end of the lift" if top > 0.5 else ""
            return RepValue(
                rep=rep.number,
                value=top,
                u=ends.turn_u,
                at_s=ends.turn_s,
                way="turn",
                words=words,
                whole=whole,
            )
        words = f"{bottom:.0f}{sign} short at the start of the lift" if bottom > 0.5 else ""
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
        lambda _v: "full range",
        else_why=lambda side: _at_least(ctx, side),
        by_fit=by_pose(ctx.body, ctx.standard),
    )


def _at_least(ctx: SetContext, side: Side) -> str:
    """Why an arm's range cannot be judged, with the part that was seen: no rep went less."""
    most, value = 0.0, ctx.driven(side).value
    for rep in ctx.reps_of(side):
        seen = value[span_of(ctx.body.time_s, rep.start_s, rep.end_s)]
        seen = seen[np.isfinite(seen)]
        most = max(most, float(np.ptp(seen)) if len(seen) else 0.0)
    if not most:
        return NOTHING_SEEN
    unit = UNIT[ctx.standard.drive_unit]
    return f"the ends of the range were not seen; at least {most:.0f}{unit} of it were"


SPEC: Final = CheckSpec(
    "range-short",
    range_short,
    "drive",
    80,
    "degrees missing at the turn",
    shown_by=("fatigue-drift", "left-right", "end-point"),
    evidence="range",
    outward=-1,
    praise="*",
    too_heavy=True,
    ways=("turn", "start"),
    from_model=FromModel("tolerance", keeps=True),
    course="range short by",
)
