"""What line-of-pull and slack-zone share: the lift's samples about a joint."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.checks.context import SetContext, cannot_tell
from guide_arc.core.kinematics.vectors import Array, length, seen_median, span_of
from guide_arc.core.mechanics.pull import Pull, pull_of
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule

_FEWEST: Final = 8


@dataclass(frozen=True, eq=False)
class Lift:
    """One lift of one arm.

    share : (N,) of the turn that is done; place_m : (N, 3) the hand from the joint
    toward : (N, 3) unit direction of the pull; turn_rad : the whole turn
    sigma_m : standard uncertainty of a coordinate of the place; far_m : (N,) from the hand to the
        pulley, if there is one
    """

    share: Array
    place_m: Array
    toward: Array
    turn_rad: float
    sigma_m: float
    far_m: Array | None = None


def working_joint(measure: str) -> str:
    """The joint that a driving measure turns."""
    return "elbow" if measure == "elbow_flexion" else "shoulder"


def pull_or_why(
    ctx: SetContext, rule: CheckRule, side: Side, unit: str
) -> tuple[Pull | None, Finding | None]:
    """The pull on a hand, or a finding that says why it is not known."""
    pull = pull_of(ctx.body, ctx.standard, side)
    if pull is not None:
        return pull, None
    kit = ctx.standard.pull
    in_picture = kit == "cable" and ctx.body.cleaned.track.view != "none"
    why = (
        "the picture does not show where the cable comes from"
        if in_picture
        else f"where a {kit.replace('-', ' ')} pulls is not known from the recording"
    )
    return None, cannot_tell(rule, side, rule.limit, unit, why, by_view=in_picture)


def lift_of(ctx: SetContext, side: Side, rep: Rep, pull: Pull, joint: str) -> Lift | None:
    """The samples of a rep's lift about a joint; None where too few were seen."""
    body = ctx.body
    window = span_of(body.time_s, rep.lift.start_s, rep.lift.end_s)
    angle = ctx.driven(side).value[window]
    place = (pull.hand - body.points[f"{side}_{joint}"])[window]
    seen = np.isfinite(angle) & np.isfinite(place[:, 1])
    if seen.sum() < _FEWEST:
        return None
    angle = angle[seen]
    turn = angle[-1] - angle[0]
    if abs(turn) < 10.0:
        return None
    share = np.clip((angle - angle[0]) / turn, 0.0, 1.0)
    sigma = np.hypot(body.cleaned.sigma(f"{side}_wrist"), body.cleaned.sigma(f"{side}_{joint}"))
    return Lift(
        share,
        place[seen],
        pull.toward[window][seen],
        float(np.radians(abs(turn))),
        seen_median(sigma),
        None if pull.pulley is None else length(pull.pulley - pull.hand)[window][seen],
    )
