"""Puppets: clips made another way than the simulated camera's films, to follow points in.

A flat figure is cut out of photographs, limb by limb, and turned by pins at its joints over a
photographed ground, as in paper animation; its angles are plain sums of sines. None of the film
maker's performance, drawing, light or room is used.
"""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import cast

import av
import cv2
import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.film.photos import Photo, relief
from guide_arc.capture.video.clip import Clip, inspect_video
from guide_arc.core.model.marks import Mark, Marks
from guide_arc.core.model.track import StatedView, View

Picture = NDArray[np.uint8]
Spot = NDArray[np.float64]

_SUBFRAMES = 4
_SIZE = (1280, 720)
# Each paper part: from, to, half-widths at both ends in px, photograph, mean colour, contrast.
_PARTS: tuple[tuple[str, str, int, int, Photo, tuple[int, int, int], float], ...] = (
    ("hip", "knee", 34, 24, "gravel", (70, 72, 92), 9.0),
    ("knee", "ankle", 23, 15, "gravel", (70, 72, 92), 9.0),
    ("hip", "shoulder", 46, 54, "grass", (118, 96, 84), 10.0),
    ("shoulder", "ear", 22, 36, "gravel", (188, 150, 126), 5.0),
    ("shoulder", "elbow", 24, 19, "grass", (124, 100, 88), 10.0),
    ("elbow", "wrist", 18, 12, "gravel", (190, 148, 122), 5.0),
    ("wrist", "knuckles", 14, 15, "gravel", (186, 144, 118), 6.0),
)
_LONG = {
    "knee": 190.0,
    "ankle": 180.0,
    "shoulder": 205.0,
    "ear": 78.0,
    "elbow": 128.0,
    "wrist": 112.0,
    "knuckles": 32.0,
}


@dataclass(frozen=True, eq=False)
class Puppet:
    """A clip of a puppet. truth : by landmark name, (F, 2) pixels"""

    clip: Clip
    view: View
    truth: dict[str, Spot]

    def marks(self, frame: int = 0) -> Marks:
        out = Marks(cast(StatedView, self.view))
        for name, at in self.truth.items():
            out = out.with_mark(name, Mark(frame, float(at[frame, 0]), float(at[frame, 1])))
        return out


def puppet(
    path: Path,
    *,
    rate_hz: float = 30.0,
    seconds: float = 12.0,
    seed: int = 1,
    shutter_s: float = 1 / 60,
    size: float = 1.0,
) -> Puppet:
    """A puppet that curls, faces left and sways a little. size : 1 for a picture of 1280 by 720"""
    wide, high = round(size * _SIZE[0]), round(size * _SIZE[1])
    times = np.arange(round(seconds * rate_hz)) / rate_hz
    paper = [_cut(*part[2:], seed + i) for i, part in enumerate(_PARTS)]
    ground = cv2.resize(_ground(seed), (wide, high))
    rng = np.random.default_rng(seed)
    grain = rng.normal(0.0, 4.0, (6, high, wide, 1)).astype(np.float32)
    with av.open(str(path), "w", format="mp4") as out:
        stream = out.add_stream(
            "libx264", rate=round(rate_hz), options={"b": "2200000", "preset": "fast"}
        )
        assert isinstance(stream, av.VideoStream)
        stream.width, stream.height, stream.pix_fmt, stream.bit_rate = (
            wide,
            high,
            "yuv420p",
            2_200_000,
        )
        for t in times:
            open_s = t + shutter_s * (np.arange(_SUBFRAMES) / _SUBFRAMES - 0.5)
            seen = np.mean(
                [_quarantine(ground, paper, _joints(float(s), seed), size) for s in open_s], axis=0
            )
            noisy = 1.1 * seen - 8.0 + grain[rng.integers(len(grain))]
            frame = av.VideoFrame.from_ndarray(
                np.clip(noisy, 0, 255).astype(np.uint8), format="rgb24"
            )
            out.mux(stream.encode(frame))
        out.mux(stream.encode())
    where = [_joints(float(t), seed) for t in times]
    truth = {f"left_{n}": size * np.stack([w[n] for w in where]) for n in where[0]}
    return Puppet(inspect_video(path), "left", truth)


