"""The chosen person, tracked by a box from frame to frame, and distinguished from others in view.

A pose model gives one person, whoever that is. If somebody walks by, or is nearer while the chosen
person is hidden, it changes over to them without notice. Here it is shown only what is about the
person; and a result counts as the chosen person if its place is possible and its clothes match."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Protocol

import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.pose_process import POINTS, How, Landmarks
from guide_arc.capture.video.frames import Picture

# The trunk's corners among a pose model's landmarks, and the limbs that give a person's size.
TRUNK: Final = (11, 12, 23, 24)
_SIZE_OF: Final = (0, 11, 12, 23, 24, 25, 26, 27, 28)
_SEEN: Final = 0.3
# Room about the box, as a share of its longer side, less above and below, so that lifted arms are
# inside.
_ROOM: Final = 0.35
_ROOM_HIGH: Final = 0.14
# The part that is looked at moves along once the person comes within this share of their size of
# its edge.
_NEAR_EDGE: Final = 0.06
_SMALLEST_PX: Final = 32
# Where the trunk can be a frame later, in its own lengths, and after frames in which it was not
# seen; and how much larger or smaller it can be then. (How much of the legs is seen changes from
# frame to frame: they give no size.)
_STEP: Final = 0.6
_STEP_A_FRAME: Final = 0.08
_FARTHEST: Final = 2.0
_GROWTH: Final = 1.7
# How far clothes may differ in colour (black and white differ by 441), and how fast their stored
# colour follows the light.
_OTHER_CLOTHES: Final = 75.0
_LEARN: Final = 0.05
# After this many frames without the person the model searches the whole picture again.
_LOOK_AGAIN: Final = 8

Box = tuple[float, float, float, float]
Colour = NDArray[np.float64]
Spot = NDArray[np.float64]


class Model(Protocol):
    """The interface of a pose model."""

    def landmarks(self, picture: Picture, how: How) -> Landmarks: ...


def box_of(found: Landmarks) -> Box | None:
    """(x0, y0, x1, y1) of a person's body; None where too little of it is seen."""
    seen = found[:, 2] >= _SEEN
    if np.isnan(found[0, 0]) or not seen[list(TRUNK)].any():
        return None
    own = found[[i for i in _SIZE_OF if seen[i]], :2]
    low, high = own.min(axis=0), own.max(axis=0)
    # Hair above the nose and feet below the ankles; where the legs are out of view the trunk tells
    # the size.
    tall = max(float(high[1] - low[1]), float(high[0] - low[0]))
    return (
        float(low[0] - 0.08 * tall),
        float(low[1] - 0.15 * tall),
        float(high[0] + 0.08 * tall),
        float(high[1] + 0.06 * tall),
    )


@dataclass(frozen=True, eq=False)
class Trunk:
    """Where a trunk is, and how large: its length, or its breadth if it is bent towards the
    camera."""

    middle: Spot
    size: float


def trunk_of(found: Landmarks) -> Trunk:
    """The trunk of a person that was found."""
    left, right, hip_left, hip_right = found[list(TRUNK), :2]
    spans = (0.5 * (left + right - hip_left - hip_right), left - right, hip_left - hip_right)
    size = max(float(np.hypot(*span)) for span in spans)
    return Trunk(np.mean((left, right, hip_left, hip_right), axis=0), size)


def clothes(picture: Picture, found: Landmarks) -> Colour | None:
    """(3,) the usual colour on the trunk; None if it is out of the picture."""
    corners = found[list(TRUNK), :2]
    if not np.isfinite(corners).all():
        return None
    a, b = np.meshgrid((0.25, 0.5, 0.75), (0.2, 0.4, 0.6, 0.8))
    left, right, hip_left, hip_right = corners
    across = (1 - a)[..., None] * left + a[..., None] * right
    below = (1 - a)[..., None] * hip_left + a[..., None] * hip_right
    spots = ((1 - b)[..., None] * across + b[..., None] * below).reshape(-1, 2).round().astype(int)
    high, wide = picture.shape[:2]
    inside = ((spots >= 0) & (spots < (wide, high))).all(axis=1)
    if inside.sum() < len(spots) // 2:
        return None
    x, y = spots[inside].T
    colour: Colour = np.median(picture[y, x].astype(np.float64), axis=0)
    return colour


