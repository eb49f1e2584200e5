"""hand-off-head: a hand that should stay next to the head leaves it.

Value: the largest change, within the rep, of the distance from the wrist to the ear of its side,
from its median at the starts of the set's lifts, settled over 0.25 s. Unit: percent of the upper
arm.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    cannot_tell,
    largest,
    no_rep,
    settled,
    summarise,
)
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec
from guide_arc.core.kinematics.path import turned_by
from guide_arc.core.kinematics.vectors import length, span_of
from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule


def hand_off_head(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    return [_finding(ctx, rule, side) for side in ctx.sides]


def _finding(ctx: SetContext, rule: CheckRule, side: Side) -> Finding:
    body = ctx.body
    view = body.cleaned.track.view
    if near_side(view) not in (None, side):
        return cannot_tell(rule, side, rule.limit, "pct", f"hidden from the {view}", by_view=True)
    start, turn = ctx.standard.trunk
    if view != "none" and turn.twist_deg != start.twist_deg:
        why = "while the trunk turns a picture does not show it"
        return cannot_tell(rule, side, rule.limit, "pct", why, by_view=True)
    wrist, ear = f"{side}_wrist", f"{side}_ear"
    if not body.learned.seen.issuperset((wrist, ear)):
        return cannot_tell(
            rule,
            side,
            rule.limit,
            "pct",
            "the landmarks of hand and ear are missing from the track",
        )
    reps = ctx.reps_of(side)
    if not reps:
        return no_rep(ctx, rule, side, "pct")
    arm_m = body.learned.upper_arm_m[side]
    away = 100.0 * length(body.points[wrist] - body.points[ear]) / arm_m
    u = 100.0 * np.hypot(body.cleaned.sigma(wrist), body.cleaned.sigma(ear)) / arm_m
    # If the camera is off-axis, a head that turns with the trunk moves the hand next to it towards
    # the camera.
    u = np.hypot(u, 100.0 * CHECK.hand_beside_arms * turned_by(body))
    begun = np.concatenate(
        [away[np.abs(body.time_s - r.start_s) <= CHECK.end_half_window_s] for r in reps]
    )
    kept = float(np.nanmedian(begun)) if np.isfinite(begun).any() else np.nan

    def value_of(rep: Rep) -> RepValue | None:
        window = span_of(body.time_s, rep.start_s, rep.end_s)
        seen = np.isfinite(away[window])
        time = body.time_s[window][seen]
        steady = settled(time, away[window][seen])
        return largest(rep, time, np.abs(steady - kept), np.nan_to_num(u[window][seen], nan=5.0))

    found = (value_of(rep) for rep in reps)
    return summarise(
        rule,
        side,
        [v for v in found if v],
        "pct",
        lambda v: f"hand leaves the head by {v:.0f} % of the arm",
    )


SPEC: Final = CheckSpec(
    "hand-off-head",
    hand_off_head,
    "pct",
    22,
    "percent of the upper arm that the hand leaves the head at the turn",
    shown_by=("elbow-bend-change", "upper-arm-drift"),
    praise="Your hands stayed beside the head.",
    course="hands leave the head",
)
