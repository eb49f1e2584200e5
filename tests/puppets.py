"""Puppets: clips made another way than the simulated camera's films, to follow points in.

A flat figure is cut out of photographs, limb by limb, and turned by pins at its joints over a
photographed ground, as in paper animation; its angles are plain sums of sines. None of the film
maker's performance, drawing, light or room is used.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import ClassVar, Literal, cast

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
# Cut off at both sides for a picture that is higher than wide.
_CUT_OFF = 400
# Each paper part: from, to, half-widths at both ends in px, photograph, mean colour, contrast.
_Part = tuple[str, str, int, int, Photo, tuple[int, int, int], float]
_PARTS: tuple[_Part, ...] = (
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


@dataclass(frozen=True)
class Costume:
    """What a puppet wears and holds. shirt : plain, checked or striped cloth; sleeves : whether
    they reach the wrist (long), the elbow (short) or end at the shoulder (none); kit : what hides
    the hand"""

    shirt: Literal["plain", "checked", "striped"] = "plain"
    sleeves: Literal["long", "short", "none"] = "short"
    kit: Literal["", "plates", "dumbbell"] = ""


@dataclass(frozen=True)
class Room:
    """How a puppet is filmed. light : brightness from 0 to 1; grain : noise in grey levels; shake :
    how far the camera moves, pixels; portrait : a picture that is higher than wide"""

    light: float = 1.0
    grain: float = 4.0
    shake: float = 0.0
    portrait: bool = False


@dataclass(frozen=True)
class Curls:
    """Reps of a curl with a fault or none. Angles in degrees, times in seconds."""

    reps: int = 4
    lift_s: float = 1.0
    lower_s: float = 2.0
    top_deg: float = 130.0
    swing_deg: float = 0.0
    drift_deg: float = 0.0

    PAUSE_S: ClassVar[float] = 0.3
    FIRST_S: ClassVar[float] = 1.0

    def starts_s(self) -> list[float]:
        every = self.lift_s + self.lower_s + 2.0 * self.PAUSE_S
        return [self.FIRST_S + n * every for n in range(self.reps)]

    @property
    def seconds(self) -> float:
        return self.starts_s()[-1] + self.lift_s + self.lower_s + 2.0

    def at(self, t: float) -> tuple[float, float]:
        """How far the lift has come at a time, 0 to 1, and how far the trunk leans back of all
        that it swings, 0 to 1."""
        for start in self.starts_s():
            turn = start + self.lift_s
            end = turn + self.PAUSE_S + self.lower_s
            if start <= t < end:
                up = _ease((t - start) / self.lift_s)
                down = _ease((t - turn - self.PAUSE_S) / self.lower_s)
                swing = np.sin(np.pi * min((t - start) / (1.4 * self.lift_s), 1.0)) ** 2
                return up - down, float(swing)
        return 0.0, 0.0


def _ease(share: float) -> float:
    """From 0 to 1 at an even pace with soft ends."""
    x = min(max(share, 0.0), 1.0)
    return float(x - np.sin(2.0 * np.pi * x) / (2.0 * np.pi) * 0.6)


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
    costume: Costume = Costume(),
    room: Room = Room(),
    curls: Curls | None = None,
) -> Puppet:
    """A puppet that curls, faces left and sways a little. size : 1 for a picture of 1280 by 720

    curls : the reps to do, in place of even sines
    """
    wide, high = round(size * _SIZE[0]), round(size * _SIZE[1])
    if curls is not None:
        seconds = curls.seconds
    times = np.arange(round(seconds * rate_hz)) / rate_hz
    paper = [
        _patterned(_cut(*_worn(part, costume)[2:], seed + i), part, costume)
        for i, part in enumerate(_PARTS)
    ]
    ground = cv2.resize(_ground(seed), (wide, high))
    rng = np.random.default_rng(seed)
    grain = rng.normal(0.0, room.grain, (6, high, wide, 1)).astype(np.float32)
    left = round(size * _CUT_OFF) if room.portrait else 0
    joints = partial(_joints, seed=seed, curls=curls, shake=room.shake)
    with av.open(str(path), "w", format="mp4") as out:
        stream = out.add_stream(
            "libx264", rate=round(rate_hz), options={"b": "2200000", "preset": "fast"}
        )
        assert isinstance(stream, av.VideoStream)
        stream.width, stream.height, stream.pix_fmt, stream.bit_rate = (
            wide - 2 * left,
            high,
            "yuv420p",
            2_200_000,
        )
        for t in times:
            open_s = t + shutter_s * (np.arange(_SUBFRAMES) / _SUBFRAMES - 0.5)
            seen = np.mean(
                [_drawn(ground, paper, joints(float(s)), size, costume.kit) for s in open_s],
                axis=0,
            )
            noisy = room.light * (1.1 * seen - 8.0) + grain[rng.integers(len(grain))]
            noisy = noisy[:, left : wide - left]
            frame = av.VideoFrame.from_ndarray(
                np.clip(noisy, 0, 255).astype(np.uint8), format="rgb24"
            )
            out.mux(stream.encode(frame))
        out.mux(stream.encode())
    where = [joints(float(t)) for t in times]
    truth = {
        f"left_{n}": size * np.stack([w[n] for w in where]) - np.array([left, 0.0])
        for n in where[0]
    }
    return Puppet(inspect_video(path), "left", truth)


def _joints(t: float, seed: int, curls: Curls | None = None, shake: float = 0.0) -> dict[str, Spot]:
    """Where the pins are. Angles are of the picture, degrees, 90 straight down."""
    late = 0.4 + 0.1 * (seed % 5)
    drift = 0.0
    if curls is None:
        bend = 66.0 * (1.0 - np.cos(2.0 * np.pi * max(t - 0.8, 0.0) / (1.7 + late)))
        sway = 1.0 + 2.5 * np.sin(1.3 * t)
    else:
        lifted, swing = curls.at(t)
        bend = (curls.top_deg + 4.0) * lifted - 4.0
        sway = 1.0 + 0.4 * np.sin(1.3 * t) + curls.swing_deg * swing
        drift = curls.drift_deg * lifted
    turn = {
        "knee": 92.0,
        "ankle": 87.0,
        "shoulder": -90.0 + sway,
        "ear": -97.0 + 2.0 * sway,
        "elbow": 92.0 + 6.0 * np.sin(0.9 * t) - 0.04 * bend,
        "wrist": 100.0 + bend + 4.0 * np.sin(0.9 * t),
        "knuckles": 104.0 + bend + 9.0 * np.sin(2.1 * t),
    }
    if curls is not None:
        upper = 92.0 + 0.8 * np.sin(0.9 * t) + drift
        turn |= {"elbow": upper, "wrist": upper + 6.0 + bend, "knuckles": upper + 8.0 + bend}
    at = {"hip": np.array([650.0 + 4.0 * np.sin(0.7 * t), 325.0 + 2.0 * np.sin(1.1 * t)])}
    at["hip"] += shake * np.array([np.sin(2.3 * t), np.sin(3.1 * t + 1.0)])
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


def _worn(part: _Part, costume: Costume) -> _Part:
    """A part in what the puppet wears: cloth or skin."""
    cloth, skin = _PARTS[2][4:], _PARTS[5][4:]
    if part[:2] == ("elbow", "wrist") and costume.sleeves == "long":
        return (*part[:4], *cloth)
    if part[:2] == ("shoulder", "elbow") and costume.sleeves == "none":
        return (*part[:4], *skin)
    return part


def _patterned(strip: NDArray[np.float32], part: _Part, costume: Costume) -> NDArray[np.float32]:
    """Checks or stripes on what is cloth of the shirt."""
    cloth = part[:2] == ("hip", "shoulder") or (
        part[:2] == ("shoulder", "elbow") and costume.sleeves != "none"
    )
    cloth |= part[:2] == ("elbow", "wrist") and costume.sleeves == "long"
    if costume.shirt == "plain" or not cloth:
        return strip
    y, x = np.mgrid[: strip.shape[0], : strip.shape[1]]
    lines = (x // 22) % 2
    if costume.shirt == "checked":
        lines = (lines + (y // 22) % 2) % 2
    out = strip.copy()
    out[..., :3] += (34.0 * (lines - 0.5))[..., None]
    return out


def _held(canvas: NDArray[np.float32], at: dict[str, Spot], size: float, kit: str) -> None:
    """What is in the hand: a plate seen flat, or the head of a dumbbell."""
    if not kit:
        return
    x, y = size * (0.3 * at["wrist"] + 0.7 * at["knuckles"])
    spot, big = (round(16 * x), round(16 * y)), (78.0 if kit == "plates" else 30.0)
    for share, grey in ((1.0, 38.0), (0.86, 52.0), (0.3, 120.0)):
        colour = (grey, grey, 1.05 * grey)
        radius = round(16 * share * size * big)
        cv2.circle(canvas, spot, radius, colour, -1, cv2.LINE_AA, 4)


def _ground(seed: int) -> NDArray[np.float32]:
    tall = cv2.resize(relief("brick"), (_SIZE[0], 1280))[seed * 40 % 500 :][: _SIZE[1]]
    out: NDArray[np.float32] = (np.array([132.0, 140.0, 138.0]) + 18.0 * tall[..., None]).astype(
        np.float32
    )
    return out


def _drawn(
    ground: NDArray[np.float32],
    paper: list[NDArray[np.float32]],
    at: dict[str, Spot],
    size: float,
    kit: str = "",
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
    _held(canvas, at, size, kit)
    return canvas
