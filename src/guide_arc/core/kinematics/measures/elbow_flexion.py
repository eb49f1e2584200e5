"""The bend of the elbow."""

from __future__ import annotations

from guide_arc.core.kinematics.measures.spec import ARM, MeasureSpec
from guide_arc.core.kinematics.trunk import Points
from guide_arc.core.kinematics.vectors import Array, angle_deg
from guide_arc.core.model.landmarks import Side


def elbow_flexion(p: Points, side: Side) -> Array:
    """How far the elbow is bent: 0 straight, 180 folded."""
    elbow = p[f"{side}_elbow"]
    return 180.0 - angle_deg(p[f"{side}_shoulder"] - elbow, p[f"{side}_wrist"] - elbow)


SPEC = MeasureSpec(
    name="elbow_flexion",
    unit="deg",
    order=10,
    parts=ARM,
    formula=elbow_flexion,
    words="elbow bend",
    joint="elbow",
    drives="the elbow's bend",
    from_side=True,
    foreshortened=True,
)
