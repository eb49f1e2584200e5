"""line-of-pull: the cable runs off the plane in which the arm works.

Value: the mean angle, over the lift, between the line from hand to pulley and the plane of the
hand's path about the working joint. Needs the pulley as a point of the recording: if only the
standard gives its place, the recording cannot show it; a kept setup tells. A picture shows it if
that plane is seen edge-on and the cable runs nearly parallel to the picture. Unit: degrees."""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, cannot_tell, hidden, summarise
from guide_arc.core.checks.pulling import Lift, lift_of, pull_or_why, working_joint
from guide_arc.core.checks.spec import CheckSpec
from guide_arc.core.mechanics.off_plane import off_plane_in_picture
from guide_arc.core.mechanics.pull import Pull, working_plane
from guide_arc.core.mechanics.rules import PULL
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.standard import CheckRule


def line_of_pull(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    out: list[Finding] = []
    for side in ctx.sides:
        blocked = hidden(ctx, rule, "shoulder_elevation", side, "deg")
        if blocked is not None:
            out.append(blocked)
            continue
        pull, blocked = pull_or_why(ctx, rule, side, "deg")
        if pull is None or pull.pulley is None:
            free = "a free weight pulls straight down, whatever the setup"
            out.append(blocked or cannot_tell(rule, side, rule.limit, "deg", free))
            continue
        if pull.assumed:
            why = "the recording does not show the pulley; mark it to see the cable's line"
            out.append(cannot_tell(rule, side, rule.limit, "deg", why))
            continue
        if ctx.body.cleaned.track.view != "none":
            out.append(_in_picture(ctx, rule, side, pull))
            continue
        far = float(np.nanmedian(np.linalg.norm(pull.pulley - pull.hand, axis=1)))
        values = []
        for rep in ctx.reps_of(side):
            lift = lift_of(ctx, side, rep, pull, working_joint(rep.measure))
            if (
                lift is not None
                and ctx.lift_seen(side, rep)
                and (angle := _off_plane(lift)) is not None
            ):
                u = np.degrees(
                    np.hypot(pull.u_m / far, 2.0 * lift.sigma_m / PULL.way_least_m / 3.0)
                )
                values.append(RepValue(rep.number, angle, float(u), rep.lift.start_s))
        out.append(
            summarise(rule, side, values, "deg", lambda v: f"cable {v:.0f}° off the arm's plane")
        )
    return out


def _in_picture(ctx: SetContext, rule: CheckRule, side: Side, pull: Pull) -> Finding:
    """Judged where the picture shows the plane of the hand's way edge on."""
    values = []
    for rep in ctx.reps_of(side):
        if not ctx.lift_seen(side, rep):
            continue
        found = off_plane_in_picture(ctx.body, ctx.standard, side, pull, [rep.lift])
        if found is not None:
            values.append(RepValue(rep.number, found.value, found.u, rep.lift.start_s))
    if not values:
        why = "the picture does not show how far off its plane the cable runs"
        return cannot_tell(rule, side, rule.limit, "deg", why, by_view=True)
    return summarise(rule, side, values, "deg", lambda v: f"cable {v:.0f}° off the arm's plane")


def _off_plane(lift: Lift) -> float | None:
    """Degrees between the pull and the plane of the hand's way about the joint; None if that
    way spans no plane."""
    normal = working_plane(lift.place_m)
    if normal is None:
        return None
    sine = lift.toward @ normal
    return float(np.degrees(np.mean(np.arcsin(np.clip(np.abs(sine), 0.0, 1.0)))))


SPEC: Final = CheckSpec(
    "line-of-pull",
    line_of_pull,
    "deg",
    200,
    "degrees the cable runs off the arm's plane",
    shown_by=("slack-zone",),
    needs=("wrist_bend",),
    needs_points=("{side}_ankle", "{side}_pulley"),
    wish="in_plane",
)
