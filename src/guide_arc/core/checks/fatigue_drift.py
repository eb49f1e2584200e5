"""fatigue-drift: the range shrinks over the set.

Value: what the range loses from the first rep to the last, along a robust line (Theil and Sen's
median of slopes), in percent of that line's start. Fewer than five reps show no trend.
"""

from __future__ import annotations

from typing import Final

import numpy as np
from scipy import stats

from guide_arc.core.checks.context import RepValue, SetContext, cannot_tell, summarise
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule

FEWEST_REPS: Final = 5


def fatigue_drift(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    out: list[Finding] = []
    for side in ctx.work_sides:
        reps = ctx.reps_of(side)
        if len(reps) < FEWEST_REPS:
            why = f"{len(reps)} reps show no trend; at least {FEWEST_REPS} are needed"
            out.append(cannot_tell(rule, side, rule.limit, "pct", why))
            continue
        size = np.array([abs(rep.to_deg - rep.from_deg) for rep in reps])
        number = np.arange(len(size), dtype=float)
        slope, start, low, high = stats.theilslopes(size, number)
        span = number[-1] / max(start, 1.0) * 100.0
        u = max((high - low) * span / 4.0, 1.0)
        last = reps[-1]
        value = RepValue(last.number, float(-slope * span), float(u), last.turn_s)
        out.append(
            summarise(
                rule, side, [value], "pct",
                lambda v: f"range shrinks by {v:.0f} %" if v > 1 else "range holds",
            )  # fmt: skip
        )
    return out
