"""The smoother that everything measured goes through: a cubic-difference penalised fit.

It minimises the squared misfit plus a penalty on the third difference (the jerk): the discrete
smoothing spline of Whittaker and Henderson (Whittaker 1923; Eilers, Anal. Chem. 75, 2003). It
has no phase shift, weighs missing samples as nothing, takes uneven times as they are, and needs
no padding at the ends. Penalising the jerk suits limbs, whose free movements keep it small
(Flash and Hogan 1985).
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.lazily import lazily

with lazily():
    from scipy.fft import dct
    from scipy.linalg.lapack import dpbtrf, dpbtrs

ORDER: Final = 3
# Share of white noise that stays, over twice the cut-off divided by the rate: the integral of
# 1 / (1 + (f / cut-off)^6), and of its square.
KEPT_TRACE: Final = np.pi / 6.0 / np.sin(np.pi / 6.0)
KEPT_POWER: Final = KEPT_TRACE * 5.0 / 6.0
# Twice the highest cut-off and more: anything faster is noise.
ENOUGH_RATE_HZ: Final = 30.0
# Steps far shorter than usual would make the penalty blow up; such times are regridded.
_SHORTEST_STEP_SHARE: Final = 0.15
# Steps that differ by less than this share are one step: the sums need not be made frame by frame.
_EVEN_SHARE: Final = 2e-3


def stiffness(cutoff_hz: float, rate_hz: float) -> float:
    """The penalty that passes half of the amplitude at the cut-off."""
    turn = np.pi * min(cutoff_hz, 0.49 * rate_hz) / rate_hz
    return float((2.0 * np.sin(turn)) ** (-2 * ORDER))


def response(frequency_hz: Array, cutoff_hz: float) -> Array:
    """What the smoother passes of each frequency, well below the frame rate."""
    out: Array = 1.0 / (1.0 + (frequency_hz / cutoff_hz) ** (2 * ORDER))
    return out


class Smoother:
    """Smooths signals that share their sample times.

    time_s : (T,) rising; spacing may vary. Signals are (T,) or (T, C) without NaN; a sample
    of weight 0 is filled in from its surroundings.
    """

    def __init__(self, time_s: Array) -> None:
        self.time_s = time_s
        self.step_s = float(np.median(np.diff(time_s))) if len(time_s) > 1 else 1.0
        self._grid: Array | None = None
        steps = np.diff(time_s)
        if len(steps) and steps.min() < _SHORTEST_STEP_SHARE * self.step_s:
            self._grid = np.arange(time_s[0], time_s[-1] + 0.5 * self.step_s, self.step_s)
        self._penalty = _penalty(self._grid if self._grid is not None else time_s, self.step_s)

    @property
    def rate_hz(self) -> float:
        return 1.0 / self.step_s

    def smooth(self, signal: Array, cutoff_hz: float, weight: Array | None = None) -> Array:
        """The signal with everything faster than the cut-off taken out, same shape.

        weight : (T,) from 0 to 1 each; None trusts all samples alike
        """
        if len(self.time_s) <= 2 * ORDER or cutoff_hz >= 0.45 * self.rate_hz:
            return signal.copy()
        if self._grid is None:
            return self._solve(signal, cutoff_hz, weight)
        onto = on_times(signal, self.time_s, self._grid)
        on_grid = None if weight is None else on_times(weight, self.time_s, self._grid)
        return on_times(self._solve(onto, cutoff_hz, on_grid), self._grid, self.time_s)

    def _solve(self, signal: Array, cutoff_hz: float, weight: Array | None) -> Array:
        bands = stiffness(cutoff_hz, self.rate_hz) * self._penalty
        # A trace of weight keeps a long gap at the ends solvable.
        held = np.ones(len(signal)) if weight is None else np.maximum(weight, 1e-9)
        bands[0] += held
        factor, info = dpbtrf(bands, lower=1, overwrite_ab=1)
        if info:  # pragma: no cover - the bands are positive definite by construction
            raise np.linalg.LinAlgError("the smoother's bands are not positive definite")
        right = signal * (held if signal.ndim == 1 else held[:, None])
        columns = right if right.ndim == 2 else right[:, None]
        out, _ = dpbtrs(factor, np.asfortranarray(columns), lower=1, overwrite_b=1)
        shaped: Array = np.ascontiguousarray(out).reshape(signal.shape)
        return shaped


def gap_growth(missing_run: int, cutoff_hz: float, rate_hz: float) -> Array:
    """(missing_run,) how much larger the uncertainty is inside a run of missing samples.

    From the inverse of the smoother's own matrix around such a run, over that of a seen sample.
    """
    around = int(np.clip(1.2 * rate_hz / cutoff_hz, 12, 60))
    count = missing_run + 2 * around
    difference = np.diff(np.eye(count), n=ORDER, axis=0)
    matrix = stiffness(cutoff_hz, rate_hz) * difference.T @ difference
    weight = np.ones(count)
    weight[around : around + missing_run] = 0.0
    variance = np.diag(np.linalg.inv(matrix + np.diag(weight)))
    usual = 2.0 * cutoff_hz / rate_hz * KEPT_TRACE
    out: Array = np.sqrt(variance[around : around + missing_run] / usual)
    return np.maximum(out, 1.0)


def best_cutoffs(
    signals: Array,
    rate_hz: float,
    ladder: tuple[float, ...],
    known: Callable[[Array], Array] | None = None,
) -> Array:
    """(C,) the cut-off of each signal's least generalised cross-validation score.

    signals : (T, C, A) evenly spaced; the A axes of one landmark share a cut-off
    (Craven and Wahba 1979; in the cosine domain as Garcia, Comput. Stat. Data Anal. 54, 2010).
    known : the power of noise that is not white, (F, C) at shares (F,) of half the rate, its axes
    together: then the least unbiased estimate of the risk (Mallows 1973), as cross-validation takes
    what stays for signal
    """
    every = max(1, int(rate_hz // ENOUGH_RATE_HZ))
    signals, rate_hz = signals[::every], rate_hz / every
    frames = len(signals)
    # A straight line through the ends leaves nothing for the cosines to ring at.
    ramp = np.linspace(0.0, 1.0, frames)[:, None, None]
    level = signals - (1.0 - ramp) * signals[:1] - ramp * signals[-1:]
    power = (dct(level, axis=0, norm="ortho", overwrite_x=True) ** 2).sum(axis=-1)
    frequency = 0.5 * rate_hz * np.arange(frames) / frames
    noise = None if known is None else known(np.arange(frames) / frames)
    scores = []
    for cutoff in ladder:
        passed = response(frequency, cutoff)
        missed = (1.0 - passed) ** 2
        if noise is not None:
            scores.append(missed @ power + (2.0 * passed - 1.0) @ noise)
            continue
        kept = min(2.0 * cutoff / rate_hz * KEPT_TRACE, 0.95)
        scores.append(missed @ power / (1.0 - kept) ** 2)
    best: Array = np.array(ladder)[np.argmin(scores, axis=0)]
    return best


def on_times(values: Array, time_s: Array, at_s: Array) -> Array:
    """Linear interpolation of (T, ...) at other times."""
    flat = values.reshape(len(values), -1)
    out = np.stack([np.interp(at_s, time_s, column) for column in flat.T], axis=-1)
    return out.reshape(len(at_s), *values.shape[1:])


def _penalty(time_s: Array, step_s: float) -> Array:
    """(4, T) lower bands of D'D for third divided differences, scaled to an even step."""
    count = len(time_s)
    out = np.zeros((ORDER + 1, count))
    if count <= ORDER:
        return out
    steps = np.diff(time_s)
    if steps.max() - steps.min() < _EVEN_SHARE * step_s:
        rows = (-1.0, 3.0, -3.0, 1.0)
        for k in range(ORDER + 1):
            for j in range(ORDER + 1 - k):
                out[k, j : count - ORDER + j] += rows[j] * rows[j + k]
        return out
    at = (time_s - time_s[0]) / step_s
    points = np.stack([at[i : count - ORDER + i] for i in range(ORDER + 1)], axis=-1)
    apart = points[:, :, None] - points[:, None, :]
    apart[:, np.arange(ORDER + 1), np.arange(ORDER + 1)] = 1.0
    rows = 6.0 / apart.prod(axis=-1)
    # A longer step carries more of the integral of the squared third derivative.
    rows *= np.sqrt((points[:, -1] - points[:, 0]) / ORDER)[:, None]
    for k in range(ORDER + 1):
        for j in range(ORDER + 1 - k):
            out[k, j : count - ORDER + j] += rows[:, j] * rows[:, j + k]
    return out
