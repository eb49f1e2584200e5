"""Where a hand or an elbow should finish: each target defined once, from landmarks.

A target says what is still missing at each frame in percent of the trunk's length: positive short
of it, negative past it. A target that must be met from both sides gives the distance. Heights along
the trunk are percent of the way from the hips to the shoulders; its front is a sixth of its length
ahead of its axis, and a fist is 18 % of it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Final, Protocol

import numpy as np

from guide_arc.core.kinematics.trunk import Points, middle
from guide_arc.core.kinematics.vectors import Array, seen_median
from guide_arc.core.model.landmarks import Side

_FRONT_PCT: Final = 100.0 / 6.0
_FIST_PCT: Final = 18.0
# Heights along the trunk, percent of the way from hips to shoulders, lowest first.
LEVELS: Final[tuple[tuple[float, str], ...]] = (
    (-60.0, "the knees"),
    (-25.0, "the thighs"),
    (0.0, "the hips"),
    (18.0, "the navel"),
    (45.0, "the lower ribs"),
    (62.0, "the lower sternum"),
    (74.0, "the nipple line"),
    (90.0, "the upper chest"),
    (104.0, "the shoulders"),
    (122.0, "the chin"),
    (134.0, "the nose"),
    (142.0, "the eyes"),
    (160.0, "the top of the head"),
)
_ABOVE: Final = 172.0
_HEIGHT: Final = {words: pct for pct, words in LEVELS}
_ANYWHERE: Final = ("none", "left", "right", "front", "back")


class Framed(Protocol):
    """A body's points with the trunk's axes (T, 3, 3: left, up, ahead) and length (T,)."""

    @property
    def points(self) -> Points: ...
    @property
    def trunk_frame(self) -> Array: ...
    @property
    def trunk_m(self) -> Array: ...


@dataclass(frozen=True)
class Target:
    """words : in words for a client; defined : how it is found, for the docs
    views : the recordings that show it, best picture second
    missing : (body, side) -> (T,); both_ways : whether past it is as wrong as short of it
    part : what is held against it
    """

    words: str
    defined: str
    views: tuple[str, ...]
    missing: Callable[[Framed, Side], Array]
    both_ways: bool = False
    part: str = "hand"

    @property
    def along_trunk(self) -> bool:
        """Whether it is a height along the trunk, which a leaning one does not show from the
        front."""
        return self.part == "hand" and self.views == _ANYWHERE


def hand(body: Framed, side: Side) -> Array:
    """(T, 3) the middle of the knuckles, where a bar or handle is held; the wrist without them."""
    knuckles = 0.5 * (body.points[f"{side}_index"] + body.points[f"{side}_pinky"])
    return np.where(np.isnan(knuckles), body.points[f"{side}_wrist"], knuckles)


def _along(body: Framed, row: int, from_m: Array, to_m: Array) -> Array:
    """From one point to another along a trunk axis (0 left, 1 up, 2 ahead), % of the trunk."""
    gap = np.einsum("ti,ti->t", body.trunk_frame[:, row], to_m - from_m)
    out: Array = 100.0 * gap / seen_median(body.trunk_m)
    return out


def _height(body: Framed, side: Side) -> Array:
    """(T,) the hand's height along the trunk, percent of the way from hips to shoulders."""
    return _along(body, 1, middle(body.points, "hip"), hand(body, side))


def _near_level(body: Framed, side: Side, pct: float) -> Array:
    return np.abs(_height(body, side) - pct)


def _down_to(body: Framed, side: Side, pct: float) -> Array:
    return _height(body, side) - pct


def _up_to(body: Framed, side: Side, pct: float) -> Array:
    return pct - _height(body, side)


def _nose_height(body: Framed, side: Side) -> Array:
    return _along(body, 1, hand(body, side), body.points["nose"])


def _eye_level(body: Framed, side: Side) -> Array:
    # Ears and eyes lie on one level in an upright head.
    return _along(body, 1, hand(body, side), middle(body.points, "ear"))


def _midline(body: Framed, side: Side) -> Array:
    away = _along(body, 0, middle(body.points, "shoulder"), hand(body, side))
    return away if side == "left" else -away


def _ahead(body: Framed, side: Side) -> Array:
    """(T,) the hand ahead of the trunk's front."""
    return _along(body, 2, middle(body.points, "hip"), hand(body, side)) - _FRONT_PCT


def _fist_short(body: Framed, side: Side) -> Array:
    return _FIST_PCT - _ahead(body, side)


def _upper_arm_level(body: Framed, side: Side) -> Array:
    drop = body.points[f"{side}_shoulder"] - body.points[f"{side}_elbow"]
    out: Array = 100.0 * drop[:, 1] / seen_median(body.trunk_m)
    return out


def _opposite_knee(body: Framed, side: Side) -> Array:
    other = "right" if side == "left" else "left"
    gap = body.points[f"{side}_elbow"][:, 0] - body.points[f"{other}_knee"][:, 0]
    out: Array = 100.0 * gap / seen_median(body.trunk_m)
    return out if side == "left" else -out


def _level(words: str, says: str | None = None, pct: float | None = None) -> Target:
    at = _HEIGHT[words] if pct is None else pct
    return Target(
        says or words,
        f"the hand within the limit of {at:g} % of the trunk's length above the hips",
        _ANYWHERE,
        partial(_near_level, pct=at),
        both_ways=True,
    )


TARGETS: Final[dict[str, Target]] = {
    "nose-height": Target(
        "nose height", "the hand level with the nose, along the trunk", _ANYWHERE, _nose_height
    ),
    "eye-level": Target(
        "eye level", "the hand level with the ears, along the trunk", _ANYWHERE, _eye_level
    ),
    "midline": Target(
        "the midline",
        "the hand across the middle of the shoulders",
        ("none", "front", "back"),
        _midline,
    ),
    "waist": Target(
        "the waist", "the hand back to the trunk's front", ("none", "left", "right"), _ahead
    ),
    "fist-short": Target(
        "a fist short of the torso",
        "the hand no nearer to the trunk's front than a fist",
        ("none", "left", "right"),
        _fist_short,
    ),
    "hips": Target(
        "the hips",
        "the hand down to the hips",
        _ANYWHERE,
        partial(_down_to, pct=_HEIGHT["the hips"]),
    ),
    "navel": _level("the navel"),
    "above-navel": _level("the lower ribs", "a hand's width above the navel", 36.0),
    "lower-sternum": _level("the lower sternum"),
    "nipple-line": _level("the nipple line"),
    "upper-chest": _level("the nipple line", "the upper chest, just above the nipple line", 82.0),
    "chin": _level("the chin"),
    "beside-head": _level("the nose", "beside the head", 138.0),
    "top-of-head": _level("the top of the head"),
    "behind-head": Target(
        "behind the head",
        "the hand past the top of the head, along the trunk",
        _ANYWHERE,
        partial(_up_to, pct=_HEIGHT["the top of the head"]),
    ),
    "upper-arm-level": Target(
        "a level upper arm",
        "the elbow no lower than the shoulder, against vertical",
        _ANYWHERE,
        _upper_arm_level,
        part="elbow",
    ),
    "opposite-knee": Target(
        "the opposite knee",
        "the elbow above the other side's knee, from the front",
        ("none", "front", "back"),
        _opposite_knee,
        part="elbow",
    ),
}


def height_words(height_pct: float) -> str:
    """A height along the trunk in words: the nearest level of the body."""
    if height_pct > _ABOVE:
        return "above the head"
    return min(LEVELS, key=lambda level: abs(level[0] - height_pct))[1]
