"""The numbers that decide in `checks`: what the checks share."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from guide_arc.core.model.rules import rule


@dataclass(frozen=True)
class CheckRules:
    """What the checks share."""

    lost_share: float = rule(
        0.15,
        "share of a rep",
        "a rep of which more was lost shows no more than what is past a limit",
    )
    kept_up_s: float = rule(0.5, "seconds", "a wrist that bends stays bent for so long")
    settle_s: float = rule(
        0.25, "seconds", "single frames carry noise; what shows for this long is seen"
    )
    end_half_window_s: float = rule(
        0.1, "seconds", "an end of a rep is looked at this long to either side"
    )
    end_point_picture_u_pct: float = rule(
        5.0,
        "percent of the trunk",
        "a hand nearer to the camera than the trunk is seen this much off its height",
    )
    leans_from_deg: float = rule(
        20.0,
        "degrees",
        "from the front a trunk that leans by more shows no heights along itself",
    )
    end_spare_pct: float = rule(
        12.0,
        "percent of the upper arm",
        "where a lift ends varies by more than how far the elbow is off its line",
    )
    fewest_for_fatigue: int = rule(5, "reps", "fewer show no trend")
    burst_s: float = rule(
        0.2,
        "seconds",
        "a burst is the share of the lift done in the fastest stretch of this length",
    )
    burst_cutoff_hz: float = rule(5.0, "hertz", "speeds are looked at below it")
    blur_share: float = rule(
        0.02, "share of a phase", "how far each of its ends may be off, in space"
    )
    picture_blur_share: float = rule(
        0.03, "share of a phase", "the same in a picture, which shows slow ends poorly"
    )
    lag_limit_s: float = rule(
        0.3, "seconds", "arms that are meant to work together turn within this of one another"
    )
    slack_least_u: float = rule(0.01, "share of the lift", "the grid's own step")
    way_back_share: float = rule(
        0.15,
        "share of the lowering",
        "what shows later than this after the turn is told as on the way back",
    )
    upright_deg: float = rule(
        12.0,
        "degrees",
        "a setup that leans by more can be too upright; any other is left either way",
    )
    hand_beside_arms: float = rule(
        0.3, "upper arms", "by which a hand at the ear stands farther out than it"
    )
    arm_fits_below: float = rule(
        2.0, "times the usual misfit", "an arm that fits better looks as the exercise has it"
    )
    drift_aside_deg: float = rule(
        12.0,
        "degrees",
        "from a camera farther aside an arm that comes forward leaves the picture's plane",
    )
    swing_picture_share: float = rule(
        0.08, "share of the swing", "what a camera that stands a little aside makes of it"
    )
    turn_unsure_deg: float = rule(
        15.0, "degrees", "a line between knuckles that is less sure may point anywhere at times"
    )
    no_wrist_bends_deg: float = rule(
        95.0,
        "degrees",
        "the most that a wrist gives way to a load; what seems to be more is misplaced",
    )
    turn_bent_deg: float = rule(
        25.0, "degrees", "on a straighter arm its own way of bending is noise"
    )
    turn_inside_shares: tuple[float, float] = rule(
        (0.12, 0.92),
        "share of the way",
        "the hand turns as it sets off and comes back: it is judged between",
    )
    turn_within_share: float = rule(
        0.25, "share of the way", "on the way down the hand turns only once it has left the turn"
    )
    slope_gain: float = rule(
        4.0, "times the noise", "what a cubic's slope adds to the noise of its samples"
    )


@dataclass(frozen=True)
class SpineRules:
    """When a back keeps its natural bend."""

    usual_bend_deg: float = rule(
        10.0, "degrees", "the bend at the lowest rib of people who stand at rest"
    )
    usual_bend_u_deg: float = rule(3.5, "degrees", "standard deviation of it between people")
    own_rest_u_deg: float = rule(
        1.5, "degrees", "of one person's own rest, from one stand to the next"
    )
    believed_rest_deg: tuple[float, float] = rule(
        (-5.0, 30.0),
        "degrees",
        "a rest outside is no rest: misplaced points, or a back that is bent already",
    )
    upright_until_deg: float = rule(20.0, "degrees", "a trunk that leans by less is upright")
    rest_least_s: float = rule(0.3, "seconds", "of standing upright outside the reps")
    seen_share: float = rule(0.6, "share of a rep", "a back that was seen for less is not judged")
    picture_share: float = rule(
        0.12, "share of the value", "what a camera up to 25 degrees aside makes of a bend"
    )
    said_from_deg: float = rule(3.0, "degrees", "less is not put into words")
    part_from_deg: float = rule(
        6.0, "degrees", "from which one part of the back is said to move and not the other"
    )
    stays_share: float = rule(
        0.5,
        "share",
        "what of a point's place is off otherwise once its part of the body has turned",
    )
    thigh_u_deg: float = rule(2.0, "degrees", "of where hip and knee are seen under clothes")


CHECK: Final = CheckRules()
SPINE: Final = SpineRules()
