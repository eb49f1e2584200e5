"""left-right: the arms differ in range or in timing.

Value: the difference of the arms' ranges in a rep (degrees, the rule's limit), or of the times at
which they are half-way up (seconds, limit 0.3 s), whichever is farther past its limit. In an
alternating set the ranges are each arm's median. Where one arm goes on alone, its further reps are
what the other arm does less. The side is `both`; the words name the arm that does less.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    cannot_tell,
    no_rep,
    summarise,
    without_reps,
)
from guide_arc.core.checks.ends import arm_ends
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec, FromModel
from guide_arc.core.kinematics.vectors import median
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule
from guide_arc.core.model.units import UNIT
from guide_arc.core.reps.driven import tells_drive


def left_right(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    if ctx.repset.side != "both":
        why = f"only the {ctx.repset.side} arm works in this set"
        return [cannot_tell(rule, "both", rule.limit, ctx.standard.drive_unit, why)]
    if not ctx.repset.reps:
        return [no_rep(ctx, rule, "both", ctx.standard.drive_unit)]
    blocked = without_reps(ctx, rule, "both", ctx.standard.drive_unit)
    if blocked:
        return [blocked]
    for side in SIDES:
        if not tells_drive(ctx.body, ctx.standard, side):
            by_view = ctx.body.cleaned.track.view != "none"
            why = f"the {side} arm is {'hidden from here' if by_view else 'missing from the track'}"
            unit = ctx.standard.drive_unit
            return [cannot_tell(rule, "both", rule.limit, unit, why, by_view=by_view)]
    if ctx.repset.alternating:
        return [_alternating(ctx, rule)]
    ranges = [range_gap(ctx, rep) for rep in ctx.judged]
    weaker = _weaker(ctx)
    by_range = summarise(
        rule,
        "both",
        [v for v in ranges if v],
        ctx.standard.drive_unit,
        lambda v: (
            f"{weaker} arm does {v:.0f}{UNIT[ctx.standard.drive_unit]} less"
            if v > 1
            else "arms alike"
        ),
        of=len(ctx.judged),
        else_why="the ends of both arms' range were not seen together",
    )
    lags = [v for rep in ctx.judged if rep.side == "both" and (v := lag(ctx, rep))]
    by_time = summarise(
        rule, "both", lags, "s", lambda v: f"arms {v:.1f} s apart", limit=CHECK.lag_limit_s
    )
    return [by_time if by_time.verdict == "off" and by_range.verdict != "off" else by_range]


def range_gap(ctx: SetContext, rep: Rep) -> RepValue | None:
    left, right = arm_ends(ctx, "left", rep), arm_ends(ctx, "right", rep)
    if left is None or right is None:
        return None
    gap = abs(abs(left.turn_deg - left.start_deg) - abs(right.turn_deg - right.start_deg))
    u = float(np.sqrt(2.0) * np.hypot(left.u, right.u))
    if rep.side == "both":
        return RepValue(rep.number, gap, u, rep.turn_s)
    done = {side: sum(r.full for r in ctx.reps_of(side)) for side in SIDES}
    words = f"left arm does {done['left']} reps, right arm {done['right']}"
    return RepValue(rep.number, gap, u, rep.turn_s, "count", words)


def _weaker(ctx: SetContext) -> Side:
    totals = dict.fromkeys(SIDES, 0.0)
    for rep in ctx.judged:
        ends = {side: arm_ends(ctx, side, rep) for side in SIDES}
        for side, own in ends.items():
            if own is not None and all(ends.values()):  # a lost arm is not a weaker arm
                totals[side] += abs(own.turn_deg - own.start_deg)
    return "left" if totals["left"] < totals["right"] else "right"


def lag(ctx: SetContext, rep: Rep) -> RepValue | None:
    """Difference of the times at which each arm has completed half of its own lift."""
    moments = []
    if not all(ctx.lift_seen(side, rep) for side in SIDES):
        return None
    for side in SIDES:
        time, value, u = ctx.samples_of(ctx.driven(side), rep.lift)
        if len(value) < 4:
            return None
        way = (value - value[0]) / (value[-1] - value[0]) if value[-1] != value[0] else None
        if way is None:
            return None
        moments.append(float(time[int(np.argmax(way >= 0.5))]))
        speed = abs(value[-1] - value[0]) / rep.lift.length_s
    blur = median(u) / max(speed, 1.0)
    return RepValue(
        rep.number,
        abs(moments[0] - moments[1]),
        float(np.hypot(blur, ctx.body.step_s)),
        rep.lift.start_s,
    )


def _alternating(ctx: SetContext, rule: CheckRule) -> Finding:
    medians, us = {}, []
    for side in SIDES:
        ends = [e for rep in ctx.reps_of(side) if (e := arm_ends(ctx, side, rep))]
        if not ends:
            return cannot_tell(
                rule,
                "both",
                rule.limit,
                ctx.standard.drive_unit,
                f"no rep of the {side} arm was seen",
            )
        medians[side] = float(np.median([abs(e.turn_deg - e.start_deg) for e in ends]))
        us.append(np.median([e.u for e in ends]))
    gap = abs(medians["left"] - medians["right"])
    weaker = min(medians, key=lambda s: medians[s])
    at = ctx.reps_of("left")[-1].turn_s
    value = RepValue(ctx.reps_of("left")[-1].number, gap, float(np.hypot(*us)), at)
    return summarise(
        rule,
        "both",
        [value],
        ctx.standard.drive_unit,
        lambda v: (
            f"{weaker} arm does {v:.0f}{UNIT[ctx.standard.drive_unit]} less"
            if v > 1
            else "arms alike"
        ),
    )


SPEC: Final = CheckSpec(
    "left-right",
    left_right,
    "drive",
    190,
    "degrees the right arm does less",
    ways=("count",),
    evidence="arms",
    picture="front",
    praise="Both arms did the same work.",
    from_model=FromModel("arms", least=2.0, keeps=True),
    course="arms apart",
)
