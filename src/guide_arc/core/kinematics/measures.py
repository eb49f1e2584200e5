"""Every measure of the body, each defined once.

A measure is a function of named landmarks, each (..., 3) in world axes: x to the subject's
left, y up, z the way they face. Degrees, or percent of a body length. NaN where a landmark
is missing or the definition leaves the measure open.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.rules import BODY_RULES
from guide_arc.core.kinematics.vectors import Array, across, angle_deg, cross, dot, length, unit
from guide_arc.core.model.landmarks import SIDES, Side

Points = Mapping[str, Array]


def middle(p: Points, part: str) -> Array:
    """Midpoint of a left and a right landmark."""
    return 0.5 * (p[f"left_{part}"] + p[f"right_{part}"])


def trunk(p: Points) -> Array:
    """Mid-hips to mid-shoulders."""
    return middle(p, "shoulder") - middle(p, "hip")


def elbow_flexion(p: Points, side: Side) -> Array:
    """How far the elbow is bent: 0 straight, 180 folded."""
    elbow = p[f"{side}_elbow"]
    return 180.0 - angle_deg(p[f"{side}_shoulder"] - elbow, p[f"{side}_wrist"] - elbow)


def shoulder_elevation(p: Points, side: Side) -> Array:
    """Upper arm against the trunk's downward axis: 0 hanging, 90 level, 180 overhead."""
    return angle_deg(p[f"{side}_elbow"] - p[f"{side}_shoulder"], -trunk(p))


def shoulder_plane(p: Points, side: Side) -> Array:
    """Azimuth of the upper arm about the trunk's axis: 0 out to its own side, 90 ahead.

    Above 90 across the midline, negative behind. NaN while elevation is below 15 or above
    165 degrees.
    """
    up = unit(trunk(p))
    to_left = unit(across(p["left_shoulder"] - p["right_shoulder"], up))
    out = to_left if side == "left" else -to_left
    ahead = cross(to_left, up)
    arm = p[f"{side}_elbow"] - p[f"{side}_shoulder"]
    azimuth = np.degrees(np.arctan2(dot(arm, ahead), dot(arm, out)))
    elevation = shoulder_elevation(p, side)
    low, high = BODY_RULES.plane_defined_deg
    defined = (elevation >= low) & (elevation <= high)
    return np.where(defined, azimuth, np.nan)


def trunk_lean(p: Points) -> Array:
    """Trunk against vertical in the side plane: forward positive."""
    axis = trunk(p)
    flat = np.hypot(axis[..., 1], axis[..., 2])
    lean = np.degrees(np.arctan2(axis[..., 2], axis[..., 1]))
    return np.where(flat < 1e-3, np.nan, lean)


def trunk_side_lean(p: Points) -> Array:
    """Trunk against vertical in the front plane: to the subject's left positive.

    NaN while the size of the trunk lean is above 60 degrees.
    """
    axis = trunk(p)
    flat = np.hypot(axis[..., 0], axis[..., 1])
    lean = np.degrees(np.arctan2(axis[..., 0], axis[..., 1]))
    upright = np.abs(trunk_lean(p)) <= BODY_RULES.side_lean_until_deg
    return np.where(upright & (flat >= 1e-3), lean, np.nan)


def trunk_side_lean_flat(p: Points) -> Array:
    """Trunk side lean from a front or back picture, which does not show the forward lean."""
    axis = trunk(p)
    lean: Array = np.degrees(np.arctan2(axis[..., 0], axis[..., 1]))
    return np.where(np.hypot(axis[..., 0], axis[..., 1]) < 1e-3, np.nan, lean)


def trunk_rotation(p: Points) -> Array:
    """Shoulder line against hip line about the trunk's axis: turned left positive."""
    up = unit(trunk(p))
    shoulders = across(p["left_shoulder"] - p["right_shoulder"], up)
    hips = across(p["left_hip"] - p["right_hip"], up)
    turn = np.degrees(np.arctan2(dot(cross(hips, shoulders), up), dot(hips, shoulders)))
    return np.where((length(hips) < 1e-3) | (length(shoulders) < 1e-3), np.nan, turn)


def spine_bend(p: Points) -> Array:
    """How far the spine is bent at the lowest rib: 180 minus the angle neck, rib, mid-hips.

    Rounded forward positive, arched negative; 0 in a straight line.
    """
    hips = middle(p, "hip")
    lower, upper = p["mid_spine"] - hips, p["neck"] - p["mid_spine"]
    aside = p["left_hip"] - p["right_hip"]
    breadth = length(aside)[..., None]
    to_left = np.where(breadth > 1e-3, aside / np.maximum(breadth, 1e-9), np.array([1.0, 0.0, 0.0]))
    forward = dot(cross(lower, upper), to_left)
    return angle_deg(lower, upper) * np.where(forward < 0.0, -1.0, 1.0)


