"""How a pose model errs on a phone's clip, in addition to white noise: its output for landmarks
that it saw badly or not at all."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.track import View

FarArm = Literal["seen", "mirrored", "hanging", "missing"]
# How long an error stays, and how heavy its tails are (Student's t; fewer degrees of freedom,
# heavier).
_STAYS_S: Final = 0.12
_TAILS_DF: Final = 4.0
# Wrists and hands are found worse than the trunk, and so is all of the far side.
_HANDS: Final = ("wrist", "thumb", "index", "pinky", "handle", "elbow")
_HANDS_WORSE: Final = 1.7
_FAR_WORSE: Final = 1.8
# A landmark that moves by this share of the picture's (or the body's) size a second is found twice
# as badly.
_TWICE_AT: Final = 1.0
_SIZE: Final = {"none": 1.75, "picture": 600.0}
_ARM: Final = ("elbow", "wrist", "thumb", "index", "pinky")


@dataclass(frozen=True)
class TrackerNoise:
    """How landmarks are found.

    jitter : standard deviation of a slow, heavy-tailed error of each axis, metres in space and
        pixels in a view
    offset : of a constant one of each landmark: the model's joint is not where ours is
    deep : how many times worse depth is, in space; deep_bias_m : and the error of depth at the
        hands
    far_arm : how the hidden arm of a side view is reported, confidently and wrongly swapped_share :
        share of the recording in which left and right are exchanged, in one piece lost_frames :
        share of the frames that the clip lost; their times are true"""

    jitter: float = 0.0
    offset: float = 0.0
    deep: float = 1.0
    deep_bias_m: float = 0.0
    far_arm: FarArm = "seen"
    swapped_share: float = 0.0
    lost_frames: float = 0.0


def as_tracked(
    seen: Array,
    confidence: Array,
    names: tuple[str, ...],
    view: View,
    rate_hz: float,
    tracker: TrackerNoise,
    rng: np.random.Generator,
) -> tuple[Array, Array]:
    """Where a tracker puts the landmarks, (T, L, axes), and how sure it says it is, (T, L)."""
    seen, confidence = seen.copy(), confidence.copy()
    if tracker.far_arm != "seen":
        _make_up(seen, confidence, names, view, tracker.far_arm)
    if tracker.jitter or tracker.offset:
        seen += _errors(seen, names, view, rate_hz, tracker, rng)
    if tracker.deep_bias_m and view == "none":
        hands = [i for i, n in enumerate(names) if n.split("_", 1)[-1] in _HANDS]
        seen[:, hands, 2] += tracker.deep_bias_m
    if tracker.swapped_share:
        first = int(rng.uniform(0.0, 1.0 - tracker.swapped_share) * len(seen))
        part = slice(first, first + round(tracker.swapped_share * len(seen)))
        _swap(seen, names, part)
        _swap(confidence, names, part)
    return seen, confidence


def kept_frames(count: int, tracker: TrackerNoise | None, rng: np.random.Generator) -> Array:
    """Which frames of a recording are there."""
    kept = np.ones(count, dtype=bool)
    if tracker is not None and tracker.lost_frames:
        runs = rng.poisson(tracker.lost_frames * count / 2.0)
        for start in rng.integers(1, max(count - 4, 2), runs):
            kept[start : start + int(rng.integers(1, 4))] = False
    return kept


def _errors(
    seen: Array,
    names: tuple[str, ...],
    view: View,
    rate_hz: float,
    tracker: TrackerNoise,
    rng: np.random.Generator,
) -> Array:
    frames, count, axes = seen.shape
    keep = float(np.exp(-1.0 / (_STAYS_S * rate_hz)))
    kick = rng.standard_t(_TAILS_DF, seen.shape) * np.sqrt((_TAILS_DF - 2.0) / _TAILS_DF)
    slow = np.empty_like(seen)
    slow[0] = kick[0]
    for i in range(1, frames):
        slow[i] = keep * slow[i - 1] + np.sqrt(1.0 - keep**2) * kick[i]
    size = _SIZE["none" if view == "none" else "picture"]
    speed = np.linalg.norm(np.gradient(np.nan_to_num(seen), 1.0 / rate_hz, axis=0), axis=-1)
    worse = 1.0 + speed / (_TWICE_AT * size)
    near = near_side(view)
    for i, name in enumerate(names):
        side, _, part = name.partition("_")
        worse[:, i] *= _HANDS_WORSE if part in _HANDS else 1.0
        worse[:, i] *= _FAR_WORSE if near and side in ("left", "right") and side != near else 1.0
    out: Array = tracker.jitter * worse[..., None] * slow
    if view == "none":
        out[..., 2] *= tracker.deep
    out += tracker.offset * rng.standard_normal((1, count, axes))
    return out


def _make_up(
    seen: Array, confidence: Array, names: tuple[str, ...], view: View, how: FarArm
) -> None:
    """The hidden arm of a side view, as a model that never says “not seen” has it."""
    near = near_side(view)
    if near is None:
        return
    far = "right" if near == "left" else "left"
    at = {n: i for i, n in enumerate(names)}
    shoulder, own = at[f"{far}_shoulder"], at[f"{near}_shoulder"]
    for part in _ARM:
        i, j = at.get(f"{far}_{part}"), at.get(f"{near}_{part}")
        if i is None or j is None:
            continue
        if how == "missing":
            seen[:, i], confidence[:, i] = np.nan, 0.0
            continue
        confidence[:, i] = confidence[:, j]
        away = seen[:, j] - seen[:, own]
        if how == "hanging":
            drop = np.linalg.norm(away, axis=-1).max()
            away = np.zeros_like(away)
            away[:, 1] = drop
        seen[:, i] = seen[:, shoulder] + away


def _swap(values: Array, names: tuple[str, ...], part: slice) -> None:
    for i, name in enumerate(names):
        if name.startswith("left_") and f"right_{name[5:]}" in names:
            j = names.index(f"right_{name[5:]}")
            values[part, i], values[part, j] = values[part, j].copy(), values[part, i].copy()
