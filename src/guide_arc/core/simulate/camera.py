"""The simulated camera and tracker: a view, noise, drift and lost samples."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.track import View

IMAGE_SIZE: Final = (1280, 720)
_DISTANCE_M: Final = 4.2
_HEIGHT_M: Final = 1.1
FOCAL_PX: Final = 1250.0
_DRIFT_HZ: Final = 0.15


@dataclass(frozen=True)
class Camera:
    """How a set is recorded.

    noise : white noise of each axis, standard deviation, metres in space and pixels in a view
    drift : slow drift of each axis, the same units
    dropout : share of samples that are lost, in gaps of a few frames
    roll_deg : how far a camera stands off level, the picture's top turned to the right
    """

    view: View = "none"
    rate_hz: float = 30.0
    noise: float = 0.0
    drift: float = 0.0
    dropout: float = 0.0
    roll_deg: float = 0.0


def record(
    points: Array, names: tuple[str, ...], camera: Camera, rng: np.random.Generator
) -> tuple[Array, Array]:
    """What the tracker gives: (T, L, axes) positions with NaN where lost, (T, L) confidence."""
    seen = (
        points if camera.view == "none" else rolled(project(points, camera.view), camera.roll_deg)
    )
    frames, count, axes = seen.shape
    if camera.noise:
        seen = seen + camera.noise * rng.standard_normal(seen.shape)
    if camera.drift:
        seen = seen + camera.drift * _drift(frames, count * axes, camera.rate_hz, rng).reshape(
            seen.shape
        )
    confidence = np.clip(0.93 + 0.04 * rng.standard_normal((frames, count)), 0.0, 1.0)
    near = near_side(camera.view)
    if near:
        far = [
            i for i, n in enumerate(names) if n.startswith("right_" if near == "left" else "left_")
        ]
        confidence[:, far] = np.clip(confidence[:, far] - 0.4, 0.0, 1.0)
    if camera.dropout:
        lost = _lost(frames, count, camera.dropout, rng)
        seen = np.where(lost[..., None], np.nan, seen)
    return seen, confidence


def project(points: Array, view: View) -> Array:
    """(T, L, 3) metres -> (T, L, 2) pixels of a level camera that looks at the subject."""
    right, toward = {
        "front": ((1, 0, 0), (0, 0, -1)),
        "back": ((-1, 0, 0), (0, 0, 1)),
        "left": ((0, 0, -1), (-1, 0, 0)),
        "right": ((0, 0, 1), (1, 0, 0)),
    }[view]
    depth = _DISTANCE_M + points @ np.array(toward, dtype=float)
    across = points @ np.array(right, dtype=float)
    x = IMAGE_SIZE[0] / 2 + FOCAL_PX * across / depth
    y = IMAGE_SIZE[1] / 2 - FOCAL_PX * (points[..., 1] - _HEIGHT_M) / depth
    return np.stack((x, y), axis=-1)


def ground(hips_m: Array, view: View) -> tuple[float, Array]:
    """How far from the camera a person stands, metres, and (2,) where the floor under them is seen.

    hips_m : (3,) the middle of their hips
    """
    floor = np.array([hips_m[0], 0.0, hips_m[2]])
    beside = floor + np.array([1.0, 0.0, 0.0] if view in ("front", "back") else [0.0, 0.0, 1.0])
    spot, apart = project(np.stack((floor, beside))[None], view)[0]
    return FOCAL_PX / float(np.hypot(*(apart - spot))), spot


def rolled(pixels: Array, roll_deg: float) -> Array:
    """(T, L, 2) the picture turned about its middle."""
    if not roll_deg:
        return pixels
    turn = np.radians(roll_deg)
    across, down = np.moveaxis(pixels - 0.5 * np.array(IMAGE_SIZE), -1, 0)
    turned = np.stack(
        (
            np.cos(turn) * across - np.sin(turn) * down,
            np.sin(turn) * across + np.cos(turn) * down,
        ),
        axis=-1,
    )
    out: Array = turned + 0.5 * np.array(IMAGE_SIZE)
    return out


def _drift(frames: int, channels: int, rate_hz: float, rng: np.random.Generator) -> Array:
    """(T, channels) of unit variance, slower than a movement: a first-order random process."""
    keep = float(np.exp(-2 * np.pi * _DRIFT_HZ / rate_hz))
    kick = rng.standard_normal((frames, channels)) * np.sqrt(1 - keep**2)
    out = np.empty((frames, channels))
    out[0] = rng.standard_normal(channels)
    for i in range(1, frames):
        out[i] = keep * out[i - 1] + kick[i]
    return out


def _lost(frames: int, count: int, share: float, rng: np.random.Generator) -> Array:
    """(T, L) lost samples in runs of one to six frames."""
    lost = np.zeros((frames, count), dtype=bool)
    for landmark in range(count):
        runs = rng.poisson(share * frames / 3.5)
        for start in rng.integers(0, frames, runs):
            lost[start : start + int(rng.integers(1, 7)), landmark] = True
    return lost
