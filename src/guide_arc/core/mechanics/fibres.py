"""Fibre lines: each region's line from origin to insertion, and how far an arm's path runs along it.

A muscle pulls its insertion, half-way down the upper arm, towards its origin; the joint lets the arm only turn. An
exercise serves the region as far as the elbow moves the way that this pull turns it. Regions that turn the elbow or the trunk are served by that joint's own turn.
"""

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
    origin : where the region pulls from, wrapped about the joint as it is, from the shoulder in upper-arm lengths (out, up, ahead); None
        where it turns the elbow or the trunk
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


def along_pct(standard: Standard) -> float | None:
    """How much of the elbow's way over the lift runs along the fibre line: 100 straight along it, 0
    across it, less than 0 against it. None where the region turns another joint."""
    origin = FIBRES[standard.line].origin
    if origin is None:
        return None
    elbow: Array = arm_path(standard, 41)["elbow"]
    step = np.diff(elbow, axis=0)
    size = np.linalg.norm(step, axis=1)
    if size.sum() < 1e-6:
        return None
    arm = unit(elbow[:-1])
    pull = unit(across(np.array(origin) - _INSERTION * elbow[:-1], arm))
    return float(100.0 * np.nansum(step * pull) / size.sum())
