"""Left and right of a pose model, checked against the side from which a clip was filmed.

A model distinguishes left from right by the face. Where that is hidden it guesses, for the whole
clip at times."""

from __future__ import annotations

from dataclasses import replace
from typing import Final

import numpy as np

from guide_arc.capture.tracking.tracker import Tracked
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.landmarks import Side, on_other_side, other
from guide_arc.core.model.track import BETWEEN_VIEWS, StatedView, View, side_of

# The share of a clip that has to be exchanged.
_MOSTLY: Final = 0.8
# A face in view has nose and ears at this confidence; half of the time is enough.
_FACE_SEEN: Final = 0.8
# How much surer the arm away from the camera is than the one before it, where the two were taken
# for one another.
_SURER: Final = 0.25
_PAIRS: Final = ("shoulder", "hip")
_ARM: Final = ("elbow", "wrist")


def sides_by_view(found: Tracked, view: StatedView) -> Tracked:
    """The same with left and right exchanged, where the model has them the other way about than the
    view has.

    Nothing is exchanged where the face says that the view is stated wrongly: the review doubts it
    then.
    """
    if view in BETWEEN_VIEWS:  # both shoulders show there, as from the front or the back
        wrong = _other_way_about(found, "front" if view.startswith("front") else "back")
    else:
        near, side = near_side(side_of(view)), side_of(view)
        wrong = _far_is_surer(found, near) if near is not None else _other_way_about(found, side)
    return replace(found, names=tuple(on_other_side(n) for n in found.names)) if wrong else found


def _other_way_about(found: Tracked, view: View) -> bool:
    sign = 1.0 if view == "front" else -1.0  # from the front the left shoulder is to the right
    for part in _PAIRS:
        apart = sign * (_x(found, f"left_{part}") - _x(found, f"right_{part}"))
        apart = apart[np.isfinite(apart)]
        if not len(apart) or np.mean(apart < 0.0) < _MOSTLY:
            return False
    return _face_in_view(found) == (view == "front")


def _far_is_surer(found: Tracked, near: Side) -> bool:
    """Whether a side view shows, by what the model is sure of, the other side's arm."""
    own, far = (
        np.mean([found.confidence[:, found.names.index(f"{side}_{part}")] for part in _ARM], axis=0)
        for side in (near, other(near))
    )
    return float(np.mean(far > own + _SURER)) > _MOSTLY


def _face_in_view(found: Tracked) -> bool:
    face = [found.names.index(n) for n in ("nose", "left_ear", "right_ear")]
    return bool(np.mean((found.confidence[:, face] > _FACE_SEEN).all(axis=1)) > 0.5)


def _x(found: Tracked, name: str) -> Array:
    x: Array = found.position[:, found.names.index(name), 0]
    return x
