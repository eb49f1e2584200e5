"""The course of a movement: a way that speeds up over one part of its time, may keep its speed for
a while, and slows down over another, along an arc.

With two halves it is the minimum-jerk reach (Flash and Hogan 1985), with two short ramps the even
pace of a lowering to a count.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from guide_arc.core.kinematics.vectors import Array, Flags
from guide_arc.core.reps.arc import Arc

# First and last level, start, log of the length, the two ramps; and where the last two are.
NUMBERS: Final = 6
SHAPE: Final = slice(4, 6)
_STEP: Final = 1e-4
# The peak speed is searched for at so many moments.
_FINE: Final = 41
# What a whole ramp covers, of what the full speed would in its time.
_RAMP_WAY: Final = 4.0 / 3.0 - 1.0 + 0.2


@dataclass(frozen=True, eq=False)
class MovementShapes:
    """What M movements look like: each a course of two ramps, along the arc of its direction.

    rising : (M,) which of them go up
    """

    rising: Flags
    up_arc: Arc
    down_arc: Arc

    def of(self, which: Flags) -> MovementShapes:
        return MovementShapes(self.rising[which], self.up_arc, self.down_arc)

    def level(self, time_s: Array, theta: Array) -> Array:
        """(M, N) the measure.

        theta : (M, 6) first and last level, start, log of the length, the two ramps
        """
        share, _step, _ends = self._along(_way(time_s, theta)[0], theta)
        return self.by_arc("level", share)

    def speed(self, time_s: Array, theta: Array) -> Array:
        """(M, N) how fast the measure changes, a second."""
        way, _share, slope = _way(time_s, theta)
        share, step, _ends = self._along(way, theta)
        out: Array = self.by_arc("slope", share) * step * slope / np.exp(theta[:, 3:4])
        return out

    def full_speed(self, theta: Array, end: int) -> Array:
        """(M,) how fast it would change at its first or last level at the pace of the way's middle,
        by the way."""
        _share, step, ends = self._along(np.zeros((len(theta), 1)), theta)
        out: Array = (self.by_arc("slope", ends[end]) * step)[:, 0]
        return out

    def derivatives(self, time_s: Array, theta: Array) -> Array:
        """(M, N, 6) of the level by each number of the fit."""
        way, share_of_time, slope = _way(time_s, theta)
        share, step, ends = self._along(way, theta)
        here = self.by_arc("slope", share)
        by_way = here * step
        out = np.empty((*time_s.shape, NUMBERS))
        out[..., 0] = (1.0 - way) * here / self.by_arc("slope", ends[0])
        out[..., 1] = way * here / self.by_arc("slope", ends[1])
        out[..., 2] = -by_way * slope / np.exp(theta[:, 3:4])
        out[..., 3] = -by_way * slope * share_of_time
        # The two ramps hang together where they fill the whole time: both by a nudge, in one go.
        nudged = np.repeat(theta[None], 2, axis=0)
        nudged[range(2), :, (4, 5)] += _STEP
        ramps = _way(np.tile(time_s, (2, 1)), nudged.reshape(-1, NUMBERS))[0]
        ramps = ramps.reshape(2, *time_s.shape)
        out[..., SHAPE] = np.moveaxis(by_way * (ramps - way) / _STEP, 0, -1)
        return out

    def _along(self, way: Array, theta: Array) -> tuple[Array, Array, tuple[Array, Array]]:
        """(M, N) how far along the arc a movement is, (M, 1) how much of the arc it goes, and its
        two ends on it."""
        first, last = (self.by_arc("share", theta[:, k : k + 1]) for k in (0, 1))
        step = last - first
        return first + step * way, step, (first, last)

    def by_arc(self, what: Literal["share", "level", "slope"], of: Array) -> Array:
        out: Array = getattr(self.up_arc, what)(of)
        if self.up_arc is not self.down_arc:
            out = np.where(self.rising[:, None], out, getattr(self.down_arc, what)(of))
        return out


def edges_of(theta: Array, course: MovementShapes, edge_share: float) -> tuple[Array, Array, Array]:
    """(M,) when the measure's speed first and last is a share of its peak, seconds, and that
    peak."""
    up, down = ramps_of(theta)
    length = np.exp(theta[:, 3])
    top = 1.0 / (length * (1.0 - (1.0 - _RAMP_WAY) * (up + down)[:, 0]))
    time_s = theta[:, 2:3] + length[:, None] * np.linspace(0.0, 1.0, _FINE)
    peak = np.abs(course.speed(time_s, theta)).max(axis=1)
    at = []
    for end, ramp in ((0, up), (1, down)):
        full = np.abs(course.full_speed(theta, end)) * top
        share = np.minimum(edge_share * peak / np.maximum(full, 1e-9), 1.0)
        at.append(length * _step_crossing(share) * ramp[:, 0])
    return theta[:, 2] + at[0], theta[:, 2] + length - at[1], peak


def ramps_of(theta: Array) -> tuple[Array, Array]:
    """(M, 1) shares of the time spent speeding up and slowing down; together at most all of it."""
    up, down = theta[:, 4:5], theta[:, 5:6]
    too_much = np.maximum(up + down, 1.0)
    return up / too_much, down / too_much


def _way(time_s: Array, theta: Array) -> tuple[Array, Array, Array]:
    """(M, N) the share of the way that is done, of the time that is over, and the first's slope by
    the second."""
    up, down = ramps_of(theta)
    share = np.clip((time_s - theta[:, 2:3]) / np.exp(theta[:, 3:4]), 0.0, 1.0)
    top = 1.0 / (1.0 - (1.0 - _RAMP_WAY) * (up + down))
    rising, falling = np.minimum(share / up, 1.0), np.minimum((1.0 - share) / down, 1.0)
    begun = up * _ramped(rising)
    left = down * _ramped(falling)
    even = np.clip(share, up, 1.0 - down) - up
    way = top * (begun + even + _RAMP_WAY * down - left)
    # Each ramp's speed is 1 once it is over, and both are 0 at the ends.
    slope = top * (rising * (2.0 - rising) * falling * (2.0 - falling)) ** 2
    return way, share, slope


def _ramped(x: Array) -> Array:
    """The way made over a share x of a ramp: the integral of x^2 (2 - x)^2, half of a minimum-jerk
    reach's bell of speed, so that two ramps without an even part are that reach."""
    squared = x * x  # many times faster than powers
    out: Array = squared * x * (4.0 / 3.0 - x + 0.2 * squared)
    return out


def _step_crossing(share: Array) -> Array:
    """Where a ramp's speed reaches a share of its height."""
    out: Array = 1.0 - np.sqrt(1.0 - np.sqrt(share))
    return out
