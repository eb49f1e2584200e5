"""forearm-turn: the hand is turned otherwise about the forearm than the standard asks at that
point.

Value: the largest departure, over the whole rep, of the palm's turn from the one between the key
poses, settled over 0.25 s. The palm's turn is counted from the way in which the elbow bends; on a
nearly straight arm that way is the standard's own. Needs index and little finger in space: a
picture hardly shows it. Unit: degrees.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    cannot_tell,
    largest,
    settled,
    summarise,
)
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec
from guide_arc.core.kinematics.guide import arm_directions, poses_along, poses_back
from guide_arc.core.kinematics.vectors import Array, across, cross, dot, span_of, unit
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep, Span
from guide_arc.core.model.standard import CheckRule


def forearm_turn(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    out: list[Finding] = []
    for side in ctx.sides:
        blocked = _hidden(ctx, rule, side)
        if blocked:
            out.append(blocked)
            continue
        if _u(ctx, side) > CHECK.turn_unsure_deg:
            why = "the knuckles are found too roughly to say how the hand is turned"
            out.append(cannot_tell(rule, side, rule.limit, "deg", why))
            continue
        values = [_value(ctx, side, rep) for rep in ctx.reps_of(side)]
        out.append(
            summarise(
                rule,
                side,
                [v for v in values if v],
                "deg",
                lambda v: f"forearm turned {v:.0f}° otherwise than asked",
            )
        )
    return out


def _hidden(ctx: SetContext, rule: CheckRule, side: Side) -> Finding | None:
    if ctx.body.cleaned.track.view != "none":
        why = "a picture hardly shows how the hand is turned"
        return cannot_tell(rule, side, rule.limit, "deg", why, by_view=True)
    if not np.isfinite(ctx.body.points[f"{side}_pinky"][:, 1]).any():
        why = "the landmarks of index and little finger are missing from the track"
        return cannot_tell(rule, side, rule.limit, "deg", why)
    return None


def _value(ctx: SetContext, side: Side, rep: Rep) -> RepValue | None:
    times, off = [], []
    for span, back in ((rep.lift, False), (rep.lower, True)):
        time, gap = _gap(ctx, side, span, back)
        times.append(time)
        off.append(gap)
    time, gap = np.concatenate(times), np.concatenate(off)
    if len(time) < 3:
        return None
    return largest(rep, time, np.abs(settled(time, gap)), np.full(len(time), _u(ctx, side)))


def _gap(ctx: SetContext, side: Side, span: Span, back: bool) -> tuple[Array, Array]:
    """(N,) times within a phase, and degrees from the turn that is meant there."""
    body, plan = ctx.body, ctx.standard
    window = span_of(body.time_s, span.start_s, span.end_s)
    asked = plan.range
    drive = body.driven(plan.drive, side).value[window]
    share = np.clip((drive - asked.from_deg) / (asked.to_deg - asked.from_deg), 0.0, 1.0)
    poses = poses_back(plan, share) if back else poses_along(plan, share)
    upper = unit(body.in_trunk(f"{side}_elbow", side)[window])
    fore = unit(
        (body.in_trunk(f"{side}_wrist", side) - body.in_trunk(f"{side}_elbow", side))[window]
    )
    meant_upper, meant_fore = arm_directions(poses)
    bent = dot(upper, fore) < np.cos(np.radians(CHECK.turn_bent_deg))
    meant = across(-meant_upper, meant_fore)
    curl = unit(np.where(bent[:, None], across(-upper, fore), across(meant, fore)))
    line = body.in_trunk(f"{side}_index", side) - body.in_trunk(f"{side}_pinky", side)
    palm = cross(fore, unit(across(line[window], fore)))
    turn = np.degrees(np.arctan2(dot(palm, cross(fore, curl)), dot(palm, curl)))
    gap = (turn - poses[:, 6] + 180.0) % 360.0 - 180.0
    least, most = CHECK.turn_inside_shares
    if back:  # The hand turns once it has left the turn, however far that was.
        most = min(most, float(np.nanmax(share, initial=0.0)) - CHECK.turn_within_share)
    seen = np.isfinite(gap) & (share >= least) & (share <= most)
    return body.time_s[window][seen], gap[seen]


def _u(ctx: SetContext, side: Side) -> float:
    """Degrees by which the noise of two knuckles turns the line between them."""
    body = ctx.body
    wide = np.nanmedian(
        np.linalg.norm(body.points[f"{side}_index"] - body.points[f"{side}_pinky"], axis=1)
    )
    sigma = np.nanmedian(body.cleaned.worst_sigma(f"{side}_index"))
    return float(np.degrees(np.sqrt(2.0) * sigma / max(float(wide), 0.02)))


SPEC: Final = CheckSpec(
    "forearm-turn",
    forearm_turn,
    "deg",
    75,
    "degrees the hand is turned too far about the forearm at the turn",
    shown_by=("range-over",),
    needs=("wrist_bend",),
    evidence="wrist",
)
