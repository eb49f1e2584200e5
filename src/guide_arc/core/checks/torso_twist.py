"""torso-twist: the shoulders turn against the hips during the rep.

Value: largest departure of trunk rotation from where it is at the start of the lift, settled
over 0.25 s. Unit: degrees.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, largest, per_trunk, whole
from guide_arc.core.checks.spec import CheckSpec, FromModel, Moves, Stays
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import TRUNK_DRIVES, CheckRule


def torso_twist(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    def value_of(rep: Rep) -> RepValue | None:
        time, turn, u = ctx.samples("trunk_rotation", None, whole(rep))
        start = ctx.around("trunk_rotation", None, rep.start_s)
        return largest(rep, time, np.abs(turn - start), u)

    return per_trunk(
        ctx, rule, "trunk_rotation", "deg", value_of, lambda v: f"torso turns {v:.0f}°"
    )


SPEC: Final = CheckSpec(
    "torso-twist",
    torso_twist,
    "deg",
    50,
    "degrees the shoulders turn in each lift",
    moves=Moves("twist", 1.0),
    stays=Stays("torso square", ("left_shoulder", "right_shoulder")),
    from_model=FromModel("stays", 12.0, 10.0, TRUNK_DRIVES),
    course="torso turns",
)
