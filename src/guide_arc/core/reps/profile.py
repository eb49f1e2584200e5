"""When a movement starts and ends, from its whole course instead of its noisy edges.

Fitting one smooth course to all of a movement's samples places its start and end far better than
any threshold on a noisy speed can: the noise of forty samples is shared by seven numbers. The course
speeds up over one part of its time, may keep its speed for a while, and slows down over another:
with two halves it is close to the minimum-jerk reach (Flash and Hogan 1985), with two short ramps
it is the even pace of a lowering to a count. Where a movement is neither (a sticking point, a
stop), the fit says so and is not used.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.kinematics.smoothing import response
from guide_arc.core.kinematics.vectors import Array, Flags
from guide_arc.core.reps.rules import EDGE, REP

SAMPLES: Final = 32
# The smoother's kernel is taken at so many moments to either side, so much of its cut-off's period apart.
_MOMENTS: Final = 4
_APART: Final = 0.2
_NUMBERS: Final = 7
_ROUNDS: Final = 8
_ROUNDS_SHARED: Final = 4
# Where among the numbers those are that belong to each movement alone, and those that a set's movements share: the two
# ramps, and how unevenly the measure changes along the arc.
_OWN: Final = slice(0, 4)
SHAPE: Final = slice(4, 7)
_BEND: Final = 6
# What a set repeats: the levels and the length, not when. Free: drawn nowhere.
_REPEATED: Final = np.array([0, 1, 3])
_FREE: Final = 1e6
# So many standard deviations off a movement's number is another one.
_CLEARLY: Final = 2.5
_AS_MEANT_AT_FIRST: Final = 100.0
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


def fit_reaches(
    time_s: Array, level_deg: Array, edge_share: float, blur_hz: float | None = None,
    bent: float = 0.0,
) -> Reaches:  # fmt: skip
    """Fit a course to each of M movements by damped Gauss-Newton steps, all at once.

    time_s, level_deg : (M, SAMPLES) from one turning point to the next, rising or falling
    blur_hz : the cut-off of the smoother that the levels went through; each course goes through it as well, as a
        corner that was smoothed looks as if it began earlier
    bent : how unevenly the measure changes along the arc on the way up, see `_course`; the other way round on the way down

    People speed up and slow down alike in every rep of a set: once each movement was fitted by
    itself, all are fitted again with their ramps drawn towards the usual ones of their direction.
    """
    rising = level_deg[:, -1] > level_deg[:, 0]
    meant = np.where(rising, bent, -bent)
    theta = _first_guess(time_s, level_deg, meant)
    limits = _limits(time_s, level_deg)
    blur = _blur(blur_hz)
    theta, cost = _fitted(time_s, level_deg, theta, limits, Meant(meant), _ROUNDS, blur)
    usual = Usual(theta.copy(), np.full(theta.shape, _FREE), np.full(theta.shape, _FREE))
    usual.width[:, SHAPE] = EDGE.alike_share
    alike = [way for way in (rising, ~rising) if way.sum() >= EDGE.enough_alike]
    for way in alike:
        own = theta[way]
        bounds = (limits[0][way], limits[1][way])
        shared = _pooled(time_s[way], level_deg[way], own, bounds, float(meant[way][0]), blur)
        noise_var = _variances(time_s[way], own, cost[way], blur)[:, SHAPE]
        least = np.full(3, EDGE.alike_share)
        width = _beyond(own[:, SHAPE] - shared, noise_var, least)
        width[-1] = (
            EDGE.alike_share
        )  # how the measure changes along the arc is the same in all of them
        usual.draw(way, np.arange(_NUMBERS)[SHAPE], shared, width, noise_var)
    theta, cost = _fitted(time_s, level_deg, theta, limits, usual, _ROUNDS_SHARED, blur)
    for way in alike:
        size = np.abs(theta[:, 1] - theta[:, 0])
        whole = way & (size >= REP.full_share * size[way].max())
        if whole.sum() >= EDGE.enough_alike:
            own = theta[whole]
            middle = np.median(own, axis=0)[_REPEATED]
            noise_var = _variances(time_s[whole], own, cost[whole], blur, _OWN)[:, _REPEATED]
            least = np.array([EDGE.alike_deg, EDGE.alike_deg, EDGE.alike_share])
            width = _beyond(own[:, _REPEATED] - middle, noise_var, least)
            usual.draw(whole, _REPEATED, middle, width, noise_var)
    theta, cost = _fitted(time_s, level_deg, theta, limits, usual, _ROUNDS_SHARED, blur)
    up, down = _ramps(theta)
    length, uneven = np.exp(theta[:, 3]), theta[:, _BEND]
    fastest = 1.0 + np.abs(uneven)
    at_start, at_end = (
        _step_crossing(np.minimum(edge_share * fastest / (1.0 + k * uneven), 1.0))
        for k in (1.0, -1.0)
    )
    return Reaches(
        start_s=theta[:, 2] + length * at_start * up[:, 0],
        end_s=theta[:, 2] + length * (1.0 - at_end * down[:, 0]),
        misfit_deg=np.sqrt(cost / level_deg.shape[1]),
        peak_deg_s=fastest
        * np.abs(theta[:, 1] - theta[:, 0])
        / (length * (1.0 - (1.0 - _RAMP_WAY) * (up + down)[:, 0])),
    )


# Moments about each sample, and how much the course then counts.
Blur = tuple[Array, Array]


@lru_cache(maxsize=32)
def _blur(cutoff_hz: float | None) -> Blur:
    """A smoother's own kernel, the inverse Fourier transform of its response, at a few moments."""
    if cutoff_hz is None:
        return np.zeros(1), np.ones(1)
    at_s = np.arange(-_MOMENTS, _MOMENTS + 1) * _APART / cutoff_hz
    hertz = np.linspace(0.0, 6.0 * cutoff_hz, 600)
    waves = np.cos(2.0 * np.pi * at_s[:, None] * hertz)
    weight: Array = (response(hertz, cutoff_hz) * waves).sum(axis=1)
    out: Blur = (at_s.astype(float), weight / float(weight.sum()))
    return out


