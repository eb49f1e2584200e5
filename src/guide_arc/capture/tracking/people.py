"""Who is in view: everybody whom a pose model can find in a few frames of a clip.

The model finds one person in a picture. So each found person is covered, and the model runs again.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.capture.tracking.person import TRUNK, Box, Model, box_of
from guide_arc.capture.video.frames import Picture

# More people than these are not offered to choose from.
_MOST: Final = 4
# What a person who was found is painted over with, to find the next one.
_GREY: Final = 127
# Two boxes are of one person where they share so much of both together; somebody found where others
# were covered, so much of their own, is made up of what the cover left.
_SAME: Final = 0.35
_COVERED: Final = 0.3
# Who is seen in fewer of the pictures walked by.
_OFTEN: Final = 0.5
# Somebody so many times as tall as the next is the one whom a clip was filmed of.
_CLEARLY_LARGER: Final = 1.7
_SURE: Final = 0.5


@dataclass(frozen=True)
class Person:
    """One person in view. frame, box : where they are, on a frame on which they were found"""

    frame: int
    box: Box

    @property
    def tall(self) -> float:
        return max(self.box[3] - self.box[1], self.box[2] - self.box[0])


def people_in(pictures: Iterable[tuple[int, Picture]], model: Model) -> tuple[Person, ...]:
    """Who is in view for most of the clip, the largest first. pictures : some of its frames, by
    number"""
    seen: list[list[Person]] = []
    count = 0
    for frame, picture in pictures:
        count += 1
        for box in _boxes(picture, model):
            person = Person(frame, box)
            same = max(seen, key=lambda own: _shared(own[-1].box, box), default=[])
            if same and _shared(same[-1].box, box) > _SAME:
                same.append(person)
            else:
                seen.append([person])
    often = [own[len(own) // 2] for own in seen if len(own) >= max(1.0, _OFTEN * count)]
    return tuple(sorted(often, key=lambda p: -p.tall))


def clearly_meant(people: tuple[Person, ...]) -> bool:
    """Whether the first is so much larger than the others that nobody needs to be asked."""
    return len(people) < 2 or people[0].tall > _CLEARLY_LARGER * people[1].tall


def _boxes(picture: Picture, model: Model) -> list[Box]:
    left = picture.copy()
    covered = np.zeros(picture.shape[:2], dtype=bool)
    out: list[Box] = []
    for _ in range(_MOST):
        found = model.landmarks(left, "alone")
        box = box_of(found)
        if box is None or float(np.mean(found[list(TRUNK), 2])) < _SURE:
            break
        x0, y0, x1, y1 = (max(0, round(v)) for v in box)
        part = np.s_[y0:y1, x0:x1]
        if covered[part].size and covered[part].mean() <= _COVERED:
            out.append(box)
        left[part], covered[part] = _GREY, True
    return out


def _shared(a: Box, b: Box) -> float:
    """The area that two boxes share, of the area of both together."""
    wide = min(a[2], b[2]) - max(a[0], b[0])
    high = min(a[3], b[3]) - max(a[1], b[1])
    both = max(wide, 0.0) * max(high, 0.0)
    return both / max(_area(a) + _area(b) - both, 1.0)


def _area(box: Box) -> float:
    return (box[2] - box[0]) * (box[3] - box[1])
