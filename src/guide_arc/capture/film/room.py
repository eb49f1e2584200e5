"""The plain room in which the simulated client is filmed, with a measuring pole of known length."""

from __future__ import annotations

from typing import Final

import cv2
import numpy as np

from guide_arc.capture.film.paint import Colour, Spot, line, polygon, ring
from guide_arc.capture.video.frames import Picture

POLE_M: Final = 1.0
_WALL: Final = np.array([188.0, 184.0, 174.0])
_FLOOR: Final = np.array([128.0, 108.0, 88.0])
_POLE_DARK: Final[Colour] = (40, 46, 52)
_POLE_LIGHT: Final[Colour] = (232, 228, 214)


def room(width: int, height: int, floor_y: float, px_per_m: float, seed: int) -> Picture:
    """(H, W, 3) the empty room. `floor_y`: where the floor meets the wall, pixels from the top."""
    rng = np.random.default_rng(seed)
    out = np.empty((height, width, 3))
    out[:] = _WALL
    edge = int(np.clip(floor_y, 1, height - 1))
    out[edge:] = _FLOOR
    out *= np.linspace(1.04, 0.93, width)[None, :, None]
    for y in np.geomspace(6, max(height - edge, 7), 6):
        cv2.line(out, (0, edge + int(y)), (width, edge + int(y)), (96, 80, 64), 1)
    plaster = cv2.GaussianBlur(rng.standard_normal((height, width)), (0, 0), 2.0)
    out += 3.0 * (plaster / plaster.std())[..., None]
    picture: Picture = np.clip(out, 0, 255).astype(np.uint8)
    _window(picture, 0.09 * width, edge - 1.75 * px_per_m, px_per_m)
    _frame(picture, 0.86 * width, edge - 1.6 * px_per_m, px_per_m)
    cv2.rectangle(picture, (0, edge - 9), (width, edge), (214, 208, 194), -1)
    return picture


def _window(picture: Picture, x: float, y: float, px_per_m: float) -> None:
    wide, high = 0.5 * px_per_m, 0.8 * px_per_m
    corners = np.array([[x, y], [x + wide, y], [x + wide, y + high], [x, y + high]])
    polygon(picture, corners, (206, 220, 226))
    for a, b in ((0, 1), (1, 2), (2, 3), (3, 0)):
        line(picture, corners[a], corners[b], (120, 112, 98), 5)
    for i in (1, 2):
        level = np.array([0.0, i * high / 3])
        line(picture, corners[0] + level, corners[1] + level, (120, 112, 98), 2)


def _frame(picture: Picture, x: float, y: float, px_per_m: float) -> None:
    for i, shade in enumerate(((140, 90, 70), (70, 100, 120), (120, 130, 80))):
        ring(
            picture,
            np.array([x + 0.12 * i * px_per_m, y + 0.1 * i * px_per_m]),
            0.14 * px_per_m,
            shade,
            6,
        )


def pole(picture: Picture, foot: Spot, px_per_m: float) -> tuple[Spot, Spot]:
    """A measuring pole of 1 m with bands of a tenth, upright on the floor; returns its two ends."""
    half = max(2.0, 0.018 * px_per_m)
    for i in range(10):
        low, high = foot[1] - 0.1 * i * px_per_m, foot[1] - 0.1 * (i + 1) * px_per_m
        box = np.array(
            [
                [foot[0] - half, low],
                [foot[0] + half, low],
                [foot[0] + half, high],
                [foot[0] - half, high],
            ]
        )
        polygon(picture, box, _POLE_DARK if i % 2 else _POLE_LIGHT)
    return foot, foot - np.array([0.0, POLE_M * px_per_m])
