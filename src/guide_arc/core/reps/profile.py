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
from numpy.typing import NDArray

from guide_arc.core.kinematics.vectors import Array, Flags
from guide_arc.core.reps.arc import EVEN, Arc
from guide_arc.core.reps.course import NUMBERS, SHAPE, MovementShapes, edges_of
from guide_arc.core.reps.rules import EDGE, REP

SAMPLES: Final = 32
_ROUNDS: Final = 8
_ROUNDS_SHARED: Final = 4
# Where among the numbers those are that belong to each movement alone.
_OWN: Final = slice(0, 4)
# What a set repeats: the levels and the length, not when. Free: drawn nowhere.
_REPEATED: Final = np.array([0, 1, 3])
_FREE: Final = 1e6
# So many standard deviations off a movement's number is another one.
_CLEARLY: Final = 2.5
# Steps of start (seconds) and length (share) below this change no edge worth speaking of.
_STILL: Final = 1.5e-3
# Noise that persists for longer cannot be distinguished from a course that does not fit.
_STAYS_MOST: Final = 0.8


@dataclass(frozen=True, eq=False)
class Reaches:
    """Fits of M movements: when a share of the peak speed is first and last crossed, how surely,
    and how well they fit.

    start_s, end_s, start_u_s, end_u_s, misfit_deg, peak_deg_s : (M,)
    """

    start_s: Array
    end_s: Array
    start_u_s: Array
    end_u_s: Array
    misfit_deg: Array
    peak_deg_s: Array


def fit_reaches(
    time_s: Array,
    level_deg: Array,
    edge_share: float,
    arcs: tuple[Arc, Arc] = (EVEN, EVEN),
    smooth_deg: Array | None = None,
) -> Reaches:
    """Fit a course to each of M movements by damped Gauss-Newton steps, all at once.

    time_s, level_deg : (M, SAMPLES) from one turning point to the next, rising or falling
    arcs : the course of the measure in those that rise, and in those that fall
    smooth_deg : the same levels smoothed, which say how far off a course is; the levels themselves
        where there are none

    People speed up and slow down alike in every rep of a set: after each movement was fitted alone,
    one shape is found for each direction, and all are fitted again, shrunk towards it by their
    similarity."""
    rising = level_deg[:, -1] > level_deg[:, 0]
    course = MovementShapes(rising, *arcs)
    theta = _first_guess(time_s, level_deg, course)
    limits = _limits(time_s, level_deg)
    theta, cost = _fitted(
        time_s, level_deg, theta, limits=limits, usual=UntiedRamps(), rounds=_ROUNDS, course=course
    )
    usual = Usual(theta.copy(), np.full(theta.shape, _FREE), np.full(theta.shape, _FREE))
    usual.width[:, SHAPE] = EDGE.alike_share
    alike = [way for way in (rising, ~rising) if way.sum() >= EDGE.enough_alike]
    for way in alike:
        own, here = theta[way], course.of(way)
        bounds = (limits[0][way], limits[1][way])
        shared = _pooled(time_s[way], level_deg[way], own, bounds, here)
        noise_var = _variances(time_s[way], own, cost[way], here)[:, SHAPE]
        width = _beyond(own[:, SHAPE] - shared, noise_var, np.full(2, EDGE.alike_share))
        usual.draw(way, np.arange(NUMBERS)[SHAPE], shared, width, noise_var)
    theta, cost = _fitted(
        time_s, level_deg, theta, limits=limits, usual=usual, rounds=_ROUNDS_SHARED, course=course
    )
    for way in alike:
        size = np.abs(theta[:, 1] - theta[:, 0])
        whole = way & (size >= REP.full_share * size[way].max())
        if whole.sum() >= EDGE.enough_alike:
            own = theta[whole]
            middle = np.median(own, axis=0)[_REPEATED]
            noise_var = _variances(time_s[whole], own, cost[whole], course.of(whole), _OWN)[
                :, _REPEATED
            ]
            least = np.array([EDGE.alike_deg, EDGE.alike_deg, EDGE.alike_share])
            width = _beyond(own[:, _REPEATED] - middle, noise_var, least)
            usual.draw(whole, _REPEATED, middle, width, noise_var)
    theta, cost = _fitted(
        time_s, level_deg, theta, limits=limits, usual=usual, rounds=_ROUNDS_SHARED, course=course
    )
    start_s, end_s, peak = edges_of(theta, course, edge_share)
    start_u_s, end_u_s = _edge_u(
        time_s, level_deg, theta, usual=usual, course=course, start_s=start_s, end_s=end_s
    )
    missed = (level_deg if smooth_deg is None else smooth_deg) - course.level(time_s, theta)
    misfit = np.sqrt((missed**2).mean(axis=1))
    return Reaches(start_s, end_s, start_u_s, end_u_s, misfit, peak)


