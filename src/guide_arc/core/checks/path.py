"""The departure of a joint from its guide arc, rep by rep: shared by elbow-path and hand-path."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    cannot_tell,
    hidden,
    leans_to_camera,
    looks_shorter,
    settled,
    summarise,
)
from guide_arc.core.checks.ends import arm_ends
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.kinematics.guide import arm_directions, poses_along
from guide_arc.core.kinematics.path import Departure, Part, departure
from guide_arc.core.kinematics.path_fit import elbow_off
from guide_arc.core.kinematics.pose_fit import fitted_arm
from guide_arc.core.kinematics.vectors import Array, length, median, span_of
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule

_WAYS = (
    ("in towards the midline", "out to the side"),
    ("too low", "too high"),
    ("behind", "ahead"),
)
# The same as a rule names them.
WAYS = ("in", "out", "low", "high", "behind", "ahead")
_NAME = {"elbow": "elbow", "wrist": "hand"}


def path_findings(ctx: SetContext, rule: CheckRule, part: Part) -> list[Finding]:
    """One finding per working arm. A picture shows only what happens in its plane: there it can
    say `off`, and otherwise that it can't tell."""
    view = ctx.body.cleaned.track.view
    out: list[Finding] = []
    for side in ctx.sides:
        blocked = hidden(ctx, rule, "shoulder_elevation", side, "pct")
        if blocked:
            out.append(blocked)
            continue
        if leans_to_camera(ctx) and not ctx.standard.recommends(view):
            out.append(
                cannot_tell(rule, side, rule.limit, "pct", looks_shorter(view), by_view=True)
            )
            continue
        of_pose = _by_pose(ctx, rule, side) if part == "elbow" else None
        if of_pose is not None:
            out.append(of_pose)
            continue
        found = departure(ctx.body, ctx.standard, side, part)
        ends = part == "elbow" and view == "none" and ctx.standard.drive == "elbow_flexion"
        values = [
            _or_end(ctx, side, rep, v) if ends else v
            for rep in ctx.reps_of(side)
            if (v := _worst(ctx, found, rep, part))
        ]
        finding = summarise(
            rule,
            side,
            values,
            "pct",
            lambda _v: f"{_NAME[part]} off its arc",
            of=len(ctx.reps_of(side)),
        )
        if view != "none" and not (part == "wrist" and _bar_from_the_side(ctx)):
            finding = _as_far_as_shows(finding, part)
            if finding.verdict == "off" and _arm_fits(ctx, side, finding):
                why = (
                    f"from the {view} the arm looks as this exercise has it, and only a part of its"
                    " way shows"
                )
                finding = cannot_tell(rule, side, rule.limit, "pct", why, by_view=True)
        out.append(finding)
    return out


def _as_far_as_shows(finding: Finding, part: Part) -> Finding:
    """A finding about the part of a departure in the picture's plane."""
    if finding.verdict == "cannot-tell":
        return finding
    if finding.verdict == "off":
        return replace(finding, partly=True)
    return replace(finding, partly=True, says=f"{_NAME[part]} on its arc, as far as shows here")


def _arm_fits(ctx: SetContext, side: Side, finding: Finding) -> bool:
    """Whether the whole arm looks as the exercise has it at the moment that a finding shows
    most."""
    fit = fitted_arm(ctx.body, ctx.standard, side)
    if fit is None or finding.at_s is None:
        return False
    at = int(np.argmin(np.abs(ctx.body.time_s - finding.at_s)))
    return bool(fit.misfit[at] < CHECK.arm_fits_below)


def _by_pose(ctx: SetContext, rule: CheckRule, side: Side) -> Finding | None:
    """The elbow's departure from its arc, of the pose that fits a picture best; None if there is
    none.

    If an arm that moves towards the camera would look the same as one that moves away, only the
    part in the picture's plane is judged."""
    found = elbow_off(ctx.body, ctx.standard, side)
    if found is None:
        return None
    count = len(ctx.reps_of(side))
    values, hidden_by = [], []
    for rep in ctx.reps_of(side):
        value = _of_pose(ctx, rule, rep, found.off_pct, found.u_pct)
        if value is not None:
            window = span_of(ctx.body.time_s, rep.start_s, rep.end_s)
            values.append(value)
            hidden_by.append(float(np.nanpercentile(found.other_pct[window], 90)))
    whole = summarise(rule, side, values, "pct", lambda _v: "elbow off its arc", of=count)
    hides = bool(hidden_by) and median(np.array(hidden_by)) > rule.limit
    if whole.verdict == "off" or (whole.verdict in ("ok", "near") and not hides) or whole.hint:
        return whole
    parts = (
        _of_pose(ctx, rule, rep, found.seen_pct, found.seen_u_pct) for rep in ctx.reps_of(side)
    )
    seen = [v for v in parts if v is not None]
    part = summarise(rule, side, seen, "pct", lambda _v: "elbow off its arc", of=count)
    return _as_far_as_shows(part, "elbow")


