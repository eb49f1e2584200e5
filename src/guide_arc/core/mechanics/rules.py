"""The numbers that decide in `mechanics`: where a kit pulls."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from guide_arc.core.model.rules import rule


@dataclass(frozen=True)
class PullRules:
    """Where a kit pulls."""

    ankle_above_floor_m: float = rule(
        0.07, "metres", "from the ankle's centre to the floor in a usual body"
    )
    marked_u_m: float = rule(
        0.03, "metres", "a tracked pulley may stand this far beside the true one"
    )
    beside_picture_m: float = rule(
        0.5,
        "metres",
        "how far nearer or farther than the hand a pulley may stand that a picture shows",
    )
    in_picture_share: float = rule(
        0.4, "share of the way seen", "a hand that goes farther in depth leaves the picture's plane"
    )
    goes_along_deg: float = rule(
        45.0, "degrees", "an upper arm that turns by more works itself; the elbow goes along"
    )
    way_least_m: float = rule(
        0.10, "metres", "a way that spreads less across its own direction spans no plane"
    )
    edge_on_share: float = rule(
        0.3, "share of the way's length", "a way this much narrower than long is seen edge on"
    )


PULL: Final = PullRules()
