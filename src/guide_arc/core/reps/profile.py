"""When a movement starts and ends, from its whole course instead of its noisy edges.

Fitting one smooth course to all of a movement's samples places its start and end far better than
any threshold on a noisy speed can: the noise of forty samples is shared by six numbers. The course
speeds up over one part of its time, may keep its speed for a while, and slows down over another:
with two halves it is close to the minimum-jerk reach (Flash and Hogan 1985), with two short ramps
it is the even pace of a lowering to a count. Where a movement is neither (a sticking point, a
stop), the fit says so and is not used.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.reps.rules import EDGE

SAMPLES: Final = 32
_ROUNDS: Final = 8
_ROUNDS_SHARED: Final = 4
# Steps of start (seconds) and length (share) below this change no edge worth speaking of.
_STILL: Final = 1.5e-3
_STEP: Final = 1e-4
# What a whole ramp covers, of what the full speed would in its time.
_RAMP_WAY: Final = 4.0 / 3.0 - 1.0 + 0.2


@dataclass(frozen=True, eq=False)
class Reaches:
    """Fits of M movements: when a share of the peak speed is first and last crossed, and how well.

    start_s, end_s, misfit_deg, peak_deg_s : (M,)
    """

    start_s: Array
    end_s: Array
    misfit_deg: Array
    peak_deg_s: Array


def fit_reaches(time_s: Array, level_deg: Array, edge_share: float) -> Reaches:
    """Fit a course to each of M movements by damped Gauss-Newton steps, all at once.

    time_s, level_deg : (M, SAMPLES) from one turning point to the next, rising or falling

    People speed up and slow down alike in every rep of a set: once each movement was fitted by
    itself, all are fitted again with their ramps drawn towards the usual ones of their direction.
    """
    rising = level_deg[:, -1] > level_deg[:, 0]
    theta = _first_guess(time_s, level_deg)
    low, high = _limits(time_s, level_deg)
    theta, cost = _fitted(time_s, level_deg, theta, (low, high), None, _ROUNDS)
    usual = theta[:, 4:].copy()
    for way in (rising, ~rising):
        if way.sum() >= EDGE.enough_alike:
            usual[way] = np.median(theta[way, 4:], axis=0)
    theta, cost = _fitted(time_s, level_deg, theta, (low, high), usual, _ROUNDS_SHARED)
    up, down = _ramps(theta)
    length = np.exp(theta[:, 3])
    edge = _step_crossing(edge_share)
    return Reaches(
        start_s=theta[:, 2] + length * edge * up[:, 0],
        end_s=theta[:, 2] + length * (1.0 - edge * down[:, 0]),
        misfit_deg=np.sqrt(cost / level_deg.shape[1]),
        peak_deg_s=np.abs(theta[:, 1] - theta[:, 0])
        / (length * (1.0 - (1.0 - _RAMP_WAY) * (up + down)[:, 0])),
    )


def _fitted(
    time_s: Array,
    level_deg: Array,
    theta: Array,
    limits: tuple[Array, Array],
    usual: Array | None,
    rounds: int,
) -> tuple[Array, Array]:
    """(M, 6) numbers of the courses and (M,) their squared misfits.

    usual : (M, 2) ramps to draw towards; None draws the two ramps of each movement together
    """
    damping = np.full(len(theta), 1e-3)
    missed = level_deg - _course(time_s, theta)
    cost = (missed**2).sum(axis=1)
    for _ in range(rounds):
        jacobian = _derivatives(time_s, theta)
        normal = np.einsum("mnk,mnl->mkl", jacobian, jacobian)
        scale = np.einsum("mkk->mk", normal)
        normal[:, range(6), range(6)] += damping[:, None] * (scale + 1e-9)
        right = np.einsum("mnk,mn->mk", jacobian, missed)
        tie = (EDGE.tie if usual is None else EDGE.alike) * cost / EDGE.tie_width_share**2
        for k, other in ((4, 5), (5, 4)):
            normal[:, k, k] += tie + 1e-9
            if usual is None:
                normal[:, k, other] -= tie
                right[:, k] += tie * (theta[:, other] - theta[:, k])
            else:
                right[:, k] += tie * (usual[:, k - 4] - theta[:, k])
        tried = np.clip(theta + np.linalg.solve(normal, right[..., None])[..., 0], *limits)
        missed_now = level_deg - _course(time_s, tried)
        cost_now = (missed_now**2).sum(axis=1)
        better = cost_now + tie * _strain(tried, usual) <= cost + tie * _strain(theta, usual)
        settled = bool(better.all() and (np.abs(tried - theta)[:, 2:4] < _STILL).all())
        theta = np.where(better[:, None], tried, theta)
        missed = np.where(better[:, None], missed_now, missed)
        cost = np.where(better, cost_now, cost)
        damping = np.where(better, damping * 0.3, damping * 6.0)
        if settled:
            break
    return theta, cost


def _strain(theta: Array, usual: Array | None) -> Array:
    """(M,) what the ties hold against a course: the square of what they pull at."""
    if usual is None:
        out: Array = (theta[:, 4] - theta[:, 5]) ** 2
        return out
    pulled: Array = ((theta[:, 4:] - usual) ** 2).sum(axis=1)
    return pulled


def _limits(time_s: Array, level_deg: Array) -> tuple[Array, Array]:
    """The smallest and the largest numbers that a course may have."""
    span = time_s[:, -1] - time_s[:, 0]
    first, last = _ends(level_deg)
    floor, ceiling = np.minimum(first, last) - 20.0, np.maximum(first, last) + 20.0
    ramps = np.ones((2, len(span)))
    low = (
        floor,
        floor,
        time_s[:, 0] - 0.4 * span,
        np.log(0.15 * span),
        *EDGE.ramp_shares[0] * ramps,
    )
    high = (
        ceiling,
        ceiling,
        time_s[:, -1] - 0.1 * span,
        np.log(1.8 * span),
        *EDGE.ramp_shares[1] * ramps,
    )
    return np.stack(low, axis=-1), np.stack(high, axis=-1)


def _ends(level_deg: Array) -> tuple[Array, Array]:
    return level_deg[:, :3].mean(axis=1), level_deg[:, -3:].mean(axis=1)


def _ramps(theta: Array) -> tuple[Array, Array]:
    """(M, 1) shares of the time spent speeding up and slowing down; together at most all of it."""
    up, down = theta[:, 4:5], theta[:, 5:6]
    too_much = np.maximum(up + down, 1.0)
    return up / too_much, down / too_much


def _course(time_s: Array, theta: Array) -> Array:
    """(M, N) levels of the courses.

    theta : (M, 6) first and last level, start, log of the length, the two ramps
    """
    out: Array = theta[:, :1] + (theta[:, 1:2] - theta[:, :1]) * _way(time_s, theta)[0]
    return out


def _way(time_s: Array, theta: Array) -> tuple[Array, Array, Array]:
    """(M, N) the share of the way that is done, of the time that is over, and the first's slope by the
    second."""
    up, down = _ramps(theta)
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


def _derivatives(time_s: Array, theta: Array) -> Array:
    """(M, N, 6) of the course by each number of the fit."""
    way, share, slope = _way(time_s, theta)
    first, last = theta[:, :1], theta[:, 1:2]
    by_share = (last - first) * slope
    out = np.empty((*time_s.shape, 6))
    out[..., 0], out[..., 1] = 1.0 - way, way
    out[..., 2] = -by_share / np.exp(theta[:, 3:4])
    out[..., 3] = -by_share * share
    # The two ramps hang together where they fill the whole time: both by a nudge, in one go.
    nudged = np.repeat(theta[None], 2, axis=0)
    nudged[range(2), :, (4, 5)] += _STEP
    ramps = _way(np.tile(time_s, (2, 1)), nudged.reshape(-1, 6))[0].reshape(2, *time_s.shape)
    out[..., 4:] = np.moveaxis((last - first) * (ramps - way) / _STEP, 0, -1)
    return out


def _ramped(x: Array) -> Array:
    """The way made over a share x of a ramp: the integral of x^2 (2 - x)^2, half of a minimum-jerk
    reach's bell of speed, so that two ramps without an even part are that reach."""
    squared = x * x  # many times faster than powers
    out: Array = squared * x * (4.0 / 3.0 - x + 0.2 * squared)
    return out


def _step_crossing(share: float) -> float:
    """Where a ramp's speed reaches a share of its height."""
    return 1.0 - float(np.sqrt(1.0 - np.sqrt(share)))


def _first_guess(time_s: Array, level_deg: Array) -> Array:
    """(M, 6) start and length from where a tenth and nine tenths of the way are done."""
    first, last = _ends(level_deg)
    way = (level_deg - first[:, None]) / (last - first)[:, None]
    tenth = time_s[np.arange(len(way)), np.argmax(way >= 0.1, axis=1)]
    ninth = time_s[np.arange(len(way)), np.argmax(way >= 0.9, axis=1)]
    # A reach of two equal ramps is a tenth done after 24 % of its time.
    length = np.maximum((ninth - tenth) / 0.53, 1e-2)
    ramps = np.full((2, len(way)), EDGE.ramp_start_share)
    return np.stack((first, last, tenth - 0.235 * length, np.log(length), *ramps), axis=-1)
