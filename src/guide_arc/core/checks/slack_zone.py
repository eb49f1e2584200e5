"""slack-zone: part of the lift has no resistance.

Value: the share of the lift's range in which the pull's lever arm, of the whole arm from the
shoulder per degree of the driving measure, is below 15 % of its largest in that lift
(`mechanics/resistance.py`). A free weight's direction is known in every view; a cable needs its
pulley, a kept setup, or in space the standard's own place for it. In a picture the path must be in
its plane, and the unknown depth of the pulley is part of the uncertainty. Unit: percent."""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, cannot_tell, hidden, summarise
from guide_arc.core.checks.pulling import Lift, lift_of, pull_or_why
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec
from guide_arc.core.kinematics.guide import arm_path
from guide_arc.core.kinematics.vectors import Array, length, unit
from guide_arc.core.kinematics.views import hidden_axis
from guide_arc.core.mechanics.kit import HANDS_WIDTH_M
from guide_arc.core.mechanics.pull import Pull
from guide_arc.core.mechanics.resistance import SLACK_SHARE, lever_along, slack_share
from guide_arc.core.mechanics.rules import PULL
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule
from guide_arc.core.model.track import View


def slack_zone(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    out: list[Finding] = []
    for side in ctx.sides:
        blocked = hidden(ctx, rule, "shoulder_elevation", side, "pct")
        if blocked is not None:
            out.append(blocked)
            continue
        pull, blocked = pull_or_why(ctx, rule, side, "pct")
        if pull is None:
            assert blocked is not None
            out.append(blocked)
            continue
        if not _way_is_seen(ctx):
            why = "the picture does not show the cable's true direction"
            out.append(cannot_tell(rule, side, rule.limit, "pct", why, by_view=True))
            continue
        values = []
        for rep in ctx.reps_of(side):
            lift = lift_of(ctx, side, rep, pull, "shoulder")
            if lift is not None and ctx.lift_seen(side, rep):
                share, u = _slack(lift, pull, ctx.body.cleaned.track.view)
                values.append(RepValue(rep.number, 100 * share, 100 * u, rep.lift.start_s))
        if not values and ctx.body.cleaned.track.view != "none":
            why = "the picture does not show how far the lift is done"
            out.append(cannot_tell(rule, side, rule.limit, "pct", why, by_view=True))
            continue
        out.append(
            summarise(
                rule, side, values, "pct", lambda v: f"{v:.0f} % of the lift has no resistance"
            )
        )
    return out


def _way_is_seen(ctx: SetContext) -> bool:
    """Whether the picture's plane holds the arm's way, so that it shows how a cable pulls against
    it."""
    axis = hidden_axis(ctx.body.cleaned.track.view)
    if axis is None or ctx.standard.pull != "cable":
        return True
    hand = arm_path(ctx.standard)["wrist"]
    shown = np.ones(3)
    shown[axis] = 0.0
    seen = float(length(np.diff(shown * hand, axis=0)).sum())
    return float(np.ptp(hand[:, axis])) <= PULL.in_picture_share * seen


def _slack(lift: Lift, pull: Pull, view: View) -> tuple[float, float]:
    """The slack share and its standard uncertainty: how it changes with the uncertainty of the
    lever and of the pulley's place."""
    lever = lever_along(lift.share, lift.place_m, lift.toward, lift.turn_rad)
    most = max(float(lever.max()), 1e-3)
    # Smoothed samples are alike for about a fifth of a second: a lift holds a handful of them.
    wrong = CHECK.slope_gain * lift.sigma_m / np.sqrt(max(len(lift.share) / 6.0, 1.0)) / most
    low, high = (slack_share(lever, SLACK_SHARE + s * wrong) for s in (-1, 1))
    u = float(np.hypot(CHECK.slack_least_u, 0.5 * (high - low)))
    if lift.far_m is None or view == "none":
        return slack_share(lever), u
    return _with_doubt_of_the_pulley(lift, pull, slack_share(lever), u)


def _with_doubt_of_the_pulley(
    lift: Lift, pull: Pull, share: float, u: float
) -> tuple[float, float]:
    """The same for a cable in a picture: it may run towards the camera or away, and start a little
    off its place."""
    assert lift.far_m is not None
    far = np.maximum(lift.far_m, HANDS_WIDTH_M)
    # A cable that leaves the picture's plane pulls less within it, most of all if the hand is near
    # the pulley.
    slanted = lift.toward * (far / np.hypot(far, PULL.beside_picture_m))[:, None]
    shares = [slack_share(lever_along(lift.share, lift.place_m, slanted, lift.turn_rad))]
    turn = pull.u_m / far
    for way in (-1.0, 1.0):
        turned = lift.toward + way * turn[:, None] * _across(lift.toward)
        shares.append(
            slack_share(lever_along(lift.share, lift.place_m, unit(turned), lift.turn_rad))
        )
    middle = 0.5 * (share + shares[0])
    return middle, float(
        np.sqrt(u**2 + (0.5 * (share - shares[0])) ** 2 + (0.5 * (shares[2] - shares[1])) ** 2)
    )


def _across(toward: Array) -> Array:
    """(N, 3) at right angles to a pull, in the picture: the axis that it hides is 0 in all of
    them."""
    shown = [axis for axis in range(3) if np.any(np.abs(toward[:, axis]) > 0.0)][:2]
    out = np.zeros_like(toward)
    if len(shown) == 2:
        out[:, shown[0]], out[:, shown[1]] = -toward[:, shown[1]], toward[:, shown[0]]
    return out


SPEC: Final = CheckSpec(
    "slack-zone",
    slack_zone,
    "pct",
    210,
    "percent of the lift without resistance, by where the pulley stands",
    needs=("wrist_bend",),
    needs_points=("{side}_ankle", "{side}_pulley"),
    wish="no_slack",
)
