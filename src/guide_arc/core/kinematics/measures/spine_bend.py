"""How far the spine is rounded or arched."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.measures.spec import MeasureSpec
from guide_arc.core.kinematics.rules import ASIDE, FIT, PICTURE
from guide_arc.core.kinematics.trunk import Points, middle
from guide_arc.core.kinematics.vectors import Array, angle_deg, cross, dot, length


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


# Rib and neck are points of the skin, which models place freely.
SPEC = MeasureSpec(
    name="spine_bend",
    unit="deg",
    order=130,
    parts=("neck", "mid_spine", "left_hip", "right_hip"),
    formula=spine_bend,
    words="bend of the spine",
    joint="spine",
    drives="the spine's bend",
    per_side=False,
    from_side=True,
    out_of_plane_u=PICTURE.legs_out_of_plane_u_deg,
    aside_share=ASIDE.spine_share,
    joint_share=FIT.joint_gain,
)
