"""What each camera view can show, and how a picture's plane lies in the body's axes."""

from __future__ import annotations

from typing import Final

from guide_arc.core.kinematics.measures import ALL_MEASURES
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.track import View

_SIDE_VIEW: Final = frozenset(
    {
        "elbow_flexion",
        "shoulder_elevation",
        "trunk_lean",
        "hip_flexion",
        "knee_flexion",
        "forearm_tilt",
        "wrist_bend",
        "elbow_height",
        "spine_bend",
        "shoulder_hike",
    }
)
_FACING_VIEW: Final = frozenset(
    {"shoulder_elevation", "trunk_side_lean", "shoulder_hike", "elbow_height"}
)


# (axis of the body that runs to the right in the picture, its sign)
PICTURE_RIGHT: Final[dict[View, tuple[int, float]]] = {
    "front": (0, 1.0),
    "back": (0, -1.0),
    "left": (2, -1.0),
    "right": (2, 1.0),
}


def hidden_axis(view: View) -> int | None:
    """The axis that a picture does not show, its depth: 0 to the left, 2 ahead; None in space."""
    return None if view == "none" else 2 - PICTURE_RIGHT[view][0]


def near_side(view: View) -> Side | None:
    """The side of the body whose limbs a side view sees; None for the other views."""
    if view == "left":
        return "left"
    if view == "right":
        return "right"
    return None


def shows(view: View, measure: str, side: Side | None) -> bool:
    """Whether a view can show a measure at all."""
    if view == "none":
        return True
    if view in ("front", "back"):
        return measure in _FACING_VIEW
    return measure in _SIDE_VIEW and side in (None, near_side(view))


def shown(view: View) -> tuple[tuple[str, Side | None], ...]:
    """All measures that a view can show, in their usual order."""
    return tuple((m, s) for m, s in ALL_MEASURES if shows(view, m, s))


def how_to_see(measure: str, view: View, side: Side | None) -> str:
    """The recording that would show a measure, as advice to the person who films."""
    if measure in ("shoulder_plane", "trunk_rotation"):
        return "only a recording in space shows it"
    if measure in _SIDE_VIEW - _FACING_VIEW:
        return f"film from the {side or 'left'} side" if side else "film from the side"
    if measure in _FACING_VIEW - _SIDE_VIEW:
        return "film from the front"
    return f"film from the front, or from the {side} side" if side else "film from the front"
