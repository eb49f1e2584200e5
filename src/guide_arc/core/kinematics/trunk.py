"""The trunk's axis and the middles of left and right: what most measures are counted from.

Landmarks are (..., 3) in world axes: x to the subject's left, y up, z the way they face.
"""

from __future__ import annotations

from collections.abc import Mapping

from guide_arc.core.kinematics.vectors import Array

Points = Mapping[str, Array]


def middle(p: Points, part: str) -> Array:
    """Midpoint of a left and a right landmark."""
    return 0.5 * (p[f"left_{part}"] + p[f"right_{part}"])


def trunk(p: Points) -> Array:
    """Mid-hips to mid-shoulders."""
    return middle(p, "shoulder") - middle(p, "hip")
