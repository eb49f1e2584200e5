"""elbow-bend-change: an elbow that should keep its bend changes it.

Value: the largest departure, within the rep, of elbow flexion from its median at the starts of the
set's lifts, settled over 0.25 s; or, in space, how far that median is from the standard's own bend,
where that is more. Unit: degrees.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Final

import numpy as np

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    per_limb,
    surest,
    whole,
)
from guide_arc.core.checks.spec import CheckSpec, FromModel, Stays
from guide_arc.core.kinematics.vectors import median
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.quantity import Series
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule


def elbow_bend_change(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    def value_of(side: Side, rep: Rep) -> RepValue | None:
        series = _bend(ctx, side)
        begun = [ctx.around_of(series, r.start_s) for r in ctx.reps_of(side) if r.start_seen]
        kept = median(np.array([deg for deg in begun if np.isfinite(deg)]))
        time, bend, u = ctx.samples_of(series, whole(rep))
        change = surest(rep, time, np.abs(bend - kept), u)
        other = kept - ctx.standard.start.elbow_deg
        if change is None or ctx.view != "none" or abs(other) <= change.value:
            return change
        way = "bent" if other > 0 else "straight"
        words = f"elbow {abs(other):.0f}° {'more bent' if other > 0 else 'straighter'} than asked"
        return replace(change, value=float(abs(other)), way=way, words=words)

    return per_limb(
        ctx,
        rule,
        "elbow_flexion",
        "deg",
        value_of,
        lambda v: f"elbow bend changes by {v:.0f}°",
        by_fit=True,
    )


def _bend(ctx: SetContext, side: Side) -> Series:
    """The elbow's bend; in a picture that of the pose that fits it best, whatever the bend."""
    fitted = ctx.fitted("elbow_flexion", side, ("elbow",), change=True)
    return ctx.body.measure("elbow_flexion", side) if fitted is None else fitted


SPEC: Final = CheckSpec(
    "elbow-bend-change",
    elbow_bend_change,
    "deg",
    20,
    "degrees the elbow bends more at the turn",
    evidence="bend",
    ways=("bent", "straight"),
    praise="Your elbows bent no more than they should.",
    stays=Stays("elbow keeps its bend", ("{side}_elbow", "{side}_wrist")),
    from_model=FromModel("stays", 18.0, 12.0, ("elbow_flexion",)),
    course="elbow bend changes",
)
