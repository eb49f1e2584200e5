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
_LAST: Final = ("knuckles", "index", "pinky", "foot")
_SHORT_OF_HALF: Final = 3.0
_ON_THE_JOINT: Final = 0.06


@dataclass(frozen=True)
class Limb:
    """A limb from joint a to joint b. share_a, share_b : how far from that end, of its length, an anchor
    lies"""

    a: str
    b: str
    share_a: float
    share_b: float

    def anchors(self, a: Spot, b: Spot) -> tuple[Spot, Spot]:
        """Where the two anchors lie between the ends."""
        along = b - a
        return a + self.share_a * along, b - self.share_b * along

    def ends(self, near_a: Spot, near_b: Spot) -> tuple[Spot, Spot]:
        """Where the ends are, from the anchors."""
        whole = (near_b - near_a) / (1.0 - self.share_a - self.share_b)
        return near_a - self.share_a * whole, near_b + self.share_b * whole


def limbs_between(first: Mapping[str, Spot], half: int) -> tuple[Limb, ...]:
    """The limbs whose two ends are marked. `first`: where each joint was marked first; `half`: half the
    side of a patch, which an anchor keeps from the joint."""
    out = []
    for side in SIDES:
        for part_a, part_b in _JOINED:
            a, b = f"{side}_{part_a}", f"{side}_{part_b}"
            if a in first and b in first:
                long = max(float(np.hypot(*(first[b] - first[a]))), 1.0)
                share = float(np.clip(0.8 * half / long, *_SHARES))
                # A hand is so short that its far end would be drawn out of a few pixels: there the anchor
                # lies on the joint itself, where no other limb begins.
                short = part_b in _LAST and long < _SHORT_OF_HALF * half
                out.append(Limb(a, b, share, _ON_THE_JOINT if short else share))
    # Seen from the front or the back, hips and shoulders are as if on a bar, with cloth between.
    for part in ("hip", "shoulder"):
        a, b = f"left_{part}", f"right_{part}"
        if a in first and b in first:
            out.append(Limb(a, b, _SHARES[1], _SHARES[1]))
    return tuple(out)


def loose_points(names: Iterable[str], limbs: tuple[Limb, ...]) -> tuple[str, ...]:
    """The points that are on no limb: kit, the head, joints without a neighbour."""
    held = {n for limb in limbs for n in (limb.a, limb.b)}
    return tuple(n for n in names if n not in held)


def direction_deg(a: Spot, b: Spot) -> float:
    """The direction from a to b in the picture."""
    return float(np.degrees(np.arctan2(b[1] - a[1], b[0] - a[0])))
