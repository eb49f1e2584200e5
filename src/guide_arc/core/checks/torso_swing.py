"""torso-swing: the trunk's lean changes during the rep.

Value: largest minus smallest trunk lean within the rep, settled over 0.25 s. Unit: degrees.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, per_trunk, whole
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec, FromModel, Moves, Stays
from guide_arc.core.kinematics.vectors import median
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import TRUNK_DRIVES, CheckRule


def torso_swing(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    change_u = ctx.body.change_u("trunk_lean")

    def value_of(rep: Rep) -> RepValue | None:
        time, lean, _u = ctx.samples("trunk_lean", None, whole(rep))
        if not len(lean):
            return None
        start = median(lean[: max(3, len(lean) // 20)])
        i = int(np.argmax(np.abs(lean - start)))
        swing = float(lean.max() - lean.min())
        own = float(np.median(change_u[np.isfinite(change_u)]))
        share = CHECK.swing_picture_share if ctx.view != "none" else 0.0
        return RepValue(rep.number, swing, float(np.hypot(own, share * swing)), float(time[i]))

    return per_trunk(ctx, rule, "trunk_lean", "deg", value_of, lambda v: f"torso swings {v:.0f}°")


SPEC: Final = CheckSpec(
    "torso-swing",
    torso_swing,
    "deg",
    30,
    "degrees the torso swings back in each lift",
    moves=Moves("lean", -1.0),
    evidence="swing",
    picture="side",
    praise="Your torso stayed still.",
    too_heavy=True,
    stays=Stays("torso stays", ("{side}_hip", "{side}_shoulder")),
    from_model=FromModel("stays", 12.0, 8.0, TRUNK_DRIVES),
    course="torso swings",
)
