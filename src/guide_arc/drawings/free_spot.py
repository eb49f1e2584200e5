"""Places for words next to a point that cover nothing drawn."""

from __future__ import annotations

from itertools import pairwise
from typing import Final

import numpy as np

from guide_arc.drawings.shapes import Area, Disc, Drawing, Points, Stroke, Words

_DISTANCES: Final = np.array([16.0, 30.0, 50.0, 80.0, 120.0, 170.0])
_TURNS: Final = np.radians(np.arange(0.0, 360.0, 30.0))
# What stays free at the sheet's edge, pixels.
_MARGIN: Final = 10.0
# The head of the sheet has its own words.
_HEAD: Final = 40.0
_STEP_PX: Final = 12.0
_SMALL: Final = 8.0
# A larger disc as its middle and its rim.
_RIM: Final = np.concatenate(
    (np.zeros((1, 2)), np.stack((np.cos(_TURNS), np.sin(_TURNS)), axis=-1))
)
# One point that would be covered costs as much as standing so many pixels farther off.
_COVERED_COSTS: Final = 40.0


def free_spot(
    drawing: Drawing, about: Points, box: tuple[float, float], sheet: tuple[float, float]
) -> tuple[float, float]:
    """The left top corner of a box near a point, (2,), that covers least of what is drawn already.

    box, sheet : width and height. Beside the point is better than above or below it.
    """
    w, h = box
    way = np.stack((np.cos(_TURNS), np.sin(_TURNS)), axis=-1)
    near = about + (_DISTANCES[:, None, None] * way).reshape(-1, 2)
    # The box is above, below or next to a near point, which is at its left end, middle or right
    # end.
    turned = np.tile(way, (len(_DISTANCES), 1))
    x = (near[:, 0, None] - w * np.array([0.0, 0.5, 1.0])).ravel()
    y = np.repeat(near[:, 1] - h * (0.5 - 0.5 * turned[:, 1]), 3)
    x = np.clip(x, _MARGIN, max(sheet[0] - w - _MARGIN, _MARGIN))
    y = np.clip(y, _HEAD, max(sheet[1] - h - _MARGIN, _HEAD))
    marks = _drawn(drawing)
    covered = (
        (marks[:, 0] > x[:, None] - 4)
        & (marks[:, 0] < x[:, None] + w + 4)
        & (marks[:, 1] > y[:, None] - 4)
        & (marks[:, 1] < y[:, None] + h + 4)
    ).sum(axis=1)
    to = np.stack((np.clip(about[0], x, x + w), np.clip(about[1], y, y + h)), axis=-1)
    far = np.linalg.norm(to - about, axis=1)
    far = np.where(far < 12.0, 60.0, far)  # never over the point itself
    cost = _COVERED_COSTS * covered + far + 0.15 * np.abs(to[:, 1] - about[1])
    best = int(np.argmin(cost))
    return float(x[best]), float(y[best])


def _drawn(drawing: Drawing) -> Points:
    """(N, 2) points along all that is drawn."""
    parts = [np.full((1, 2), -1e6)]
    for item in drawing.items:
        if isinstance(item, Stroke):
            parts.append(_along(item.points))
        elif isinstance(item, Area):
            parts.append(item.points)
        elif isinstance(item, Disc):
            parts.append(
                np.array([item.x, item.y])
                + (item.radius * _RIM if item.radius > _SMALL else _RIM[:1])
            )
        elif isinstance(item, Words):
            wide = 0.55 * item.size * len(item.text)
            left = item.x - {"start": 0.0, "middle": 0.5 * wide, "end": wide}[item.anchor]
            steps = np.linspace(left, left + wide, max(2, int(wide / _STEP_PX)))
            parts.append(np.stack((steps, np.full(len(steps), item.y - 0.4 * item.size)), axis=-1))
    every = np.concatenate(parts)
    seen: Points = every[np.isfinite(every).all(axis=-1)]
    return seen


def _along(points: Points) -> Points:
    """A line as points a few pixels apart."""
    if len(points) > 12 or len(points) < 2:
        return points
    pieces: list[Points] = []
    for a, b in pairwise(points):
        size = float(np.hypot(*(b - a)))
        if np.isfinite(size):
            share: Points = np.linspace(0.0, 1.0, max(2, int(size / _STEP_PX)))[:, None]
            pieces.append(a + share * (b - a))
    return np.concatenate(pieces) if pieces else points
