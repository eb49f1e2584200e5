"""Turning a laboratory's axes to ours: x to the subject's left, y up, z the way they face at the
start."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.model.landmarks import KIT

Array = NDArray[np.float64]

METRES: Final = {
    "m": 1.0,
    "meters": 1.0,
    "metres": 1.0,
    "cm": 0.01,
    "mm": 0.001,
    "in": 0.0254,
    "inches": 0.0254,
    "ft": 0.3048,
}
_START_FRAMES: Final = 60
# A lab whose axes are this near to ours, or to a quarter turn of them, has those axes.
_SNAP_DEG: Final = 25.0
_FAR_M: Final = 20.0


def to_our_axes(position: Array, names: Sequence[str]) -> Array:
    """(T, L, 3) metres in a lab's axes -> in ours. Unchanged if no trunk shows which direction is
    up.

    Up is the lab's axis along which ears and shoulders are above hips and feet; left is
    where the left shoulder and hip are from the right ones at the start. Turned by whole quarters
    where the laboratory's axes fit the subject.
    """
    start = position[:_START_FRAMES]

    def spot(*wanted: str) -> Array:
        every = [start[:, names.index(n)] for n in wanted if n in names]
        seen = np.concatenate(every) if every else np.empty((0, 3))
        seen = seen[np.isfinite(seen).all(axis=1)]
        return seen.mean(axis=0) if len(seen) else np.full(3, np.nan)

    high = spot("left_ear", "right_ear", "nose", "left_shoulder", "right_shoulder")
    low = spot("left_ankle", "right_ankle", "left_knee", "right_knee", "left_hip", "right_hip")
    pairs = [spot(f"left_{p}") - spot(f"right_{p}") for p in ("shoulder", "hip", "ear")]
    known = [pair for pair in pairs if np.isfinite(pair).all()]
    across = np.mean(known, axis=0) if known else np.full(3, np.nan)
    if not np.isfinite(high - low).all():
        return position
    up = np.zeros(3)
    axis = int(np.argmax(np.abs(high - low)))
    up[axis] = np.sign((high - low)[axis])
    left = across - (across @ up) * up if np.isfinite(across).all() else np.full(3, np.nan)
    if not np.isfinite(left).all() or np.linalg.norm(left) < 0.05:
        left = np.roll(up, -1) if up[1] == 0 else np.array([1.0, 0.0, 0.0])
    left = _snapped(left / np.linalg.norm(left), up)
    turn = np.stack((left, up, np.cross(left, up)))
    turned: Array = position @ turn.T
    if np.allclose(turn, np.eye(3)):
        return position
    # A lab's origin may lie anywhere; the subject stays within reach of ours.
    body = turned[:_START_FRAMES, [i for i, n in enumerate(names) if n not in KIT]].reshape(-1, 3)
    body = body[np.isfinite(body).all(axis=1)]
    if not len(body) or np.abs(body).max() <= _FAR_M:
        return turned
    near: Array = turned - np.array([body[:, 0].mean(), body[:, 1].min(), body[:, 2].mean()])
    return near


def _snapped(left: Array, up: Array) -> Array:
    """The horizontal axis of the lab nearest to `left`, if it is near."""
    axes = [s * e for e in np.eye(3) for s in (1.0, -1.0) if abs(e @ up) < 0.5]
    nearest: Array = max(axes, key=lambda e: float(e @ left))
    return nearest if nearest @ left > np.cos(np.radians(_SNAP_DEG)) else left
