"""The simulated camera and tracker: a view, noise, drift and lost samples."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final, cast

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.track import BETWEEN_VIEWS, View
from guide_arc.core.simulate.tracker import TrackerNoise, as_tracked

IMAGE_SIZE: Final = (1280, 720)
DISTANCE_M: Final = 4.2
_HEIGHT_M: Final = 1.1
FOCAL_PX: Final = 1250.0
_DRIFT_HZ: Final = 0.15


@dataclass(frozen=True)
class Camera:
    """How a set is recorded.

    noise : white noise of each axis, standard deviation, metres in space and pixels in a view
    drift : slow drift of each axis, the same units
    dropout : share of samples that are lost, in gaps of a few frames
    roll_deg : the camera's roll, positive if the picture's top turns to the right
    yaw_deg : its yaw around the subject from its view, positive towards the subject's left
    between : the name of a view between two sides, which `view` and `yaw_deg` describe
    pitch_deg : how far it looks down; distance_m : from the subject
    tracker : the other errors of the tracker; None for no more than noise, drift
        and lost samples
    """

    view: View = "none"
    rate_hz: float = 30.0
    noise: float = 0.0
    drift: float = 0.0
    dropout: float = 0.0
    roll_deg: float = 0.0
    yaw_deg: float = 0.0
    pitch_deg: float = 0.0
    distance_m: float = DISTANCE_M
    between: str = ""
    tracker: TrackerNoise | None = None


def camera_from(stated: str, **more: Any) -> Camera:
    """A camera at one of the four sides or between two of them, in space for "none"; more :
    `Camera`'s other fields."""
    if stated not in BETWEEN_VIEWS:
        return Camera(view=cast(View, stated), **more)
    view, round_deg = BETWEEN_VIEWS[stated]
    off = more.pop("yaw_deg", 0.0)
    return Camera(view=view, yaw_deg=round_deg + off, between=stated, **more)


def record(
    points: Array, names: tuple[str, ...], camera: Camera, rng: np.random.Generator
) -> tuple[Array, Array]:
    """What the tracker gives: (T, L, axes) positions with NaN where lost, (T, L) confidence."""
    if camera.view == "none":
        seen = points
    else:
        aim = (camera.yaw_deg, camera.pitch_deg, camera.distance_m)
        seen = rolled(project(points, camera.view, *aim), camera.roll_deg)
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
    if camera.tracker is not None:
        seen, confidence = as_tracked(
            seen,
            confidence,
            names,
            view=camera.view,
            rate_hz=camera.rate_hz,
            tracker=camera.tracker,
            rng=rng,
        )
    return seen, confidence


def project(
    points: Array,
    view: View,
    yaw_deg: float = 0.0,
    pitch_deg: float = 0.0,
    distance_m: float = DISTANCE_M,
) -> Array:
    """(T, L, 3) metres -> (T, L, 2) pixels of a camera that looks at the subject; see `Camera` for
    its place."""
    turn, tip = np.radians(yaw_deg), np.radians(pitch_deg)
    right, away = (_turned(axis, turn) for axis in _AXES[view])
    up = np.array([0.0, 1.0, 0.0])
    look, above = np.cos(tip) * away - np.sin(tip) * up, np.cos(tip) * up + np.sin(tip) * away
    spot = points - np.array([0.0, _HEIGHT_M, 0.0])
    depth = distance_m + spot @ look
    x = IMAGE_SIZE[0] / 2 + FOCAL_PX * (spot @ right) / depth
    y = IMAGE_SIZE[1] / 2 - FOCAL_PX * (spot @ above) / depth
    return np.stack((x, y), axis=-1)


# Of a camera that looks straight at the subject: what runs to the right in its picture, and what
# away from it.
_AXES: Final[dict[View, tuple[tuple[float, float, float], tuple[float, float, float]]]] = {
    "front": ((1.0, 0.0, 0.0), (0.0, 0.0, -1.0)),
    "back": ((-1.0, 0.0, 0.0), (0.0, 0.0, 1.0)),
    "left": ((0.0, 0.0, -1.0), (-1.0, 0.0, 0.0)),
    "right": ((0.0, 0.0, 1.0), (1.0, 0.0, 0.0)),
}


def _turned(axis: tuple[float, float, float], turn: float) -> Array:
    """An axis of the camera's that has gone round the subject, towards the subject's left."""
    x, y, z = axis
    return np.array([np.cos(turn) * x + np.sin(turn) * z, y, np.cos(turn) * z - np.sin(turn) * x])


def ground(hips_m: Array, view: View) -> tuple[float, Array]:
    """A person's distance from the camera, metres, and (2,) the picture of the floor under them.

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
