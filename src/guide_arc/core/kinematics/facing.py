"""The side from which a body is seen, estimated from its landmarks in the picture."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.track import StatedView

# A landmark below this confidence says nothing of the side.
_SEEN: Final = 0.5
# The shoulders' breadth in the picture, of the trunk's length: broader from the front or the back,
# narrower from a side. Upright adults have 0.75 to 0.85 between the joints; half of that is a
# camera 60 degrees off the front.
_BROAD: Final = 0.42
_SURELY_BROAD: Final = 0.58
_SURELY_NARROW: Final = 0.3
# How far nose and toes must be in front of ear and heel to show a direction, as a share of the
# trunk's length.
_AHEAD: Final = 0.04
# So much of the time has to agree.
_MOSTLY: Final = 0.8


@dataclass(frozen=True)
class SeenFrom:
    """The side of a body that a camera sees. sure : whether it can be relied on without asking"""

    view: StatedView
    sure: bool


def side_seen(
    names: Sequence[str], position: NDArray[np.float64], confidence: NDArray[np.float64]
) -> SeenFrom | None:
    """The view from which a body was filmed; None where too little of it is seen.

    position : (T, L, 2) in a picture, y down; confidence : (T, L)
    """
    spots = np.where((confidence >= _SEEN)[..., None], position, np.nan)

    def of(name: str) -> Array:
        at: Array = (
            spots[:, names.index(name)] if name in names else np.full((len(spots), 2), np.nan)
        )
        return at

    shoulder = {side: of(f"{side}_shoulder") for side in ("left", "right")}
    hip = {side: of(f"{side}_hip") for side in ("left", "right")}
    with np.errstate(all="ignore"):
        trunk = _middle(shoulder["left"], shoulder["right"]) - _middle(hip["left"], hip["right"])
    known = np.isfinite(trunk).all(axis=1)
    if known.mean() < 0.2:
        return None
    long_px = float(np.nanpercentile(np.hypot(*trunk[known].T), 80))
    apart = (shoulder["left"] - shoulder["right"])[:, 0]
    broad = float(np.nanmedian(np.abs(apart))) / long_px if np.isfinite(apart).any() else 0.0
    if broad > _BROAD:
        left_on_the_right = float(np.mean(apart[np.isfinite(apart)] > 0.0))
        agree = max(left_on_the_right, 1.0 - left_on_the_right)
        view: StatedView = "front" if left_on_the_right > 0.5 else "back"
        return SeenFrom(view, broad > _SURELY_BROAD and agree > _MOSTLY)
    ahead = _ahead(of, long_px)
    if ahead is None:
        return None
    to_the_left, agree = ahead
    return SeenFrom("left" if to_the_left else "right", broad < _SURELY_NARROW and agree > _MOSTLY)


def _ahead(of: Callable[[str], Array], long_px: float) -> tuple[bool, float] | None:
    """Whether the body faces the picture's left, and the share of the evidence for it."""
    votes = []
    ear = _middle(of("left_ear"), of("right_ear"))
    for front, back in (
        (of("nose"), ear),
        (of("left_foot"), of("left_heel")),
        (of("right_foot"), of("right_heel")),
    ):
        step = (front - back)[:, 0] / long_px
        step = step[np.isfinite(step) & (np.abs(step) > _AHEAD)]
        votes.append(step < 0.0)
    said = np.concatenate(votes)
    if len(said) < 3:
        return None
    share = float(said.mean())
    return share > 0.5, max(share, 1.0 - share)


def _middle(a: Array, b: Array) -> Array:
    """Between two points, or the one of them that is seen."""
    return np.where(np.isfinite(a) & np.isfinite(b), 0.5 * (a + b), np.where(np.isfinite(a), a, b))
