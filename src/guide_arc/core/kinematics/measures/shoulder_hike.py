"""How far the shoulder has risen towards the ear."""

from __future__ import annotations

from guide_arc.core.kinematics.measures.spec import TRUNK, MeasureSpec
from guide_arc.core.kinematics.rules import PICTURE
from guide_arc.core.kinematics.trunk import Points, trunk
from guide_arc.core.kinematics.vectors import Array, dot, unit
from guide_arc.core.model.landmarks import Side


def ear_gap(p: Points, side: Side) -> Array:
    """Ear above shoulder along the trunk's axis, in metres: the shoulder hike's raw length."""
    return dot(p[f"{side}_ear"] - p[f"{side}_shoulder"], unit(trunk(p)))


# A change from the rest: an off-axis camera and a model's constant offsets cancel.
SPEC = MeasureSpec(
    name="shoulder_hike",
    unit="pct",
    order=80,
    parts=(*TRUNK, "{side}_ear"),
    formula=ear_gap,
    words="shoulder risen",
    joint="shoulders",
    drives="the shoulders' rise",
    of_length="trunk",
    from_side=True,
    from_front=True,
    along_trunk=True,
    out_of_plane_u=PICTURE.rise_u_pct,
    aside_share=0.0,
    joint_share=0.0,
)
