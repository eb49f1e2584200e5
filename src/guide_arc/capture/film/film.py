"""Filming a simulated set: an MP4 with its true landmarks in the picture."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any, Final

import cv2
import numpy as np

from guide_arc.capture.film.paint import Spot
from guide_arc.capture.film.performer import Wardrobe, draw_passer_by, draw_performer
from guide_arc.capture.film.room import pole, room
from guide_arc.capture.video.frames import Picture
from guide_arc.capture.video.writing import writing_clip
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import LandmarkTrack, View
from guide_arc.core.simulate.camera import FOCAL_PX, IMAGE_SIZE, Camera, ground, project
from guide_arc.core.simulate.perform import Performance, Script, perform

# Number of pictures averaged into a frame, for motion blur.
_SUBFRAMES: Final = 5
# How fast a hand that holds the phone sways, and how fast a room's light changes.
_SHAKE_HZ: Final = 1.2
_LIGHT_HZ: Final = 0.35
# The pole of known length is clear of spread arms.
_POLE_OFF_M: Final = 1.05
# Patterns of sensor noise, taken in turn: making one a frame takes longer than the film.
_GRAINS: Final = 8
# About 2 Mbit/s for 1280 by 720: what a phone sends on.
_QUALITY: Final = 28
_WALK_M_S: Final = 1.2
_STRIDE_M: Final = 1.4
RECIPE: Final = "simulated film"


@dataclass(frozen=True)
class Filming:
    """How the simulated camera films.

    shake_px : standard deviation of the picture's slow drift in the hand, pixels
    light : the share by which the light varies
    blur : share of the time between two frames during which the shutter is open
    grain : standard deviation of the sensor's noise, grey levels of 255
    passers_by : how many people walk by behind the client
    """

    view: View
    width: int = 1280
    height: int = 720
    rate_hz: float = 30.0
    shake_px: float = 0.0
    light: float = 0.0
    blur: float = 0.0
    grain: float = 2.0
    passers_by: int = 0

    def __post_init__(self) -> None:
        if self.view == "none":
            raise BadInput("a film needs a view: front, back, left or right")
        for name, low, high in (
            ("width", 320, 3840),
            ("height", 240, 2160),
            ("rate_hz", 5, 240),
            ("shake_px", 0, 60),
            ("light", 0, 0.9),
            ("blur", 0, 1),
            ("grain", 0, 40),
            ("passers_by", 0, 9),
        ):
            value = getattr(self, name)
            if not low <= value <= high:
                words = name.removesuffix("_px").removesuffix("_hz").replace("_", " ")
                raise BadInput(f"the film's {words} is {value:g}; it must be from {low} to {high}")
        if self.width % 2 or self.height % 2:
            raise BadInput("a film's width and height must be even numbers of pixels")


@dataclass(frozen=True, eq=False)
class Filmed:
    """truth : the landmarks as they are in the film's pixels; pole : the two ends of the 1 m pole
    on the first frame; document : what `FILE.truth.json` holds"""

    truth: LandmarkTrack
    pole: tuple[Spot, Spot]
    document: dict[str, Any]


def film(
    target: Path,
    standard: Standard,
    script: Script,
    filming: Filming,
    seed: int = 0,
    progress: Callable[[float], None] = lambda _share: None,
) -> Filmed:
    """Film a set to an MP4. The same arguments give the same film.

    progress : called with a share from 0 to 1; may raise to stop, which leaves no file
    Raises BadFile if the file can't be written.
    """
    done = perform(standard, script, Camera(filming.view, filming.rate_hz), seed)
    moves = camera_moves(filming, len(done.exact), seed)
    seen = in_film(done, filming, moves)
    recipe = {
        "made": RECIPE,
        "standard": standard.id,
        "school": standard.school.id,
        "seed": seed,
        "script": _plain(script),
        "filming": asdict(filming),
    }
    shooting = _Shooting(standard, filming, done, seed)
    with writing_clip(
        target,
        filming.width,
        filming.height,
        rate_hz=filming.rate_hz,
        quality=_QUALITY,
        preset="ultrafast",
        comment=json.dumps(recipe),
    ) as writer:
        for i in range(len(done.exact)):
            if i % 10 == 0:
                progress(i / len(done.exact))
            writer.add(shooting.frame(i, moves), float(done.track.time_s[i]))
    ends = tuple(_moved(end[None], moves.turn[0])[0] for end in shooting.pole)
    document = {**done.truth, "pole_m": 1.0, "pole_px": [list(map(float, e)) for e in ends]}
    return Filmed(seen, (ends[0], ends[1]), document)


def performed(
    recipe: dict[str, Any], standard: Standard
) -> tuple[Performance, Filming, CameraMovement]:
    """The performance behind a film, made again from what the film itself says of it."""
    script = dict(recipe["script"])
    if script.get("tempo"):
        from guide_arc.core.model.standard import Tempo  # noqa: PLC0415

        script["tempo"] = Tempo(**script["tempo"])
    filming, seed = Filming(**recipe["filming"]), int(recipe["seed"])
    done = perform(standard, Script(**script), Camera(filming.view, filming.rate_hz), seed)
    return done, filming, camera_moves(filming, len(done.exact), seed)


def _plain(script: Script) -> dict[str, Any]:
    out = {k: getattr(script, k) for k in script.__dataclass_fields__}
    out["faults"] = dict(script.faults)
    out["tempo"] = asdict(script.tempo) if script.tempo else None
    return out


@dataclass(frozen=True, eq=False)
class CameraMovement:
    """turn : (T, 2, 3) the affine map of each frame's picture; gain : (T,) how bright it is"""

    turn: Array
    gain: Array


