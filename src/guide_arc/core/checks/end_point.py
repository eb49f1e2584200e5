"""end-point: where the hand finishes against a landmark of the body.

Value: what is missing to the target at the turn of each full rep, in percent of the trunk's length;
negative once it is reached. The targets stand in `kinematics/endpoints.py`.
"""

from __future__ import annotations

from functools import partial

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, cannot_tell, no_rep, summarise
from guide_arc.core.kinematics.endpoints import TARGETS, Target
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule


def end_point(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    target = TARGETS[rule.target or ""]
    view = ctx.body.cleaned.track.view
    out: list[Finding] = []
    for side in ctx.sides:
        if view not in target.views:
            why = f"hidden from the {view}; film from the {target.views[1]} to see it"
            out.append(cannot_tell(rule, side, rule.limit, "pct", why))
            continue
        if not ctx.reps_of(side):
            out.append(cannot_tell(rule, side, rule.limit, "pct", no_rep(ctx)))
            continue
        missing = target.missing(ctx.body, side)
        values = [
            v for rep in ctx.reps_of(side) if rep.full and (v := _value(ctx, side, rep, missing))
        ]
        out.append(
            summarise(
                rule,
                side,
                values,
                "pct",
                partial(_words, target),
            )
        )
    return out


def _value(ctx: SetContext, side: Side, rep: Rep, missing) -> RepValue | None:  # type: ignore[no-untyped-def]
    near = np.abs(ctx.body.time_s - rep.turn_s) <= 0.15
    seen = missing[near & np.isfinite(missing)]
    if not len(seen):
        return None
    trunk_m = float(np.nanmedian(ctx.body.trunk_m))
    u = np.nanmedian(ctx.body.cleaned.sigma(f"{side}_wrist")[near]) * np.sqrt(2.0) / trunk_m
    return RepValue(rep.number, float(np.median(seen)), 100.0 * float(u), rep.turn_s)


def _words(target: Target, value: float) -> str:
    if value > 0.5:
        return f"{value:.0f} % of the trunk short of {target.words}"
    return f"reaches {target.words}"
