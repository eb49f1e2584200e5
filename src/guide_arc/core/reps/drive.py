"""The driving measure as a signal on an even time grid, ready to be cut into movements."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.guide import arm_directions, poses_along
from guide_arc.core.kinematics.smoothing import Smoother
from guide_arc.core.kinematics.vectors import Array, Flags, span_of
from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.rep import Span, WorkSide
from guide_arc.core.model.standard import Range, Standard
from guide_arc.core.model.track import View
from guide_arc.core.reps.rules import REP

_FASTEST_GRID_HZ: Final = 120.0
_FEWEST_SAMPLES: Final = 8
# Where a driving measure stands in a pose.
_COLUMN: Final = {"shoulder_elevation": 0, "shoulder_plane": 1, "elbow_flexion": 2}


@dataclass(frozen=True, eq=False)
class DriveSignal:
    """The driving measure of one side, or the mean of both.

    time_s : (N,) evenly spaced
    lift_deg : (N,) the measure times `range.direction`: lifting always makes it grow
    known : (N,) where the measure is defined; elsewhere lift_deg is drawn through
    noise_deg : its white noise after the landmarks were smoothed
    """

    side: WorkSide
    measure: str
    intended: Range
    time_s: Array
    lift_deg: Array
    known: Flags
    noise_deg: float
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
        """The drive between two moments only; None where that leaves too little to cut."""
        inside = span_of(self.time_s, span.start_s, span.end_s)
        if inside.stop - inside.start < _FEWEST_SAMPLES:
            return None
        return DriveSignal(
            self.side, self.measure, self.intended, self.time_s[inside], self.lift_deg[inside],
            self.known[inside], self.noise_deg,
        )  # fmt: skip

    def degrees(self, lift_deg: float) -> float:
        """Back to the measure's own sign."""
        return self.intended.direction * lift_deg


def driving(body: Body, standard: Standard) -> dict[Side, DriveSignal]:
    """The driving measure of each side that the recording shows.

    Where the view hides the standard's own driving measure, or shows it foreshortened, shoulder
    elevation stands in, as long as the standard's poses move it enough; otherwise a hidden side is
    left out.
    """
    measure, intended = standard.drive, standard.range
    hidden = not any(body.shows(measure, side) for side in SIDES)
    if hidden or leaves_picture(standard, body.cleaned.track.view):
        low, high = standard.start.elevation_deg, standard.turn.elevation_deg
        if abs(high - low) >= REP.stand_in_least_deg:
            measure = "shoulder_elevation"
            intended = Range(low, high, intended.tolerance_deg)
        elif hidden:
            return {}
    out: dict[Side, DriveSignal] = {}
    for side in SIDES:
        drive = signal_of(body, measure, side, intended)
        if drive:
            out[side] = drive
    if len(out) == 2 and measure == "trunk_side_lean":
        return _own_side(out, intended)
    if len(out) == 2 and measure == "trunk_lean" and standard.arms == "one":
        side = _turned_side(body, standard, out["left"])
        return {side: out[side]}
    return out


def _turned_side(body: Body, standard: Standard, drive: DriveSignal) -> Side:
    """The arm that works where the trunk rounds and turns: the one it turns with as the standard's left
    arm does, or its mirror; the near one in a side view, which hides the turn."""
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
    off = {s: abs(d.degrees(float(np.median(d.lift_deg))) - middle) for s, d in drives.items()}
    side = min(SIDES, key=lambda s: off[s])
    return {side: drives[side]}


def leaves_picture(standard: Standard, view: View) -> bool:
    """Whether the elbow bends across the picture's plane, so that a side view shows its angle
    foreshortened for most of the lift."""
    if near_side(view) is None or standard.drive != "elbow_flexion":
        return False
    limbs = arm_directions(poses_along(standard, np.linspace(0.0, 1.0, 21)))
    return max(float(np.median(np.abs(limb[:, 0]))) for limb in limbs) > REP.across_sine


def times_truly(standard: Standard, measure: str) -> bool:
    """Whether the phases of a measure are those of the standard's own driving measure: it is that,
    or it runs along with it evenly over the guide arc."""
    if measure == standard.drive:
        return True
    share = np.linspace(0.0, 1.0, 41)
    poses = poses_along(standard, share)
    elevation = poses[:, 0]
    if abs(elevation[-1] - elevation[0]) < 1.0 or standard.drive not in _COLUMN:
        return False
    way = (elevation - elevation[0]) / (elevation[-1] - elevation[0])
    own = poses[:, _COLUMN[standard.drive]]
    asked = (own - own[0]) / (own[-1] - own[0])
    return float(np.abs(way - asked).max()) <= REP.runs_along_share


def signal_of(body: Body, measure: str, side: Side, intended: Range) -> DriveSignal | None:
    """One measure of one side as a drive; None where the recording does not show it."""
    if not body.shows(measure, side):
        return None
    series = body.driven(measure, side)
    if np.isfinite(series.value).sum() < 2:
        return None
    return _on_grid(body.time_s, series.value, series.u, side, measure, intended)


def both_arms(left: DriveSignal, right: DriveSignal) -> DriveSignal:
    """The mean of the two arms: the driving measure when they work together."""
    return DriveSignal(
        side="both",
        measure=left.measure,
        intended=left.intended,
        time_s=left.time_s,
        lift_deg=0.5 * (left.lift_deg + right.lift_deg),
        known=left.known & right.known,
        noise_deg=float(np.hypot(left.noise_deg, right.noise_deg)) / 2.0,
    )


def _on_grid(
    time_s: Array, value: Array, u: Array, side: Side, measure: str, intended: Range
) -> DriveSignal:
    step = max(float(np.median(np.diff(time_s))), 1.0 / _FASTEST_GRID_HZ)
    grid = np.arange(time_s[0], time_s[-1] + 0.5 * step, step)
    seen = np.isfinite(value)
    if measure == "shoulder_plane":
        turned = np.degrees(np.unwrap(np.radians(value[seen])))
    else:
        turned = value[seen]
    filled = np.interp(grid, time_s[seen], turned)
    known = np.interp(grid, time_s, seen.astype(float)) > 0.5
    return DriveSignal(
        side=side,
        measure=measure,
        intended=intended,
        time_s=grid,
        lift_deg=intended.direction * filled,
        known=known,
        noise_deg=float(np.nanmedian(u)),
    )
