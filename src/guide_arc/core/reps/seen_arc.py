"""What a view shows of a standard's arc: whether a measure keeps its pace and its ends there, and how it changes along it."""

from __future__ import annotations

from functools import lru_cache
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.guide import (
    arm_directions,
    poses_along,
    poses_back,
    trunk_along,
)
from guide_arc.core.kinematics.vectors import Array, angle_deg, median
from guide_arc.core.kinematics.views import hidden_axis, near_side, shows
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import View
from guide_arc.core.reps.arc import EVEN, Arc, arc_of
from guide_arc.core.reps.rules import EDGE, REP

# Where a driving measure stands in a pose.
COLUMN: Final = {"shoulder_elevation": 0, "shoulder_plane": 1, "elbow_flexion": 2}


def leaves_picture(standard: Standard, view: View) -> bool:
    """Whether the elbow bends across the picture's plane, so that a side view shows its angle
    foreshortened for most of the lift."""
    if near_side(view) is None or standard.drive != "elbow_flexion":
        return False
    limbs = arm_directions(poses_along(standard, np.linspace(0.0, 1.0, 21)))
    return max(median(np.abs(limb[:, 0])) for limb in limbs) > REP.across_sine


def times_truly(standard: Standard, measure: str, view: View) -> bool:
    """Whether the phases of a measure, as a view shows it, are those of the standard's own driving measure: it
    runs along with it evenly over the guide arc."""
    if measure not in COLUMN or (view == "none" and measure == standard.drive):
        return True
    own, seen = _along_the_arc(standard, measure, view)
    if abs(seen[-1] - seen[0]) < 1.0 or abs(own[-1] - own[0]) < 1.0:
        return False
    way = (seen - seen[0]) / (seen[-1] - seen[0])
    asked = (own - own[0]) / (own[-1] - own[0])
    return float(np.abs(way - asked).max()) <= REP.runs_along_share


def needs_fit(standard: Standard, body: Body) -> bool:
    """Whether a picture's own angle is not the standard's driving measure all along: the pose has to be found from the
    whole of what the picture shows of the arm."""
    view = body.cleaned.track.view
    if view == "none" or standard.drive not in COLUMN:
        return False
    return (
        body.cleaned.aside.deg > REP.aside_from_deg
        or not any(shows(view, standard.drive, side) for side in SIDES)
        or not times_truly(standard, standard.drive, view)
        or not ends_truly(standard, standard.drive, view)
    )


def ends_truly(standard: Standard, measure: str, view: View) -> bool:
    """Whether a view shows both ends of a measure's range as they are, within half of the range's tolerance."""
    if measure not in COLUMN or view == "none":
        return True
    asked = poses_along(standard, np.array([0.0, 1.0]))[:, COLUMN[measure]]
    _own, seen = _along_the_arc(standard, measure, view)
    gap = np.abs(seen[[0, -1]] - asked).max()
    return float(gap) <= REP.seen_ends_share * standard.range.tolerance_deg


def arcs_of(standard: Standard, measure: str, view: View) -> tuple[Arc, Arc]:
    """How a measure that a view shows rises along the guide arc, on the way up and on the way down."""
    if measure not in COLUMN:
        return EVEN, EVEN
    return _arcs(standard, measure, view, EDGE.least_pace_share)


@lru_cache(maxsize=512)  # a standard that is edited is another one with every change
def _arcs(standard: Standard, measure: str, view: View, least_share: float) -> tuple[Arc, Arc]:
    up, down = (
        arc_of(
            standard.range.direction * _along_the_arc(standard, measure, view, back)[1], least_share
        )
        for back in (False, True)
    )
    return up, up if np.array_equal(up.level_deg, down.level_deg) else down


@lru_cache(maxsize=512)  # a standard that is edited is another one with every change
def _along_the_arc(
    standard: Standard, measure: str, view: View, back: bool = False
) -> tuple[Array, Array]:
    """The driving measure over the guide arc, and another measure as a view shows it, degrees. back : of the way down,
    from its end"""
    share = np.linspace(0.0, 1.0, 41)
    poses = (poses_back if back else poses_along)(standard, share)
    own = poses[:, COLUMN[standard.drive]] if standard.drive in COLUMN else share
    if view == "none":
        return own, poses[:, COLUMN[measure]]
    lean = np.radians(trunk_along(standard, share)[:, 0])
    zero = np.zeros_like(lean)
    up = np.stack((zero, np.cos(lean), np.sin(lean)), axis=1)
    ahead = np.stack((zero, -np.sin(lean), np.cos(lean)), axis=1)

    shown = np.ones(3)
    shown[hidden_axis(view) or 0] = 0.0

    def pictured(limb: Array) -> Array:
        # (out, up, ahead) of the trunk in the room, without the axis that the picture hides.
        out: Array = shown * (limb[:, :1] * np.eye(3)[0] + limb[:, 1:2] * up + limb[:, 2:] * ahead)
        return out

    upper, fore = (pictured(limb) for limb in arm_directions(poses))
    against = fore if measure == "elbow_flexion" else -shown * up
    return own, angle_deg(upper, against)