def _of_pose(ctx: SetContext, rule: CheckRule, rep: Rep, off: Array, u: Array) -> RepValue | None:
    """A rep's departure: the surest that is past the limit, else the one that might be most."""
    window = span_of(ctx.body.time_s, rep.start_s, rep.end_s)
    seen = np.isfinite(off[window, 1])
    if seen.sum() < 3:
        return None
    time_s = ctx.body.time_s[window][seen]
    steady = np.stack([settled(time_s, c[window][seen]) for c in off.T], axis=-1)
    own, size = u[window][seen], length(steady)
    i = int(np.argmax(size - 2.0 * own))
    if size[i] <= rule.limit:
        i = int(np.argmax(size + 2.0 * own))
    at_s = float(time_s[i])
    words = f"elbow {size[i]:.0f} % of the arm {way_of(steady[i])}{_when(rep, at_s)}"
    whole = bool(1.0 - seen.mean() <= CHECK.lost_share)
    return RepValue(
        rep=rep.number,
        value=float(size[i]),
        u=float(own[i]),
        at_s=at_s,
        way=_way(steady[i]),
        words=words,
        whole=whole,
    )


def _when(rep: Rep, at_s: float) -> str:
    returning = at_s > rep.lower.start_s + CHECK.way_back_share * rep.lower.length_s
    return " on the way back" if returning else ""


def _bar_from_the_side(ctx: SetContext) -> bool:
    """Whether a picture shows all that a hand can leave its arc by: hands on one bar do not part
    sideways."""
    return ctx.standard.held == "bar" and ctx.body.cleaned.track.view in SIDES


def _worst(ctx: SetContext, found: Departure, rep: Rep, part: Part) -> RepValue | None:
    """The largest settled departure within a rep, which way it goes, and when in the rep."""
    window = span_of(ctx.body.time_s, rep.start_s, rep.end_s)
    off, time, u = found.off_pct[window], ctx.body.time_s[window], found.u_pct[window]
    seen = np.isfinite(off[:, 1])
    if seen.sum() < 3:
        return None
    steady = np.stack([settled(time[seen], off[seen, axis]) for axis in range(3)], axis=-1)
    size = length(steady)
    i = int(np.argmax(size))
    at_s = float(time[seen][i])
    words = f"{_NAME[part]} {size[i]:.0f} % of the arm {way_of(steady[i])}{_when(rep, at_s)}"
    whole = 1.0 - seen.mean() <= CHECK.lost_share
    return RepValue(
        rep=rep.number,
        value=float(size[i]),
        u=float(u[seen][i]),
        at_s=at_s,
        way=_way(steady[i]),
        words=words,
        whole=bool(whole),
    )


def _or_end(ctx: SetContext, side: Side, rep: Rep, on_the_way: RepValue) -> RepValue:
    """The departure of the elbow, at the turn, from where it should be at that bend: while the
    elbow bends, an upper arm may keep to its arc and yet go only half of it."""
    body = ctx.body
    near = np.abs(body.time_s - rep.turn_s) <= CHECK.end_half_window_s
    here = body.in_trunk(f"{side}_elbow", side)[near] / body.learned.upper_arm_m[side]
    here = here[np.isfinite(here[:, 1])]
    if not len(here):
        return on_the_way
    ends, asked = arm_ends(ctx, side, rep), ctx.standard.range
    if ends is None:
        return on_the_way
    # A lift that stops short is short, not off its path: the elbow is compared with its expected
    # place at that bend.
    share = np.clip((ends.turn_deg - asked.from_deg) / (asked.to_deg - asked.from_deg), 0.0, 1.0)
    meant = arm_directions(poses_along(ctx.standard, np.array([share])))[0][0]
    off = 100.0 * (np.median(here, axis=0) - meant)
    gap = float(length(off[None])[0]) - CHECK.end_spare_pct
    if gap <= on_the_way.value:
        return on_the_way
    words = f"elbow ends {gap + CHECK.end_spare_pct:.0f} % of the arm {way_of(off)}"
    return RepValue(rep.number, gap, on_the_way.u, rep.turn_s, _way(off), words)


def way_of(off: Array) -> str:
    """Which way a departure (out, up, ahead) mostly goes, in words."""
    axis, way = _mostly(off)
    return _WAYS[axis][way]


def _way(off: Array) -> str:
    axis, way = _mostly(off)
    return WAYS[2 * axis + way]


def _mostly(off: Array) -> tuple[int, int]:
    """The axis along which a departure is largest, and whether it goes up it."""
    axis = int(np.argmax(np.abs(off)))
    return axis, int(off[axis] > 0)
