"""Whether a lift is in the plane of a picture, so that levers and loads can be measured in it."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from guide_arc.core.kinematics.guide import arm_directions, poses_along, trunk_along
from guide_arc.core.kinematics.pose_fit import MEASURES
from guide_arc.core.kinematics.vectors import Array, angle_deg
from guide_arc.core.kinematics.views import hidden_axis
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import View
from guide_arc.core.review.rules import REVIEW


@lru_cache(maxsize=512)  # a standard that is edited is another one with every change
def lies_flat(standard: Standard, view: View) -> bool:
    """Whether a view shows both ends of the driving measure's range as they are, within half of its
    tolerance."""
    if standard.drive not in MEASURES or view == "none":
        return True
    ends = np.array([0.0, 1.0])
    poses = poses_along(standard, ends)
    lean = np.radians(trunk_along(standard, ends)[:, 0])
    zero = np.zeros_like(lean)
    up = np.stack((zero, np.cos(lean), np.sin(lean)), axis=1)
    ahead = np.stack((zero, -np.sin(lean), np.cos(lean)), axis=1)
    shown = np.ones(3)
    shown[hidden_axis(view) or 0] = 0.0

    def pictured(limb: Array) -> Array:
        # (out, up, ahead) of the trunk in the room, without the axis that the picture hides.
        out: Array = shown * (limb[:, :1] * np.eye(3)[0] + limb[:, 1:2] * up + limb[:, 2:] * ahead)
        return out

    upper, fore = (pictured(limb) for limb in arm_directions(poses))
    against = fore if standard.drive == "elbow_flexion" else -shown * up
    gap = np.abs(angle_deg(upper, against) - poses[:, MEASURES.index(standard.drive)]).max()
    return float(gap) <= REVIEW.flat_share * standard.range.tolerance_deg
