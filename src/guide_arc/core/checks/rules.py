"""The numbers that decide in `checks`: what the checks share."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from guide_arc.core.model.rules import rule


@dataclass(frozen=True)
class CheckRules:
    """What the checks share."""

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
        0.05, "share of a phase", "the same in a picture, which shows slow ends poorly"
    )
    lag_limit_s: float = rule(
        0.3, "seconds", "arms that are meant to work together turn within this of one another"
    )
    pulley_u_m: float = rule(
        0.03, "metres", "a tracked pulley may stand this far beside the true one"
    )
    slack_least_u: float = rule(0.01, "share of the lift", "the grid's own step")
    slope_gain: float = rule(
        4.0, "times the noise", "what a cubic's slope adds to the noise of its samples"
    )


CHECK: Final = CheckRules()
