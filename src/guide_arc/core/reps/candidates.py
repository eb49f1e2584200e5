"""Pairing movements into rep candidates, and the size rule that makes them full or partial."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.reps.drive import TURNING_CUTOFF_HZ, DriveSignal
from guide_arc.core.reps.movements import Movement, movements

FULL_SHARE: Final = 0.70
NO_REP_SHARE: Final = 0.25
_SIZE_FLOOR_DEG: Final = 8.0
# A shrug's whole range is less than that.
_SIZE_FLOOR_SHARE: Final = 0.25


@dataclass(frozen=True)
class Candidate:
    """A lift with the lower that follows it."""

    lift: Movement
    lower: Movement

    @property
    def size_deg(self) -> float:
        return max(self.lift.size_deg, self.lower.size_deg)


def usual_size(sizes: Array) -> float:
    """Median size of those that reach 70 % of the largest."""
    return float(np.median(sizes[sizes >= FULL_SHARE * sizes.max()]))


def assumed_size(drive: DriveSignal) -> float:
    """The size of a full rep before any was found: the standard's, or what the signal spans."""
    low, high = np.percentile(drive.smooth(TURNING_CUTOFF_HZ), (2, 98))
    return float(min(high - low, drive.intended.size_deg))


def candidates(drive: DriveSignal, usual_deg: float | None = None) -> list[Candidate]:
    """All lift-and-lower pairs of a drive that are large enough to be a rep.

    usual_deg : the size of a full rep where it is known; otherwise found from the signal,
        starting from the standard's own range.
    """
    if usual_deg is None:
        usual_deg = assumed_size(drive)
    floor = min(_SIZE_FLOOR_DEG, _SIZE_FLOOR_SHARE * drive.intended.size_deg)
    least = max(0.22 * usual_deg, floor, 4.0 * drive.noise_deg)
    moves = movements(drive, least)
    return [
        Candidate(lift, lower)
        for lift, lower in itertools.pairwise(moves)
        if lift.sign > 0 and lower.sign < 0
    ]


def by_size(found: list[Candidate], *, keep_all: bool = False) -> list[tuple[Candidate, bool]]:
    """Each candidate that is a rep, with whether it is full (formats: reps and phases)."""
    if not found:
        return []
    sizes = np.array([c.size_deg for c in found])
    usual = usual_size(sizes)
    return [
        (c, c.size_deg >= FULL_SHARE * usual)
        for c in found
        if keep_all or c.size_deg >= NO_REP_SHARE * usual
    ]
