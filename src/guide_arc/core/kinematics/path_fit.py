"""How far an elbow is off its guide arc, by the pose that fits a picture best.

A picture shows where a limb ends, not whether it comes towards the camera or goes away from it.
Where the other of the two would be off the arc, what looks like the arc proves nothing.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.guide import arm_path, upper_arm_way, way_back
from guide_arc.core.kinematics.path import nearest_on
from guide_arc.core.kinematics.pose_fit import fitted_arm
from guide_arc.core.kinematics.rules import BODY_RULES
from guide_arc.core.kinematics.vectors import Array, angle_deg, dot, length
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.standard import Standard

_SAMPLES: Final = 61
_STEP_DEG: Final = 0.5


@dataclass(frozen=True, eq=False)
class ElbowOff:
    """off_pct : (T, 3) from the guide arc to the elbow (out, up, ahead), percent of the upper arm;
    u_pct : (T,) standard uncertainty of its size; other_pct : (T,) how far off it would be if what
    comes towards the camera went away from it
    seen_pct, seen_u_pct : the part of it in the picture's plane
    """

    off_pct: Array
    u_pct: Array
    other_pct: Array
    seen_pct: Array
    seen_u_pct: Array


@dataclass(frozen=True, eq=False)
class UpperArm:
    """way : (T, 3) the upper arm's direction in the trunk's axes (out, up, ahead); spread : (T, 3,
    3) its covariance"""

    way: Array
    spread: Array

    def turned_from(self, place: Array) -> tuple[Array, Array]:
        """(T,) degrees from a (3,) direction, and the standard uncertainty."""
        turned = angle_deg(self.way, np.broadcast_to(place, self.way.shape))
        u: Array = np.degrees(_along(self.way - place, self.spread))
        return turned, u


def upper_arm(body: Body, standard: Standard, side: Side) -> UpperArm | None:
    """The upper arm of the pose that fits a picture best, wherever it is; None if no pose can be
    fitted."""
    fit = fitted_arm(body, standard, side, ("elevation", "plane"))
    if fit is None:
        return None
    pose = np.stack((fit.value["shoulder_elevation"], fit.value["shoulder_plane"]), axis=-1)
    way = upper_arm_way(pose)
    by = np.stack(
        [(upper_arm_way(pose + step) - way) / _STEP_DEG for step in _STEP_DEG * np.eye(2)],
        axis=-1,
    )
    return UpperArm(way, np.einsum("tij,tjk,tlk->til", by, fit.upper, by))


def elbow_off(body: Body, standard: Standard, side: Side) -> ElbowOff | None:
    """The elbow's departure over a recording; None if no pose can be fitted."""
    fit = fitted_arm(body, standard, side, ("elevation", "plane"))
    arm = upper_arm(body, standard, side)
    if fit is None or arm is None:
        return None
    ways = [arm_path(standard, _SAMPLES, beyond=BODY_RULES.beyond_share)["elbow"]]
    back = way_back(standard, _SAMPLES, beyond=BODY_RULES.beyond_share)
    if back is not None:
        ways.append(back["elbow"])
    elbow, spread = arm.way, arm.spread
    off = _from(ways, elbow)
    mirrored = elbow - 2.0 * dot(elbow, fit.toward)[:, None] * fit.toward
    seen = off - dot(off, fit.toward)[:, None] * fit.toward
    return ElbowOff(
        100.0 * off,
        100.0 * _along(off, spread),
        100.0 * length(_from(ways, mirrored)),
        100.0 * seen,
        100.0 * _along(seen, spread),
    )


def _along(off: Array, spread: Array) -> Array:
    """(T,) the standard uncertainty of a departure's size."""
    toward = off / np.maximum(length(off), 1e-9)[:, None]
    out: Array = np.sqrt(np.einsum("ti,tij,tj->t", toward, spread, toward))
    return out


def _from(ways: list[Array], elbow: Array) -> Array:
    """(T, 3) from the nearest point of the ways."""
    best = np.full(elbow.shape, np.nan)
    for way in ways:
        off = elbow - nearest_on(elbow, way)[1]
        closer = np.isnan(best[:, 0]) | (length(off) < length(best))
        best[closer] = off[closer]
    return best
