"""The numbers that decide in `planning`: when a dose changes, and what a session should hold."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from guide_arc.core.model.rules import rule


@dataclass(frozen=True)
class PlanRules:
    """What the next dose and a session's warnings rest on."""

    most_jump_share: float = rule(
        0.10, "share of the load", "a jump of more than 10 % is questioned (domain, section 9)"
    )
    sessions_of_a_slide: int = rule(
        3, "sessions", "one bad day is a bad day; each worse than the one before is a slide"
    )
    layoff_days: int = rule(
        21, "days", "after three weeks without it the weight is won back, not gone on from"
    )
    weeks_to_deload: int = rule(
        8, "weeks", "so many weeks of training in a row are followed by an easier one"
    )
    break_days: int = rule(9, "days", "a longer pause between two sessions was a rest already")
    tired_days: int = rule(2, "days", "one poor night is a poor night")
    tired_within_days: int = rule(7, "days", "what lies longer ago was slept off")
    more_reps: int = rule(3, "reps", "how far above the range reps go before the next step fits")
    fewest_for_slope: int = rule(4, "sets", "fewer show no course over the weeks")
    most_for_slope: int = rule(120, "sets", "what lies farther back says little of how it goes now")
    sets_without_change: int = rule(
        2, "sets", "a cue after which nothing changes in so many is said another way"
    )
    programme_days: int = rule(21, "days", "what was done in the last three weeks is the programme")
    change_s: float = rule(90.0, "seconds", "formats.md, section 8")
    general_warm_up_s: float = rule(180.0, "seconds", "three minutes of easy movement come first")
    ramp_rest_s: float = rule(45.0, "seconds", "light sets need little rest")
    most_of_opposite: float = rule(
        2.0, "times the sets", "of the front against the back of the shoulders"
    )


PLAN: Final = PlanRules()
# The light sets before the first lift: a share of its weight, and reps.
RAMP: Final = ((0.4, 8), (0.6, 5), (0.8, 2))
