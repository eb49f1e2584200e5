"""What a picture tells of a limb that leaves its plane: it looks shorter than it is.

How far the upper arm rises along the trunk is seen in a front and in a side view alike. Over the
arm's own length that is the cosine of its elevation, whatever the direction it points in; the
angle in the picture alone would be wrong as soon as the arm comes towards the camera or goes away.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.kinematics.measures import Points
from guide_arc.core.kinematics.vectors import Array, angle_deg, length
from guide_arc.core.model.landmarks import Side

# Upper arm over trunk (mid-hips to mid-shoulders) in a usual body, see `anatomy.py`.
ARM_OVER_TRUNK: Final = 0.186 / 0.288
# An arm that never looked as long as this share of the usual one never lay in the picture's plane.
_SEEN_WHOLE: Final = 0.93
# Standard uncertainty of the arm's length, as a share: seen whole, and taken from the trunk.
_SEEN_U: Final = 0.03
_USUAL_U: Final = 0.06
# Below this sine of the elevation the length says no more than it does there.
_POOR_SINE: Final = 0.2
_FLAT_U_DEG: Final = 1.5


def arm_length(seen_m: Array, trunk_m: float) -> tuple[float, float]:
    """The upper arm's length and its uncertainty as a share, from how long it looked.

    seen_m : (T,) its length in the picture; trunk_m : the trunk's, in the same scale
    """
    seen = seen_m[np.isfinite(seen_m)]
    usual = ARM_OVER_TRUNK * trunk_m
    longest = float(np.percentile(seen, 95)) if len(seen) else 0.0
    if longest >= _SEEN_WHOLE * usual:
        return longest, _SEEN_U
    return usual, _USUAL_U


def elevation(flat_deg: Array, rise_m: Array, arm_m: float, arm_u: float) -> tuple[Array, Array]:
    """(T,) shoulder elevation and the standard uncertainty that the length adds, in degrees.

    flat_deg : the angle in the picture; rise_m : elbow above shoulder along the trunk

    Where the arm hangs or stands along the trunk the length is a poor witness, and the angle in
    the picture has the say unless the two are too far apart for that.
    """
    cosine = np.clip(-rise_m / arm_m, -1.0, 1.0)
    from_length = np.degrees(np.arccos(cosine))
    sine = np.sqrt(1.0 - cosine**2)
    of_length = np.degrees(arm_u * np.abs(cosine) / np.maximum(sine, _POOR_SINE))
    apart = np.abs(from_length - flat_deg)
    # An arm in the plane is measured by its angle; only what that can't explain is depth.
    strange = apart / np.hypot(of_length, _FLAT_U_DEG)
    say = np.clip((strange - 1.5) / 1.5, 0.0, 1.0)
    value = say * from_length + (1.0 - say) * flat_deg
    return value, np.hypot(say * of_length, 0.6 * (1.0 - say) * np.minimum(apart, 10.0))


def bend_u(points: Points, side: Side) -> Array:
    """(T,) standard uncertainty of an elbow's bend in a picture, from how short its limbs look.

    Each limb that looks shorter than it is reaches towards the camera or away from it; the picture does
    not say which. The two bends that this allows are both within twice the uncertainty.
    """
    elbow = points[f"{side}_elbow"]
    limbs = [points[f"{side}_shoulder"] - elbow, points[f"{side}_wrist"] - elbow]
    deep, whole = [], []
    for limb in limbs:
        seen = length(limb)
        longest = float(np.nanpercentile(seen, 95)) if np.isfinite(seen).any() else np.nan
        whole.append(np.maximum(seen, _SEEN_WHOLE * longest))
        deep.append(np.sqrt(np.maximum(whole[-1] ** 2 - seen**2, 0.0)))
    across = np.einsum("ti,ti->t", *limbs)
    size = np.maximum(whole[0] * whole[1], 1e-9)
    flat = angle_deg(limbs[0], limbs[1])
    bends = [
        np.degrees(np.arccos(np.clip((across + sign * deep[0] * deep[1]) / size, -1.0, 1.0)))
        for sign in (1.0, -1.0)
    ]
    off: Array = np.maximum(np.abs(bends[0] - flat), np.abs(bends[1] - flat)) / 2.0
    return off
