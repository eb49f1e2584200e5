"""A jointed figure: from posture and arm poses to landmark positions."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from guide_arc.core.kinematics.anatomy import Anatomy
from guide_arc.core.kinematics.guide import arm_directions
from guide_arc.core.kinematics.vectors import Array, across, cross, unit
from guide_arc.core.model.landmarks import BODY, SIDES, Side
from guide_arc.core.model.standard import Base

_SEAT_M: Final = 0.45
# Height of the wrist above the floor in a push-up.
_HANDLE_M: Final = 0.12
# The lowest rib and the base of the neck above the hips, in trunk lengths.
_RIB: Final = 0.42
_NECK: Final = 1.06
# How far a spine is bent at the lowest rib where a person is at rest.
_NATURAL_BEND_DEG: Final = 10.0
# Bases in which the hands stay and the body moves.
ON_THE_HANDS: Final = ("on-hands", "plank", "pike")


@dataclass(frozen=True, eq=False)
class Posture:
    """The trunk and hands over time, each (T,).

    lean_deg, side_lean_deg, twist_deg : as trunk_lean, trunk_side_lean and trunk_rotation
    hike : each shoulder raised, share of the trunk; wrist_deg : wrist bend
    place_m : (T, 2) the hips' way (to the left, ahead)
    round_deg : how far the spine is rounded beyond its natural bend; None if it stays there
    """

    lean_deg: Array
    side_lean_deg: Array
    twist_deg: Array
    hike: dict[Side, Array]
    wrist_deg: Array
    place_m: Array
    round_deg: Array | None = None


def landmarks(
    anatomy: Anatomy, base: Base, posture: Posture, arms: dict[Side, Array]
) -> dict[str, Array]:
    """Every body landmark, (T, 3) in world axes.

    arms : for each side (T, 7) poses as `guide.pose_array`
    """
    if base == "plank":
        posture = replace(posture, lean_deg=_pressed_up(anatomy, posture, arms))
    square = replace(posture, twist_deg=np.zeros(len(posture.lean_deg)))
    frame = _trunk_frame(posture)
    left, up, ahead = frame
    hips = _hips(anatomy, base, posture)
    # A trunk that bends sideways above upright hips turns the hips' line only when lying.
    level = np.broadcast_to(np.array([1.0, 0.0, 0.0]), up.shape)
    across_hips = _trunk_frame(square)[0] if base == "side-lying" else level
    out: dict[str, Array] = {}
    head = hips + up * (anatomy.trunk_m + anatomy.ear_above_shoulder_m)
    out["neck"] = hips + up * (anatomy.trunk_m * _NECK)
    out["mid_spine"] = hips + up * (anatomy.trunk_m * _RIB) - _bowed(anatomy, posture) * ahead
    out["nose"] = head + 0.062 * anatomy.stature_m * ahead - 0.008 * anatomy.stature_m * up
    signs: tuple[tuple[Side, float], ...] = (("left", 1.0), ("right", -1.0))
    for side, sign in signs:
        out[f"{side}_ear"] = head + sign * anatomy.half_ears_m * left
        shoulders = hips + up * (anatomy.trunk_m * (1.0 + posture.hike[side]))[:, None]
        out[f"{side}_shoulder"] = shoulders + sign * anatomy.half_shoulders_m * left
        out[f"{side}_hip"] = hips + sign * anatomy.half_hips_m * across_hips
    for side in SIDES:
        _arm(out, anatomy, side, frame, arms[side], posture.wrist_deg)
    if base in ON_THE_HANDS:
        _hold_hands(out)
    for side in SIDES:
        leg(out, anatomy, base, side, posture.lean_deg)
    return {name: out[name] for name in BODY}


def _bowed(anatomy: Anatomy, posture: Posture) -> Array:
    """(T, 1) distance of the lowest rib behind the line from hips to neck (negative: ahead of it),
    for the two parts of the trunk to close by the bend: the tangent of a sum of two angles, solved
    for their common side.
    """
    beyond = np.zeros(len(posture.lean_deg)) if posture.round_deg is None else posture.round_deg
    bend = _NATURAL_BEND_DEG + beyond
    lower, upper = _RIB * anatomy.trunk_m, (_NECK - _RIB) * anatomy.trunk_m
    tangent = np.tan(np.radians(np.clip(np.abs(bend), 0.0, 85.0)))
    both = 1.0 / lower + 1.0 / upper
    root = np.sqrt(both**2 + 4.0 * tangent**2 / (lower * upper)) - both
    bowed = lower * upper * root / np.maximum(2.0 * tangent, 1e-9)
    return np.where(tangent > 1e-6, np.sign(bend) * bowed, 0.0)[:, None]


def _trunk_frame(posture: Posture) -> tuple[Array, Array, Array]:
    """(T, 3) each: to the left, up along the trunk, ahead."""
    lean, aside, twist = (
        np.radians(a) for a in (posture.lean_deg, posture.side_lean_deg, posture.twist_deg)
    )
    frames = len(lean)
    flat = np.stack((np.zeros(frames), np.cos(lean), np.sin(lean)), axis=-1)
    level = np.broadcast_to(np.array([1.0, 0.0, 0.0]), flat.shape)
    # Side lean is measured against vertical in the front plane, whatever the forward lean is.
    up = unit(flat + (np.tan(aside) * np.cos(lean))[:, None] * level)
    left0 = unit(level - (level * up).sum(axis=-1, keepdims=True) * up)
    ahead0 = cross(left0, up)
    # Turning left about the trunk's axis takes "ahead" towards "left".
    left = np.cos(twist)[:, None] * left0 - np.sin(twist)[:, None] * ahead0
    return left, up, cross(left, up)


def _hips(anatomy: Anatomy, base: Base, posture: Posture) -> Array:
    upright = anatomy.thigh_m + anatomy.shank_m
    height = {
        "seated": _SEAT_M + 0.06,
        "hinged": 0.93 * upright + anatomy.ankle_height_m,
        "kneeling": 0.98 * anatomy.thigh_m + 0.06,
        "prone": 0.75 * upright + anatomy.ankle_height_m,
        "side-lying": _SEAT_M + 0.15,
    }.get(base, 0.995 * upright + anatomy.ankle_height_m)
    out = np.full((len(posture.lean_deg), 3), height)
    out[:, 0] = posture.place_m[:, 0]
    out[:, 2] = posture.place_m[:, 1]
    return out


def _pressed_up(anatomy: Anatomy, posture: Posture, arms: dict[Side, Array]) -> Array:
    """(T,) the lean of a straight body that turns about its toes, so that the hands stay at their
    height: halving between steep and lying below level."""
    body = anatomy.thigh_m + anatomy.shank_m + anatomy.trunk_m
    reach = np.mean([_reach(anatomy, arms[side]) for side in SIDES], axis=0)

    def above(lean: Array) -> Array:
        up, ahead = np.cos(lean), -np.sin(lean)
        out: Array = anatomy.ankle_height_m + body * up + reach[:, 1] * up + reach[:, 2] * ahead
        return out

    low = np.full(len(posture.lean_deg), np.radians(35.0))
    high = np.full(len(posture.lean_deg), np.radians(100.0))
    for _ in range(28):
        middle = 0.5 * (low + high)
        too_high = above(middle) > _HANDLE_M
        low, high = np.where(too_high, middle, low), np.where(too_high, high, middle)
    lean: Array = np.degrees(0.5 * (low + high))
    out: Array = lean + posture.lean_deg - posture.lean_deg[0]
    return out


def _reach(anatomy: Anatomy, poses: Array) -> Array:
    """(T, 3) the wrist from the shoulder in the trunk's axes."""
    upper, forearm = arm_directions(poses)
    out: Array = anatomy.upper_arm_m * upper + anatomy.forearm_m * forearm
    return out


