"""How much noise a tracker makes, and how it is spread over frequencies.

A pose model's error is no white noise: it stays for some frames, and what stays looks like
movement. Points that do not move in a recording (feet on the floor, hands on a bar) show it: there,
all that moves is noise. Its spectrum is taken from the quarter of the landmarks that are stillest
next to their own highest frequencies, by medians over pieces of four seconds (Welch 1967, with
medians against a walk-in), and scaled to each landmark by those frequencies, which no limb reaches.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.rules import CLEAN
from guide_arc.core.kinematics.smoothing import KEPT_POWER, KEPT_TRACE, response
from guide_arc.core.kinematics.vectors import Array
from guide_arc.lazily import lazily

with lazily():
    from scipy.fft import rfft

_BINS: Final = np.linspace(0.0, 1.0, 65)[1:]
_PIECE_S: Final = 4.0
_FEWEST_STILL: Final = 3
# Neither decides: a pose model's noise is some twenty times as strong where limbs move as at the
# highest frequencies, white noise once; and less than so many metres is how a file writes numbers
# down.
_STAYS_FROM: Final = 1.8
_NOISE_FREE_M: Final = 0.0003


@dataclass(frozen=True, eq=False)
class Noise:
    """shape : (64,) strength at frequencies up to half of `rate_hz`, of mean 1; None for white
    noise
    sigma_m : (L,) standard deviation of one axis, root mean square; by_axis : (L, 3) each axis over
        that
    """

    shape: Array | None
    sigma_m: Array
    rate_hz: float
    by_axis: Array

    @property
    def stays(self) -> bool:
        """Whether an error is still there in the next frame, as a pose model's is."""
        return self.shape is not None

    def strength(self, share_of_nyquist: Array) -> Array:
        """Of unit variance, at frequencies from 0 to 1, half of the frame rate."""
        if self.shape is None:
            return np.ones_like(share_of_nyquist)
        out: Array = np.interp(share_of_nyquist, _BINS, self.shape)
        return out

    def kept(self, cutoff_hz: float, power: int = 1) -> float:
        """The share of its variance that the smoother leaves. power : 1 for what also covers the
        signal that the smoother takes (Wahba 1983), 2 for the noise alone"""
        if self.shape is None:
            whole = KEPT_TRACE if power == 1 else KEPT_POWER
            return float(min(2.0 * cutoff_hz / self.rate_hz * whole, 1.0))
        passed = response(0.5 * self.rate_hz * _BINS, cutoff_hz)
        return float((self.shape * passed**power).mean())


def noise_of(signals: Array, rate_hz: float) -> Noise:
    """The noise of a recording.

    signals : (T, L, A) landmarks on even times, without NaN; an axis that a picture lacks does not
        change
    """
    power, frequency = _spectra(signals, rate_hz)
    high = frequency >= CLEAN.highest_share
    axes = np.maximum((np.ptp(signals, axis=0) > 0.0).sum(axis=-1), 1)
    # (pieces, F, L) of all axes together, then the usual piece.
    usual = np.median(power.sum(axis=-1), axis=0) / axes
    top = usual[high].mean(axis=0)
    seen = top > 0.0
    each = np.sqrt(np.median(power, axis=0)[high].mean(axis=0) / np.where(seen, top, 1.0)[:, None])
    each /= np.maximum(np.sqrt((each**2).sum(axis=1) / axes), 1e-12)[:, None]
    by_axis = np.where(seen[:, None], each, 1.0)
    white = Noise(None, np.sqrt(np.maximum(top, 0.0)), rate_hz, by_axis)
    hertz = 0.5 * rate_hz * frequency
    slow = (hertz >= CLEAN.still_hz[0]) & (hertz <= CLEAN.still_hz[1])
    between = (hertz >= CLEAN.no_limb_hz[0]) & (hertz <= CLEAN.no_limb_hz[1]) & ~high
    if seen.sum() < _FEWEST_STILL or not slow.any() or not between.any():
        return white
    if np.median(white.sigma_m[seen]) < _NOISE_FREE_M:
        return white
    # If the whole body moves, no point is still; but no limb is so fast, and white noise is
    # no stronger there.
    if np.median(usual[between].mean(axis=0)[seen] / top[seen]) < CLEAN.faster_from:
        return white
    restless = np.where(seen, usual[slow].mean(axis=0) / np.where(seen, top, 1.0), np.inf)
    still = np.argsort(restless)[: max(_FEWEST_STILL, int(seen.sum()) // 4)]
    if np.median(restless[still]) < _STAYS_FROM:
        return white
    shape = np.median(usual[:, still] / top[still], axis=1)
    # What is slower is sway, and drift of which no frequency tells.
    shape[hertz < CLEAN.still_hz[0]] = shape[slow].max()
    at = np.interp(
        _BINS, frequency, np.convolve(np.pad(shape, 1, mode="edge"), np.ones(3) / 3.0, mode="valid")
    )
    mean = float(at.mean())
    return Noise(at / mean, np.sqrt(top * mean), rate_hz, by_axis)


def _spectra(signals: Array, rate_hz: float) -> tuple[Array, Array]:
    """(P, F, L, A) the power of each piece, scaled as white noise of variance v is v everywhere,
    and (F,) frequencies from 0 to 1, half of the rate."""
    long = min(len(signals), round(_PIECE_S * rate_hz))
    starts = range(0, len(signals) - long + 1, max(long // 2, 1))
    # A movement is thousands of times stronger than noise: without a window it would leak into
    # every frequency.
    window = np.hanning(long)[:, None, None]
    out = []
    for start in starts:
        piece = signals[start : start + long]
        level = piece - piece.mean(axis=0)
        out.append(np.abs(rfft(window * level, axis=0)) ** 2 / (window**2).sum())
    power = np.array(out)
    return power, np.linspace(0.0, 1.0, power.shape[1])
