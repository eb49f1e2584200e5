"""The background behind the person who trains: the picture without what moves, and what differs
from it in each frame.

A dumbbell on a rack may look just like a forearm that ends in one. What is in a place in nearly
every frame has not gone there with the limb. While a limb is where it is most of the time nothing
differs, and this observation says nothing."""

from __future__ import annotations

from typing import Final

import cv2
import numpy as np

from guide_arc.capture.tracking.looks import Numbers
from guide_arc.capture.tracking.strips import Picture

# Number of frames of a block that make the background picture.
_SAMPLES: Final = 31
# Grey levels that a sensor and a data rate make of nothing, and pixels by which a held phone
# shakes: at half the size.
_NOISE: Final = 6.0
_SHAKE_PX: Final = 0.6
# A difference from noise and shaking, in multiples of theirs, at which evidence begins, and at
# which it is complete.
_TELLS: Final = (1.0, 2.5)
_WHOLE: Final = 255.0


class Behind:
    """The background of a block of frames."""

    def __init__(self, pictures: list[Picture]) -> None:
        some = np.stack([_half(p) for p in pictures[:: max(1, len(pictures) // _SAMPLES)]])
        middle = len(some) // 2
        usual = np.partition(some, middle, axis=0)[middle].astype(np.float32)
        across, down = (cv2.Sobel(usual, cv2.CV_32F, *way, scale=1 / 8) for way in ((1, 0), (0, 1)))
        self._usual = usual.astype(np.uint8)
        low, high = _TELLS
        self._tells = _WHOLE / (high - low) / (_NOISE + _SHAKE_PX * np.hypot(across, down))
        self._less = _WHOLE / (high - low) * low
        self._bright = float(usual[:, :, 0].mean()) + 1.0

    def moved(self, picture: Picture) -> Picture:
        """(H / 2, W / 2) from 0 to 255, how surely each place shows something other than the
        background."""
        bright, *colours = cv2.split(_half(picture))
        # Light that comes and goes changes all of it alike.
        light = self._bright / (float(bright.mean()) + 1.0)
        now = cv2.merge((cv2.convertScaleAbs(bright, alpha=light), *colours))
        times = cv2.multiply(cv2.absdiff(now, self._usual), self._tells, dtype=cv2.CV_32F)
        most: Numbers = np.maximum.reduce(cv2.split(times)) - np.float32(self._less)
        out: Picture = cv2.blur(np.clip(most, 0.0, _WHOLE).astype(np.uint8), (3, 3))
        return out


def _half(picture: Picture) -> Picture:
    out: Picture = cv2.resize(picture, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
    return out
