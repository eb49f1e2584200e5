"""The room in which the simulated client is filmed, with a measuring pole of known length."""

from __future__ import annotations

from typing import Final

import cv2
import numpy as np

from guide_arc.capture.film.paint import Colour, Spot, disc, line, polygon, ring
from guide_arc.capture.film.photos import crop
from guide_arc.capture.video.frames import Picture

# A pole of known length, in bands of dark and light as surveyors have them.
POLE_M: Final = 1.0
_WALLS: Final = np.array([[188.0, 184.0, 174.0], [142.0, 148.0, 150.0], [168.0, 140.0, 118.0]])
_FLOOR: Final = np.array([128.0, 108.0, 88.0])
# Its bands.
_POLE_DARK: Final[Colour] = (40, 46, 52)
_POLE_LIGHT: Final[Colour] = (232, 228, 214)


def room(width: int, height: int, floor_y: float, px_per_m: float, seed: int) -> Picture:
    """(H, W, 3) the empty room. `floor_y`: where the floor meets the wall, pixels from the top."""
    rng = np.random.default_rng(seed)
    out = np.empty((height, width, 3))
    edge = int(np.clip(floor_y, 1, height - 1))
    out[:] = _WALLS[int(rng.integers(len(_WALLS)))]
    out[edge:] = _FLOOR
    # Walls of painted brick or of plaster, a floor of rubber granulate or of turf.
    brick = bool(rng.integers(2))
    wall = crop("brick" if brick else "gravel", edge, width, seed, 0.5, 1.6 if brick else 2.5)
    out[:edge] += (11.0 if brick else 5.0) * wall[..., None]
    floor = crop("gravel" if rng.integers(2) else "grass", height - edge, width, seed + 1, 0.4, 0.6)
    out[edge:] += 12.0 * floor[..., None]
    out *= np.linspace(1.04, 0.93, width)[None, :, None]
    for y in np.geomspace(6, max(height - edge, 7), 6):
        cv2.line(out, (0, edge + int(y)), (width, edge + int(y)), (96, 80, 64), 1)
    picture: Picture = np.clip(out, 0, 255).astype(np.uint8)
    _window(picture, 0.09 * width, edge - 1.75 * px_per_m, px_per_m)
    _frame(picture, 0.86 * width, edge - 1.6 * px_per_m, px_per_m)
    cv2.rectangle(picture, (0, edge - 9), (width, edge), (214, 208, 194), -1)
    _rack(picture, rng, edge, px_per_m)
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


def _rack(picture: Picture, rng: np.random.Generator, edge: int, px_per_m: float) -> None:
    """A rack of weights along the wall, as dark as what the client holds."""
    wide = picture.shape[1]
    for level in (0.35, 0.8):
        y = edge - level * px_per_m
        line(
            picture,
            np.array([0.24 * wide, y]),
            np.array([0.78 * wide, y]),
            (64, 66, 70),
            round(0.05 * px_per_m),
        )
        for x in np.arange(0.26 * wide, 0.77 * wide, 0.26 * px_per_m):
            at = np.array([x + rng.uniform(-4, 4), y - 0.1 * px_per_m])
            shade = int(rng.integers(36, 78))
            disc(picture, at, 0.085 * px_per_m, (shade, shade, shade + 4))
            disc(picture, at, 0.03 * px_per_m, (132, 134, 138))


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
