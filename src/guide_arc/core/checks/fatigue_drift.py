"""fatigue-drift: the range shrinks over the set.

Value: what the range loses from the first rep to the last, along a robust line (Theil and Sen's
median of slopes), in percent of that line's start. Fewer than five reps show no trend.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, cannot_tell, summarise, without_reps
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec, FromModel
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule


def fatigue_drift(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    out: list[Finding] = []
    for side in ctx.work_sides:
        blocked = without_reps(ctx, rule, side, "pct")
        if blocked:
            out.append(blocked)
            continue
        reps = tuple(r for r in ctx.reps_of(side) if r.lift.seen)
        if len(reps) < CHECK.fewest_for_fatigue:
            why = (
                f"{len(reps)} reps that were seen show no trend; at least"
                f" {CHECK.fewest_for_fatigue} are needed"
            )
            out.append(cannot_tell(rule, side, rule.limit, "pct", why))
            continue
        size = np.array([abs(rep.to_deg - rep.from_deg) for rep in reps])
        number = np.arange(len(size), dtype=float)
        slope, start, slope_u = robust_line(number, size)
        span = number[-1] / max(start, 1.0) * 100.0
        u = max(slope_u * span, 1.0)
        last = reps[-1]
        value = RepValue(last.number, float(-slope * span), float(u), last.turn_s)
        out.append(
            summarise(
                rule,
                side,
                [value],
                "pct",
                lambda v: f"range shrinks by {v:.0f} %" if v > 1 else "range holds",
            )
        )
    return out


def robust_line(x: np.ndarray, y: np.ndarray) -> tuple[float, float, float]:
    """Slope, level at x = 0, and the slope's standard uncertainty.

    Median of all pairwise slopes (Theil 1950, Sen 1968); the uncertainty from the residuals'
    median absolute deviation.
    """
    i, j = np.triu_indices(len(x), k=1)
    slope = float(np.median((y[j] - y[i]) / (x[j] - x[i])))
    start = float(np.median(y - slope * x))
    residual = 1.4826 * float(np.median(np.abs(y - start - slope * x)))
    spread = float(np.sqrt(((x - x.mean()) ** 2).sum()))
    return slope, start, residual / spread


SPEC: Final = CheckSpec(
    "fatigue-drift",
    fatigue_drift,
    "pct",
    220,
    "percent that the range shrinks from the first rep to the last",
    picture="range",
    praise="Your range held to the last rep.",
    too_heavy=True,
    from_model=FromModel("usual", keeps=True),
)
