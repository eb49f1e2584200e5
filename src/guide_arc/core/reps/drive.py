"""The driving measure as a signal on an even time grid, ready to be cut into movements."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.smoothing import Smoother
from guide_arc.core.kinematics.vectors import (
    Array,
    Flags,
    median,
    seen_median,
    span_of,
)
from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.rep import Span, WorkSide
from guide_arc.core.model.standard import Range, Standard
from guide_arc.core.reps.arc import EVEN, Arc
from guide_arc.core.reps.driven import by_pose, driven, tells_drive
from guide_arc.core.reps.own_arc import arcs_of
from guide_arc.core.reps.rules import REP

_FASTEST_GRID_HZ: Final = 120.0
_FEWEST_SAMPLES: Final = 8
# The end of the limb that a measure turns with.
_ARM_PART: Final = {
    "shoulder_elevation": "elbow",
    "shoulder_plane": "elbow",
    "elbow_flexion": "wrist",
}


@dataclass(frozen=True, eq=False)
class DriveSignal:
    """The driving measure of one side, or the mean of both.

    time_s : (N,) evenly spaced
    lift_deg : (N,) the measure times `range.direction`: lifting always makes it grow
    lost : (N,) where its landmarks were not seen; there lift_deg is drawn through
    noise_deg : how unsure it is, at a usual moment
    pictured : whether a picture shows it, with what leaves its plane
    sharp_deg : (N,) the same of landmarks that were not smoothed; None if that is not known
    arcs : how the standard's own arc has it change, on the way up and down
    jitter_deg : what of that changes from moment to moment: the landmarks' noise after they were
        smoothed
    """

    side: WorkSide
    measure: str
    intended: Range
    time_s: Array
    lift_deg: Array
    lost: Flags
    noise_deg: float
    jitter_deg: float = 0.0
    pictured: bool = False
    sharp_deg: Array | None = None
    arcs: tuple[Arc, Arc] = (EVEN, EVEN)
    _smoothed: dict[float, Array] = field(default_factory=dict, repr=False)
    _speeds: dict[float, Array] = field(default_factory=dict, repr=False)

    @cached_property
    def _smoother(self) -> Smoother:
        return Smoother(self.time_s)

    @property
    def rate_hz(self) -> float:
        return float(1.0 / (self.time_s[1] - self.time_s[0]))

    def smooth(self, cutoff_hz: float) -> Array:
        """(N,) lift_deg with everything faster than the cut-off taken out."""
        if cutoff_hz not in self._smoothed:
            self._smoothed[cutoff_hz] = self._smoother.smooth(self.lift_deg, cutoff_hz)
        return self._smoothed[cutoff_hz]

    def speed(self, cutoff_hz: float) -> Array:
        """(N,) degrees a second of the smoothed drive."""
        if cutoff_hz not in self._speeds:
            self._speeds[cutoff_hz] = np.gradient(self.smooth(cutoff_hz), self.time_s)
        return self._speeds[cutoff_hz]

    def within(self, span: Span) -> DriveSignal | None:
        """The drive between two moments only; None if that leaves too little to cut."""
        inside = span_of(self.time_s, span.start_s, span.end_s)
        if inside.stop - inside.start < _FEWEST_SAMPLES:
            return None
        return DriveSignal(
            side=self.side,
            measure=self.measure,
            intended=self.intended,
            time_s=self.time_s[inside],
            lift_deg=self.lift_deg[inside],
            lost=self.lost[inside],
            noise_deg=self.noise_deg,
            jitter_deg=self.jitter_deg,
            pictured=self.pictured,
            sharp_deg=None if self.sharp_deg is None else self.sharp_deg[inside],
            arcs=self.arcs,
        )

    def degrees(self, lift_deg: float) -> float:
        """Back to the measure's own sign."""
        return self.intended.direction * lift_deg


def driving(body: Body, standard: Standard) -> dict[Side, DriveSignal]:
    """The driving measure of each side that the recording tells."""
    measure, intended = standard.drive, standard.range
    if by_pose(body, standard):
        return {side: drive for side in SIDES if (drive := _of_pose(body, standard, side))}
    out: dict[Side, DriveSignal] = {}
    for side in SIDES:
        drive = signal_of(body, measure, side, intended)
        if drive:
            out[side] = replace(drive, arcs=arcs_of(standard))
    if len(out) == 2 and measure == "trunk_side_lean":
        return _own_side(out, intended)
    if len(out) == 2 and measure == "trunk_lean" and standard.arms == "one":
        side = _turned_side(body, standard, out["left"])
        return {side: out[side]}
    return out


def _of_pose(body: Body, standard: Standard, side: Side) -> DriveSignal | None:
    """The driving measure of the pose that fits the picture best; None if the picture leaves it
    too unsure to count by."""
    if not tells_drive(body, standard, side):
        return None
    series = driven(body, standard, side)
    lost = ~np.isfinite(series.value)
    unsure = seen_median(series.u) > REP.fit_unsure_share * standard.range.size_deg
    if unsure or lost.sum() > len(lost) - 2:
        return None
    drive = _on_grid(
        body,
        series.value,
        series.u,
        side=side,
        measure=standard.drive,
        intended=standard.range,
        lost=lost,
    )
    return replace(drive, jitter_deg=_jitter(body, standard.drive, side), arcs=arcs_of(standard))


