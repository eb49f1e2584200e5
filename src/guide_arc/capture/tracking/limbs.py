"""The limbs between marked joints: what moves as one piece in a picture.

A joint itself looks different in every posture, as two limbs meet in it. Each limb keeps its look: two
anchors on it, one near either end, are followed, and the joint is where the line through them ends.
The share of the line beyond an anchor stays the same when a limb is foreshortened.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.model.landmarks import SIDES

Spot = NDArray[np.float64]

_JOINED: Final = (
    ("shoulder", "elbow"), ("elbow", "wrist"), ("wrist", "knuckles"), ("wrist", "index"),
    ("wrist", "pinky"), ("hip", "shoulder"), ("hip", "knee"), ("knee", "ankle"), ("heel", "foot"),
)  # fmt: skip
_SHARES: Final = (0.14, 0.30)


@dataclass(frozen=True)
class Limb:
    """A limb from joint a to joint b. `share`: how far from its end, of its length, an anchor lies."""

    a: str
    b: str
    share: float

    def anchors(self, a: Spot, b: Spot) -> tuple[Spot, Spot]:
        """Where the two anchors lie between the ends."""
        along = b - a
        return a + self.share * along, b - self.share * along

    def ends(self, near_a: Spot, near_b: Spot) -> tuple[Spot, Spot]:
        """Where the ends are, from the anchors."""
        beyond = self.share / (1.0 - 2.0 * self.share) * (near_b - near_a)
        return near_a - beyond, near_b + beyond


def limbs_between(first: Mapping[str, Spot], half: int) -> tuple[Limb, ...]:
    """The limbs whose two ends are marked. `first`: where each joint was marked first; `half`: half the
    side of a patch, which an anchor keeps from the joint."""
    out = []
    pairs = [(f"left_{part}", f"right_{part}") for part in ("hip", "shoulder")]
    for side in SIDES:
        for part_a, part_b in _JOINED:
            a, b = f"{side}_{part_a}", f"{side}_{part_b}"
            if a in first and b in first:
                long = max(float(np.hypot(*(first[b] - first[a]))), 1.0)
                out.append(Limb(a, b, float(np.clip(0.8 * half / long, *_SHARES))))
    # Seen from the front or the back, hips and shoulders are as if on a bar, with cloth between.
    for a, b in pairs:
        if a in first and b in first:
            out.append(Limb(a, b, _SHARES[1]))
    return tuple(out)


def loose_points(names: Iterable[str], limbs: tuple[Limb, ...]) -> tuple[str, ...]:
    """The points that are on no limb: kit, the head, joints without a neighbour."""
    held = {n for limb in limbs for n in (limb.a, limb.b)}
    return tuple(n for n in names if n not in held)


def direction_deg(a: Spot, b: Spot) -> float:
    """The direction from a to b in the picture."""
    return float(np.degrees(np.arctan2(b[1] - a[1], b[0] - a[0])))