def _hold_hands(out: dict[str, Array]) -> None:
    """Shift the whole body so that the hands stay where they take hold."""
    wrists = 0.5 * (out["left_wrist"] + out["right_wrist"])
    shift = wrists[0] - wrists
    shift[:, 0] = 0.0
    for name, place in out.items():
        out[name] = place + shift


def _arm(
    out: dict[str, Array],
    anatomy: Anatomy,
    side: Side,
    frame: tuple[Array, Array, Array],
    poses: Array,
    wrist_deg: Array,
) -> None:
    left, up, ahead = frame
    outward = left if side == "left" else -left
    upper, forearm = arm_directions(poses)

    def world(v: Array) -> Array:
        turned: Array = v[:, :1] * outward + v[:, 1:2] * up + v[:, 2:] * ahead
        return turned

    upper_w, forearm_w = world(upper), world(forearm)
    elbow = out[f"{side}_shoulder"] + anatomy.upper_arm_m * upper_w
    wrist = elbow + anatomy.forearm_m * forearm_w
    # An underhand palm faces the way the elbow bends; the grip turns it about the forearm.
    bend = np.radians(wrist_deg)[:, None]
    curl = unit(across(-upper_w, forearm_w))
    usual = unit(across(ahead, forearm_w))
    curl = np.where(np.isnan(curl), np.where(np.isnan(usual), up, usual), curl)
    grip = np.radians(poses[:, 6])[:, None] * (1.0 if side == "left" else -1.0)
    curl = np.cos(grip) * curl + np.sin(grip) * cross(forearm_w, curl)
    hand = np.cos(bend) * forearm_w + np.sin(bend) * curl
    aside = cross(hand, curl) * (-1.0 if side == "left" else 1.0)
    knuckles = wrist + anatomy.knuckles_m * hand
    out[f"{side}_elbow"], out[f"{side}_wrist"] = elbow, wrist
    out[f"{side}_index"] = knuckles + 0.018 * anatomy.stature_m * aside
    out[f"{side}_pinky"] = knuckles - 0.018 * anatomy.stature_m * aside
    out[f"{side}_thumb"] = (
        wrist + 0.6 * anatomy.knuckles_m * hand + 0.024 * anatomy.stature_m * aside
    )


