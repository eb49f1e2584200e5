"""How far the shoulders are turned against the hips."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.measures.spec import TRUNK, MeasureSpec
from guide_arc.core.kinematics.trunk import Points, trunk
from guide_arc.core.kinematics.vectors import Array, across, cross, dot, length, unit


def trunk_rotation(p: Points) -> Array:
    """Shoulder line against hip line about the trunk's axis: turned left positive."""
    up = unit(trunk(p))
    shoulders = across(p["left_shoulder"] - p["right_shoulder"], up)
    hips = across(p["left_hip"] - p["right_hip"], up)
    turn = np.degrees(np.arctan2(dot(cross(hips, shoulders), up), dot(hips, shoulders)))
    return np.where((length(hips) < 1e-3) | (length(shoulders) < 1e-3), np.nan, turn)


SPEC = MeasureSpec(
    name="trunk_rotation",
    unit="deg",
    order=120,
    parts=TRUNK,
    formula=trunk_rotation,
    words="torso twist",
    joint="trunk turn",
    drives="the torso's turn",
    per_side=False,
    mirrored=True,
)
