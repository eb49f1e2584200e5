"""elbow-bend-change: an elbow that should keep its bend changes it.

Value: the largest departure, within the rep, of elbow flexion from its median at the starts of
the set's lifts, settled over 0.25 s. Unit: degrees.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, largest, per_limb, whole
from guide_arc.core.checks.spec import CheckSpec, FromModel, Stays
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule


def elbow_bend_change(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    def value_of(side: Side, rep: Rep) -> RepValue | None:
        kept = np.nanmedian(
            [ctx.around("elbow_flexion", side, r.start_s) for r in ctx.reps_of(side)]
        )
        time, bend, u = ctx.samples("elbow_flexion", side, whole(rep))
        return largest(rep, time, np.abs(bend - kept), u)

    return per_limb(
        ctx, rule, "elbow_flexion", "deg", value_of, lambda v: f"elbow bend changes by {v:.0f}°"
    )


SPEC: Final = CheckSpec(
    "elbow-bend-change", elbow_bend_change, "deg", 20, "degrees the elbow bends more at the turn",
    evidence="bend", praise="Your elbows kept their bend.",
    stays=Stays("elbow keeps its bend", ("{side}_elbow", "{side}_wrist")),
    from_model=FromModel("stays", 18.0, 12.0, ("elbow_flexion",)),
)  # fmt: skip
