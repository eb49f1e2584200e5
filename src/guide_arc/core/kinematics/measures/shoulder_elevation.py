"""How far the upper arm is raised."""

from __future__ import annotations

from guide_arc.core.kinematics.measures.spec import TRUNK, MeasureSpec
from guide_arc.core.kinematics.trunk import Points, trunk
from guide_arc.core.kinematics.vectors import Array, angle_deg
from guide_arc.core.model.landmarks import Side


def shoulder_elevation(p: Points, side: Side) -> Array:
    """Upper arm against the trunk's downward axis: 0 hanging, 90 level, 180 overhead."""
    return angle_deg(p[f"{side}_elbow"] - p[f"{side}_shoulder"], -trunk(p))


SPEC = MeasureSpec(
    name="shoulder_elevation",
    unit="deg",
    order=20,
    parts=(*TRUNK, "{side}_elbow"),
    formula=shoulder_elevation,
    words="arm raised",
    joint="arm",
    drives="the arm's height",
    from_side=True,
    from_front=True,
    foreshortened=True,
    along_trunk=True,
)
