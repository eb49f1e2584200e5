"""How far the trunk leans forward or back."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.measures.spec import TRUNK, MeasureSpec
from guide_arc.core.kinematics.rules import ASIDE, PICTURE
from guide_arc.core.kinematics.trunk import Points, trunk
from guide_arc.core.kinematics.vectors import Array


def trunk_lean(p: Points) -> Array:
    """Trunk against vertical in the side plane: forward positive."""
    axis = trunk(p)
    flat = np.hypot(axis[..., 1], axis[..., 2])
    lean = np.degrees(np.arctan2(axis[..., 2], axis[..., 1]))
    return np.where(flat < 1e-3, np.nan, lean)


SPEC = MeasureSpec(
    name="trunk_lean",
    unit="deg",
    order=100,
    parts=TRUNK,
    formula=trunk_lean,
    words="torso lean",
    joint="trunk",
    drives="the torso's lean",
    per_side=False,
    from_side=True,
    against_vertical=True,
    out_of_plane_u=PICTURE.trunk_out_of_plane_u_deg,
    aside_share=ASIDE.trunk_share,
)
