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
    longer_layoff_days: int = rule(
        56, "days", "after eight weeks more of the weight has to be won back"
    )
    longest_layoff_days: int = rule(
        182, "days", "after half a year a full number of sets is too much of a start"
    )
    longer_layoff_share: float = rule(
        0.20, "share of the load", "strength fades slowly in the first weeks, clearly over months"
    )
    longest_layoff_share: float = rule(
        0.40,
        "share of the load",
        "after half a year training starts again well below what was lifted",
    )
    layoff_days: int = rule(
        21, "days", "after three weeks without it the weight is won back, not gone on from"
    )
    weeks_to_deload: int = rule(
        8, "weeks", "so many weeks of training in a row are followed by an easier one"
    )
    begun_again_share: float = rule(
        0.25,
        "share of the load",
        "who goes on from so far below begins again, and is not worn out by the weeks before",
    )
    break_days: int = rule(9, "days", "a longer pause between two sessions was a rest already")
    tired_days: int = rule(2, "days", "one poor night is a poor night")
    tired_within_days: int = rule(7, "days", "what lies longer ago was slept off")
    more_reps_share: float = rule(
        0.25,
        "share of the upper number",
        "how far above it reps go before a large step is asked for",
    )
    sessions_before_a_step: int = rule(
        2, "sessions", "one good day does not carry a step of more than a tenth"
    )
    step_memory_days: int = rule(
        120, "days", "what was held within four months need not be shown again after an easier week"
    )
    sessions_after_pain: int = rule(
        2, "sessions", "the first session without pain does not show yet that it is over"
    )
    nearly_share: float = rule(
        0.8,
        "share of the lower number",
        "clean reps that come so near are done once more before the weight goes down",
    )
    after_pain_share: float = rule(
        0.6,
        "share of the load",
        "what hurt is loaded again from well below, once a clinician has cleared it",
    )
    breaks_of_last: int = rule(
        2,
        "sessions of the last three",
        "a weight at which form breaks again and again is too heavy",
    )
    reserve_window: int = rule(
        16, "sessions", "two months of training twice a week show whether form breaks often"
    )
    breaks_for_reserve: int = rule(
        1,
        "sessions of the last sixteen",
        "one phone films one set of three or four, so one break that is seen stands for several",
    )
    break_window: int = rule(3, "sessions", "what broke before was another day's form")
    fewest_for_slope: int = rule(6, "sets", "fewer show no course over the weeks")
    worth_telling_share: float = rule(
        0.1, "share of the check's limit", "a smaller change over all the weeks is not worth a word"
    )
    fewest_for_effect: int = rule(4, "sets", "before and after together, to tell scatter at all")
    most_before_cue: int = rule(4, "sets", "what was long before says little of how it was")
    fewest_after_cue: int = rule(3, "sets", "one set after a cue is as often better by chance")
    fewest_days: int = rule(4, "days", "many sets of few days say what these days were like")
    most_for_slope: int = rule(120, "sets", "what lies farther back says little of how it goes now")
    sets_without_change: int = rule(
        2, "sets", "a cue after which nothing changes in so many is said another way"
    )
    programme_days: int = rule(21, "days", "what was done in the last three weeks is the programme")
    change_s: float = rule(90.0, "seconds", "formats.md, section 8")
    general_warm_up_s: float = rule(180.0, "seconds", "three minutes of easy movement come first")
    ramp_rest_s: float = rule(45.0, "seconds", "light sets need little rest")
    most_sets_of_region: int = rule(
        12, "sets", "more of one region in one session wears out more than it builds"
    )
    most_presses_running: int = rule(
        2, "lines", "a third overhead press in a row is done with tired shoulders"
    )
    most_of_opposite: float = rule(
        2.0, "times the sets", "of the front against the back of the shoulders"
    )


PLAN: Final = PlanRules()
# The light sets before the first lift: a share of its weight, and reps.
RAMP: Final = ((0.4, 8), (0.6, 5), (0.8, 2))