def _joints(t: float, seed: int) -> dict[str, Spot]:
    """Where the pins are. Angles are of the picture, degrees, 90 straight down."""
    late = 0.4 + 0.1 * (seed % 5)
    bend = 66.0 * (1.0 - np.cos(2.0 * np.pi * max(t - 0.8, 0.0) / (1.7 + late)))
    sway = 1.0 + 2.5 * np.sin(1.3 * t)
    turn = {
        "knee": 92.0,
        "ankle": 87.0,
        "shoulder": -90.0 + sway,
        "ear": -97.0 + 2.0 * sway,
        "elbow": 92.0 + 6.0 * np.sin(0.9 * t) - 0.04 * bend,
        "wrist": 100.0 + bend + 4.0 * np.sin(0.9 * t),
        "knuckles": 104.0 + bend + 9.0 * np.sin(2.1 * t),
    }
    at = {"hip": np.array([650.0 + 4.0 * np.sin(0.7 * t), 325.0 + 2.0 * np.sin(1.1 * t)])}
    for above, below in (part[:2] for part in _PARTS):
        angle = np.radians(turn[below])
        at[below] = at[above] + _LONG[below] * np.array([np.cos(angle), np.sin(angle)])
    return at


def _cut(
    wide_a: int, wide_b: int, photo: Photo, colour: tuple[int, int, int], contrast: float, seed: int
) -> NDArray[np.float32]:
    """(H, W, 4) a strip of paper with a margin about it, along W; the last channel is where there
    is paper."""
    long, high = 240, 2 * max(wide_a, wide_b) + 8
    whole = relief(photo)
    y, x = np.random.default_rng(seed).integers(0, len(whole) - 130, 2)
    look = cv2.GaussianBlur(whole[y : y + 128, x : x + 128], (0, 0), 1.5)
    look = cv2.resize(look, (long, high), interpolation=cv2.INTER_CUBIC)
    rgb = np.array(colour, dtype=np.float32) + contrast * look[..., None]
    edge = np.interp(np.arange(long), [20, long - 20], [wide_a, wide_b])
    off = np.abs(np.arange(high) - (high - 1) / 2)
    inside = (off[:, None] <= edge).astype(np.float32)
    # Half-round at both ends.
    for end, wide in ((20, wide_a), (long - 21, wide_b)):
        beyond = np.arange(long) < end if end == 20 else np.arange(long) > end
        far = np.hypot((np.arange(long) - end)[None] * wide / 20.0, off[:, None])
        inside[:, beyond] = (far <= wide)[:, beyond]
    return np.dstack((rgb, cv2.GaussianBlur(inside, (0, 0), 0.8))).astype(np.float32)


def _ground(seed: int) -> NDArray[np.float32]:
    tall = cv2.resize(relief("brick"), (_SIZE[0], 1280))[seed * 40 % 500 :][: _SIZE[1]]
    out: NDArray[np.float32] = (np.array([132.0, 140.0, 138.0]) + 18.0 * tall[..., None]).astype(
        np.float32
    )
    return out


def _quarantine(
    ground: NDArray[np.float32], paper: list[NDArray[np.float32]], at: dict[str, Spot], size: float
) -> NDArray[np.float32]:
    canvas = ground.copy()
    for part, strip in zip(_PARTS, paper, strict=True):
        a, b = size * at[part[0]], size * at[part[1]]
        high, long = strip.shape[:2]
        reach = max(part[2:4]) + 30
        x0, y0 = np.maximum(np.minimum(a, b) - reach, 0).astype(int)
        x1, y1 = np.minimum(np.maximum(a, b) + reach, canvas.shape[1::-1]).astype(int)
        normal = np.array([a[1] - b[1], b[0] - a[0]])
        normal = normal / max(float(np.hypot(*normal)), 1e-6)
        middle = (high - 1) / 2
        source = np.array([[20, middle], [long - 20, middle], [20, middle + 10]], dtype=np.float32)
        target = (np.array([a, b, a + 10 * size * normal]) - (x0, y0)).astype(np.float32)
        moved = cv2.warpAffine(
            strip, cv2.getAffineTransform(source, target), (int(x1 - x0), int(y1 - y0))
        )
        under, share = canvas[y0:y1, x0:x1], moved[..., 3:]
        under += share * (moved[..., :3] - under)
    return canvas
