"""hips-move: the hips leave the place that they keep in prone, reclined and kneeling work.

Value: the largest distance of the middle of the hips from where it is at the start of the lift,
settled over 0.25 s; in a picture what its plane shows of it. Unit: percent of the trunk.
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
from guide_arc.core.checks.spec import CheckSpec, Moves
from guide_arc.core.kinematics.trunk import middle
from guide_arc.core.kinematics.vectors import Array, length, median, span_of
from guide_arc.core.kinematics.views import hidden_axis
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule


def hips_move(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    if not ctx.body.learned.seen.issuperset(("left_hip", "right_hip")):
        return [cannot_tell(rule, "both", rule.limit, "pct", "the hips are missing from the track")]
    if not ctx.repset.reps:
        return [no_rep(ctx, rule, "both", "pct")]
    place, u = _place(ctx)

    def value_of(rep: Rep) -> RepValue | None:
        time, body = ctx.body.time_s, ctx.body
        begun = place[np.abs(time - rep.start_s) <= CHECK.end_half_window_s]
        begun = begun[np.isfinite(begun).all(axis=1)]
        window = span_of(time, rep.start_s, rep.end_s)
        off = place[window] - np.median(begun, axis=0) if len(begun) else np.full((0, 3), np.nan)
        seen = np.isfinite(off).all(axis=1)
        if seen.sum() < 3:
            return None
        moment = body.time_s[window][seen]
        steady = np.stack([settled(moment, off[seen, axis]) for axis in range(3)], axis=-1)
        return largest(rep, moment, length(steady), u[window][seen])

    found = (value_of(rep) for rep in ctx.judged)
    finding = summarise(
        rule,
        "both",
        [v for v in found if v],
        "pct",
        lambda v: f"hips move by {v:.0f} % of the trunk",
    )
    view = ctx.body.cleaned.track.view
    if view in ("front", "back") and finding.verdict in ("ok", "near"):
        why = f"from the {view} hips that go ahead or back do not show"
        finding = cannot_tell(rule, "both", rule.limit, "pct", why, by_view=True)
    return [finding]


def _place(ctx: SetContext) -> tuple[Array, Array]:
    """(F, 3) the middle of the hips and (F,) its standard uncertainty, in percent of the trunk."""
    body = ctx.body
    trunk_m = median(body.trunk_m[np.isfinite(body.trunk_m)])
    place = middle(body.points, "hip") / trunk_m
    depth = hidden_axis(body.cleaned.track.view)
    if depth is not None:
        place = place * (np.arange(3) != depth)
    sigma = np.hypot(body.cleaned.sigma("left_hip"), body.cleaned.sigma("right_hip")) / 2.0
    return 100.0 * place, 100.0 * np.nan_to_num(sigma, nan=0.01) / trunk_m


SPEC: Final = CheckSpec(
    "hips-move",
    hips_move,
    "pct",
    55,
    "percent of the trunk that the hips move at the turn",
    moves=Moves("hips", 0.01),
    praise="Your hips stayed where they were.",
    course="hips move",
)