def _seen(of: Callable[[Array, Array], Array], time_s: Array, theta: Array, blur: Blur) -> Array:
    """(M, N, ...) a course or its derivatives, as the smoother leaves them."""
    at_s, weight = blur
    if len(at_s) == 1:
        return of(time_s, theta)
    spread = (time_s[:, :, None] + at_s).reshape(len(time_s), -1)
    every = of(spread, theta)
    shaped = every.reshape(*time_s.shape, len(at_s), *every.shape[2:])
    out: Array = np.einsum("mnk...,k->mn...", shaped, weight)
    return out


Limits = tuple[Array, Array]


@dataclass(frozen=True, eq=False)
class Meant:
    """As long as no usual shape is known: the two ramps draw one another, and the measure changes along the arc as it is
    meant to, (M,)."""

    bent: Array

    def tie(self, theta: Array, cost: Array) -> Array:
        """(M, 7) how strongly each number is drawn."""
        out = np.zeros_like(theta)
        out[:, 4] = out[:, 5] = EDGE.tie * cost / EDGE.tie_width_share**2
        out[:, _BEND] = _AS_MEANT_AT_FIRST * out[:, 4]
        return out

    def pull(self, theta: Array) -> Array:
        """(M, 7) which way each number is drawn, and how far it is from there."""
        up, down, bent = theta[:, SHAPE].T
        out = np.zeros_like(theta)
        out[:, 4], out[:, 5], out[:, _BEND] = down - up, up - down, self.bent - bent
        return out

    def strain(self, theta: Array, tie: Array) -> Array:
        """(M,) what the ties hold against a course: the squares of what they pull at. The two ramps are one tie."""
        pulled = tie * self.pull(theta) ** 2
        out: Array = pulled[:, 4] + pulled[:, _BEND]
        return out


@dataclass(frozen=True, eq=False)
class Usual:
    """What a set's movements have in common, (M, 7) each: the numbers to draw towards, within what they are alike, and
    beyond what they are not meant: a rep that is clearly another, dropped or stopped short, keeps its own."""

    number: Array
    width: Array
    reach: Array

    def draw(
        self, which: Flags, numbers: NDArray[np.int_], to: Array, width: Array, noise_var: Array
    ) -> None:
        """Draw some movements' numbers; noise_var : (m, n) of each as it was found by itself."""
        at = np.ix_(which, numbers)
        self.number[at], self.width[at] = to, width
        self.reach[at] = _CLEARLY * np.sqrt(width**2 + noise_var)

    def tie(self, theta: Array, cost: Array) -> Array:
        """(M, 7) how strongly each number is drawn: the squared misfit of a sample over the square of how far they
        differ, and less for what is out of reach (Cauchy's weights)."""
        out: Array = (
            cost[:, None] / SAMPLES / self.width**2 / (1.0 + (self.pull(theta) / self.reach) ** 2)
        )
        return out

    def pull(self, theta: Array) -> Array:
        out: Array = self.number - theta
        return out

    def strain(self, theta: Array, tie: Array) -> Array:
        out: Array = (tie * self.pull(theta) ** 2).sum(axis=1)
        return out


