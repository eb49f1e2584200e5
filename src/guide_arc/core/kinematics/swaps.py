"""Left and right exchanged by the tracker, and the correction.

A swap of a frame or some shows against the surroundings: pairs are exchanged. A lasting exchange
shows at its beginning and end: every landmark jumps to where its partner was. It is undone if it
goes and comes back for sure, or if the two parts of the recording agree better afterwards; and it
is the shorter part that was wrong."""

from __future__ import annotations

from typing import Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.kinematics.smoothing import on_times
from guide_arc.core.kinematics.vectors import Array, Flags, dot, length, odd_window
from guide_arc.core.model.landmarks import KIT

_WIDEST_PAIRS: Final = 3
# None of these decides: swaps are so clear that a fifth and five times as much give the same
# (`bench/constants.py`). A momentary exchange ends within these seconds; a longer one lasts; nearer
# to one another than these metres a swap can't be determined.
_MOMENT_S: Final = 0.7
_CLEARLY_APART_M: Final = 0.12
# Where a swap that lasts begins, the landmarks' squared step is so many times the usual one, and
# but for this share of it they come out where their partners were; more such jumps are a tracker
# that shakes; a pair in one place shows nothing.
_JUMP: Final = 6.0
_CROSSED_SHARE: Final = 0.5
_SURELY_CROSSED_SHARE: Final = 0.1
_MOST_JUMPS: Final = 12
_ON_ONE_SPOT_M: Final = 0.015


def undo_swaps(raw: Array, names: tuple[str, ...], rate_hz: float) -> tuple[Array, int]:
    """Frames in which the tracker took left for right are turned back.

    raw : (T, L, 3) as seen, changed in place; returns it with how many frames were turned
    """
    pairs = _pairs(names)
    if not pairs:
        return raw, 0
    lasting = _lasting_swaps(raw, pairs)
    if lasting.any():
        _turn(raw, pairs, lasting)
    raw, short = _short_swaps(raw, names, rate_hz)
    return raw, int(lasting.sum()) + short


def _pairs(names: tuple[str, ...]) -> list[tuple[int, int]]:
    return [
        (names.index(n), names.index("right" + n[4:]))
        for n in names
        if n.startswith("left_") and "right" + n[4:] in names and n not in KIT
    ]


def _turn(raw: Array, pairs: list[tuple[int, int]], which: Flags) -> None:
    left, right = (np.array(side) for side in zip(*pairs, strict=True))
    frames = np.flatnonzero(which)[:, None]
    raw[frames, left], raw[frames, right] = raw[frames, right], raw[frames, left]


def _steps(a: Array, b: Array) -> Array:
    """(T - 1,) squared, what all pairs went from one frame to the next."""
    step = np.nan_to_num(a[1:] - b[:-1])
    out: Array = np.einsum("tpk,tpk->t", step, step)
    return out


def _lasting_swaps(raw: Array, pairs: list[tuple[int, int]]) -> Flags:
    """(T,) the shorter of the two parts into which swaps that last cut a recording; none where
    nothing is sure."""
    left, right = (raw[:, list(side)] for side in zip(*pairs, strict=True))
    none = np.zeros(len(raw), dtype=bool)

    # Of a sample that is missing on one side nothing is said on either.
    gone = np.isnan(np.asarray(left + right))
    left, right = (np.where(gone, np.nan, side) for side in (left, right))
    kept = _steps(left, left) + _steps(right, right)
    jumps: Flags = kept > _JUMP * float(np.median(kept))
    at = np.flatnonzero(jumps)
    if not len(at):
        return none
    crossed = sum(
        np.nansum((a[at + 1] - b[at]) ** 2, axis=(1, 2)) for a, b in ((left, right), (right, left))
    )
    sure = crossed < _SURELY_CROSSED_SHARE * kept[at]
    jumps[at] = crossed < _CROSSED_SHARE * kept[at]
    if not jumps.any() or jumps.sum() > _MOST_JUMPS:
        return none
    other: Flags = np.concatenate(([0], np.cumsum(jumps))).astype(int) % 2 == 1
    shorter = other if other.mean() <= 0.5 else ~other
    if sure.sum() == jumps.sum() and jumps.sum() % 2 == 0:
        return shorter  # nothing else changes places with its partner within a frame, and back
    apart = left - right
    first, second = (
        np.nanmedian(apart[other if which else ~other], axis=0) for which in (False, True)
    )
    clear: Flags = np.minimum(length(first), length(second)) > _ON_ONE_SPOT_M
    agree: Array = dot(first, second)
    if not float(agree[clear].sum()) < 0.0:
        return none
    return shorter


def _short_swaps(raw: Array, names: tuple[str, ...], rate_hz: float) -> tuple[Array, int]:
    """The same for swaps of a moment."""
    pairs = _pairs(names)
    left, right = (np.array(side) for side in zip(*pairs, strict=True))
    window = odd_window(_MOMENT_S * rate_hz, least=5)
    # A swap turns every pair about: if the widest pairs are as usual, there is no exchange.
    some = raw[:: max(1, len(raw) // 60)]
    wide = np.nan_to_num(length(some[:, left] - some[:, right])).mean(axis=0)
    first = np.argsort(wide)[-_WIDEST_PAIRS:]
    against, _ = _votes(raw, left[first], right[first], window)
    if not (against > 0).any():
        return raw, 0
    against, for_it = _votes(raw, left, right, window)
    swapped = against > np.maximum(2, for_it)
    if not swapped.any() or swapped.mean() > 0.3:
        return raw, 0
    _turn(raw, pairs, swapped)
    return raw, int(swapped.sum())


def _votes(
    raw: Array, left: NDArray[np.int_], right: NDArray[np.int_], window: int
) -> tuple[NDArray[np.int_], NDArray[np.int_]]:
    """(T,) the number of pairs that are exchanged compared with the frames around, and of those
    that are not."""
    apart = np.nan_to_num(raw[:, left] - raw[:, right])
    usual = _slow_median(apart, window)
    agreement, size = dot(apart, usual), dot(usual, usual)
    # Only a pair that is clearly apart votes: in a side view both lie on one spot.
    clear = np.where(size > _CLEARLY_APART_M**2, 0.5 * size, np.inf)
    return (agreement < -clear).sum(axis=1), (agreement > clear).sum(axis=1)


def _slow_median(values: Array, window: int) -> Array:
    """(T, ...) medians of about nine samples a block, drawn out between: for what changes
    slowly."""
    frames = len(values)
    starts = np.arange(0, max(frames - window // 2, 1), max(window // 2, 1))
    middles = np.minimum(starts + 0.5 * window, frames - 1)
    at = np.minimum(starts[:, None] + np.arange(0, window, max(1, window // 9)), frames - 1)
    blocks = np.median(values[at], axis=1)
    return on_times(blocks, middles, np.arange(frames, dtype=float))
