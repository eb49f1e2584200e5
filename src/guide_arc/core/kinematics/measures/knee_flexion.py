"""The bend of the knee."""

from __future__ import annotations

from guide_arc.core.kinematics.measures.spec import MeasureSpec
from guide_arc.core.kinematics.rules import ASIDE, PICTURE
from guide_arc.core.kinematics.trunk import Points
from guide_arc.core.kinematics.vectors import Array, angle_deg
from guide_arc.core.model.landmarks import Side


def knee_flexion(p: Points, side: Side) -> Array:
    """180 minus the angle hip, knee, ankle."""
    knee = p[f"{side}_knee"]
    return 180.0 - angle_deg(p[f"{side}_hip"] - knee, p[f"{side}_ankle"] - knee)


SPEC = MeasureSpec(
    name="knee_flexion",
    unit="deg",
    order=50,
    parts=("{side}_hip", "{side}_knee", "{side}_ankle"),
    formula=knee_flexion,
    words="knee bend",
    joint="knee",
    drives="the knee's bend",
    from_side=True,
    out_of_plane_u=PICTURE.legs_out_of_plane_u_deg,
    aside_share=ASIDE.knee_share,
)
