"""The numbers that decide in `review`: what is concluded."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from guide_arc.core.model.rules import rule


@dataclass(frozen=True)
class ReviewRules:
    """What is concluded from findings."""

    enough_for_weight: int = rule(
        3, "checks", "so many that say the weight rules make the weight the cause"
    )
    fewest_for_trend: int = rule(4, "reps", "fewer show no trend")
    fewest_before_break: int = rule(2, "reps", "form can only break after it held")
    clean_share: float = rule(
        0.25,
        "share of the reps",
        "before the break at most so many are off, and from it on at least the rest",
    )
    stature_u: float = rule(
        0.05,
        "share",
        "a length from the stature by the trunk's usual share of it, from the spread of bodies",
    )
    no_stature_u: float = rule(0.07, "share", "and without a stature")
    flat_share: float = rule(
        0.5,
        "share of the range's tolerance",
        "a lift that a picture shows nearer to this lies in its plane",
    )
    picture_edge_share: float = rule(
        0.07, "share of the picture", "a lens bends lines most in its outer part"
    )
    edge_often_share: float = rule(
        0.1, "share of the samples", "a joint that is there this often is told"
    )


REVIEW: Final = ReviewRules()
