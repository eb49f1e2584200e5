"""elbow-low: at the turn the elbow is lower than it should be.

Value: how far below the shoulder, along the trunk, in percent of the upper arm.
"""

from __future__ import annotations

from typing import Final

from guide_arc.core.checks.context import SetContext, per_limb
from guide_arc.core.checks.elbow_level import lowest
from guide_arc.core.checks.spec import CheckSpec
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule


def elbow_low(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    return per_limb(
        ctx,
        rule,
        "elbow_height",
        "pct",
        lambda side, rep: lowest(ctx, side, rep, -1.0),
        lambda v: f"elbow {v:.0f} % of the arm below the shoulder" if v > 0 else "elbow up",
    )


SPEC: Final = CheckSpec(
    "elbow-low",
    elbow_low,
    "pct",
    100,
    "percent of the upper arm that the elbow hangs below the shoulder at the turn",
    shown_by=("elbow-path",),
    evidence="elbow-level",
    outward=-1,
)
