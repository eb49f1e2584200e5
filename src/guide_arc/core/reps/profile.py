"""When a movement starts and ends, from its whole course instead of its noisy edges.

A single reach follows a bell of speed. Fitting one to all of a movement's samples places its
start and end far better than any threshold on a noisy speed can: the noise of forty samples is
shared by six numbers. The bell is the beta distribution's; with both shapes 3 it is exactly the
minimum-jerk reach (Flash and Hogan 1985), other shapes lean or flatten it. Where a movement is no
single reach (a sticking point, a stop), the fit says so and is not used.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array

SAMPLES: Final = 40
_ROUNDS: Final = 9
# Steps of start (seconds) and length (share) below this change no edge worth speaking of.
_STILL: Final = 1.5e-3
_SHAPE_START: Final = 3.0
_SHAPE_RANGE: Final = (1.3, 7.0)
_STEP: Final = 1e-3
# How strongly the usual shape holds against noise: people's reaches seldom lean far from it.
_PRIOR: Final = 1.0


@dataclass(frozen=True, eq=False)
class Reaches:
    """Fits of M movements: when 5 % of the peak speed is first and last crossed, and how well.

    start_s, end_s, misfit_deg, peak_deg_s : (M,)
    """

    start_s: Array
    end_s: Array
    misfit_deg: Array
    peak_deg_s: Array


def fit_reaches(time_s: Array, level_deg: Array, noise_deg: float, edge_share: float) -> Reaches:
    """Fit a bell of speed to each of M movements by damped Gauss-Newton steps, all at once.

    time_s, level_deg : (M, SAMPLES) from one turning point to the next, rising or falling
    noise_deg : of the levels; where it is large the usual shape holds, where small the data does
    """
    span = time_s[:, -1] - time_s[:, 0]
    first, last = level_deg[:, :3].mean(axis=1), level_deg[:, -3:].mean(axis=1)
    start, length = _first_guess(time_s, level_deg, first, last)
    shape = np.full((2, len(span)), np.log(_SHAPE_START))
    theta = np.stack((first, last, start, np.log(length), *shape), axis=-1)
    low = np.stack((
        np.minimum(first, last) - 20, np.minimum(first, last) - 20,
        time_s[:, 0] - 0.4 * span, np.log(0.15 * span),
        *np.full((2, len(span)), np.log(_SHAPE_RANGE[0])),
    ), axis=-1)  # fmt: skip
    high = np.stack((
        np.maximum(first, last) + 20, np.maximum(first, last) + 20,
        time_s[:, -1] - 0.1 * span, np.log(1.8 * span),
        *np.full((2, len(span)), np.log(_SHAPE_RANGE[1])),
    ), axis=-1)  # fmt: skip

    damping = np.full(len(span), 1e-3)
    missed, jacobian = _course(time_s, level_deg, theta)
    cost = (missed**2).sum(axis=1)
    prior = _PRIOR * level_deg.shape[1] * noise_deg**2
    for _ in range(_ROUNDS):
        normal = np.einsum("mnk,mnl->mkl", jacobian, jacobian)
        scale = np.einsum("mkk->mk", normal)
        normal[:, range(6), range(6)] += damping[:, None] * (scale + 1e-9)
        right = np.einsum("mnk,mn->mk", jacobian, missed)
        for k in (4, 5):
            normal[:, k, k] += prior
            right[:, k] += prior * (np.log(_SHAPE_START) - theta[:, k])
        tried = np.clip(theta + np.linalg.solve(normal, right[..., None])[..., 0], low, high)
        missed_now, jacobian_now = _course(time_s, level_deg, tried)
        cost_now = (missed_now**2).sum(axis=1)
        better = cost_now <= cost * (1 + 1e-3)
        settled = bool((np.abs(tried - theta)[better][:, 2:4] < _STILL).all() and better.all())
        theta = np.where(better[:, None], tried, theta)
        missed = np.where(better[:, None], missed_now, missed)
        jacobian = np.where(better[:, None, None], jacobian_now, jacobian)
        cost = np.where(better, cost_now, cost)
        damping = np.where(better, damping * 0.3, damping * 6.0)
        if settled:
            break
    begin, finish, peak = _edges(np.exp(theta[:, 4:]), edge_share)
    length = np.exp(theta[:, 3])
    return Reaches(
        start_s=theta[:, 2] + length * begin,
        end_s=theta[:, 2] + length * finish,
        misfit_deg=np.sqrt(cost / level_deg.shape[1]),
        peak_deg_s=np.abs(theta[:, 1] - theta[:, 0]) * peak / length,
    )


def _course(time_s: Array, level_deg: Array, theta: Array) -> tuple[Array, Array]:
    """What a fit misses, (M, N), and the derivatives of its course, (M, N, 6).

    theta : (M, 6) first and last level, start, log of the length, logs of the two shapes
    """
    from scipy.special import betainc, betaln  # noqa: PLC0415 - a window opens without

    length = np.exp(theta[:, 3:4])
    share = (time_s - theta[:, 2:3]) / length
    inside = (share > 0.0) & (share < 1.0)
    share = np.clip(share, 1e-9, 1.0 - 1e-9)
    p, q = np.exp(theta[:, 4:5]), np.exp(theta[:, 5:6])
    way = betainc(p, q, share)
    bell = np.exp((p - 1) * np.log(share) + (q - 1) * np.log1p(-share) - betaln(p, q))
    bell = np.where(inside, bell, 0.0)
    rise = theta[:, 1:2] - theta[:, :1]
    jacobian = np.empty((*level_deg.shape, 6))
    jacobian[..., 0] = 1.0 - way
    jacobian[..., 1] = way
    jacobian[..., 2] = -rise * bell / length
    jacobian[..., 3] = -rise * bell * share
    wider = np.exp(_STEP)
    jacobian[..., 4] = rise * (betainc(p * wider, q, share) - way) / _STEP
    jacobian[..., 5] = rise * (betainc(p, q * wider, share) - way) / _STEP
    return level_deg - theta[:, :1] - rise * way, jacobian


def _first_guess(time_s: Array, level_deg: Array, first: Array, last: Array) -> tuple[Array, Array]:
    """Start and length from where a tenth and nine tenths of the way are done."""
    way = (level_deg - first[:, None]) / (last - first)[:, None]
    tenth = time_s[np.arange(len(way)), np.argmax(way >= 0.1, axis=1)]
    ninth = time_s[np.arange(len(way)), np.argmax(way >= 0.9, axis=1)]
    # A minimum-jerk reach is a tenth done after 24 % of its time.
    length = np.maximum((ninth - tenth) / 0.53, 1e-2)
    return tenth - 0.235 * length, length


def _edges(shapes: Array, edge_share: float) -> tuple[Array, Array, Array]:
    """Where a bell crosses a share of its peak, as shares of its length; and the peak's height."""
    share = np.linspace(1e-4, 1.0 - 1e-4, 1201)
    p, q = shapes[:, :1], shapes[:, 1:]
    log_bell = (p - 1) * np.log(share) + (q - 1) * np.log1p(-share)
    bell = np.exp(log_bell - log_bell.max(axis=1, keepdims=True))
    above = bell >= edge_share
    begin = share[np.argmax(above, axis=1)]
    finish = share[len(share) - 1 - np.argmax(above[:, ::-1], axis=1)]
    area = 0.5 * ((bell[:, 1:] + bell[:, :-1]) * np.diff(share)).sum(axis=1)
    return begin, finish, 1.0 / area
