"""The limbs between marked joints: what moves as one piece in a picture, each about the joint above
it."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.model.landmarks import SIDES

Spot = NDArray[np.float64]

# From the joint above to the joint below, those near the trunk first; and how far a strip that
# holds the limb with a margin reaches from its line to either side, as a share of its length.
_HANGING: Final = (
    ("shoulder", "elbow", 0.21),
    ("hip", "knee", 0.30),
    ("elbow", "wrist", 0.21),
    ("knee", "ankle", 0.26),
    ("wrist", "knuckles", 0.75),
    ("wrist", "index", 0.75),
    ("wrist", "pinky", 0.75),
    ("ankle", "foot", 0.5),
    ("heel", "foot", 0.5),
)
# From the side, where one shoulder and one hip are marked, trunk and head turn about the shoulder.
# A hip on plain cloth under a moving arm can't be tracked by what is around it.
_TRUNK: Final = (("shoulder", "hip", 0.24), ("shoulder", "ear", 0.45))
_HAND: Final = ("knuckles", "index", "pinky")


@dataclass(frozen=True)
class Limb:
    """A limb from the joint above, a, to the joint below, b. wide : half the width of its strip, as
    a share of its length; short : whether it is a hand, too short to turn far about its joint
    unseen"""

    a: str
    b: str
    wide: float
    short: bool


def limbs_between(marked: Mapping[str, Collection[int]]) -> tuple[Limb, ...]:
    """The limbs whose two ends are marked on one frame, those near the trunk first; each point ends
    one limb at most.

    marked : by point, the frames on which it is marked
    """
    out, ended = [], set()
    corners = {n for n in marked if n.endswith(("_shoulder", "_hip"))}
    one_side = any(corners == {f"{side}_shoulder", f"{side}_hip"} for side in SIDES)
    for above, below, wide in (*_TRUNK, *_HANGING) if one_side else _HANGING:
        for side in SIDES:
            a, b = f"{side}_{above}", f"{side}_{below}"
            if b not in ended and set(marked.get(a, ())) & set(marked.get(b, ())):
                out.append(Limb(a, b, wide, below in _HAND))
                ended.add(b)
    return tuple(out)


def is_trunk(limb: Limb) -> bool:
    """Whether a limb is the trunk or the head. Its end is tracked by what is around it, too."""
    return limb.b.partition("_")[2] in ("hip", "ear")


def roots_among(names: Iterable[str], limbs: tuple[Limb, ...]) -> tuple[str, ...]:
    """The points that no limb ends in: shoulders, hips, kit, joints without a neighbour."""
    ended = {limb.b for limb in limbs}
    return tuple(n for n in names if n not in ended)
