"""What each camera view can show, and the picture's plane in the body's axes."""

from __future__ import annotations

from typing import Final

from guide_arc.core.kinematics.measures.registry import all_measures, spec_of_measure
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.track import View

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
        return spec_of_measure(measure).from_front
    return spec_of_measure(measure).from_side and side in (None, near_side(view))


def shown(view: View) -> tuple[tuple[str, Side | None], ...]:
    """All measures that a view can show, in their usual order."""
    return tuple((m, s) for m, s in all_measures() if shows(view, m, s))


def how_to_see(measure: str, view: View, side: Side | None) -> str:
    """The recording that would show a measure, as advice to the person who films."""
    spec = spec_of_measure(measure)
    if not (spec.from_side or spec.from_front):
        return "only a recording in space shows it"
    if not spec.from_front:
        return f"film from the {side} side" if side else "film from the side"
    if not spec.from_side:
        return "film from the front"
    return f"film from the front, or from the {side} side" if side else "film from the front"
