"""How far the forearm is off plumb."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.measures.spec import MeasureSpec
from guide_arc.core.kinematics.rules import ASIDE, PICTURE
from guide_arc.core.kinematics.trunk import Points
from guide_arc.core.kinematics.vectors import Array, angle_deg
from guide_arc.core.model.landmarks import Side


def forearm_tilt(p: Points, side: Side) -> Array:
    """Forearm against vertical: 0 pointing up, 90 level, 180 hanging."""
    forearm = p[f"{side}_wrist"] - p[f"{side}_elbow"]
    return angle_deg(forearm, np.broadcast_to(np.array([0.0, 1.0, 0.0]), forearm.shape))


SPEC = MeasureSpec(
    name="forearm_tilt",
    unit="deg",
    order=70,
    parts=("{side}_elbow", "{side}_wrist"),
    formula=forearm_tilt,
    words="forearm off plumb",
    joint="forearm",
    drives="the forearm's tilt",
    from_side=True,
    foreshortened=True,
    against_vertical=True,
    out_of_plane_u=PICTURE.forearm_out_of_plane_u_deg,
    aside_share=ASIDE.forearm_share,
)