def hip_flexion(p: Points, side: Side) -> Array:
    """180 minus the angle shoulder, hip, knee."""
    hip = p[f"{side}_hip"]
    return 180.0 - angle_deg(p[f"{side}_shoulder"] - hip, p[f"{side}_knee"] - hip)


def knee_flexion(p: Points, side: Side) -> Array:
    """180 minus the angle hip, knee, ankle."""
    knee = p[f"{side}_knee"]
    return 180.0 - angle_deg(p[f"{side}_hip"] - knee, p[f"{side}_ankle"] - knee)


def wrist_bend(p: Points, side: Side) -> Array:
    """Forearm against the line from the wrist to the middle of the knuckles."""
    wrist = p[f"{side}_wrist"]
    knuckles = 0.5 * (p[f"{side}_index"] + p[f"{side}_pinky"])
    return angle_deg(wrist - p[f"{side}_elbow"], knuckles - wrist)


def forearm_tilt(p: Points, side: Side) -> Array:
    """Forearm against vertical: 0 pointing up, 90 level, 180 hanging."""
    forearm = p[f"{side}_wrist"] - p[f"{side}_elbow"]
    return angle_deg(forearm, np.broadcast_to(np.array([0.0, 1.0, 0.0]), forearm.shape))


def ear_gap(p: Points, side: Side) -> Array:
    """Ear above shoulder along the trunk's axis, in metres: the shoulder hike's raw length."""
    return dot(p[f"{side}_ear"] - p[f"{side}_shoulder"], unit(trunk(p)))


def elbow_rise(p: Points, side: Side) -> Array:
    """Elbow above shoulder along the trunk's axis, in metres: the elbow height's raw length."""
    return dot(p[f"{side}_elbow"] - p[f"{side}_shoulder"], unit(trunk(p)))


@dataclass(frozen=True)
class Definition:
    """One measure: its name, unit, the landmarks it rests on, and its formula.

    per_side : whether it exists for the left and for the right
    parts : landmark names; "{side}" stands for the side
    """

    name: str
    unit: str
    per_side: bool
    parts: tuple[str, ...]
    formula: Callable[..., Array]

    def points(self, side: Side | None) -> tuple[str, ...]:
        return tuple(part.format(side=side) for part in self.parts)


_TRUNK = ("left_shoulder", "right_shoulder", "left_hip", "right_hip")
_ARM = ("{side}_shoulder", "{side}_elbow", "{side}_wrist")


def _d(
    name: str, per_side: bool, parts: tuple[str, ...], formula: Callable[..., Array]
) -> Definition:
    unit_name = "pct" if name in ("shoulder_hike", "elbow_height") else "deg"
    return Definition(name, unit_name, per_side, parts, formula)


# shoulder_hike and elbow_height are finished in `body.py`: they need a length of the whole set.
DEFINITIONS: Final[dict[str, Definition]] = {
    d.name: d
    for d in (
        _d("elbow_flexion", True, _ARM, elbow_flexion),
        _d("shoulder_elevation", True, (*_TRUNK, "{side}_elbow"), shoulder_elevation),
        _d("shoulder_plane", True, (*_TRUNK, "{side}_elbow"), shoulder_plane),
        _d("hip_flexion", True, ("{side}_shoulder", "{side}_hip", "{side}_knee"), hip_flexion),
        _d("knee_flexion", True, ("{side}_hip", "{side}_knee", "{side}_ankle"), knee_flexion),
        _d(
            "wrist_bend",
            True,
            ("{side}_elbow", "{side}_wrist", "{side}_index", "{side}_pinky"),
            wrist_bend,
        ),
        _d("forearm_tilt", True, ("{side}_elbow", "{side}_wrist"), forearm_tilt),
        _d("shoulder_hike", True, (*_TRUNK, "{side}_ear"), ear_gap),
        _d("elbow_height", True, (*_TRUNK, "{side}_elbow"), elbow_rise),
        _d("trunk_lean", False, _TRUNK, trunk_lean),
        _d("trunk_side_lean", False, _TRUNK, trunk_side_lean),
        _d("trunk_rotation", False, _TRUNK, trunk_rotation),
        _d("spine_bend", False, ("neck", "mid_spine", "left_hip", "right_hip"), spine_bend),
    )
}


def own_sign(measure: str, side: Side) -> float:
    """Turns a measure of the whole trunk into one arm's own: leaning or turning to its own side is
    positive for the left as for the right."""
    aside = measure in ("trunk_side_lean", "trunk_rotation")
    return -1.0 if aside and side == "right" else 1.0


def full_name(measure: str, side: Side | None) -> str:
    """`left_elbow_flexion` for a limb's measure, `trunk_lean` for the trunk's."""
    return f"{side}_{measure}" if side else measure


ALL_MEASURES: Final[tuple[tuple[str, Side | None], ...]] = tuple(
    (name, side) for name, d in DEFINITIONS.items() for side in (SIDES if d.per_side else (None,))
)
