"""A jointed figure: from posture and arm poses to landmark positions."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.anatomy import Anatomy
from guide_arc.core.kinematics.guide import arm_directions
from guide_arc.core.kinematics.vectors import Array, across, cross, unit
from guide_arc.core.model.landmarks import BODY, SIDES, Side
from guide_arc.core.model.standard import Base

_SEAT_M: Final = 0.45


@dataclass(frozen=True, eq=False)
class Posture:
    """The trunk and hands over time, each (T,).

    lean_deg, twist_deg : as trunk_lean and trunk_rotation; hike : shoulders raised, share of
    the trunk; wrist_deg : wrist bend; place_m : (T, 2) the hips' way (to the left, ahead)
    """

    lean_deg: Array
    twist_deg: Array
    hike: Array
    wrist_deg: Array
    place_m: Array


def landmarks(
    anatomy: Anatomy, base: Base, posture: Posture, arms: dict[Side, Array]
) -> dict[str, Array]:
    """Every body landmark, (T, 3) in world axes.

    arms : for each side (T, 6) poses as `guide.pose_array`
    """
    frames = len(posture.lean_deg)
    lean, twist = np.radians(posture.lean_deg), np.radians(posture.twist_deg)
    up = np.stack((np.zeros(frames), np.cos(lean), np.sin(lean)), axis=-1)
    left0 = np.broadcast_to(np.array([1.0, 0.0, 0.0]), up.shape)
    ahead0 = cross(left0, up)
    # Turning left about the trunk's axis takes "ahead" towards "left".
    left = np.cos(twist)[:, None] * left0 - np.sin(twist)[:, None] * ahead0
    ahead = cross(left, up)
    hips = _hips(anatomy, base, posture)
    out: dict[str, Array] = {}
    shoulders = hips + up * (anatomy.trunk_m * (1.0 + posture.hike))[:, None]
    head = hips + up * (anatomy.trunk_m + anatomy.ear_above_shoulder_m)
    out["neck"] = hips + up * (anatomy.trunk_m * 1.06)
    out["mid_spine"] = hips + up * (anatomy.trunk_m * 0.42)
    out["nose"] = head + 0.062 * anatomy.stature_m * ahead - 0.008 * anatomy.stature_m * up
    for side, sign in (("left", 1.0), ("right", -1.0)):
        out[f"{side}_ear"] = head + sign * anatomy.half_ears_m * left
        out[f"{side}_shoulder"] = shoulders + sign * anatomy.half_shoulders_m * left
        out[f"{side}_hip"] = hips + sign * anatomy.half_hips_m * left0
    for side in SIDES:
        _arm(out, anatomy, side, (left, up, ahead), arms[side], posture.wrist_deg)
        _leg(out, anatomy, base, side, posture)
    return {name: out[name] for name in BODY}


def _hips(anatomy: Anatomy, base: Base, posture: Posture) -> Array:
    if base == "seated":
        height = _SEAT_M + 0.06
    elif base == "hinged":
        height = 0.93 * (anatomy.thigh_m + anatomy.shank_m) + anatomy.ankle_height_m
    else:
        height = 0.995 * (anatomy.thigh_m + anatomy.shank_m) + anatomy.ankle_height_m
    out = np.full((len(posture.lean_deg), 3), height)
    out[:, 0] = posture.place_m[:, 0]
    out[:, 2] = posture.place_m[:, 1]
    return out


def _arm(  # noqa: PLR0913
    out: dict[str, Array], anatomy: Anatomy, side: Side, frame: tuple[Array, Array, Array],
    poses: Array, wrist_deg: Array,
) -> None:  # fmt: skip
    left, up, ahead = frame
    outward = left if side == "left" else -left
    upper, forearm = arm_directions(poses)

    def world(v: Array) -> Array:
        turned: Array = v[:, :1] * outward + v[:, 1:2] * up + v[:, 2:] * ahead
        return turned

    upper_w, forearm_w = world(upper), world(forearm)
    elbow = out[f"{side}_shoulder"] + anatomy.upper_arm_m * upper_w
    wrist = elbow + anatomy.forearm_m * forearm_w
    # The hand curls the way the elbow bends; the knuckles lie across it.
    bend = np.radians(wrist_deg)[:, None]
    curl = unit(across(-upper_w, forearm_w))
    usual = unit(across(ahead, forearm_w))
    curl = np.where(np.isnan(curl), np.where(np.isnan(usual), up, usual), curl)
    hand = np.cos(bend) * forearm_w + np.sin(bend) * curl
    aside = cross(hand, curl)
    knuckles = wrist + anatomy.knuckles_m * hand
    out[f"{side}_elbow"], out[f"{side}_wrist"] = elbow, wrist
    out[f"{side}_index"] = knuckles + 0.018 * anatomy.stature_m * aside
    out[f"{side}_pinky"] = knuckles - 0.018 * anatomy.stature_m * aside
    out[f"{side}_thumb"] = (
        wrist + 0.6 * anatomy.knuckles_m * hand + 0.024 * anatomy.stature_m * aside
    )


def _leg(out: dict[str, Array], anatomy: Anatomy, base: Base, side: Side, posture: Posture) -> None:
    hip = out[f"{side}_hip"]
    sign = 1.0 if side == "left" else -1.0
    if base == "seated":
        knee = hip + np.array([0.02 * sign, -0.02, anatomy.thigh_m])
        ankle = knee + np.array([0.0, -anatomy.shank_m, 0.12])
        ankle[:, 1] = anatomy.ankle_height_m
    else:
        ankle = hip.copy()
        ankle[:, 0] += 0.02 * sign
        ankle[:, 1] = anatomy.ankle_height_m
        knee = _knee(hip, ankle, anatomy)
    out[f"{side}_knee"], out[f"{side}_ankle"] = knee, ankle
    out[f"{side}_heel"] = ankle + np.array([0.0, -0.8 * anatomy.ankle_height_m, -0.035])
    out[f"{side}_foot"] = ankle + np.array(
        [0.0, -0.8 * anatomy.ankle_height_m, anatomy.foot_m - 0.05]
    )


def _knee(hip: Array, ankle: Array, anatomy: Anatomy) -> Array:
    """The knee ahead of the line from hip to ankle, by the law of cosines."""
    line = hip - ankle
    reach = np.sqrt((line**2).sum(axis=-1))
    thigh, shank = anatomy.thigh_m, anatomy.shank_m
    along = (shank**2 - thigh**2 + reach**2) / (2 * reach)
    ahead = np.sqrt(np.maximum(shank**2 - along**2, 0.0))
    knee: Array = ankle + line * (along / reach)[:, None]
    knee[:, 2] += ahead
    return knee