def part_about(box: Box, size: tuple[int, int]) -> tuple[int, int, int, int]:
    """The part of a picture of (width, height) that is looked at for a person in a box."""
    wide, high = size
    room = _ROOM * max(box[2] - box[0], box[3] - box[1])
    x0, y0 = (
        max(0, round(box[0] - room)),
        max(0, round(box[1] - _ROOM_HIGH / _ROOM * room)),
    )
    x1, y1 = min(wide, round(box[2] + room)), min(high, round(box[3] + _ROOM_HIGH / _ROOM * room))
    return (x0, y0, x1, y1) if min(x1 - x0, y1 - y0) >= _SMALLEST_PX else (0, 0, wide, high)


@dataclass
class _Known:
    """The person as last seen for sure, how many frames ago. trunk : None if no more than a box
    was drawn about them"""

    box: Box
    clothes: Colour | None
    trunk: Trunk | None
    frames_ago: int = 0


class FollowedPerson:
    """Goes through a clip's frames in order.

    box : of the person meant on the frame it starts with; None: whoever is found first, in the
        whole picture
    """

    def __init__(self, model: Model, box: Box | None = None) -> None:
        self._model = model
        self._known = _Known(box, None, None) if box is not None else None
        self._whole = box is None
        self._part: tuple[int, int, int, int] | None = None
        self._others = 0

    def see(self, picture: Picture) -> Landmarks:
        """(33, 3) as a pose model gives them, in pixels of the picture; NaN if the person is not
        seen."""
        high, wide = picture.shape[:2]
        how: How = "on"
        if self._part is None:
            known = self._known
            whole = self._whole or known is None
            self._part = (
                (0, 0, wide, high) if whole else part_about(known.box, (wide, high))  # type: ignore[union-attr]
            )
            how = "new"
        found = self._look(picture, self._part, how)
        if self._is_meant(picture, found):
            self._others = 0
            if not self._whole and self._near_the_edge((wide, high)):
                self._part = None
            return found
        self._others += 1
        if self._others >= _LOOK_AGAIN:
            self._others, self._part = 0, None  # perhaps they are elsewhere in it by now
        return np.full((POINTS, 3), np.nan)

    def _look(self, picture: Picture, part: tuple[int, int, int, int], how: How) -> Landmarks:
        x0, y0, x1, y1 = part
        found = self._model.landmarks(picture[y0:y1, x0:x1], how)
        found[:, :2] += (x0, y0)
        return found

    def _is_meant(self, picture: Picture, found: Landmarks) -> bool:
        """Whether the person found is the one meant; if so, their stored colour and place are
        updated."""
        box = box_of(found)
        known = self._known
        if box is None:
            if known is not None:
                known.frames_ago += 1
            return False
        worn = clothes(picture, found)
        trunk = trunk_of(found)
        if known is None:
            self._known = _Known(box, worn, trunk)
            return True
        known.frames_ago += 1
        if not _can_be(known, trunk) or _wears_other(known, worn):
            return False
        kept = known.clothes
        if worn is not None:
            kept = worn if kept is None else (1 - _LEARN) * kept + _LEARN * worn
        self._known = _Known(box, kept, trunk)
        return True

    def _near_the_edge(self, size: tuple[int, int]) -> bool:
        """Whether the part that is looked at should move along; not where the picture ends
        there."""
        assert self._known is not None
        assert self._part is not None
        box, part, (wide, high) = self._known.box, self._part, size
        near = _NEAR_EDGE * (box[3] - box[1])
        return (
            (box[0] - part[0] < near and part[0] > 0)
            or (box[1] - part[1] < 0 and part[1] > 0)
            or (part[2] - box[2] < near and part[2] < wide)
            or (part[3] - box[3] < 0 and part[3] < high)
        )


def _can_be(known: _Known, trunk: Trunk) -> bool:
    """Whether the person can be there by now."""
    before = known.trunk
    if before is None:
        x, y = trunk.middle
        return bool(known.box[0] <= x <= known.box[2] and known.box[1] <= y <= known.box[3])
    reach = min(_STEP + _STEP_A_FRAME * (known.frames_ago - 1), _FARTHEST) * before.size
    apart = float(np.hypot(*(trunk.middle - before.middle)))
    return apart <= reach and 1 / _GROWTH <= trunk.size / max(before.size, 1.0) <= _GROWTH


def _wears_other(known: _Known, worn: Colour | None) -> bool:
    if worn is None or known.clothes is None:
        return False
    return bool(np.linalg.norm(worn - known.clothes) > _OTHER_CLOTHES)
