"""What is worked on: the part of the picture about the marks, at a size at which an upper arm has
its usual length."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

import numpy as np

from guide_arc.capture.tracking.limbs import Limb, Spot, limbs_between, roots_among
from guide_arc.capture.tracking.strips import Picture
from guide_arc.capture.video.clip import Clip
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.marks import Marks

# How long an upper arm is in the picture that is worked on, pixels; and how wide that is where none
# is marked.
ARM_PX: Final = 44.0
_USUAL_WIDTH: Final = 640
# Margin around the marks, within an arm's reach: as a share of what they span, in arms, in
# pixels.
_ROOM: Final = 0.45
_ROOM_ARMS: Final = 2.6
_ROOM_PX: Final = 60.0


class Worked:
    """The marks in the part of the picture, and at the size, that is worked on."""

    def __init__(self, clip: Clip, marks: Marks) -> None:
        self.clip = clip
        self.names = tuple(marks.points)
        at = {n: {m.frame: np.array([m.x, m.y]) for m in marks.points[n]} for n in self.names}
        self.first = min(min(own) for own in at.values())
        self.limbs = limbs_between(at)
        self.roots = roots_among(self.names, self.limbs)
        long = [
            marked_length(limb, at) for limb in self.limbs if limb.b.endswith(("elbow", "wrist"))
        ]
        arm = max(long, default=0.0)
        self.scale = min(1.0, ARM_PX / arm if arm else _USUAL_WIDTH / clip.width)
        every = np.array([spot for own in at.values() for spot in own.values()])
        room = max(_ROOM * float(np.ptp(every, axis=0).max()), _ROOM_ARMS * arm, _ROOM_PX)
        size = np.array([clip.width, clip.height])
        low, high = (
            np.maximum(every.min(axis=0) - room, 0),
            np.minimum(every.max(axis=0) + room, size),
        )
        self.origin = np.floor(self.scale * low).astype(int)
        self.size = np.ceil(self.scale * (high - low)).astype(int)
        self.keys = {
            n: {f: self.scale * spot - self.origin for f, spot in own.items()}
            for n, own in at.items()
        }

    def picture(self, whole: Picture) -> Picture:
        """The part of a picture that is worked on."""
        (x, y), (wide, high) = self.origin, self.size
        return np.ascontiguousarray(whole[y : y + high, x : x + wide])

    @property
    def width(self) -> int:
        return round(self.scale * self.clip.width)

    def first_mark(self, name: str) -> Spot:
        """Where a point was marked first."""
        own = self.keys[name]
        out: Spot = own[min(own)]
        return out

    def in_clip(self, position: Array) -> Array:
        out: Array = (position + self.origin) / self.scale
        return out


def marked_length(limb: Limb, keys: Mapping[str, Mapping[int, Spot]]) -> float:
    """The greatest length a limb was marked with, over the frames on which both its ends were."""
    both = keys[limb.a].keys() & keys[limb.b].keys()
    return max(float(np.hypot(*(keys[limb.a][f] - keys[limb.b][f]))) for f in both)
