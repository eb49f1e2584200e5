"""How the anchors of limbs look: patches cut along the limb, remembered by its direction.

A limb's look turns with it, so patches are cut along the limb, long and narrow, with little of what is
behind it. Reps come back to the same postures: a patch from the first rep holds the anchor in all later
ones, and nothing drifts from rep to rep.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.limbs import Spot

Grey = NDArray[np.uint8]

# A direction this far from every remembered one is remembered as well, degrees.
_NEW_DEG: Final = 15.0
_MOST: Final = 36
# The coach's own mark is asked first; where it fits this well, no other patch is.
_ROOT_FITS: Final = 0.82
_SHARPEST: Final = 1e-6
_FLAT: Final = 1.0


@dataclass(frozen=True, eq=False)
class Patch:
    """A look, cut along its limb. `turn_deg`: the limb's direction; `root`: whether it comes from the
    coach's own mark."""

    grey: Grey
    turn_deg: float
    root: bool


@dataclass(frozen=True)
class Seen:
    """Where a remembered patch fits best: pixels from where it was looked for, and how well, -1 to 1."""

    dx: float
    dy: float
    fit: float


_NOWHERE: Final = Seen(0.0, 0.0, 0.0)


class Memory:
    """The remembered looks of one anchor. long, wide : half of a patch along its limb and across"""

    def __init__(self, long: int, wide: int) -> None:
        self.long, self.wide = long, wide
        self._patches: list[Patch] = []

    def remember(self, grey: Grey, spot: Spot, turn_deg: float, *, root: bool = False) -> None:
        """Keep how the anchor looks here, where that is in the picture and new."""
        if not root and (len(self._patches) >= _MOST or self._apart(turn_deg) < _NEW_DEG):
            return
        patch = _cut(grey, spot, turn_deg, self.long, self.wide)
        if patch is not None and float(patch.std()) >= _FLAT:
            self._patches.append(Patch(patch, turn_deg, root))

    def look(self, grey: Grey, spot: Spot, turn_deg: float, reach: int) -> Seen:
        """The best fit within `reach` pixels of a spot; nothing fits off the picture."""
        around = _cut(grey, spot, turn_deg, self.long + reach, self.wide + reach)
        if around is None or not self._patches:
            return _NOWHERE
        roots = [p for p in self._patches if p.root]
        best = _NOWHERE
        for some in (roots, [p for p in self._patches if not p.root]):
            if some and best.fit < _ROOT_FITS:
                nearest = min(some, key=lambda p: abs(_turned(p.turn_deg, turn_deg)))
                seen = self._fit(around, nearest, turn_deg, reach)
                best = seen if seen.fit > best.fit else best
        return best

    def _fit(self, around: Grey, patch: Patch, turn_deg: float, reach: int) -> Seen:
        fit = cv2.matchTemplate(around, patch.grey, cv2.TM_CCOEFF_NORMED)
        _low, best, _where, (x, y) = cv2.minMaxLoc(fit)
        along, aside = x - reach + _between(fit[y, :], x), y - reach + _between(fit[:, x], y)
        turn = np.radians(turn_deg)
        cos, sin = float(np.cos(turn)), float(np.sin(turn))
        return Seen(cos * along - sin * aside, sin * along + cos * aside, float(best))

    def _apart(self, turn_deg: float) -> float:
        return min((abs(_turned(p.turn_deg, turn_deg)) for p in self._patches), default=np.inf)


def _cut(grey: Grey, spot: Spot, turn_deg: float, long: int, wide: int) -> Grey | None:
    """(2 wide + 1, 2 long + 1) about a spot, rows along a direction; None off the picture."""
    high, across = grey.shape
    if not (-long < spot[0] < across + long and -long < spot[1] < high + long):
        return None
    turn = np.radians(turn_deg)
    cos, sin = np.cos(turn), np.sin(turn)
    # From the patch back to the picture: a step along a row goes along the limb.
    back = np.array(
        [
            [cos, -sin, spot[0] - cos * long + sin * wide],
            [sin, cos, spot[1] - sin * long - cos * wide],
        ]
    )
    out: Grey = cv2.warpAffine(
        grey, back, (2 * long + 1, 2 * wide + 1), flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_REPLICATE,
    )  # fmt: skip
    return out


def _between(row: NDArray[np.float32], at: int) -> float:
    """Where between pixels a fit is best, from a parabola through the best and its neighbours."""
    if not 0 < at < len(row) - 1:
        return 0.0
    a, b, c = float(row[at - 1]), float(row[at]), float(row[at + 1])
    bend = a - 2 * b + c
    return 0.0 if abs(bend) < _SHARPEST else float(np.clip(0.5 * (a - c) / bend, -0.5, 0.5))


def _turned(was_deg: float, now_deg: float) -> float:
    return (now_deg - was_deg + 180.0) % 360.0 - 180.0
