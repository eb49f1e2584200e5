"""elbow-bend-change: an elbow that should keep its bend changes it.

Value: the largest departure, within the rep, of elbow flexion from its median at the starts of
the set's lifts, settled over 0.25 s; or, in space, how far that median is from the standard's own bend, where
that is more. Unit: degrees.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Final

import numpy as np

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    cannot_tell,
    largest,
    per_limb,
    whole,
)
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec, FromModel, Stays
from guide_arc.core.kinematics.vectors import median
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule
from guide_arc.core.reps.seen_arc import bend_shows


def elbow_bend_change(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    def value_of(side: Side, rep: Rep) -> RepValue | None:
        begun = [
            ctx.around("elbow_flexion", side, r.start_s) for r in ctx.reps_of(side) if r.start_seen
        ]
        kept = median(np.array([deg for deg in begun if np.isfinite(deg)]))
        time, bend, u = ctx.samples("elbow_flexion", side, whole(rep))
        change = largest(rep, time, np.abs(bend - kept), u)
        other = kept - ctx.standard.start.elbow_deg
        if change is None or not in_space or abs(other) <= change.value:
            return change
        way = "bent" if other > 0 else "straight"
        words = f"elbow {abs(other):.0f}° {'more bent' if other > 0 else 'straighter'} than asked"
        return replace(change, value=float(abs(other)), way=way, words=words)

    view = ctx.body.cleaned.track.view
    in_space = view == "none"
    if not bend_shows(ctx.standard, view, CHECK.bend_seen_share * rule.limit):
        why = f"from the {view} the arm points at the camera"
        return [cannot_tell(rule, side, rule.limit, "deg", why, by_view=True) for side in ctx.sides]

    return per_limb(
        ctx, rule, "elbow_flexion", "deg", value_of, lambda v: f"elbow bend changes by {v:.0f}°"
    )


SPEC: Final = CheckSpec(
    "elbow-bend-change", elbow_bend_change, "deg", 20, "degrees the elbow bends more at the turn",
    evidence="bend", ways=("bent", "straight"), praise="Your elbows bent no more than they should.",
    stays=Stays("elbow keeps its bend", ("{side}_elbow", "{side}_wrist")),
    from_model=FromModel("stays", 18.0, 12.0, ("elbow_flexion",)),
    course="elbow bend changes",
)  # fmt: skip