def _turned_side(body: Body, standard: Standard, drive: DriveSignal) -> Side:
    """The arm that works where the trunk rounds and turns: the one it turns with as the standard's
    left arm does, or its mirror; the near one in a side view, which hides the turn."""
    turn = body.measure("trunk_rotation")
    seen = np.isfinite(turn.value)
    if not seen.any():
        return near_side(body.cleaned.track.view) or "left"
    along = np.interp(body.time_s[seen], drive.time_s, drive.lift_deg)
    way = float(np.sum((along - along.mean()) * (turn.value[seen] - turn.value[seen].mean())))
    meant = standard.trunk[1].twist_deg - standard.trunk[0].twist_deg
    return "left" if way * meant >= 0.0 else "right"


def _own_side(drives: dict[Side, DriveSignal], intended: Range) -> dict[Side, DriveSignal]:
    """A trunk that leans to one side is one side's work: the side whose range it keeps to."""
    middle = 0.5 * (intended.from_deg + intended.to_deg)
    off = {s: abs(d.degrees(median(d.lift_deg)) - middle) for s, d in drives.items()}
    side = min(SIDES, key=lambda s: off[s])
    return {side: drives[side]}


def signal_of(body: Body, measure: str, side: Side, intended: Range) -> DriveSignal | None:
    """One measure of one side as a drive; None if the recording does not show it."""
    if not body.shows(measure, side):
        return None
    series = body.driven(measure, side)
    if np.isfinite(series.value).sum() < 2:
        return None
    drive = _on_grid(
        body,
        series.value,
        series.u,
        side=side,
        measure=measure,
        intended=intended,
        lost=body.lost(measure, side),
    )
    sharp = body.unsmoothed(measure, side)
    return replace(
        drive,
        jitter_deg=_jitter(body, measure, side),
        sharp_deg=(
            None
            if sharp is None
            else _even(body.time_s, sharp, measure, drive.time_s) * intended.direction
        ),
    )


def _jitter(body: Body, measure: str, side: Side) -> float:
    """By how much the landmarks' noise turns a measure from moment to moment: over the length of
    what they span."""
    if measure in _ARM_PART:
        noise = np.sqrt(2.0) * seen_median(body.cleaned.sigma(f"{side}_{_ARM_PART[measure]}"))
        return float(np.degrees(noise / max(body.learned.upper_arm_m[side], 0.1)))
    share = float(
        seen_median(body.cleaned.sigma(f"{side}_shoulder")) / max(seen_median(body.trunk_m), 0.1)
    )
    return 100.0 * share if measure == "shoulder_hike" else float(np.degrees(share))


def both_arms(left: DriveSignal, right: DriveSignal) -> DriveSignal:
    """The mean of the two arms: the driving measure when they work together. If one arm is lost,
    the other replaces the mean, with its offset from the mean before and after."""
    apart = _apart(left, right)
    lift, sharp = _mean_of_arms(left, right, left.lift_deg, right.lift_deg, apart), None
    if left.sharp_deg is not None and right.sharp_deg is not None:
        sharp = _mean_of_arms(left, right, left.sharp_deg, right.sharp_deg, apart)
    return DriveSignal(
        side="both",
        measure=left.measure,
        intended=left.intended,
        time_s=left.time_s,
        lift_deg=lift,
        lost=left.lost & right.lost,
        noise_deg=float(np.hypot(left.noise_deg, right.noise_deg)) / 2.0,
        jitter_deg=float(np.hypot(left.jitter_deg, right.jitter_deg)) / 2.0,
        pictured=left.pictured,
        sharp_deg=sharp,
        arcs=left.arcs,
    )


def _apart(left: DriveSignal, right: DriveSignal) -> Array:
    """(N,) by how far both arms are from their mean, drawn through where one is lost."""
    both = ~(left.lost | right.lost)
    apart: Array = 0.5 * (right.lift_deg - left.lift_deg)
    if not both.any():
        return np.zeros_like(apart)
    at = np.arange(len(apart), dtype=float)
    out: Array = np.interp(at, at[both], apart[both])
    return out


def _mean_of_arms(
    left: DriveSignal, right: DriveSignal, left_deg: Array, right_deg: Array, apart: Array
) -> Array:
    """(N,) the mean of both arms; of one alone where the other is lost."""
    mean: Array = 0.5 * (left_deg + right_deg)
    out = np.where(left.lost & ~right.lost, right_deg - apart, mean)
    both: Array = np.where(right.lost & ~left.lost, left_deg + apart, out)
    return both


def _even(time_s: Array, value: Array, measure: str, grid: Array) -> Array:
    """A measure on an even grid, interpolated where it is not known."""
    seen = np.isfinite(value)
    turned = value[seen]
    if measure == "shoulder_plane":
        turned = np.degrees(np.unwrap(np.radians(turned)))
    out: Array = np.interp(grid, time_s[seen], turned)
    return out


def _on_grid(
    body: Body, value: Array, u: Array, side: Side, measure: str, intended: Range, lost: Flags
) -> DriveSignal:
    """lost : (T,) where the landmarks of the value were not seen"""
    time_s = body.time_s
    step = max(median(np.diff(time_s)), 1.0 / _FASTEST_GRID_HZ)
    grid = np.arange(time_s[0], time_s[-1] + 0.5 * step, step)
    filled = _even(time_s, value, measure, grid)
    return DriveSignal(
        side=side,
        measure=measure,
        intended=intended,
        time_s=grid,
        lift_deg=intended.direction * filled,
        lost=np.interp(grid, time_s, lost.astype(float)) > 0.5,
        noise_deg=seen_median(u),
        pictured=body.cleaned.track.view != "none",
    )