def camera_moves(filming: Filming, frames: int, seed: int) -> CameraMovement:
    """The hand that holds the camera, and the light, over the film."""
    rng = np.random.default_rng([seed, 77])
    across, down, roll = (
        filming.shake_px * _slow(frames, filming.rate_hz, _SHAKE_HZ, rng) for _ in range(3)
    )
    roll = roll * (0.6 / filming.width)
    middle = 0.5 * np.array([filming.width, filming.height])
    cos, sin = np.cos(roll), np.sin(roll)
    turn = np.empty((frames, 2, 3))
    turn[:, 0, 0], turn[:, 0, 1] = cos, -sin
    turn[:, 1, 0], turn[:, 1, 1] = sin, cos
    turn[:, :, 2] = middle - turn[:, :, :2] @ middle + np.stack((across, down), axis=-1)
    gain = 1.0 + filming.light * np.clip(
        0.6 * _slow(frames, filming.rate_hz, _LIGHT_HZ, rng), -0.9, 0.9
    )
    return CameraMovement(turn, gain)


def _slow(frames: int, rate_hz: float, up_to_hz: float, rng: np.random.Generator) -> Array:
    """(T,) of unit variance, with nothing in it faster than a rate."""
    time_s = np.arange(frames) / rate_hz
    rates = up_to_hz * np.sqrt(rng.uniform(0.02, 1.0, 12))
    phases = rng.uniform(0, 2 * np.pi, 12)
    out: Array = np.sin(2 * np.pi * rates * time_s[:, None] + phases).sum(axis=1) * np.sqrt(2 / 12)
    return out


def in_film(done: Performance, filming: Filming, moves: CameraMovement) -> LandmarkTrack:
    """The true landmarks of a performance in the film's pixels."""
    still = _scaled(project(done.exact, filming.view), filming)
    seen = np.einsum("tij,tlj->tli", moves.turn[:, :, :2], still) + moves.turn[:, None, :, 2]
    track = done.track
    return LandmarkTrack(
        time_s=track.time_s,
        names=track.names,
        position=np.round(seen, 3),
        confidence=np.ones(seen.shape[:2]),
        space="image",
        view=filming.view,
        image_size=(filming.width, filming.height),
        facts=track.facts,
    )


def _scaled(pixels: Array, filming: Filming) -> Array:
    """From the simulated camera's picture to the film's: as high, about the same middle."""
    share = filming.height / IMAGE_SIZE[1]
    middle = 0.5 * np.array(IMAGE_SIZE)
    out: Array = share * (pixels - middle) + 0.5 * np.array([filming.width, filming.height])
    return out


def _moved(points: Array, turn: Array) -> Array:
    out: Array = points @ turn[:, :2].T + turn[:, 2]
    return out


