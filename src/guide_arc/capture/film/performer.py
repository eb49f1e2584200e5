"""The drawn performer: clothed limbs on the landmarks, and the kit in the hands."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.capture.film.paint import Cloth, Colour, Spot, disc, limb, line, ring
from guide_arc.capture.video.frames import Picture
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import View

# The looks that a film may have; they are drawn, and nobody's.
_SKIN: Final[Colour] = (196, 150, 122)
# What people wear to train: plain, and often as dark or as light as what is behind them.
_SHIRTS: Final[tuple[Colour, ...]] = (
    (74, 104, 128),
    (58, 60, 64),
    (150, 62, 58),
    (196, 194, 188),
    (92, 118, 88),
    (120, 110, 134),
)
# Dark and medium ones, so that legs contrast with some walls and not with others.
_TROUSERS: Final[tuple[Colour, ...]] = ((70, 66, 74), (52, 60, 84), (104, 106, 108))
# Depth of folds and of skin's unevenness, grey levels of 255.
_FOLDS: Final = {"trunk": 6.0, "sleeve": 6.0, "trousers": 6.0, "shoe": 8.0, "skin": 3.0}
# A part bent this far from the one before it is wrinkled all over, degrees.
_ALL_BENT_DEG: Final = 110.0
_SHOE: Final[Colour] = (190, 186, 176)
_HAIR: Final[Colour] = (58, 44, 38)
_IRON: Final[Colour] = (46, 48, 52)
_STEEL: Final[Colour] = (152, 156, 160)
# Half-widths of a body of usual build, metres: (from, to, at its start, at its end).
_LIMBS: Final[tuple[tuple[str, str, float, float, str], ...]] = (
    ("hip", "knee", 0.085, 0.058, "trousers"),
    ("knee", "ankle", 0.056, 0.038, "trousers"),
    ("heel", "foot", 0.038, 0.030, "shoe"),
    ("shoulder", "elbow", 0.056, 0.044, "sleeve"),
    ("elbow", "wrist", 0.042, 0.029, "skin"),
    ("wrist", "knuckles", 0.030, 0.036, "skin"),
)
_LEG: Final = _LIMBS[:3]
_ARM: Final = _LIMBS[3:]
_CHEST_M, _WAIST_M = 0.125, 0.115


@dataclass(frozen=True)
class Wardrobe:
    """The cloth of every part, made once for a film."""

    cloth: Mapping[str, Cloth]

    @classmethod
    def of(cls, seed: int) -> Wardrobe:
        rng = np.random.default_rng([seed, 81])
        shirt = _SHIRTS[int(rng.integers(len(_SHIRTS)))]
        trousers = _TROUSERS[int(rng.integers(len(_TROUSERS)))]
        colours = {
            "trousers": trousers,
            "shoe": _SHOE,
            "sleeve": shirt,
            "skin": _SKIN,
            "trunk": shirt,
        }
        out = {
            "trunk": Cloth.of(shirt, seed + 1, _FOLDS["trunk"]),
            "head": Cloth.of(_SKIN, seed + 4, _FOLDS["skin"]),
        }
        for i, (a, b, _wa, _wb, kind) in enumerate(_LIMBS):
            for k, side in enumerate(SIDES):
                own = seed + 10 + 8 * i + 4 * k
                out[f"{side}_{a}_{b}"] = Cloth.of(colours[kind], own, _FOLDS[kind])
        return cls(out)


def draw_performer(
    canvas: Picture,
    wardrobe: Wardrobe,
    spots: Mapping[str, Spot],
    near_first: tuple[Side, ...],
    px_per_m: float,
    standard: Standard,
    view: View,
) -> None:
    """The whole body at one moment; `spots` are landmarks in pixels, the side farther from the
    camera is drawn before the trunk."""
    far = near_first[-1] if len(near_first) == 2 else None
    known = dict(spots)
    for side in SIDES:
        known[f"{side}_knuckles"] = 0.5 * (spots[f"{side}_index"] + spots[f"{side}_pinky"])
    if far:
        _side(canvas, wardrobe, known, far, _LEG, px_per_m)
        _side(canvas, wardrobe, known, far, _ARM, px_per_m)
        _held(canvas, known, far, px_per_m, standard)
    else:
        for side in SIDES:
            _side(canvas, wardrobe, known, side, _LEG, px_per_m)
    _trunk_and_head(canvas, wardrobe, known, px_per_m, view)
    for side in near_first[:1] if far else SIDES:
        if far:
            _side(canvas, wardrobe, known, side, _LEG, px_per_m)
        _side(canvas, wardrobe, known, side, _ARM, px_per_m)
    if not far and standard.held == "bar":
        line(canvas, _past(known, "left"), _past(known, "right"), _STEEL, round(0.028 * px_per_m))
    for side in near_first[:1] if far else SIDES:
        _held(canvas, known, side, px_per_m, standard)


def _side(
    canvas: Picture,
    wardrobe: Wardrobe,
    spots: Mapping[str, Spot],
    side: Side,
    parts: tuple[tuple[str, str, float, float, str], ...],
    px_per_m: float,
) -> None:
    before = spots[f"{side}_hip"] - spots[f"{side}_shoulder"]
    for a, b, wide_a, wide_b, _kind in parts:
        ends = spots[f"{side}_{a}"], spots[f"{side}_{b}"]
        along = ends[1] - ends[0]
        bend = min(_between_deg(before, along) / _ALL_BENT_DEG, 1.0)
        cloth = wardrobe.cloth[f"{side}_{a}_{b}"]
        limb(canvas, cloth, *ends, wide_a * px_per_m, wide_b * px_per_m, bend)
        before = along


def _between_deg(a: Spot, b: Spot) -> float:
    far = float(np.hypot(*a)) * float(np.hypot(*b))
    return float(np.degrees(np.arccos(np.clip(float(a @ b) / max(far, 1e-6), -1.0, 1.0))))


def _trunk_and_head(
    canvas: Picture, wardrobe: Wardrobe, spots: Mapping[str, Spot], px_per_m: float, view: View
) -> None:
    ls, rs, lh, rh = (
        spots[n] for n in ("left_shoulder", "right_shoulder", "left_hip", "right_hip")
    )
    chest = max(0.5 * float(np.hypot(*(ls - rs))) + 0.02 * px_per_m, _CHEST_M * px_per_m)
    waist = max(0.5 * float(np.hypot(*(lh - rh))) + 0.05 * px_per_m, _WAIST_M * px_per_m)
    top, low = 0.5 * (ls + rs), 0.5 * (lh + rh)
    ears = 0.5 * (spots["left_ear"] + spots["right_ear"])
    limb(
        canvas, wardrobe.cloth["head"], top, 0.5 * (top + ears), 0.055 * px_per_m, 0.052 * px_per_m
    )
    cut = 0.62  # the rounded end of the chest must not rise over the shoulders
    up = (top - low) / max(float(np.hypot(*(top - low))), 1e-6)
    limb(
        canvas,
        wardrobe.cloth["trunk"],
        top - cut * chest * up,
        low + 0.55 * waist * up,
        chest,
        waist,
    )
    face = spots["nose"] - ears
    centre = ears + 0.25 * face + 0.03 * px_per_m * up
    limb(
        canvas,
        wardrobe.cloth["head"],
        centre - 0.035 * px_per_m * up,
        centre + 0.03 * px_per_m * up,
        0.076 * px_per_m,
        0.082 * px_per_m,
    )
    if view == "front":
        disc(canvas, centre + 0.075 * px_per_m * up, 0.06 * px_per_m, _HAIR)
    else:
        disc(canvas, centre + 0.045 * px_per_m * up - 0.22 * face, 0.074 * px_per_m, _HAIR)
    if view != "back":
        disc(canvas, spots["nose"], 0.013 * px_per_m, (168, 122, 98))
    for side in SIDES:
        disc(canvas, spots[f"{side}_ear"], 0.012 * px_per_m, (178, 130, 106))


def _past(spots: Mapping[str, Spot], side: Side) -> Spot:
    """Where a bar ends, beyond the hand."""
    other = spots["right_knuckles" if side == "left" else "left_knuckles"]
    own = spots[f"{side}_knuckles"]
    return own + 0.45 * (own - other)


def _held(
    canvas: Picture, spots: Mapping[str, Spot], side: Side, px_per_m: float, standard: Standard
) -> None:
    pulley = spots.get(f"{side}_pulley")
    hand = spots[f"{side}_knuckles"]
    if pulley is not None:
        line(canvas, hand, pulley, (40, 40, 44), max(2, round(0.008 * px_per_m)))
        disc(canvas, pulley, 0.045 * px_per_m, _IRON)
        ring(canvas, pulley, 0.045 * px_per_m, _STEEL, 2)
    if standard.pull != "free-weight" or standard.held == "none":
        return
    at = _past(spots, side) if standard.held == "bar" else hand
    big = 0.085 if standard.held == "bar" else 0.06
    disc(canvas, at, big * px_per_m, _IRON)
    # Weights held in a fist turn with it: their spokes lie along the hand.
    along = hand - spots[f"{side}_wrist"]
    along = along / max(float(np.hypot(*along)), 1e-6)
    for way in (along, np.array([-along[1], along[0]])):
        reach = 0.88 * big * px_per_m * way
        line(canvas, at - reach, at + reach, (92, 94, 98), max(2, round(0.012 * px_per_m)))
    ring(canvas, at, 0.6 * big * px_per_m, (110, 112, 116), 2)
    disc(canvas, at + 0.55 * big * px_per_m * along, 0.12 * big * px_per_m, _STEEL)
    disc(canvas, at, 0.2 * big * px_per_m, _STEEL)


def draw_passer_by(
    canvas: Picture, wardrobe: Wardrobe, foot: Spot, stride: float, px_per_m: float
) -> None:
    """Somebody who walks by, seen from the side. foot : where they are on the floor, in pixels;
    stride : how far into a stride, 0 to 1"""
    swing = float(np.sin(2.0 * np.pi * stride))
    hip = foot - np.array([0.0, 0.92 * px_per_m])
    shoulder = hip - np.array([-0.02 * px_per_m, 0.52 * px_per_m])
    for side, way in (("right", -swing), ("left", swing)):
        knee = hip + px_per_m * np.array([0.16 * way + 0.04, 0.44])
        ankle = knee + px_per_m * np.array([0.12 * way - 0.08, 0.42])
        limb(
            canvas,
            wardrobe.cloth[f"{side}_hip_knee"],
            hip,
            knee,
            0.085 * px_per_m,
            0.058 * px_per_m,
        )
        limb(
            canvas,
            wardrobe.cloth[f"{side}_knee_ankle"],
            knee,
            ankle,
            0.056 * px_per_m,
            0.038 * px_per_m,
        )
        if side == "right":
            limb(canvas, wardrobe.cloth["trunk"], shoulder, hip, 0.125 * px_per_m, 0.115 * px_per_m)
            for low, high, wide in ((0.0, 0.12, 0.05), (0.18, 0.25, 0.085)):
                a, b = (shoulder - np.array([0.0, up * px_per_m]) for up in (low, high))
                limb(canvas, wardrobe.cloth["head"], a, b, wide * px_per_m, wide * px_per_m)
        elbow = shoulder + px_per_m * np.array([-0.14 * way, 0.28])
        wrist = elbow + px_per_m * np.array([-0.08 * way + 0.06, 0.24])
        limb(
            canvas,
            wardrobe.cloth[f"{side}_shoulder_elbow"],
            shoulder,
            elbow,
            0.056 * px_per_m,
            0.044 * px_per_m,
        )
        limb(
            canvas,
            wardrobe.cloth[f"{side}_elbow_wrist"],
            elbow,
            wrist,
            0.042 * px_per_m,
            0.03 * px_per_m,
        )