def _fitted(
    time_s: Array,
    level_deg: Array,
    theta: Array,
    limits: Limits,
    usual: Meant | Usual,
    rounds: int,
    blur: Blur,
) -> tuple[Array, Array]:
    """(M, 7) numbers of the courses and (M,) their squared misfits."""
    damping = np.full(len(theta), 1e-3)
    missed = level_deg - _seen(_course, time_s, theta, blur)
    cost = (missed**2).sum(axis=1)
    for _ in range(rounds):
        normal, right, scale = _normal(time_s, theta, missed, blur)
        normal[:, range(_NUMBERS), range(_NUMBERS)] += damping[:, None] * (scale + 1e-9)
        tie = usual.tie(theta, cost)
        normal[:, range(_NUMBERS), range(_NUMBERS)] += tie + 1e-9
        right += tie * usual.pull(theta)
        if isinstance(usual, Meant):  # the two ramps draw one another
            normal[:, (4, 5), (5, 4)] -= tie[:, 4:_BEND]
        tried = np.clip(theta + np.linalg.solve(normal, right[..., None])[..., 0], *limits)
        missed_now = level_deg - _seen(_course, time_s, tried, blur)
        cost_now = (missed_now**2).sum(axis=1)
        better = cost_now + usual.strain(tried, tie) <= cost + usual.strain(theta, tie)
        settled = bool(better.all() and (np.abs(tried - theta)[:, 2:4] < _STILL).all())
        theta = np.where(better[:, None], tried, theta)
        missed = np.where(better[:, None], missed_now, missed)
        cost = np.where(better, cost_now, cost)
        damping = np.where(better, damping * 0.3, damping * 6.0)
        if settled:
            break
    return theta, cost


def _normal(time_s: Array, theta: Array, missed: Array, blur: Blur) -> tuple[Array, Array, Array]:
    """(M, 7, 7) normal equations, (M, 7) their right sides, (M, 7) the former's diagonal."""
    jacobian = _seen(_derivatives, time_s, theta, blur)
    normal = np.einsum("mnk,mnl->mkl", jacobian, jacobian)
    return normal, np.einsum("mnk,mn->mk", jacobian, missed), np.einsum("mkk->mk", normal).copy()


def _pooled(
    time_s: Array, level_deg: Array, theta: Array, limits: Limits, meant: float, blur: Blur
) -> Array:
    """(3,) the shape that serves all of these movements best, each with its own levels, start and length.

    The usual one of many fits is no substitute: in noise short ramps are more often found too long than too short.
    All fits are one system, of which the movements' own numbers are eliminated first.
    """
    theta = theta.copy()
    theta[:, SHAPE] = np.median(theta[:, SHAPE], axis=0)
    missed = level_deg - _seen(_course, time_s, theta, blur)
    cost = float((missed**2).sum())
    per_sample = float(np.median(_worth(time_s, blur))) / level_deg.size
    damping = 1e-3
    for _ in range(_ROUNDS):
        normal, right, scale = _normal(time_s, theta, missed, blur)
        normal[:, range(_NUMBERS), range(_NUMBERS)] += damping * (scale + 1e-9) + 1e-9
        inner = np.linalg.inv(normal[:, _OWN, _OWN])
        cross_ = normal[:, SHAPE, _OWN] @ inner
        left = (normal[:, SHAPE, SHAPE] - cross_ @ normal[:, _OWN, SHAPE]).sum(axis=0)
        rest = (right[:, SHAPE] - np.einsum("mrk,mk->mr", cross_, right[:, _OWN])).sum(axis=0)
        up, down, bent = theta[0, SHAPE]
        of_ramps, of_bend = (per_sample * cost / EDGE.tie_width_share**2, per_sample * cost / EDGE.bend_share**2)  # fmt: skip
        left += np.diag((of_ramps, of_ramps, of_bend)) + 1e-9 * np.eye(3)
        left[(0, 1), (1, 0)] -= of_ramps
        rest += (of_ramps * (down - up), of_ramps * (up - down), of_bend * (meant - bent))
        step = np.linalg.solve(left, rest)
        tried = theta.copy()
        tried[:, _OWN] += np.einsum(
            "mkl,ml->mk", inner, right[:, _OWN] - normal[:, _OWN, SHAPE] @ step
        )
        tried[:, SHAPE] += step
        tried = np.clip(tried, *limits)
        missed_now = level_deg - _seen(_course, time_s, tried, blur)
        cost_now = float((missed_now**2).sum())
        if cost_now <= cost:
            settled = np.abs(step).max() < _STILL
            theta, missed, cost, damping = tried, missed_now, cost_now, damping * 0.3
            if settled:
                break
        else:
            damping *= 6.0
    out: Array = np.median(theta[:, SHAPE], axis=0)
    return out


