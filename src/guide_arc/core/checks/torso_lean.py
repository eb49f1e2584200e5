"""torso-lean: the trunk's mean lean in a rep is outside the range that the setup asks for.

Value: how far outside the standard's lean interval, 0 inside. Unit: degrees.
"""

from __future__ import annotations

from typing import Final

from guide_arc.core.checks.context import RepValue, SetContext, per_trunk, whole
from guide_arc.core.checks.rules import CHECK
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
        way = "back" if mean < low else "forward"
        leans = low > CHECK.upright_deg if way == "back" else high < -CHECK.upright_deg
        if leans:
            way = "upright"
        words = {
            "back": f"leans {outside:.0f}° too far back",
            "forward": f"leans {outside:.0f}° too far forward",
            "upright": f"{outside:.0f}° too upright",
        }[way]
        at_s = float(time[len(time) // 2])
        return RepValue(
            rep.number, outside, float(u.mean()), at_s, way, words if outside >= 0.5 else ""
        )

    return per_trunk(ctx, rule, "trunk_lean", "deg", value_of, lambda _v: "lean as set up")


SPEC: Final = CheckSpec(
    "torso-lean",
    torso_lean,
    "deg",
    40,
    "degrees the torso leans beyond the setup",
    shown_by=("torso-swing",),
    evidence="lean",
    picture="side",
    ways=("back", "forward", "upright"),
    course="out of the lean",
)
