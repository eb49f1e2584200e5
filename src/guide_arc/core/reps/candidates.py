"""Pairing movements into rep candidates, and the size rule that makes them full or partial."""

from __future__ import annotations

import itertools
from dataclasses import dataclass

import numpy as np

from guide_arc.core.kinematics.vectors import Array, median
from guide_arc.core.reps.drive import DriveSignal
from guide_arc.core.reps.movements import Movement, movements
from guide_arc.core.reps.rules import REP


@dataclass(frozen=True)
class Candidate:
    """A lift with the lower that follows it."""

    lift: Movement
    lower: Movement

    @property
    def size_deg(self) -> float:
        return max(self.lift.size_deg, self.lower.size_deg)

    @property
    def length_s(self) -> float:
        return self.lower.span.end_s - self.lift.span.start_s


def usual_size(sizes: Array) -> float:
    """Median size of those that reach 70 % of the largest."""
    return median(sizes[sizes >= REP.full_share * sizes.max()])


def assumed_size(drive: DriveSignal) -> float:
    """The size of a full rep before any was found: the standard's, or what the signal spans."""
    low, high = np.percentile(drive.smooth(REP.turning_cutoff_hz), (2, 98))
    return float(min(high - low, drive.intended.size_deg))


def candidates(drive: DriveSignal, usual_deg: float | None = None) -> list[Candidate]:
    """All lift-and-lower pairs of a drive that are large enough to be a rep.

    usual_deg : the size of a full rep, if known; otherwise found from the signal,
        starting from the standard's own range.
    """
    if usual_deg is None:
        usual_deg = assumed_size(drive)
    floor = min(REP.size_floor_deg, REP.size_floor_share * drive.intended.size_deg)
    # What only a view's doubt makes unsure is the same for all movements: it makes none.
    noise = drive.jitter_deg or drive.noise_deg
    least = max(0.22 * usual_deg, floor, 4.0 * noise)
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
    lengths = np.array([c.length_s for c in found])
    least_s = REP.hasty_share * median(lengths[sizes >= REP.full_share * usual])
    return [
        (c, c.size_deg >= REP.full_share * usual)
        for c in found
        if keep_all
        or c.size_deg >= REP.full_share * usual
        or (c.size_deg >= REP.no_rep_share * usual and c.length_s >= least_s)
    ]