def _edge_u(
    time_s: Array,
    level_deg: Array,
    theta: Array,
    usual: Usual,
    course: MovementShapes,
    start_s: Array,
    end_s: Array,
) -> tuple[Array, Array]:
    """(M,) standard uncertainties of the edges, from the fit's own covariance: each sample's
    residual, and the correlation of neighbouring residuals."""
    missed = level_deg - course.level(time_s, theta)
    cost = (missed**2).sum(axis=1)
    stays = (missed[:, 1:] * missed[:, :-1]).sum() / max(float(cost.sum()), 1e-12)
    worth = (1.0 + np.clip(stays, 0.0, _STAYS_MOST)) / (1.0 - np.clip(stays, 0.0, _STAYS_MOST))
    jacobian = course.derivatives(time_s, theta)
    normal = np.einsum("mnk,mnl->mkl", jacobian, jacobian)
    numbers = range(NUMBERS)
    normal[:, numbers, numbers] += (
        usual.tie(theta, cost) + 1e-6 * np.einsum("mkk->mk", normal) + 1e-9
    )
    spread = np.linalg.inv(normal) * (worth * cost / (SAMPLES - NUMBERS))[:, None, None]
    length = np.exp(theta[:, 3])
    by_start, by_end = np.zeros_like(theta), np.zeros_like(theta)
    by_start[:, 2] = by_end[:, 2] = 1.0
    by_start[:, 3], by_end[:, 3] = start_s - theta[:, 2], end_s - theta[:, 2]
    by_start[:, 4] = by_start[:, 3] / theta[:, 4]
    by_end[:, 5] = (by_end[:, 3] - length) / theta[:, 5]
    start_u, end_u = (np.sqrt(np.einsum("mk,mkl,ml->m", g, spread, g)) for g in (by_start, by_end))
    return start_u, end_u


Limits = tuple[Array, Array]


class UntiedRamps:
    """As long as no usual shape is known: the two ramps of a movement draw one another."""

    def tie(self, theta: Array, cost: Array) -> Array:
        """(M, 6) how strongly each number is drawn."""
        out = np.zeros_like(theta)
        out[:, 4] = out[:, 5] = EDGE.tie * cost / EDGE.tie_width_share**2
        return out

    def pull(self, theta: Array) -> Array:
        """(M, 6) which way each number is drawn, and how far it is from there."""
        up, down = theta[:, SHAPE].T
        out = np.zeros_like(theta)
        out[:, 4], out[:, 5] = down - up, up - down
        return out

    def strain(self, theta: Array, tie: Array) -> Array:
        """(M,) what the tie holds against a course: the square of what it pulls at."""
        out: Array = tie[:, 4] * self.pull(theta)[:, 4] ** 2
        return out


@dataclass(frozen=True, eq=False)
class Usual:
    """What a set's movements have in common, (M, 6) each: the numbers to draw towards, within what
    they are alike, and beyond what they are not meant: a rep that is clearly another, dropped or
    stopped short, keeps its own.
    """

    number: Array
    width: Array
    reach: Array

    def draw(
        self, which: Flags, numbers: NDArray[np.int_], to: Array, width: Array, noise_var: Array
    ) -> None:
        """Draw some movements' numbers; noise_var : (m, n) of each as it was fitted alone."""
        at = np.ix_(which, numbers)
        self.number[at], self.width[at] = to, width
        self.reach[at] = _CLEARLY * np.sqrt(width**2 + noise_var)

    def tie(self, theta: Array, cost: Array) -> Array:
        """(M, 6) how strongly each number is drawn: the squared misfit of a sample over the square
        of how far they differ, and less for what is out of reach (Cauchy's weights)."""
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
    usual: UntiedRamps | Usual,
    rounds: int,
    course: MovementShapes,
) -> tuple[Array, Array]:
    """(M, 6) numbers of the courses and (M,) their squared misfits."""
    damping = np.full(len(theta), 1e-3)
    missed = level_deg - course.level(time_s, theta)
    cost = (missed**2).sum(axis=1)
    for _ in range(rounds):
        normal, right, scale = _normal(time_s, theta, missed, course)
        normal[:, range(NUMBERS), range(NUMBERS)] += damping[:, None] * (scale + 1e-9)
        tie = usual.tie(theta, cost)
        normal[:, range(NUMBERS), range(NUMBERS)] += tie + 1e-9
        right += tie * usual.pull(theta)
        if isinstance(usual, UntiedRamps):  # the two ramps draw one another
            normal[:, (4, 5), (5, 4)] -= tie[:, SHAPE]
        tried = np.clip(theta + np.linalg.solve(normal, right[..., None])[..., 0], *limits)
        missed_now = level_deg - course.level(time_s, tried)
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