def _beyond(apart: Array, noise_var: Array, least: Array) -> Array:
    """(n,) the spread of (m, n) numbers without what noise adds to it. A median of squares is 0.455 of a variance."""
    seen_var = np.median(apart**2, axis=0) / 0.455
    out: Array = np.sqrt(np.maximum(seen_var - np.median(noise_var, axis=0), least**2))
    return out


def _variances(
    time_s: Array, theta: Array, cost: Array, blur: Blur, free: slice = slice(0, _NUMBERS)
) -> Array:
    """(M, 7) of each number as noise scatters it, where those of `free` are not known."""
    jacobian = _seen(_derivatives, time_s, theta, blur)[..., free]
    normal = np.einsum("mnk,mnl->mkl", jacobian, jacobian)
    count = range(normal.shape[1])
    normal[:, count, count] += 1e-6 * np.einsum("mkk->mk", normal) + 1e-9
    per_sample = cost / (SAMPLES - _NUMBERS) * _worth(time_s, blur)
    out = np.zeros_like(theta)
    out[:, free] = np.einsum("mkk->mk", np.linalg.inv(normal)) * per_sample[:, None]
    return out


def _worth(time_s: Array, blur: Blur) -> Array:
    """(M,) how many samples it takes to be worth one: what was smoothed is no new one at every moment."""
    step_s = (time_s[:, -1] - time_s[:, 0]) / (SAMPLES - 1)
    apart_s = 0.0 if len(blur[0]) == 1 else 0.5 * float(blur[0][-1]) / (_MOMENTS * _APART)
    out: Array = np.maximum(apart_s / step_s, 1.0)
    return out


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
        -EDGE.most_uneven * ramps[0],
    )
    high = (
        ceiling,
        ceiling,
        time_s[:, -1] - 0.1 * span,
        np.log(1.8 * span),
        *EDGE.ramp_shares[1] * ramps,
        EDGE.most_uneven * ramps[0],
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

    theta : (M, 7) first and last level, start, log of the length, the two ramps, and how much faster than evenly the
        measure changes at first
    """
    out: Array = theta[:, :1] + (theta[:, 1:2] - theta[:, :1]) * _bent(
        _way(time_s, theta)[0], theta
    )
    return out


def _bent(way: Array, theta: Array) -> Array:
    """The share of the levels that is done at a share of the way: along an arc a joint's angle does not change evenly."""
    out: Array = way + theta[:, _BEND:] * way * (1.0 - way)
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
    """(M, N, 7) of the course by each number of the fit."""
    way, share, slope = _way(time_s, theta)
    first, last = theta[:, :1], theta[:, 1:2]
    bent = _bent(way, theta)
    by_way = (last - first) * (1.0 + theta[:, _BEND:] * (1.0 - 2.0 * way))
    out = np.empty((*time_s.shape, _NUMBERS))
    out[..., 0], out[..., 1] = 1.0 - bent, bent
    out[..., 2] = -by_way * slope / np.exp(theta[:, 3:4])
    out[..., 3] = -by_way * slope * share
    # The two ramps hang together where they fill the whole time: both by a nudge, in one go.
    nudged = np.repeat(theta[None], 2, axis=0)
    nudged[range(2), :, (4, 5)] += _STEP
    ramps = _way(np.tile(time_s, (2, 1)), nudged.reshape(-1, _NUMBERS))[0].reshape(2, *time_s.shape)
    out[..., 4:_BEND] = np.moveaxis(by_way * (ramps - way) / _STEP, 0, -1)
    out[..., _BEND] = (last - first) * way * (1.0 - way)
    return out


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


def _first_guess(time_s: Array, level_deg: Array, meant: Array) -> Array:
    """(M, 6) start and length from where a tenth and nine tenths of the way are done."""
    first, last = _ends(level_deg)
    way = (level_deg - first[:, None]) / (last - first)[:, None]
    tenth = time_s[np.arange(len(way)), np.argmax(way >= 0.1, axis=1)]
    ninth = time_s[np.arange(len(way)), np.argmax(way >= 0.9, axis=1)]
    # A reach of two equal ramps is a tenth done after 24 % of its time.
    length = np.maximum((ninth - tenth) / 0.53, 1e-2)
    ramps = np.full((2, len(way)), EDGE.ramp_start_share)
    return np.stack((first, last, tenth - 0.235 * length, np.log(length), *ramps, meant), axis=-1)
