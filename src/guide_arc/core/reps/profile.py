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

SAMPLES: Final = 48
_ROUNDS: Final = 12
# Steps of start (seconds) and length (share) below this change no edge worth speaking of.
_STILL: Final = 1.5e-3
_STEP: Final = 1e-4
_RAMP_START: Final = 0.45
_RAMP_RANGE: Final = (0.06, 0.75)
# The two ramps are taken to be alike within this share of the time, as far as the data lets them.
_TIE: Final = 0.3
_TIE_WIDTH: Final = 0.2


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
    """
    span = time_s[:, -1] - time_s[:, 0]
    first, last = level_deg[:, :3].mean(axis=1), level_deg[:, -3:].mean(axis=1)
    start, length = _first_guess(time_s, level_deg, first, last)
    ramps = np.full((2, len(span)), _RAMP_START)
    theta = np.stack((first, last, start, np.log(length), *ramps), axis=-1)
    floor, ceiling = np.minimum(first, last) - 20.0, np.maximum(first, last) + 20.0
    low = np.stack((
        floor, floor, time_s[:, 0] - 0.4 * span, np.log(0.15 * span),
        *np.full((2, len(span)), _RAMP_RANGE[0]),
    ), axis=-1)  # fmt: skip
    high = np.stack((
        ceiling, ceiling, time_s[:, -1] - 0.1 * span, np.log(1.8 * span),
        *np.full((2, len(span)), _RAMP_RANGE[1]),
    ), axis=-1)  # fmt: skip
    damping = np.full(len(span), 1e-3)
    missed = level_deg - _course(time_s, theta)
    cost = (missed**2).sum(axis=1)
    for _ in range(_ROUNDS):
        jacobian = _derivatives(time_s, theta)
        normal = np.einsum("mnk,mnl->mkl", jacobian, jacobian)
        scale = np.einsum("mkk->mk", normal)
        normal[:, range(6), range(6)] += damping[:, None] * (scale + 1e-9)
        right = np.einsum("mnk,mn->mk", jacobian, missed)
        tie = _TIE * cost / _TIE_WIDTH**2
        for k, other in ((4, 5), (5, 4)):
            normal[:, k, k] += tie + 1e-9
            normal[:, k, other] -= tie
            right[:, k] += tie * (theta[:, other] - theta[:, k])
        tried = np.clip(theta + np.linalg.solve(normal, right[..., None])[..., 0], low, high)
        missed_now = level_deg - _course(time_s, tried)
        cost_now = (missed_now**2).sum(axis=1)
        better = cost_now <= cost * (1 + 1e-3)
        settled = bool(better.all() and (np.abs(tried - theta)[:, 2:4] < _STILL).all())
        theta = np.where(better[:, None], tried, theta)
        missed = np.where(better[:, None], missed_now, missed)
        cost = np.where(better, cost_now, cost)
        damping = np.where(better, damping * 0.3, damping * 6.0)
        if settled:
            break
    up, down = _ramps(theta)
    length = np.exp(theta[:, 3])
    edge = _step_crossing(edge_share)
    return Reaches(
        start_s=theta[:, 2] + length * edge * up[:, 0],
        end_s=theta[:, 2] + length * (1.0 - edge * down[:, 0]),
        misfit_deg=np.sqrt(cost / level_deg.shape[1]),
        peak_deg_s=np.abs(theta[:, 1] - theta[:, 0]) / (length * (1.0 - 0.5 * (up + down)[:, 0])),
    )


def _ramps(theta: Array) -> tuple[Array, Array]:
    """(M, 1) shares of the time spent speeding up and slowing down; together at most all of it."""
    up, down = theta[:, 4:5], theta[:, 5:6]
    too_much = np.maximum(up + down, 1.0)
    return up / too_much, down / too_much


def _course(time_s: Array, theta: Array) -> Array:
    """(M, N) levels of the courses.

    theta : (M, 6) first and last level, start, log of the length, the two ramps
    """
    up, down = _ramps(theta)
    share = np.clip((time_s - theta[:, 2:3]) / np.exp(theta[:, 3:4]), 0.0, 1.0)
    top = 1.0 / (1.0 - 0.5 * (up + down))
    rising, falling = np.clip(share / up, 0.0, 1.0), np.clip((1.0 - share) / down, 0.0, 1.0)
    # The integral of a smooth step is x^3 - x^4 / 2.
    begun = up * (rising**3 - 0.5 * rising**4)
    left = down * (falling**3 - 0.5 * falling**4)
    even = np.clip(share, up, 1.0 - down) - up
    way = top * (begun + even + 0.5 * down - left)
    out: Array = theta[:, :1] + (theta[:, 1:2] - theta[:, :1]) * way
    return out


def _derivatives(time_s: Array, theta: Array) -> Array:
    """(M, N, 6) of the course by each number of the fit."""
    here = _course(time_s, theta)
    out = np.empty((*time_s.shape, 6))
    for k in range(6):
        nudged = theta.copy()
        nudged[:, k] += _STEP
        out[..., k] = (_course(time_s, nudged) - here) / _STEP
    return out


def _step_crossing(share: float) -> float:
    """Where a smooth step 3 x^2 - 2 x^3 reaches a share of its height."""
    x = np.linspace(0.0, 1.0, 4001)
    return float(np.interp(share, 3 * x**2 - 2 * x**3, x))


def _first_guess(time_s: Array, level_deg: Array, first: Array, last: Array) -> tuple[Array, Array]:
    """Start and length from where a tenth and nine tenths of the way are done."""
    way = (level_deg - first[:, None]) / (last - first)[:, None]
    tenth = time_s[np.arange(len(way)), np.argmax(way >= 0.1, axis=1)]
    ninth = time_s[np.arange(len(way)), np.argmax(way >= 0.9, axis=1)]
    # A reach of two equal ramps is a tenth done after 24 % of its time.
    length = np.maximum((ninth - tenth) / 0.53, 1e-2)
    return tenth - 0.235 * length, length
