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
    way_least_m: float = rule(
        0.10, "metres", "a way that spreads less across its own direction spans no plane"
    )
    edge_on_share: float = rule(
        0.3, "share of the way's length", "a way this much narrower than long is seen edge on"
    )


PULL: Final = PullRules()
