"""How a tracker's noise stays from one frame to the next, and how much of it there is.

A pose model's error is no white noise: it stays for some frames, and what stays looks like movement. A first-order
process (each error a share of the one before, and something new; Box and Jenkins 1976) has both in two numbers. They are
read off the frequencies that no limb reaches: white noise is as strong at the highest as a little above a movement's,
noise that stays is weaker there, by as much as it stays.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.rules import CLEAN
from guide_arc.core.kinematics.smoothing import KEPT_POWER, KEPT_TRACE, response
from guide_arc.core.kinematics.vectors import Array

_SHARES: Final = np.linspace(0.0, 0.95, 96)
_BINS: Final = np.linspace(0.0, 1.0, 257)[1:]


@dataclass(frozen=True, eq=False)
class Noise:
    """stays : the share of an error that is still there in the next frame of `rate_hz`, 0 for white noise
    sigma_m : (L,) standard deviation of one axis, root mean square; by_axis : (L, 3) each axis over that
    """

    stays: float
    sigma_m: Array
    rate_hz: float
    by_axis: Array

    def kept(self, cutoff_hz: float, power: int = 1) -> float:
        """The share of its variance that the smoother leaves. power : 1 for what also covers the signal that the
        smoother takes (Wahba 1983), 2 for the noise alone"""
        if not self.stays:
            whole = KEPT_TRACE if power == 1 else KEPT_POWER
            return float(min(2.0 * cutoff_hz / self.rate_hz * whole, 1.0))
        passed = response(0.5 * self.rate_hz * _BINS, cutoff_hz)
        return float((spectrum(_BINS, self.stays) * passed**power).mean())


def spectrum(share_of_nyquist: Array, stays: float) -> Array:
    """The strength of a first-order process of unit variance at frequencies from 0 to 1, half the frame rate."""
    out: Array = (1.0 - stays**2) / (
        1.0 + stays**2 - 2.0 * stays * np.cos(np.pi * share_of_nyquist)
    )
    return out


def noise_of(signals: Array, rate_hz: float) -> Noise:
    """The noise of a recording.

    signals : (T, L, A) landmarks on even times, without NaN; an axis that a picture lacks does not change
    """
    from scipy.fft import rfft  # noqa: PLC0415 - a window opens without

    frames = len(signals)
    middle = signals - signals.mean(axis=0)
    # A movement is thousands of times stronger than noise: without a window it would leak into every frequency.
    window = np.hanning(frames)[:, None, None]
    power = np.abs(rfft(window * middle, axis=0)) ** 2 / (window**2).sum()
    frequency = np.linspace(0.0, 1.0, len(power))
    low, high = (
        (frequency >= first) & (frequency <= last)
        for first, last in (
            np.array(CLEAN.no_limb_hz) / (0.5 * rate_hz),
            (CLEAN.highest_share, 1.0),
        )
    )
    axes = np.maximum((np.ptp(signals, axis=0) > 0.0).sum(axis=-1), 1)
    below, top = (power[band].sum(axis=-1).mean(axis=0) / axes for band in (low, high))
    seen = top > 0.0
    stays = 0.0
    if seen.any() and low.any():
        ratio = float(np.median(below[seen] / top[seen]))
        ratios = np.array(
            [
                spectrum(frequency[low], s).mean() / spectrum(frequency[high], s).mean()
                for s in _SHARES
            ]
        )
        stays = float(np.interp(ratio, ratios, _SHARES))
    # The longer errors stay, the less the highest frequencies say of how long.
    stays = min(stays, float(np.exp(-1.0 / (CLEAN.stays_s * rate_hz))))
    if stays < CLEAN.least_stays:
        stays = 0.0
    sigma = np.sqrt(top / spectrum(frequency[high], stays).mean())
    each = np.sqrt(power[high].mean(axis=0) / np.where(seen, top, 1.0)[:, None])
    return Noise(stays, sigma, rate_hz, np.where(seen[:, None], each, 1.0))
