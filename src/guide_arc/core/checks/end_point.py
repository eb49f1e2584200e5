"""end-point: where the hand finishes against a landmark of the body.

Value: what is missing to the target at the turn of each full rep (or where its lift starts, if the
rule says so), in percent of the trunk's length; negative once it is reached, and the distance from
a target that must be met from both sides. The targets are in `kinematics/endpoints.py`.
"""

from __future__ import annotations

from functools import partial
from typing import Final

import numpy as np

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    cannot_tell,
    leans_to_camera,
    looks_shorter,
    no_rep,
    summarise,
)
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec
from guide_arc.core.kinematics.endpoints import TARGETS, Target
from guide_arc.core.kinematics.guide import arm_path
from guide_arc.core.kinematics.path import turned_by
from guide_arc.core.kinematics.vectors import Array, median, seen_median
from guide_arc.core.kinematics.views import hidden_axis, near_side
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule


def end_point(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    target = TARGETS[rule.target or ""]
    view = ctx.body.cleaned.track.view
    out: list[Finding] = []
    for side in ctx.sides:
        # A far arm is seen through the body, or made up: nothing is said of it.
        if view not in target.views or near_side(view) not in (None, side):
            out.append(
                cannot_tell(rule, side, rule.limit, "pct", f"hidden from the {view}", by_view=True)
            )
            continue
        if not ctx.reps_of(side):
            out.append(no_rep(ctx, rule, side, "pct"))
            continue
        if target.along_trunk and leans_to_camera(ctx):
            out.append(
                cannot_tell(rule, side, rule.limit, "pct", looks_shorter(view), by_view=True)
            )
            continue
        missing = target.missing(ctx.body, side)
        values = [
            v
            for rep in ctx.reps_of(side)
            if rep.full and (v := _value(ctx, side, rep, missing, rule, target))
        ]
        out.append(
            summarise(
                rule,
                side,
                values,
                "pct",
                partial(_words, target),
                of=sum(rep.full for rep in ctx.reps_of(side)),
            )
        )
    return out


def _value(
    ctx: SetContext, side: Side, rep: Rep, missing: Array, rule: CheckRule, target: Target
) -> RepValue | None:
    at_s = rep.start_s if rule.at == "start" else rep.turn_s
    if not (rep.start_seen if rule.at == "start" else rep.turn_seen):
        return None
    near = np.abs(ctx.body.time_s - at_s) <= 0.15
    seen = missing[near & np.isfinite(missing)]
    if not len(seen):
        return None
    trunk_m = seen_median(ctx.body.trunk_m)
    part = "wrist" if target.part == "hand" else target.part
    u = seen_median(ctx.body.cleaned.sigma(f"{side}_{part}")[near]) * np.sqrt(2.0) / trunk_m
    pictured = ctx.body.cleaned.track.view != "none"
    u_pct = np.hypot(100.0 * u, CHECK.end_point_picture_u_pct if pictured else 0.0)
    arm_m = ctx.body.learned.upper_arm_m[side] * (
        1.0 if part == "elbow" else 1.0 + ctx.body.learned.forearm_over_upper_arm[side]
    )
    aside_m = np.radians(ctx.body.cleaned.aside.limb_u_deg) * arm_m
    flat = hidden_axis(ctx.body.cleaned.track.view)
    if flat is not None:
        way = arm_path(ctx.standard)["elbow" if part == "elbow" else "wrist"]
        deep = abs(float(way[0 if rule.at == "start" else -1, flat]))
        aside_m = max(aside_m, turned_by(ctx.body) * deep * ctx.body.learned.upper_arm_m[side])
    aside_pct = 100.0 * aside_m / trunk_m
    return RepValue(rep.number, median(seen), float(np.hypot(u_pct, aside_pct)), at_s)


def _words(target: Target, value: float) -> str:
    if target.both_ways:
        return f"{value:.0f} % of the trunk from {target.words}"
    if value > 0.5:
        if target.words.startswith("a fist"):
            return f"{value:.0f} % of the trunk nearer than {target.words}"
        return f"{value:.0f} % of the trunk short of {target.words}"
    return f"reaches {target.words}"


SPEC: Final = CheckSpec(
    "end-point",
    end_point,
    "pct",
    140,
    "percent of the trunk that the hand is short of its target",
    shown_by=(
        "fatigue-drift",
        "left-right",
        "range-short",
        "upper-arm-drift",
        "elbow-path",
        "hand-path",
        "shoulder-hike",
        "wrist-bend",
        "torso-lean",
        "hand-off-head",
    ),
    needs=("wrist_bend",),
    evidence="end-point",
    picture="front",
    has_target=True,
    course="end point off by",
)
