"""A limb that goes where nothing looks as it did when it was marked is found by its own colours,
and by them alone only as far as they tell it from what is around it."""

from __future__ import annotations

import itertools
from pathlib import Path

import av
import cv2
import numpy as np
import pytest

from builders import slow
from guide_arc.capture.film.photos import relief
from guide_arc.capture.tracking.following import MarkedPoints
from guide_arc.capture.tracking.limbs import Limb
from guide_arc.capture.tracking.own_colour import OwnColour
from guide_arc.capture.tracking.strips import ANGLES_DEG, Strip
from guide_arc.capture.tracking.tracker import Tracked
from guide_arc.capture.video.clip import Clip, inspect_video
from guide_arc.core.model.marks import Mark, Marks

_FRAMES, _RATE = 72, 24
_SHOULDERS = {"right": np.array([286.0, 190.0]), "left": np.array([354.0, 190.0])}
_HIPS = {"right": np.array([296.0, 300.0]), "left": np.array([344.0, 300.0])}
_UPPER, _FORE = 78.0, 76.0


def _wall(colour: tuple[float, float, float]) -> np.ndarray:
    bricks = np.tile(16 * relief("brick")[:480, :512], (1, 2))[:480, :640]
    out: np.ndarray = np.clip(np.array(colour) + bricks[:, :, None], 0, 255)
    return out


def _arms() -> dict[str, np.ndarray]:
    """Both arms straight, from hanging (12 degrees out) to 20 degrees past level and back, over the
    frames."""
    out_deg = 12.0 + 98.0 * (0.5 - 0.5 * np.cos(2 * np.pi * np.arange(_FRAMES) / 48))
    joints = {f"{s}_hip": np.tile(at, (_FRAMES, 1)) for s, at in _HIPS.items()}
    for side, sign in (("right", -1.0), ("left", 1.0)):
        way = np.stack((sign * np.sin(np.radians(out_deg)), np.cos(np.radians(out_deg))), axis=-1)
        joints[f"{side}_shoulder"] = np.tile(_SHOULDERS[side], (_FRAMES, 1))
        joints[f"{side}_elbow"] = _SHOULDERS[side] + _UPPER * way
        joints[f"{side}_wrist"] = _SHOULDERS[side] + (_UPPER + _FORE) * way
    return joints


def _filmed(path: Path, cloth: tuple[float, float, float]) -> tuple[Clip, dict[str, np.ndarray]]:
    """A figure in one cloth whose arms hang along the trunk when they are marked, and are raised
    before a grey wall."""
    joints, wall = _arms(), _wall((120.0, 118.0, 112.0))
    rng = np.random.default_rng(8)
    grain = 6 * np.tile(relief("gravel"), (3, 3))[:480, :640, None]
    with av.open(str(path), "w", format="mp4") as out:
        stream = out.add_stream("libx264", rate=_RATE, options={"crf": "20", "preset": "fast"})
        assert isinstance(stream, av.VideoStream)
        stream.width, stream.height, stream.pix_fmt = 640, 480, "yuv420p"
        for f in range(_FRAMES):
            shape = np.zeros((480, 640), np.uint8)
            trunk = [_SHOULDERS["right"], _SHOULDERS["left"], _HIPS["left"], _HIPS["right"]]
            cv2.fillConvexPoly(shape, np.array(trunk, np.int32), 255)
            cv2.polylines(shape, [np.array(trunk, np.int32)], True, 255, 22)
            for side in ("left", "right"):
                ends = [joints[f"{side}_{part}"][f] for part in ("shoulder", "elbow", "wrist")]
                for (a, b), wide in zip(itertools.pairwise(ends), (26, 20), strict=True):
                    cv2.line(shape, tuple(a.astype(int)), tuple(b.astype(int)), 255, wide)
            there = cv2.GaussianBlur(shape, (0, 0), 1.0)[:, :, None] / 255.0
            seen = (1.0 - there) * wall + there * (np.array(cloth) + grain)
            noisy = np.clip(seen + rng.normal(0.0, 3.0, seen.shape), 0, 255).astype(np.uint8)
            out.mux(stream.encode(av.VideoFrame.from_ndarray(noisy, format="rgb24")))
        out.mux(stream.encode())
    return inspect_video(path), joints


def _followed(clip: Clip, joints: dict[str, np.ndarray]) -> Tracked:
    marks = Marks("front")
    for name, at in joints.items():
        marks = marks.with_mark(name, Mark(0, float(at[0, 0]), float(at[0, 1])))
    return MarkedPoints().track(clip, marks, lambda _share: None)


@slow
def test_arms_of_the_trunks_cloth_are_found_past_level(tmp_path):
    clip, joints = _filmed(tmp_path / "a.mp4", (176.0, 62.0, 44.0))
    found = _followed(clip, joints)
    for i, name in enumerate(found.names):
        off = np.hypot(*(found.position[:, i] - joints[name]).T)
        assert (off < 12.0).mean() > 0.97, name
        assert (found.confidence[:, i] >= 0.3).mean() > 0.95, name


@slow
def test_cloth_like_the_wall_is_never_surely_somewhere_else(tmp_path):
    clip, joints = _filmed(tmp_path / "b.mp4", (122.0, 118.0, 110.0))
    found = _followed(clip, joints)
    for i, name in enumerate(found.names):
        off = np.hypot(*(found.position[:, i] - joints[name]).T)
        assert ((off > 20.0) & (found.confidence[:, i] >= 0.5)).mean() < 0.02, name


@pytest.mark.parametrize(("cloth", "tells"), [((70, 160, 120), True), ((128, 128, 128), False)])
def test_colours_tell_a_limb_only_from_what_has_others(cloth, tells):
    picture = np.full((160, 160, 3), 128, np.uint8)
    at, strip = (
        np.array([80.0, 80.0]),
        Strip(Limb("left_elbow", "left_wrist", 0.2, short=False), 44.0),
    )
    cv2.line(picture, (80, 80), (80, 124), cloth, 13)
    body = np.zeros((160, 160), bool)
    body[74:130, 66:94] = True
    colour = OwnColour()
    colour.mark(
        strip,
        picture,
        strip.windows(picture, at, np.array([90.0]), np.array([1.0]))[0, 0],
        body,
        at,
    )
    assert colour.tells == tells
    filled = colour.filled(strip.windows(picture, at, ANGLES_DEG, np.array([1.0])))[:, 0]
    if tells:
        assert ANGLES_DEG[filled.argmax()] == pytest.approx(90.0, abs=3.0)
        assert filled.max() > 0.7
        assert np.median(filled) < 0.1
    else:
        assert filled.max() == 0.0
