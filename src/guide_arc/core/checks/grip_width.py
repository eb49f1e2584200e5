"""grip-width: a fixed bar is held so wide or so narrow that wrist, elbow and shoulder are not in
one line.

Value: how far, in the median of the rep while the elbow is bent, the forearm points out of the
plane in which the standard bends the elbow: outward for a wide grip, inward for a narrow one.
Visible in space, and from the front if reps can be counted from there. Unit: degrees."""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, cannot_tell, hidden, summarise
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec
from guide_arc.core.kinematics.guide import arm_directions, poses_along
from guide_arc.core.kinematics.vectors import Array, median, span_of
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule

_SAMPLES: Final = 41


def grip_width(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    out: list[Finding] = []
    view = ctx.body.cleaned.track.view
    for side in ctx.sides:
        if view in ("left", "right"):
            why = f"hidden from the {view}"
            out.append(cannot_tell(rule, side, rule.limit, "deg", why, by_view=True))
            continue
        blocked = hidden(ctx, rule, "shoulder_elevation", side, "deg")
        if blocked or not ctx.body.learned.seen.issuperset((f"{side}_wrist",)):
            out.append(
                blocked
                or cannot_tell(
                    rule, side, rule.limit, "deg", "the wrists are missing from the track"
                )
            )
            continue
        out_m = _outward_m(ctx, side)
        meant_deg = _meant(ctx)
        sigma = ctx.body.cleaned.sigma(f"{side}_wrist")
        sigma_m = float(median(sigma[np.isfinite(sigma)]))
        values = [
            v
            for rep in ctx.reps_of(side)
            if (v := _value(ctx, side, rep, out_m, meant_deg, sigma_m))
        ]
        out.append(summarise(rule, side, values, "deg", lambda v: f"grip {v:.0f}° off the line"))
    return out


def _outward_m(ctx: SetContext, side: Side) -> Array:
    """(T,) how far the wrist is farther out than the elbow, in the trunk's axes."""
    body = ctx.body
    out: Array = (body.in_trunk(f"{side}_wrist", side) - body.in_trunk(f"{side}_elbow", side))[:, 0]
    return out


def _value(
    ctx: SetContext, side: Side, rep: Rep, outward_m: Array, meant_deg: float, sigma_m: float
) -> RepValue | None:
    """outward_m : (T,) of the whole set; meant_deg : what the standard's own forearm does
    sigma_m : the noise of the wrist's position"""
    body = ctx.body
    window = span_of(body.time_s, rep.start_s, rep.end_s)
    arm_m = body.learned.upper_arm_m[side]
    forearm_m = arm_m * body.learned.forearm_over_upper_arm[side]
    out_m = outward_m[window]
    bend = body.measure("elbow_flexion", side).value[window]
    bent = np.isfinite(out_m) & ~(bend < CHECK.turn_bent_deg)
    share = np.clip(out_m[bent] / forearm_m, -1.0, 1.0)
    if len(share) < 3:
        return None
    gap = float(np.degrees(np.median(np.arcsin(share)))) - meant_deg
    u = float(np.degrees(np.sqrt(2.0) * sigma_m / forearm_m))
    way = "wide" if gap > 0 else "narrow"
    words = f"grip too {way}: the forearm points {abs(gap):.0f}° {'out' if gap > 0 else 'in'}"
    return RepValue(rep.number, abs(gap), u, 0.5 * (rep.start_s + rep.end_s), way, words)


def _meant(ctx: SetContext) -> float:
    """Degrees by which the standard's own forearm points outward, in the median of the lift."""
    poses = poses_along(ctx.standard, np.linspace(0.0, 1.0, _SAMPLES))
    poses = poses[poses[:, 2] >= CHECK.turn_bent_deg]
    return float(np.degrees(np.median(np.arcsin(arm_directions(poses)[1][:, 0]))))


SPEC: Final = CheckSpec(
    "grip-width",
    grip_width,
    "deg",
    72,
    "degrees the forearm points out of its plane for a wide grip",
    ways=("wide", "narrow"),
    shown_by=("hand-path",),
    picture="front",
    praise="Wrist, elbow and shoulder stood in one line.",
)
