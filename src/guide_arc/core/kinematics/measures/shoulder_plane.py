"""Where the upper arm points about the trunk: sideways, ahead, across or behind."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.measures.shoulder_elevation import shoulder_elevation
from guide_arc.core.kinematics.measures.spec import TRUNK, MeasureSpec
from guide_arc.core.kinematics.rules import BODY_RULES
from guide_arc.core.kinematics.trunk import Points, trunk
from guide_arc.core.kinematics.vectors import Array, across, cross, dot, unit
from guide_arc.core.model.landmarks import Side


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


SPEC = MeasureSpec(
    name="shoulder_plane",
    unit="deg",
    order=30,
    parts=(*TRUNK, "{side}_elbow"),
    formula=shoulder_plane,
    words="arm sideways to ahead",
    joint="arm sideways",
    drives="the arm's sweep",
)