class _Shooting:
    """What stays the same from frame to frame, and one frame at a time."""

    def __init__(self, standard: Standard, filming: Filming, done: Performance, seed: int) -> None:
        self.standard, self.filming = standard, filming
        self.names = done.track.names
        self.time_s = done.track.time_s
        self.exact = done.exact
        self.wardrobe = Wardrobe.of(1000 + seed)
        rng = np.random.default_rng([seed, 78])
        hips = done.exact[0, [self.names.index(f"{s}_hip") for s in SIDES]].mean(axis=0)
        distance, floor = ground(hips, filming.view)
        share = filming.height / IMAGE_SIZE[1]
        self.px_per_m = share * FOCAL_PX / distance
        floor_px = _scaled(floor, filming)
        self.empty = room(
            filming.width,
            filming.height,
            float(floor_px[1]) - 0.14 * self.px_per_m,
            self.px_per_m,
            seed,
        )
        self.others = [Wardrobe.of(2000 + 10 * seed + k) for k in range(filming.passers_by)]
        self.walk_y = float(floor_px[1]) - 0.1 * self.px_per_m
        off = _POLE_OFF_M * self.px_per_m
        foot = floor_px + np.array([off if floor_px[0] + off < 0.96 * filming.width else -off, 0.0])
        self.pole = pole(self.empty, foot, self.px_per_m)
        near = near_side(filming.view)
        self.order: tuple[Side, ...] = ()
        if near:
            self.order = (near, "right" if near == "left" else "left")
        self.grain: list[Array] = []
        if filming.grain:
            size = (filming.height, filming.width)
            for _ in range(_GRAINS):
                flat = rng.normal(0.0, filming.grain, size).astype(np.float32)
                self.grain.append(cv2.merge((flat, flat, flat)).round().astype(np.int16))

    def frame(self, i: int, moves: CameraMovement) -> Picture:
        f = self.filming
        picture = self._blurred(i) if f.blur else self._open(i)
        if f.shake_px:
            picture = cv2.warpAffine(
                picture,
                moves.turn[i],
                (f.width, f.height),
                flags=cv2.INTER_LINEAR,
                borderMode=cv2.BORDER_REFLECT_101,
            )
        if f.light:
            picture = cv2.convertScaleAbs(picture, alpha=float(moves.gain[i]))
        if self.grain:
            picture = cv2.add(picture, self.grain[i % _GRAINS], dtype=cv2.CV_8U)
        return picture

    def _blurred(self, i: int) -> Picture:
        """The mean of some moments about the frame's own, as long as the shutter is open."""
        reach = 0.5 * self.filming.blur
        total = np.zeros((self.filming.height, self.filming.width, 3), dtype=np.float32)
        for at in np.linspace(i - reach, i + reach, _SUBFRAMES):
            total += self._open(float(np.clip(at, 0, len(self.exact) - 1)))
        out: Picture = np.clip(total / _SUBFRAMES, 0, 255).astype(np.uint8)
        return out

    def _open(self, at: float) -> Picture:
        """The room with the performer at a moment, in frames."""
        low = int(at)
        share = at - low
        points = self.exact[low]
        if share:
            points = (1 - share) * points + share * self.exact[low + 1]
        seen = _scaled(project(points[None], self.filming.view)[0], self.filming)
        spots = dict(zip(self.names, seen, strict=True))
        canvas = self.empty.copy()
        self._draw_passers_by(canvas, at)
        draw_performer(
            canvas,
            self.wardrobe,
            spots,
            near_first=self.order,
            px_per_m=self.px_per_m,
            standard=self.standard,
            view=self.filming.view,
        )
        return canvas

    def _draw_passers_by(self, canvas: Picture, at: float) -> None:
        """Each of them walks through the picture once, one after the other."""
        share = at / max(len(self.exact) - 1, 1) * (len(self.others) + 1)
        for k, other in enumerate(self.others):
            late_s = (share - k - 0.5) * self.time_s[-1] / (len(self.others) + 1)
            gone_m = _WALK_M_S * late_s
            x = gone_m * self.px_per_m
            foot = np.array([x if k % 2 == 0 else self.filming.width - x, self.walk_y])
            if -self.px_per_m < foot[0] < self.filming.width + self.px_per_m:
                draw_passer_by(canvas, other, foot, gone_m / _STRIDE_M % 1.0, self.px_per_m)
