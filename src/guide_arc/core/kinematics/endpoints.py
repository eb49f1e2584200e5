"""Where a hand should finish: each target defined once, from landmarks.

A target says what is still missing at each frame in percent of the trunk's length: positive
short of it, negative past it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.measures import middle
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.landmarks import Side


@dataclass(frozen=True)
class Target:
    """words : as said to a client; views : the recordings that show it, best picture second"""

    words: str
    views: tuple[str, ...]
    missing: Callable[[Body, Side], Array]


def _along(body: Body, row: int, from_m: Array, to_m: Array) -> Array:
    """From one point to another along a trunk axis (0 left, 1 up, 2 ahead), % of the trunk."""
    gap = np.einsum("ti,ti->t", body.trunk_frame[:, row], to_m - from_m)
    out: Array = 100.0 * gap / np.nanmedian(body.trunk_m)
    return out


def hand(body: Body, side: Side) -> Array:
    """(T, 3) the middle of the knuckles, where a bar or handle is held; the wrist without them."""
    knuckles = 0.5 * (body.points[f"{side}_index"] + body.points[f"{side}_pinky"])
    return np.where(np.isnan(knuckles), body.points[f"{side}_wrist"], knuckles)


def _nose_height(body: Body, side: Side) -> Array:
    """The hand level with the nose."""
    return _along(body, 1, hand(body, side), body.points["nose"])


def _eye_level(body: Body, side: Side) -> Array:
    """The hand level with the ears: ears and eyes lie on one level in an upright head."""
    return _along(body, 1, hand(body, side), middle(body.points, "ear"))


def _midline(body: Body, side: Side) -> Array:
    """The hand across the middle of the shoulders."""
    away = _along(body, 0, middle(body.points, "shoulder"), hand(body, side))
    return away if side == "left" else -away


def _waist(body: Body, side: Side) -> Array:
    """The hand back to the front of the waist: a sixth of the trunk ahead of its axis."""
    return _along(body, 2, middle(body.points, "hip"), hand(body, side)) - 100.0 / 6.0


TARGETS: Final[dict[str, Target]] = {
    "nose-height": Target("nose height", ("none", "left", "right", "front", "back"), _nose_height),
    "eye-level": Target("eye level", ("none", "left", "right", "front", "back"), _eye_level),
    "midline": Target("the midline", ("none", "front", "back"), _midline),
    "waist": Target("the waist", ("none", "left", "right"), _waist),
}


# Heights along the trunk, percent of the way from hips to shoulders, lowest first.
LEVELS: Final[tuple[tuple[float, str], ...]] = (
    (-60.0, "the knees"), (-25.0, "the thighs"), (0.0, "the hips"), (18.0, "the navel"),
    (45.0, "the lower ribs"), (62.0, "the lower sternum"), (74.0, "the nipple line"),
    (90.0, "the upper chest"), (104.0, "the shoulders"), (122.0, "the chin"), (134.0, "the nose"),
    (142.0, "the eyes"), (160.0, "the top of the head"),
)  # fmt: skip
_ABOVE: Final = 172.0


def height_words(height_pct: float) -> str:
    """A height along the trunk in words: the nearest level of the body."""
    if height_pct > _ABOVE:
        return "above the head"
    return min(LEVELS, key=lambda level: abs(level[0] - height_pct))[1]
