"""torso-lean: the trunk's mean lean in a rep lies outside what the setup asks for.

Value: how far outside the standard's lean interval, 0 inside. Unit: degrees.
"""

from __future__ import annotations

from typing import Final

from guide_arc.core.checks.context import RepValue, SetContext, per_trunk, whole
from guide_arc.core.checks.spec import CheckSpec
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule


def torso_lean(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    low, high = ctx.standard.trunk_lean_deg

    def value_of(rep: Rep) -> RepValue | None:
        time, lean, u = ctx.samples("trunk_lean", None, whole(rep))
        if not len(lean):
            return None
        mean = float(lean.mean())
        outside = max(low - mean, mean - high, 0.0)
        return RepValue(rep.number, outside, float(u.mean()), float(time[len(time) // 2]))

    return per_trunk(
        ctx, rule, "trunk_lean", "deg", value_of,
        lambda v: f"leans {v:.0f}° outside {low:.0f} to {high:.0f}°" if v else "lean as set up",
    )  # fmt: skip


SPEC: Final = CheckSpec(
    "torso-lean", torso_lean, "deg", 40, "degrees the torso leans beyond the setup",
    evidence="lean", picture="side",
)  # fmt: skip