def _normal(
    time_s: Array, theta: Array, missed: Array, course: MovementShapes
) -> tuple[Array, Array, Array]:
    """(M, 6, 6) normal equations, (M, 6) their right sides, (M, 6) the former's diagonal."""
    jacobian = course.derivatives(time_s, theta)
    normal = np.einsum("mnk,mnl->mkl", jacobian, jacobian)
    return normal, np.einsum("mnk,mn->mk", jacobian, missed), np.einsum("mkk->mk", normal).copy()


def _pooled(
    time_s: Array, level_deg: Array, theta: Array, limits: Limits, course: MovementShapes
) -> Array:
    """(2,) the shape that serves all of these movements best, each with its own levels, start and
    length.

    The usual one of many fits is no substitute: in noise short ramps are more often found too long
    than too short. All fits are one system, of which the movements' own numbers are eliminated
    first.
    """
    theta = theta.copy()
    theta[:, SHAPE] = np.median(theta[:, SHAPE], axis=0)
    missed = level_deg - course.level(time_s, theta)
    cost = float((missed**2).sum())
    per_sample = 1.0 / level_deg.size
    damping = 1e-3
    for _ in range(_ROUNDS):
        normal, right, scale = _normal(time_s, theta, missed, course)
        normal[:, range(NUMBERS), range(NUMBERS)] += damping * (scale + 1e-9) + 1e-9
        inner = np.linalg.inv(normal[:, _OWN, _OWN])
        cross_ = normal[:, SHAPE, _OWN] @ inner
        left = (normal[:, SHAPE, SHAPE] - cross_ @ normal[:, _OWN, SHAPE]).sum(axis=0)
        rest = (right[:, SHAPE] - np.einsum("mrk,mk->mr", cross_, right[:, _OWN])).sum(axis=0)
        up, down = theta[0, SHAPE]
        tie = per_sample * cost / EDGE.tie_width_share**2
        left += tie * np.array([[1.0, -1.0], [-1.0, 1.0]]) + 1e-9 * np.eye(2)
        rest += (tie * (down - up), tie * (up - down))
        step = np.linalg.solve(left, rest)
        tried = theta.copy()
        tried[:, _OWN] += np.einsum(
            "mkl,ml->mk", inner, right[:, _OWN] - normal[:, _OWN, SHAPE] @ step
        )
        tried[:, SHAPE] += step
        tried = np.clip(tried, *limits)
        missed_now = level_deg - course.level(time_s, tried)
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
    """(n,) the spread of (m, n) numbers without what noise adds to it, and may add by chance in so
    few. A median of squares is 0.455 of a variance."""
    seen_var = np.median(apart**2, axis=0) / 0.455
    by_noise = (1.0 + np.sqrt(2.0 / len(apart))) * np.median(noise_var, axis=0)
    out: Array = np.sqrt(np.maximum(seen_var - by_noise, least**2))
    return out


def _variances(
    time_s: Array,
    theta: Array,
    cost: Array,
    course: MovementShapes,
    free: slice = slice(0, NUMBERS),
) -> Array:
    """(M, 6) of each number as noise scatters it, where those of `free` are not known."""
    jacobian = course.derivatives(time_s, theta)[..., free]
    normal = np.einsum("mnk,mnl->mkl", jacobian, jacobian)
    count = range(normal.shape[1])
    normal[:, count, count] += 1e-6 * np.einsum("mkk->mk", normal) + 1e-9
    per_sample = cost / (SAMPLES - NUMBERS)
    out = np.zeros_like(theta)
    out[:, free] = np.einsum("mkk->mk", np.linalg.inv(normal)) * per_sample[:, None]
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


def _first_guess(time_s: Array, level_deg: Array, course: MovementShapes) -> Array:
    """(M, 6) start and length from where a tenth and nine tenths of the way are done."""
    first, last = _ends(level_deg)
    along = course.by_arc("share", np.stack((first, last), axis=1))
    here = course.by_arc("share", level_deg)
    way = (here - along[:, :1]) / (along[:, 1:] - along[:, :1])
    tenth = time_s[np.arange(len(way)), np.argmax(way >= 0.1, axis=1)]
    ninth = time_s[np.arange(len(way)), np.argmax(way >= 0.9, axis=1)]
    # A reach of two equal ramps is a tenth done after 24 % of its time.
    length = np.maximum((ninth - tenth) / 0.53, 1e-2)
    ramps = np.full((2, len(way)), EDGE.ramp_start_share)
    return np.stack((first, last, tenth - 0.235 * length, np.log(length), *ramps), axis=-1)
