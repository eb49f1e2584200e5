"""Fibre lines: each region's line from origin to insertion, and how far an arm's path runs along
it.

A muscle pulls its insertion, half-way down the upper arm, towards its origin; the joint lets the
arm only turn. An exercise trains the region to the degree that the elbow moves in the direction of
this pull. Regions that turn the elbow or the trunk are served by that joint's own turn."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.guide import arm_path
from guide_arc.core.kinematics.vectors import Array, across, unit
from guide_arc.core.model.standard import Standard

# Where the muscles of the shoulder take hold of the upper arm, as a share of it.
_INSERTION: Final = 0.4


@dataclass(frozen=True)
class Fibre:
    """words : origin and insertion, as a coach says it
    origin : where the region pulls from, wrapped about the joint as it is, from the shoulder in
        upper-arm lengths (out, up, ahead); None if it turns the elbow or the trunk
    """

    words: str
    origin: tuple[float, float, float] | None = None


FIBRES: Final[dict[str, Fibre]] = {
    "upper-chest": Fibre("from low and outside to high and inside", (-0.45, 0.15, 0.25)),
    "lower-chest": Fibre("from high and outside to low and inside", (-0.45, -0.75, 0.35)),
    "whole-chest": Fibre("from outside to inside, level with the breastbone", (-0.60, -0.35, 0.35)),
    "front-shoulder": Fibre("forward and up, toward the midline", (-0.05, 0.35, 0.20)),
    "side-shoulder": Fibre("out and slightly forward", (0.10, 0.35, 0.05)),
    "rear-shoulder": Fibre("outward and back on a level arc", (0.10, 0.05, -0.45)),
    "lats": Fibre("elbow down and back, close to the body", (-0.10, -1.30, -0.50)),
    "mid-back": Fibre("elbow back, wide", (0.05, -0.10, -0.60)),
    "traps-up": Fibre("shoulders straight up"),
    "elbow-bend": Fibre("the elbow bends, with wrist, elbow and shoulder in one line"),
    "elbow-straighten": Fibre("the elbow straightens"),
    "ribs-to-pelvis": Fibre("the ribs come to the pelvis"),
    "ribs-across": Fibre("the ribs come to the opposite side of the pelvis"),
}


# Lines of one muscle, whose parts an exercise may serve more or less.
_PARTS: Final = (
    ("upper-chest", "lower-chest"),
    ("front-shoulder", "side-shoulder", "rear-shoulder"),
    ("lats", "mid-back"),
)
# From so far ahead of the trunk, behind it or over the shoulder, as a share of the upper arm, a
# head that crosses the shoulder is at another length.
_OFF_THE_TRUNK: Final = 0.3


def along_pct(standard: Standard) -> float | None:
    """How much of the elbow's way over the lift runs along the fibre line: 100 straight along it, 0
    across it, less than 0 against it. None if the region turns another joint."""
    return along(arm_path(standard, 41)["elbow"], standard.line)


def along(elbow: Array, line: str) -> float | None:
    """The same for any path of an elbow, (N, 3) from the shoulder in upper-arm lengths (out, up,
    forward of the trunk)."""
    origin = FIBRES[line].origin
    if origin is None:
        return None
    step = np.diff(elbow, axis=0)
    size = np.linalg.norm(step, axis=1)
    if size.sum() < 1e-6:
        return None
    arm = unit(elbow[:-1])
    pull = unit(across(np.array(origin) - _INSERTION * elbow[:-1], arm))
    return float(100.0 * np.nansum(step * pull) / size.sum())


def parts_along(elbow: Array, line: str) -> dict[str, float]:
    """How much of an elbow's way runs along each part of the muscle that a line belongs to, the
    most first; empty for lines without parts."""
    parts = next((p for p in _PARTS if line in p), ())
    found = {part: pct for part in parts if (pct := along(elbow, part)) is not None}
    return dict(sorted(found.items(), key=lambda item: -item[1]))


def long_head_words(elbow: Array, line: str) -> str:
    """What the place of the upper arm does to the head that crosses the shoulder; empty for other
    lines."""
    up, ahead = float(np.nanmedian(elbow[:, 1])), float(np.nanmedian(elbow[:, 2]))
    if line == "elbow-bend":
        if ahead < -_OFF_THE_TRUNK:
            return "The upper arm is behind the trunk: the biceps' long head works stretched."
        if ahead > _OFF_THE_TRUNK:
            return (
                "The upper arm is ahead of the trunk: the biceps' heads work shortened, the muscle"
                " under them does more."
            )
        return "The upper arm is beside the trunk: both heads of the biceps at middle length."
    if line == "elbow-straighten":
        if up > _OFF_THE_TRUNK:
            return "The upper arm is raised: the triceps' long head works stretched."
        if ahead > _OFF_THE_TRUNK:
            return "The upper arm is ahead of the trunk: the triceps' long head at middle length."
        return (
            "The upper arm is beside the trunk: the triceps' long head is short, the other two do"
            " more."
        )
    return ""
