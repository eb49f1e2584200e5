"""How high the elbow is above the shoulder."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.measures.spec import TRUNK, MeasureSpec
from guide_arc.core.kinematics.trunk import Points, trunk
from guide_arc.core.kinematics.vectors import Array, dot, unit
from guide_arc.core.model.landmarks import Side


def elbow_rise(p: Points, side: Side) -> Array:
    """Elbow above shoulder along the trunk's axis, in metres: the elbow height's raw length."""
    return dot(p[f"{side}_elbow"] - p[f"{side}_shoulder"], unit(trunk(p)))


# Aside: of the upper arm, in percent.
SPEC = MeasureSpec(
    name="elbow_height",
    unit="pct",
    order=90,
    parts=(*TRUNK, "{side}_elbow"),
    formula=elbow_rise,
    words="elbow above shoulder",
    joint="elbow",
    drives="the elbow's height",
    of_length="upper-arm",
    from_side=True,
    from_front=True,
    foreshortened=True,
    along_trunk=True,
    aside_share=float(np.radians(100.0)),
)
