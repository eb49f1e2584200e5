"""What a picture does to a limb's measure: foreshortening, perspective, an off-axis camera."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.aside import CameraAside
from guide_arc.core.kinematics.foreshortening import (
    bend,
    elevation,
    hanging_u,
    off_plumb,
    perspective_u,
)
from guide_arc.core.kinematics.learned import Learned
from guide_arc.core.kinematics.measures.elbow_height import elbow_rise
from guide_arc.core.kinematics.measures.spec import MeasureSpec
from guide_arc.core.kinematics.rules import BODY_RULES
from guide_arc.core.kinematics.trunk import Points
from guide_arc.core.kinematics.vectors import Array, length
from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.track import View


def in_picture(
    measure: str,
    side: Side,
    points: Points,
    value: Array,
    u: Array,
    *,
    learned: Learned,
    view: View,
) -> tuple[Array, Array]:
    """(T,) a limb's measure and its standard uncertainty as a picture shows them, in its unit.

    points : (T, 3) by name, metres; value, u : the measure as the flat formula gives it
    """
    if measure in ("elbow_flexion", "forearm_tilt"):
        forearm = learned.picture_forearm_m[side]
        if measure == "elbow_flexion":
            both = bend(points, side, learned.upper_arm_m[side], forearm)
        else:
            both = off_plumb(points, side, value, forearm)
        steep = np.maximum(np.abs(np.sin(np.radians(both[0]))), BODY_RULES.least_sine)
        looks = np.degrees(_looks_off(learned, points, side, "wrist", "elbow", forearm)) / steep
        if measure == "elbow_flexion":
            arm_m = learned.upper_arm_m[side]
            upper = _looks_off(learned, points, side, "elbow", "shoulder", arm_m)
            looks = np.hypot(looks, np.degrees(upper) / steep)
        return both[0], np.sqrt(u**2 + both[1] ** 2 + looks**2)
    arm, arm_u = learned.upper_arm_m[side], learned.upper_arm_u[side]
    off = _looks_off(learned, points, side, "elbow", "shoulder", arm)
    if measure == "elbow_height":
        return value, np.hypot(u, np.hypot(arm_u * np.abs(value), 100.0 * off))
    flat_deg = value
    value, more = elevation(flat_deg, elbow_rise(points, side), arm, arm_u)
    steep = np.maximum(np.sin(np.radians(value)), BODY_RULES.least_sine)
    more = np.hypot(more, np.degrees(off) / steep)
    if view in ("front", "back"):
        more = np.hypot(more, hanging_u(flat_deg))
    return value, np.hypot(u, more)


def _looks_off(
    learned: Learned, points: Points, side: Side, end: str, start: str, limb_m: float
) -> Array:
    """(T,) what perspective does to a limb's rise, as a share of its length."""
    far, near = points[f"{side}_{end}"], points[f"{side}_{start}"]
    off = perspective_u(
        far[:, 1] - learned.centre_m, length(far - near), limb_m, learned.distance_m
    )
    return off / max(limb_m, 1e-6)


def aside_u(aside: CameraAside, view: View, spec: MeasureSpec) -> float:
    """What a camera that is off-axis makes of a measure, in its unit."""
    if spec.name == "trunk_side_lean":
        return aside.side_lean_u_deg
    if spec.name == "trunk_lean" and aside.deg and near_side(view):
        return aside.lean_u_deg
    return aside.limb_u_deg * spec.aside_share
