"""Following the points that no limb ends in: shoulders, hips, kit. Each by a round patch of what it
looks like.

A shoulder's or a hip's patch leaves out the side on which the limb swings, so that the limb doesn't
pull it along. What the coach marked is searched for all about the mark in every frame, and all
frames together say where the point went (a hidden Markov model over places, as `turning.py` has
over angles), so that nothing drifts and somebody who walks by takes nothing along.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.limbs import Spot
from guide_arc.capture.tracking.looks import Numbers
from guide_arc.capture.tracking.strips import Picture, between
from guide_arc.core.kinematics.vectors import Array

# How far from its last mark a point is searched for, in pixels of the worked picture, where an
# upper arm is 44 long; and how coarsely. The place between is found afterwards.
REACH: Final = 80
COARSE: Final = 3
_FINE_REACH: Final = 2
# A window without any contrast is like none.
_LEAST_SQUARE: Final = np.float32(1.0)
# More windows than this are slid over.
_MANY: Final = 500
# Pixels that count less than this are left out.
_COUNTS: Final = 0.05
_LEFT_OUT_COS: Final = 0.3
_SHARP: Final = 10.0
_HIDDEN_FIT: Final = 0.45
_HIDDEN: Final = np.array(_HIDDEN_FIT)
# Of two places that both fit well the one that fits better by a few hundredths is the right one.
_ALIKE: Final = 1.5
_NO_BETTER: Final = 1.02
# A look that fits worse than this says nothing, and one that fits better is doubted no more.
_QUALITY_FIT: Final = (0.35, 0.7)
# Usual and seldom speed in worked pixels a second, and the share of the seldom one.
_USUAL_PX_S: Final = 40.0
_SELDOM_PX_S: Final = 150.0
_SELDOM: Final = 0.05
_ANYWHERE: Final = 1e-12
_NEAR_PX: Final = 7.0
_NEAR: Final = 3
# Every so many frames a point is searched for everywhere; otherwise near its place, this far on the
# coarse grid.
_ALL_EVERY: Final = 15
_BEAM: Final = 5
_LEARN_APART: Final = 3
_LEARN_SURE: Final = 0.9
_LEARN_FIT: Final = (0.6, 0.88)
_MOST: Final = 6
# A learned look may have been taken a little off, and the next one a little further: on plain cloth
# a point would slide.
_LEARNED_LESS: Final = np.float32(0.1)
# Of a patch that other limbs cover, at least this share must be free.
_ENOUGH: Final = 0.2


@dataclass(eq=False)
class Patch:
    """What one point looks like. radius : in pixels of the worked picture; away : the direction of
    the limb that is left out, or None; over : other limbs that lay over it when it was marked, as
    both ends from the point and half their width: what they cover is left out, too"""

    radius: int
    away: Spot | None
    over: tuple[tuple[Spot, Spot, float], ...] = ()

    def __post_init__(self) -> None:
        self._looks: tuple[Numbers, ...] = (
            np.empty((0, 0), np.float32),
            np.empty((0, 0), np.float32),
        )
        self._marked = 0
        steps = np.arange(-self.radius, self.radius + 1, dtype=float)
        x, y = np.meshgrid(steps, steps)
        far = np.hypot(x, y)
        weight = np.exp(-0.5 * (far / (0.6 * self.radius)) ** 2) * (far <= self.radius)
        if self.away is not None:
            along = x * self.away[0] + y * self.away[1]
            cos = along / (np.maximum(far, 1e-6) * float(np.hypot(*self.away)))
            weight = weight * ((cos < _LEFT_OUT_COS) | (far < 0.3 * self.radius))
        free = (
            weight * ~np.any([_covered(x, y, *limb) for limb in self.over], axis=0)
            if self.over
            else weight
        )
        weight = free if free.sum() > _ENOUGH * weight.sum() else weight
        self._fine = _Weighted(weight * ((x % 2 == 0) & (y % 2 == 0)))
        off = self.radius % COARSE
        self._rough = _Weighted(weight[off::COARSE, off::COARSE])

    def mark(self, picture: Picture, at: Spot) -> None:
        """Remember how the coach's mark looks."""
        self._keep(_cut(picture, at, self.radius))
        self._marked = len(self._looks[0])

    def _keep(self, look: Picture) -> None:
        fine, rough = self._fine.look(look), self._rough.look(_coarse(look, self.radius % COARSE))
        self._looks = tuple(
            np.concatenate((old.reshape(-1, new.shape[1]), new))
            for old, new in zip(self._looks, (fine, rough), strict=True)
        )

    def learn(self, picture: Picture, at: Spot) -> None:
        """Remember one more look, and forget the eldest of those learned."""
        if len(self._looks[0]) - self._marked >= _MOST:
            self._looks = tuple(np.delete(own, self._marked, axis=0) for own in self._looks)
        self._keep(_cut(picture, at, self.radius))

    def learned(self) -> tuple[Numbers, ...]:
        """All looks, for `go_back_to`."""
        return self._looks

    def go_back_to(self, looks: tuple[Numbers, ...]) -> None:
        """Forget what was learned since."""
        self._looks = looks

    def about(self, picture: Picture, about: Spot, reach: int, *, learned: bool = True) -> Array:
        """(2 reach + 1, 2 reach + 1) how well the best of all looks, or of those that were marked,
        fits on a coarse grid about a place."""
        wide = _cut(picture, about, reach * COARSE + self.radius)
        size = 2 * reach + 1
        looks = self._looks[1] if learned else self._looks[1][: self._marked]
        fits = self._rough.fits(_coarse(wide, self.radius % COARSE), looks)
        fits[self._marked :] -= _LEARNED_LESS
        out: Array = fits.max(axis=0).reshape(size, size).astype(float)
        return out

    def exactly(self, picture: Picture, about: Spot) -> tuple[Spot, float]:
        """Where about a place it fits best, to parts of a pixel, and how well, -1 to 1."""
        fits = self._fine.fits(_cut(picture, about, self.radius + _FINE_REACH), self._looks[0])
        fits[self._marked :] -= _LEARNED_LESS
        size = 2 * _FINE_REACH + 1
        fit = fits[fits.max(axis=1).argmax()].reshape(size, size)
        y, x = np.unravel_index(int(fit.argmax()), fit.shape)
        off = np.array([x + between(fit[y, :], int(x)), y + between(fit[:, x], int(y))])
        return about + off - _FINE_REACH, float(fit[y, x])


