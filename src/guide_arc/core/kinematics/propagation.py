"""The uncertainty of a measure from the uncertainty of the landmarks that it rests on.

First order (JCGM 100:2008, 5.1.2): the variance of a formula is the sum over the coordinates of
(slope × standard uncertainty)²; the slopes are taken by a small nudge of each coordinate.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

import numpy as np

from guide_arc.core.kinematics.cleaning import CleanTrack
from guide_arc.core.kinematics.trunk import Points
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.kinematics.views import hidden_axis

# Slopes change slowly: they are taken this often and drawn out between.
_SLOPE_EVERY_S: Final = 0.25
_NUDGE_M: Final = 1e-4
# What a coordinate without a known jitter is taken to jitter by.
_UNKNOWN_M: Final = 0.01

Formula = Callable[[Points], Array]
Propagate = Callable[[CleanTrack, Points, Formula, float], Array]


def propagated(cleaned: CleanTrack, points: Points, formula: Formula, joint_u_m: float) -> Array:
    """(T,) standard uncertainty of formula(points) from each coordinate's noise, and from constant
    offsets of the joints. joint_u_m : the latter, metres; points : (T, 3) by name"""
    step = max(1, round(_SLOPE_EVERY_S * cleaned.track.frame_rate_hz))
    time_s = cleaned.time_s
    last = len(time_s) - 1
    frames = np.unique(np.append(np.arange(0, last + 1, step), last))
    # All 3N nudges at once: the formula sees (1 + 3N, F, 3) points.
    names = list(points)
    stack = {n: np.repeat(points[n][frames][None], 1 + 3 * len(names), axis=0) for n in names}
    for i, n in enumerate(names):
        for axis in range(3):
            stack[n][1 + 3 * i + axis, :, axis] += _NUDGE_M
    values = formula(stack)
    change = np.abs(values[1:] - values[0])
    slope = np.minimum(change, 360.0 - change) / _NUDGE_M
    seen = [axis for axis in range(3) if axis != hidden_axis(cleaned.track.view)]
    sigma = np.stack([cleaned.sigma(n)[frames] for n in names])
    sigma[np.isnan(sigma)] = _UNKNOWN_M
    axes = np.stack([cleaned.axes(n) for n in names])[:, seen, None]
    # A coordinate with more jitter has a larger offset, too; what jitters less no nearer.
    off = np.hypot(axes * sigma[:, None], np.maximum(axes, 1.0) * joint_u_m)
    spread = slope.reshape(len(names), 3, len(frames))[:, seen] * off
    variance = (spread**2).sum(axis=(0, 1))
    sure = np.isfinite(variance)
    if not sure.any():
        return np.full(len(time_s), np.nan)
    out: Array = np.interp(time_s, time_s[frames[sure]], np.sqrt(variance[sure]))
    return out


def no_doubt(cleaned: CleanTrack, _points: Points, _formula: Formula, _joint_u_m: float) -> Array:
    """(T,) zeros, where the uncertainty is not asked for."""
    return np.zeros(len(cleaned.time_s))
