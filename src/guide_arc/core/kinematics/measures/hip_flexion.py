"""The bend of the hip."""

from __future__ import annotations

from guide_arc.core.kinematics.measures.spec import MeasureSpec
from guide_arc.core.kinematics.rules import ASIDE, PICTURE
from guide_arc.core.kinematics.trunk import Points
from guide_arc.core.kinematics.vectors import Array, angle_deg
from guide_arc.core.model.landmarks import Side


def hip_flexion(p: Points, side: Side) -> Array:
    """180 minus the angle shoulder, hip, knee."""
    hip = p[f"{side}_hip"]
    return 180.0 - angle_deg(p[f"{side}_shoulder"] - hip, p[f"{side}_knee"] - hip)


SPEC = MeasureSpec(
    name="hip_flexion",
    unit="deg",
    order=40,
    parts=("{side}_shoulder", "{side}_hip", "{side}_knee"),
    formula=hip_flexion,
    words="hip bend",
    joint="hip",
    drives="the hip's bend",
    from_side=True,
    out_of_plane_u=PICTURE.legs_out_of_plane_u_deg,
    aside_share=ASIDE.hip_share,
)
