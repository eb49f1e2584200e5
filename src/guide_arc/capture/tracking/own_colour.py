"""Whether a strip is filled with a limb's own colours and the area next to it is not.

A limb's look, as it was marked, holds what was next to it then: the trunk, for an arm that hung
down. As the limb goes up other things are next to it and the look fits less and less. Its colours
stay. They show its place only if nothing around it has the same ones.
"""

from __future__ import annotations

from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter1d

from guide_arc.capture.tracking.limbs import Spot
from guide_arc.capture.tracking.looks import LONG, WIDE, Numbers, Window
from guide_arc.capture.tracking.strips import Picture, Strip

# Brightness changes with the light and is kept coarsely; the two colours are not: bits that are
# dropped of each.
_DROPPED: Final = (5, 2, 2)
_BINS: Final = tuple(256 >> bits for bits in _DROPPED)
# Cloth is not of one colour, and a sensor adds to that: widths of the smoothing, in bins.
_SMOOTH: Final = (0.6, 1.6, 1.6)
# What was never seen is as likely the limb's as not.
_UNKNOWN: Final = 2e-6
# Of a strip's places across: the limb's middle, and what is next to it on both sides.
_CORE: Final = slice(WIDE // 2 - 1, WIDE // 2 + 2)
_BESIDE: Final = (0, WIDE - 1)
# Places along a strip that belong to the limb alone, away from the joint above and from what the
# hand holds.
_ALONG: Final = slice(2, LONG - 2)
# Colours that distinguish the limb less clearly from its surroundings are not used.
_LEAST_CLEAR: Final = 0.45
# Around the joint, within the limb's reach; the limbs and the trunk that are marked take no part.
_AROUND: Final = 1.6


class OwnColour:
    """The colours of one limb, from the frames on which it was marked."""

    def __init__(self) -> None:
        self._own, self._around = np.zeros(_BINS), np.zeros(_BINS)
        self._share: Numbers | None = None
        self._clear = 0.0

    def mark(
        self, strip: Strip, picture: Picture, look: Window, body: NDArray[np.bool_], at: Spot
    ) -> None:
        """Learn from a marked frame.

        look : (LONG, WIDE, 3) the limb's strip; body : (H, W) what of the picture the marked body
            takes; at : the joint
        """
        core = look[_ALONG, _CORE].reshape(-1, 3)
        high, wide = picture.shape[:2]
        y, x = np.ogrid[:high, :wide]
        near = np.hypot(x - at[0], y - at[1]) < _AROUND * strip.long
        around = picture[near & ~body]
        self._own += _counted(core)
        self._around += _counted(around)
        own = _smoothed(self._own)
        other = _smoothed(self._around)
        share = (own + _UNKNOWN) / (own + other + 2.0 * _UNKNOWN)
        self._share = share.astype(np.float32).reshape(-1)
        if len(around):
            told = self._of(core).mean() - self._of(around).mean()
            self._clear = float(np.clip((told - _LEAST_CLEAR) / (1.0 - _LEAST_CLEAR), 0.0, 1.0))

    @property
    def clear(self) -> float:
        """How clearly the limb's colours distinguish it from its surroundings, 0 to 1."""
        return self._clear

    @property
    def tells(self) -> bool:
        """Whether the limb's colours distinguish it from its surroundings."""
        return self._share is not None and self._clear > 0.0

    def filled(self, windows: Window) -> Numbers:
        """(...) the share of a strip's middle with the limb's colours less that of the area next to
        it, 0 to 1, weighted by how clear they are.

        windows : (..., LONG, WIDE, 3)
        """
        shape = windows.shape[:-3]
        if not self.tells:
            return np.zeros(shape, dtype=np.float32)
        some = np.concatenate(
            (windows[..., _ALONG, _CORE, :], windows[..., _ALONG, _BESIDE, :]), axis=-2
        )
        share = self._of(some.reshape(-1, 3)).reshape(*some.shape[:-1])
        width = _CORE.stop - _CORE.start
        core, beside = (
            share[..., :width].mean(axis=(-2, -1)),
            share[..., width:].mean(axis=(-2, -1)),
        )
        out: Numbers = (self._clear * np.clip(core - beside, 0.0, 1.0)).astype(np.float32)
        return out

    def _of(self, pixels: NDArray[np.uint8]) -> Numbers:
        assert self._share is not None
        out: Numbers = self._share[_bins_of(pixels)]
        return out


def _bins_of(pixels: NDArray[np.uint8]) -> NDArray[np.intp]:
    """(N,) the place in the table of colours of each pixel (N, 3)."""
    a, b, c = (pixels[:, i].astype(np.intp) >> bits for i, bits in enumerate(_DROPPED))
    out: NDArray[np.intp] = (a * _BINS[1] + b) * _BINS[2] + c
    return out


def _counted(pixels: NDArray[np.uint8]) -> NDArray[np.float64]:
    out = np.bincount(_bins_of(pixels), minlength=int(np.prod(_BINS))).astype(float)
    return out.reshape(_BINS)


def _smoothed(counts: NDArray[np.float64]) -> NDArray[np.float64]:
    """Shares of the whole, spread over like colours."""
    total = counts.sum()
    out = np.stack([cv2.GaussianBlur(layer, (0, 0), _SMOOTH[1]) for layer in counts])
    out = gaussian_filter1d(out, _SMOOTH[0], axis=0)
    smoothed: NDArray[np.float64] = out / max(float(total), 1.0)
    return smoothed
