"""range-over: the rep goes past the standard's range, at the top or at the bottom.

Value: the larger of what goes beyond the end of the lift and beyond its start, of each arm's own
driving measure. Unit: that of the measure, degrees for all but a shrug.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, drive_hidden, per_limb
from guide_arc.core.checks.ends import intended, own_per_measured, some_ends
from guide_arc.core.checks.spec import CheckSpec, FromModel
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule
from guide_arc.core.model.units import UNIT
from guide_arc.core.reps.seen_arc import needs_fit


def range_over(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    def value_of(side: Side, rep: Rep) -> RepValue | None:
        ends = some_ends(ctx, side, rep)
        if ends is None:
            return None
        span, own = intended(ctx.standard, rep.measure), own_per_measured(ctx.standard, rep.measure)
        top = own * span.direction * (ends.turn_deg - span.to_deg)
        bottom = own * span.direction * (span.from_deg - ends.start_deg)
        whole = ends.start_seen and ends.turn_seen
        if np.isnan(bottom) or top >= bottom:
            words = f"{top:.0f}{sign} past the end of the lift" if top > 0.5 else ""
            return RepValue(rep.number, top, own * ends.turn_u, ends.turn_s, "turn", words, whole)
        words = f"{bottom:.0f}{sign} past the start of the lift" if bottom > 0.5 else ""
        return RepValue(rep.number, bottom, own * ends.start_u, ends.start_s, "start", words, whole)

    sign = UNIT[ctx.standard.drive_unit]
    blocked = [
        drive_hidden(ctx, rule, side, ctx.standard.drive_unit, rule.limit, ends=True, own=True)
        for side in ctx.sides
    ]
    if ctx.repset.reps and any(blocked):
        return [b for b in blocked if b]
    measure = ctx.repset.reps[0].measure if ctx.repset.reps else ctx.standard.drive
    return per_limb(
        ctx, rule, measure, ctx.standard.drive_unit, value_of,
        lambda _v: "stops in time", by_fit=needs_fit(ctx.standard, ctx.body),
    )  # fmt: skip


SPEC: Final = CheckSpec(
    "range-over", range_over, "drive", 90, "degrees beyond the turn",
    evidence="range", ways=("turn", "start"), from_model=FromModel("tolerance", least=2.0),
)  # fmt: skip
