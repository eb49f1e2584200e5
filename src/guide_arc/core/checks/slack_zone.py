"""slack-zone: part of the lift has no resistance.

Value: the share of the lift's range in which the pull's lever arm, of the whole arm from the shoulder
per degree of the driving measure, is below 15 % of its largest in that lift
(`mechanics/resistance.py`). A free weight's direction is known in
every view; a cable needs its pulley, or in space the standard's own place for it. Unit: percent.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, cannot_tell, no_rep, summarise
from guide_arc.core.checks.pulling import Lift, lift_of, pull_or_why
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec
from guide_arc.core.mechanics.resistance import SLACK_SHARE, lever_along, slack_share
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule


def slack_zone(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    out: list[Finding] = []
    for side in ctx.sides:
        if not ctx.reps_of(side):
            out.append(no_rep(ctx, rule, side, "pct"))
            continue
        pull, blocked = pull_or_why(ctx, rule, side, "pct")
        if pull is None:
            assert blocked is not None
            out.append(blocked)
            continue
        if ctx.body.cleaned.track.view != "none" and ctx.standard.pull == "cable":
            why = "a picture does not show the cable's true direction"
            out.append(cannot_tell(rule, side, rule.limit, "pct", why, by_view=True))
            continue
        values = []
        for rep in ctx.reps_of(side):
            lift = lift_of(ctx, side, rep, pull, "shoulder")
            if lift is not None:
                share, u = _slack(lift)
                values.append(RepValue(rep.number, 100 * share, 100 * u, rep.lift.start_s))
        out.append(
            summarise(
                rule, side, values, "pct", lambda v: f"{v:.0f} % of the lift has no resistance"
            )
        )
    return out


def _slack(lift: Lift) -> tuple[float, float]:
    """The slack share and its standard uncertainty: how it changes when the bar that a lever must
    reach moves by the lever's own uncertainty."""
    lever = lever_along(lift.share, lift.place_m, lift.toward, lift.turn_rad)
    most = max(float(lever.max()), 1e-3)
    # Smoothed samples are alike for about a fifth of a second: a lift holds a handful of them.
    wrong = CHECK.slope_gain * lift.sigma_m / np.sqrt(max(len(lift.share) / 6.0, 1.0)) / most
    low, high = (slack_share(lever, SLACK_SHARE + s * wrong) for s in (-1, 1))
    return slack_share(lever), float(np.hypot(CHECK.slack_least_u, 0.5 * (high - low)))


SPEC: Final = CheckSpec(
    "slack-zone", slack_zone, "pct", 210, "percent of the lift without resistance, by where the pulley stands",
    needs=("wrist_bend",), needs_points=("{side}_ankle", "{side}_pulley"), wish="no_slack",
)  # fmt: skip
