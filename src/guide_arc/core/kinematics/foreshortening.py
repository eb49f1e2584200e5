"""What a picture shows of a limb that leaves its plane: it looks shorter than it is.

How far the upper arm rises along the trunk is seen in a front and in a side view alike. Over the
arm's own length that is the cosine of its elevation, whatever the direction it points in; the
angle in the picture alone would be wrong as soon as the arm comes towards the camera or goes away.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.kinematics.rules import ASIDE, PICTURE
from guide_arc.core.kinematics.trunk import Points
from guide_arc.core.kinematics.vectors import Array, angle_deg, dot, length
from guide_arc.core.model.landmarks import Side

# Upper arm over trunk (mid-hips to mid-shoulders) in a usual body, see `anatomy.py`.
ARM_OVER_TRUNK: Final = 0.186 / 0.288
FOREARM_OVER_TRUNK: Final = 0.146 / 0.288
# Trunk over the breadth of the shoulders in a usual body, see `anatomy.py`.
TRUNK_OVER_BREADTH: Final = 0.288 / 0.222


def limb_length(
    seen_m: Array, trunk_m: float, over_trunk: float, noise_m: float = 0.0
) -> tuple[float, float]:
    """A limb's length and its uncertainty as a share, from how long it looked.

    seen_m : (T,) its length in the picture; trunk_m : the trunk's, in the same scale
    over_trunk : the limb over the trunk in a usual body
    noise_m : of its two ends together, which makes it look longer at times than it is
    """
    seen = seen_m[np.isfinite(seen_m)]
    usual = over_trunk * trunk_m
    longest = float(np.percentile(seen, 95)) if len(seen) else 0.0
    # The longest twentieth of noisy looks is longer than the limb; but no more than all of their
    # scatter.
    scatter = float(np.percentile(seen, 95) - np.median(seen)) if len(seen) else 0.0
    longest -= min(PICTURE.of_noise * noise_m, scatter)
    if longest >= PICTURE.seen_whole_share * usual:
        return longest, float(np.hypot(PICTURE.seen_length_u, noise_m / max(longest, 1e-6) / 2.0))
    if longest <= PICTURE.surely_short_share * usual:
        return usual, PICTURE.usual_length_u
    # A short arm that lay in the plane, or a usual one that never did: between the two, and no
    # surer.
    span = PICTURE.seen_whole_share - PICTURE.surely_short_share
    whole = (longest / usual - PICTURE.surely_short_share) / span
    between = whole * longest + (1.0 - whole) * usual
    return between, float(np.hypot(PICTURE.usual_length_u, 0.5 * (1.0 - longest / usual)))


def elevation(flat_deg: Array, rise_m: Array, arm_m: float, arm_u: float) -> tuple[Array, Array]:
    """(T,) shoulder elevation and the standard uncertainty that the length adds, in degrees.

    flat_deg : the angle in the picture; rise_m : elbow above shoulder along the trunk

    If the arm is along the trunk, its length says little, and the angle in the picture decides
    unless the two differ too much."""
    cosine = np.clip(-rise_m / arm_m, -1.0, 1.0)
    from_length = np.degrees(np.arccos(cosine))
    sine = np.sqrt(1.0 - cosine**2)
    of_length = np.degrees(arm_u * np.abs(cosine) / np.maximum(sine, PICTURE.poor_sine))
    apart = np.abs(from_length - flat_deg)
    # An arm in the plane is measured by its angle; only what that can't explain is depth.
    strange = apart / np.hypot(of_length, PICTURE.flat_u_deg)
    say = np.clip((strange - 1.5) / 1.5, 0.0, 1.0)
    value = say * from_length + (1.0 - say) * flat_deg
    return value, np.hypot(say * of_length, 0.6 * (1.0 - say) * np.minimum(apart, 10.0))


def bend(points: Points, side: Side, arm_m: float, forearm_m: float) -> tuple[Array, Array]:
    """(T,) an elbow's bend in a picture from how short its limbs look, and the standard uncertainty
    that this leaves, in degrees.

    A limb that looks shorter than it is reaches towards the camera or away from it; the picture
    does not say which. Where both do, two bends are possible: the value is the one nearer to the
    angle in the picture, and both are within twice the uncertainty. Limbs in the plane give the
    angle in the picture.
    """
    elbow = points[f"{side}_elbow"]
    limbs = [points[f"{side}_shoulder"] - elbow, points[f"{side}_wrist"] - elbow]
    flat = 180.0 - angle_deg(limbs[0], limbs[1])
    deep, whole, short = [], [], []
    for limb, longest in zip(limbs, (arm_m, forearm_m), strict=True):
        seen = length(limb)
        whole.append(np.maximum(seen, longest))
        deep.append(np.sqrt(np.maximum(whole[-1] ** 2 - seen**2, 0.0)))
        short.append(_shortness(seen, longest))
    size = np.maximum(whole[0] * whole[1], 1e-9)
    cosines = [
        np.clip((dot(*limbs) + sign * deep[0] * deep[1]) / size, -1.0, 1.0) for sign in (1.0, -1.0)
    ]
    one, other = (180.0 - np.degrees(np.arccos(c)) for c in cosines)
    nearer = np.where(np.abs(one - flat) <= np.abs(other - flat), one, other)
    say = np.maximum(*short)
    value = say * nearer + (1.0 - say) * flat
    both = 0.5 * np.minimum(*short) * np.abs(one - other)
    # A limb that looks whole may still reach out of the plane a little: next to one that clearly
    # does, that counts.
    hidden = [s * d / np.maximum(w, 1e-9) for s, d, w in zip(short, deep, whole, strict=True)]
    steep = np.maximum(np.abs(np.sin(np.radians(value))), PICTURE.poor_sine)
    beside = np.degrees(ASIDE.out_of_plane_share * np.hypot(*hidden) / steep)
    u = np.sqrt(
        both**2
        + beside**2
        + (say * _of_length(value)) ** 2
        + (PICTURE.length_says_share * np.abs(value - flat)) ** 2
        # Between the two witnesses neither is right.
        + (say * (1.0 - say) * np.abs(nearer - flat)) ** 2
    )
    return value, u


def off_plumb(points: Points, side: Side, flat_deg: Array, forearm_m: float) -> tuple[Array, Array]:
    """(T,) a forearm's angle to the vertical in a picture, and the standard uncertainty that the
    length adds, in degrees: as `elevation`, for the forearm and the true vertical."""
    limb = points[f"{side}_wrist"] - points[f"{side}_elbow"]
    seen = length(limb)
    longest = max(forearm_m, 1e-6)
    from_length = np.degrees(np.arccos(np.clip(limb[..., 1] / longest, -1.0, 1.0)))
    say = _shortness(seen, longest)
    value = say * from_length + (1.0 - say) * flat_deg
    between = say * (1.0 - say) * np.abs(from_length - flat_deg)
    u = np.sqrt(
        (say * _of_length(value)) ** 2
        + (PICTURE.length_says_share * np.abs(value - flat_deg)) ** 2
        + between**2
    )
    return value, u


def _shortness(seen: Array, longest: float) -> Array:
    """(T,) from 0, a limb that looks as long as it ever does, to 1, one that clearly leaves the
    plane."""
    out: Array = np.clip((1.0 - seen / max(longest, 1e-6) - 0.05) / 0.1, 0.0, 1.0)
    return out


def _of_length(angle_deg_: Array) -> Array:
    """(T,) degrees by which a length that a limb never fully showed makes an angle wrong."""
    turn = np.radians(angle_deg_)
    steep = np.maximum(np.abs(np.sin(turn)), PICTURE.poor_sine)
    out: Array = np.degrees(PICTURE.usual_length_u * np.abs(np.cos(turn)) / steep)
    return out


def perspective_u(
    rise_above_centre_m: Array, seen_m: Array, arm_m: float, distance_m: float
) -> Array:
    """(T,) standard uncertainty in metres of an elbow's height, from perspective: an elbow that is
    nearer or farther than its shoulder looks farther from the picture's middle or nearer to it.

    rise_above_centre_m : the elbow above the picture's middle; seen_m : how long the upper arm
        looks; distance_m : of the camera, which looks down or up more steeply if it is near
    """
    # A limb that is seen nearly at full length is treated as in the plane.
    deep = np.sqrt(np.maximum(arm_m**2 - (seen_m / PICTURE.looks_whole_share) ** 2, 0.0))
    out: Array = deep * np.hypot(rise_above_centre_m, PICTURE.looks_down_from_m) / distance_m
    return out


def hanging_u(flat_deg: Array) -> Array:
    """(T,) degrees: an arm that hangs in a front or back view may point some way ahead unseen."""
    out: Array = PICTURE.hangs_ahead_deg * np.clip(1.0 - flat_deg / PICTURE.hanging_deg, 0.0, 1.0)
    return out


def trunk_tip_deg(trunk_m: Array, breadth_m: Array) -> float:
    """How far a trunk seen from the front or the back leans towards the camera or away from it,
    from how short it looks next to its shoulders; 0 if it is seen at full length."""
    ratio = trunk_m / np.maximum(breadth_m, 1e-6)
    ratio = ratio[np.isfinite(ratio)]
    if not len(ratio):
        return 0.0
    share = float(np.median(ratio)) / TRUNK_OVER_BREADTH
    return float(np.degrees(np.arccos(min(share, 1.0))))
