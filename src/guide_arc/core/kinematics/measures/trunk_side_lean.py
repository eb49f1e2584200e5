"""The trunk's lean to one side."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.measures.spec import TRUNK, MeasureSpec
from guide_arc.core.kinematics.measures.trunk_lean import trunk_lean
from guide_arc.core.kinematics.rules import BODY_RULES, PICTURE
from guide_arc.core.kinematics.trunk import Points, trunk
from guide_arc.core.kinematics.vectors import Array


def trunk_side_lean(p: Points) -> Array:
    """Trunk against vertical in the front plane: to the subject's left positive.

    NaN while the size of the trunk lean is above 60 degrees.
    """
    axis = trunk(p)
    flat = np.hypot(axis[..., 0], axis[..., 1])
    lean = np.degrees(np.arctan2(axis[..., 0], axis[..., 1]))
    upright = np.abs(trunk_lean(p)) <= BODY_RULES.side_lean_until_deg
    return np.where(upright & (flat >= 1e-3), lean, np.nan)


def trunk_side_lean_flat(p: Points) -> Array:
    """Trunk side lean from a front or back picture, which does not show the forward lean."""
    axis = trunk(p)
    lean: Array = np.degrees(np.arctan2(axis[..., 0], axis[..., 1]))
    return np.where(np.hypot(axis[..., 0], axis[..., 1]) < 1e-3, np.nan, lean)


SPEC = MeasureSpec(
    name="trunk_side_lean",
    unit="deg",
    order=110,
    parts=TRUNK,
    formula=trunk_side_lean,
    words="torso side lean",
    joint="trunk aside",
    drives="the lean aside",
    per_side=False,
    from_front=True,
    flat_formula=trunk_side_lean_flat,
    along_trunk=True,
    against_vertical=True,
    mirrored=True,
    out_of_plane_u=PICTURE.side_lean_out_of_plane_u_deg,
)