def _covered(x: Array, y: Array, a: Spot, b: Spot, wide: float) -> NDArray[np.bool_]:
    """Which places lie within a distance of the line between two."""
    along = b - a
    share = np.clip(
        ((x - a[0]) * along[0] + (y - a[1]) * along[1]) / max(float(along @ along), 1e-6), 0.0, 1.0
    )
    out: NDArray[np.bool_] = (
        np.hypot(x - a[0] - share * along[0], y - a[1] - share * along[1]) < wide
    )
    return out


class _Weighted:
    """Compares square windows by normalised cross-correlation in which each pixel counts by a
    weight."""

    def __init__(self, weight: Array) -> None:
        self.size = len(weight)
        self.there = weight > _COUNTS
        own = weight[self.there].astype(np.float32)
        self._own, self._all = np.repeat(own, 3), float(own.sum())
        self._mean = np.kron((own / own.sum())[:, None], np.eye(3, dtype=np.float32))
        self._places: dict[tuple[int, int], NDArray[np.intp]] = {}

    def look(self, window: Picture) -> Numbers:
        """(1, D) of one window (size, size, 3): a product with it is not changed by a window's mean
        colour."""
        pixels: Numbers = window[self.there].astype(np.float32).reshape(1, -1)
        pixels -= np.tile(pixels @ self._mean, len(self._own) // 3)
        looks: Numbers = pixels * self._own
        looks /= np.sqrt(looks @ pixels.T + _LEAST_SQUARE)
        return looks

    def fits(self, picture: Picture, looks: Numbers) -> Numbers:
        """(L, N) the correlation of looks (L, D) with all windows in a picture, row by row."""
        seen = picture.astype(np.float32)
        seen -= np.array(cv2.mean(picture)[:3], dtype=np.float32)  # what is squared stays small
        count = (picture.shape[0] - self.size + 1) * (picture.shape[1] - self.size + 1)
        fits, square, mean = (
            self._of_many(seen, looks) if count > _MANY else self._of_few(seen, looks)
        )
        square -= self._all * (mean**2).sum(axis=0)
        fits /= np.sqrt(np.maximum(square, 0.0) + _LEAST_SQUARE)
        return fits

    def _of_few(self, seen: Numbers, looks: Numbers) -> tuple[Numbers, Numbers, Numbers]:
        """(L, N) the products with all windows, (N,) their weighted squares, and (3, N) their
        means."""
        pixels = self._windows(seen)
        square = np.asarray((pixels * pixels) @ self._own, dtype=np.float32)
        return looks @ pixels.T, square, (pixels @ self._mean).T

    def _of_many(self, seen: Numbers, looks: Numbers) -> tuple[Numbers, Numbers, Numbers]:
        """The same by sliding over the picture, which is faster for many windows."""

        def slid(picture: Numbers, kernel: Numbers) -> Numbers:
            out: Numbers = cv2.matchTemplate(picture, kernel, cv2.TM_CCORR).reshape(-1)
            return out

        def kernel(weights: Numbers) -> Numbers:
            out = np.zeros((*self.there.shape, *weights.shape[1:]), dtype=np.float32)
            out[self.there] = weights
            return out

        own = self._own[::3]
        even = kernel(own / own.sum())
        return (
            np.stack([slid(seen, kernel(look.reshape(-1, 3))) for look in looks]),
            slid(np.asarray((seen**2).sum(axis=2), dtype=np.float32), kernel(own)),
            np.stack([slid(one, even) for one in cv2.split(seen)]),
        )

    def _windows(self, seen: Numbers) -> Numbers:
        """(N, D) the pixels that count of all windows in a picture, row by row."""
        high, wide = seen.shape[:2]
        key = (high, wide)
        if key not in self._places:
            y, x = np.nonzero(self.there)
            tops, lefts = np.arange(high - self.size + 1), np.arange(wide - self.size + 1)
            first = (tops[:, None] * wide + lefts).reshape(-1, 1)
            self._places[key] = (first + (y * wide + x)[None]).astype(np.intp)
        places = self._places[key]
        out: Numbers = seen.reshape(-1, 3).take(places, axis=0).reshape(len(places), -1)
        return out


def _coarse(picture: Picture, off: int) -> Picture:
    return np.ascontiguousarray(cv2.blur(picture, (COARSE, COARSE))[off::COARSE, off::COARSE])


GRID: Final = 2 * (REACH // COARSE) + 1


def _cut(picture: Picture, at: Spot, half: int) -> Picture:
    size = 2 * half + 1
    out: Picture = cv2.getRectSubPix(picture, (size, size), (float(at[0]), float(at[1])))
    return out


@dataclass(frozen=True, eq=False)
class PointCourse:
    """at : (F, 2) where a point was; sure : (F,) how likely it was near there; begin, ahead : (G,
    G) the chances of the first frame and of the last"""

    at: Array
    sure: Array
    begin: Array
    ahead: Array


def course(
    patch: Patch,
    pictures: list[Picture],
    about: Spot,
    held: Mapping[int, Spot],
    step_s: float,
    *,
    begin: Array | None,
    likely: tuple[Array, float] | None = None,
) -> PointCourse:
    """Where a point went through some frames. about : the middle of the grid; held : by frame,
    where the coach marked it; begin : (G, G) chances at the frame before the first; likely : where
    the rest of the body says it is (F, 2), and how far from there it may be"""
    now = np.ones((GRID, GRID)) if begin is None else _gone_on(begin, step_s)
    ahead, seen = np.empty((2, len(pictures), GRID, GRID))
    since = 0
    for f, picture in enumerate(pictures):
        seen[f] = _evidence(
            patch, picture, about, held.get(f), None if f % _ALL_EVERY == 0 else now
        )
        if likely is not None:
            seen[f] *= _near(likely[0][f] - about, likely[1])
        now = now * seen[f]
        now /= now.sum() + 1e-300
        ahead[f] = now
        since += 1
        if since >= _LEARN_APART:
            since = 0
            j, i = np.unravel_index(int(now.argmax()), now.shape)
            if now[max(j - 2, 0) : j + 3, max(i - 2, 0) : i + 3].sum() > _LEARN_SURE:
                spot, fit = patch.exactly(
                    picture, about + COARSE * (np.array([i, j]) - (GRID - 1) / 2)
                )
                if _LEARN_FIT[0] < fit < _LEARN_FIT[1]:
                    patch.learn(picture, spot)
        now = _gone_on(now, step_s)
    at, sure = np.empty((len(seen), 2)), np.empty(len(seen))
    later = np.ones((GRID, GRID))
    x, y = np.meshgrid(np.arange(GRID), np.arange(GRID))
    for f in range(len(seen) - 1, -1, -1):
        chance = ahead[f] * later
        chance /= chance.sum() + 1e-300
        j, i = np.unravel_index(int(cv2.GaussianBlur(chance, (0, 0), 1.0).argmax()), chance.shape)
        box = np.s_[max(j - _NEAR, 0) : j + _NEAR + 1, max(i - _NEAR, 0) : i + _NEAR + 1]
        own, far = chance[box], np.hypot(x[box] - i, y[box] - j)
        sure[f] = own[far * COARSE <= _NEAR_PX].sum()
        own = np.where(far <= 1.5, own, 0.0)
        middle = np.array([(own * x[box]).sum(), (own * y[box]).sum()]) / (own.sum() + 1e-300)
        at[f] = about + COARSE * (middle - (GRID - 1) / 2)
        later = _gone_on(later * seen[f], step_s)
        later /= later.sum() + 1e-300
    for f, picture in enumerate(pictures):
        if f in held:
            at[f], sure[f] = held[f], 1.0
            continue
        spot, fit = patch.exactly(picture, at[f])
        if fit > _HIDDEN_FIT:
            at[f] = spot
        sure[f] *= np.clip((fit - _QUALITY_FIT[0]) / (_QUALITY_FIT[1] - _QUALITY_FIT[0]), 0.0, 1.0)
    return PointCourse(at, sure, chance, ahead[-1])


def _evidence(
    patch: Patch, picture: Picture, about: Spot, marked: Spot | None, coming: Array | None
) -> Array:
    """(G, G) what a picture says; coming : the chances before it was looked at, where only their
    neighbourhood is looked at"""
    middle = (GRID - 1) // 2
    if marked is not None:
        out = np.zeros((GRID, GRID))
        i, j = np.clip(np.round((marked - about) / COARSE).astype(int) + middle, 0, GRID - 1)
        out[j, i] = 1.0
        return out
    log = np.full((GRID, GRID), float(_said(_HIDDEN)))
    if coming is None:
        log = np.logaddexp(log, _said(patch.about(picture, about, middle, learned=False)))
        coming = np.exp(log - log.max())
    j, i = (
        int(np.clip(v, _BEAM, GRID - 1 - _BEAM))
        for v in np.unravel_index(int(coming.argmax()), coming.shape)
    )
    at = about + COARSE * (np.array([i, j]) - middle)
    fit = patch.about(picture, at, _BEAM)
    part = log[j - _BEAM : j + _BEAM + 1, i - _BEAM : i + _BEAM + 1]
    np.maximum(part, np.logaddexp(_said(_HIDDEN), _said(fit)), out=part)
    seen: Array = np.exp(log - log.max())
    return seen


def _said(fit: Array) -> Array:
    """Log likelihoods of places from their fits: near 1 a little less is much less
    alike."""
    out: Array = _SHARP * fit - _ALIKE * np.log(_NO_BETTER - fit)
    return out


def _near(middle: Spot, spread: float) -> Array:
    """(G, G) chances of a place from where the rest of the body is."""
    steps = COARSE * (np.arange(GRID) - (GRID - 1) / 2)
    x, y = np.exp(-0.5 * ((steps[None] - middle[:, None]) / spread) ** 2) + 1e-9
    out: Array = np.outer(y, x)
    return out


def _gone_on(chance: Array, step_s: float) -> Array:
    """The chances a frame later: mostly near by, seldom far, hardly ever anywhere."""
    down, across = _going_on(step_s)
    columns = (down @ chance).reshape(2, GRID, GRID)
    out: Array = np.concatenate(columns, axis=1) @ across  # both ways of going in one product
    out += _ANYWHERE * chance.mean()
    return out


@lru_cache(maxsize=8)
def _going_on(step_s: float) -> tuple[Array, Array]:
    """(2 G, G) what spreads the grid's columns, usually and seldom; (2 G, G) what spreads its rows,
    each as often as that is."""
    usual = _spread_by(max(_USUAL_PX_S * step_s / COARSE, 0.6))
    seldom = _spread_by(max(_SELDOM_PX_S * step_s / COARSE, 1.5))
    return (
        np.concatenate((usual, seldom)),
        np.concatenate(((1 - _SELDOM) * usual.T, _SELDOM * seldom.T)),
    )


def _spread_by(sigma: float) -> Array:
    """(G, G) what spreads a column of the grid by a bell; products with so few numbers take less
    time than a blur."""
    bell = cv2.getGaussianKernel(round(8.0 * sigma + 1.0) | 1, sigma)
    out: Array = cv2.sepFilter2D(np.eye(GRID), -1, np.ones(1), bell)
    return out
