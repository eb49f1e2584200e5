"""Small vector geometry over frames. Undefined geometry is NaN, never a made-up number."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Flags = NDArray[np.bool_]

# A segment shorter than this has no direction that noise would not make up.
SHORTEST_SEGMENT_M = 1e-3


def length(v: Array) -> Array:
    """(..., 3) -> (...,) Euclidean length."""
    x, y, z = v[..., 0], v[..., 1], v[..., 2]
    out: Array = np.sqrt(x * x + y * y + z * z)
    return out


def unit(v: Array) -> Array:
    """(..., 3) -> (..., 3) of length 1; NaN where shorter than a millimetre."""
    size = length(v)[..., None]
    out: Array = np.where(size >= SHORTEST_SEGMENT_M, v / np.where(size > 0, size, 1.0), np.nan)
    return out


def dot(a: Array, b: Array) -> Array:
    """(..., 3), (..., 3) -> (...,) scalar product."""
    out: Array = a[..., 0] * b[..., 0] + a[..., 1] * b[..., 1] + a[..., 2] * b[..., 2]
    return out


def cross(a: Array, b: Array) -> Array:
    """(..., 3), (..., 3) -> (..., 3) vector product, written out: faster than np.cross."""
    ax, ay, az = a[..., 0], a[..., 1], a[..., 2]
    bx, by, bz = b[..., 0], b[..., 1], b[..., 2]
    return np.stack((ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx), axis=-1)


def angle_deg(a: Array, b: Array) -> Array:
    """Angle between two directions, 0 to 180 degrees.

    a, b : (..., 3)
    Returns (...,). NaN where either is under 1 mm. atan2(|a x b|, a . b) stays exact near
    0 and 180, where arccos does not.
    """
    out: Array = np.degrees(np.arctan2(length(cross(a, b)), dot(a, b)))
    short = (length(a) < SHORTEST_SEGMENT_M) | (length(b) < SHORTEST_SEGMENT_M)
    return np.where(short, np.nan, out)


def across(v: Array, axis: Array) -> Array:
    """The part of v at right angles to a unit axis: (..., 3)."""
    return v - dot(v, axis)[..., None] * axis


def median(values: Array) -> float:
    """The median of a few finite values; NaN of none. Many times faster than np.median here."""
    count = len(values)
    if not count:
        return float("nan")
    ordered = np.sort(values)
    return float(0.5 * (ordered[(count - 1) // 2] + ordered[count // 2]))


def seen_median(values: Array) -> float:
    """The median of the finite ones among a few values, in one dimension; NaN of none."""
    return median(values[np.isfinite(values)])


def span_of(time_s: Array, start_s: float, end_s: float) -> slice:
    """The samples from a start to an end, at least one."""
    a, b = np.searchsorted(time_s, (start_s, end_s))
    return slice(int(a), max(int(b), int(a) + 1))


def odd_window(samples: float, least: int) -> int:
    """An odd number of samples, so that a window has a middle."""
    return max(least, int(samples) | 1)


def runs(flags: Flags) -> list[tuple[int, int]]:
    """Starts and ends (exclusive) of the runs of True."""
    edges = np.flatnonzero(np.diff(np.concatenate(([0], flags.astype(np.int8), [0]))))
    return list(zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True))