def leg(out: dict[str, Array], anatomy: Anatomy, base: Base, side: Side, lean_deg: Array) -> None:
    """Add one leg's landmarks below a hip, as the base has it."""
    hip = out[f"{side}_hip"]
    sign = 1.0 if side == "left" else -1.0
    flat = np.array([0.0, -0.8 * anatomy.ankle_height_m, anatomy.foot_m - 0.05])
    heel = np.array([0.0, -0.8 * anatomy.ankle_height_m, -0.035])
    if base == "seated":
        knee = hip + np.array([0.02 * sign, -0.02, anatomy.thigh_m])
        ankle = knee + np.array([0.0, -anatomy.shank_m, 0.12])
        ankle[:, 1] = anatomy.ankle_height_m
    elif base == "kneeling":
        knee = hip + np.array([0.02 * sign, -0.98 * anatomy.thigh_m, 0.18 * anatomy.thigh_m])
        ankle = knee + np.array([0.0, 0.03, -anatomy.shank_m])
    elif base == "on-hands":
        knee = hip + anatomy.thigh_m * np.array([0.03 * sign, -0.96, 0.28])
        ankle = knee + anatomy.shank_m * np.array([0.0, -0.35, -0.94])
    elif base == "side-lying":
        knee = hip + anatomy.thigh_m * _along(out, -1.0)
        ankle = knee + anatomy.shank_m * _along(out, -1.0)
    elif base in ("prone", "plank", "pike"):
        away = _legs_away(out, base, lean_deg)
        knee = hip + anatomy.thigh_m * away
        ankle = knee + anatomy.shank_m * away
        flat, heel = np.array([0.0, -0.10, 0.02]), np.array([0.0, 0.03, -0.04])
    else:
        ankle = hip.copy()
        ankle[:, 0] += 0.02 * sign
        ankle[:, 1] = anatomy.ankle_height_m
        knee = _knee(hip, ankle, anatomy)
    out[f"{side}_knee"], out[f"{side}_ankle"] = knee, ankle
    out[f"{side}_heel"] = ankle + heel
    out[f"{side}_foot"] = ankle + flat


def _along(out: dict[str, Array], sign: float) -> Array:
    """(T, 3) the trunk's axis at the start, for legs that stay in its line."""
    line = sum(out[f"{s}_shoulder"] - out[f"{s}_hip"] for s in SIDES)
    axis: Array = unit(np.asarray(line)[:1])
    return np.broadcast_to(sign * axis, np.asarray(line).shape)


def _legs_away(out: dict[str, Array], base: Base, lean_deg: Array) -> Array:
    """(T, 3) the way straight legs point from the hips: in the body's line, along a bench, or back
    to where raised feet rest."""
    if base == "pike":
        hips = 0.5 * (out["left_hip"] + out["right_hip"])
        rest = hips[0] + np.array([0.0, -0.55, -0.80])
        return unit(rest - hips)
    down = np.radians(lean_deg if base == "plank" else np.clip(0.8 * lean_deg, 0.0, 72.0))
    return np.stack((np.zeros(len(down)), -np.cos(down), -np.sin(down)), axis=-1)


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
