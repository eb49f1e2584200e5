"""How a limb looks, and how alike two looks are.

Two strips are compared by normalised cross-correlation, once as they are and once freed of their
shading along the limb (each cross-section without its mean), in brightness and in colour. Of a
remembered look both are kept as what a strip's pixels are multiplied by, so that thousands of
strips are compared in one product of matrices.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

Numbers = NDArray[np.float32]
Window = NDArray[np.uint8]

# Places along a strip and across it.
LONG: Final = 14
WIDE: Final = 9
# Contrast below the noise of a sensor says nothing, grey levels of 255.
_NOISE: Final = 3.0
# Colour is distinguished more finely than brightness, and suffers less from light.
_COLOUR_COUNTS: Final = 1.6
# How much each place across the strip counts: the limb itself, less what is next to it.
_ACROSS: Final = np.exp(-0.5 * (np.linspace(-1.0, 1.0, WIDE) / 0.6) ** 2).astype(np.float32)
_COUNTS: Final = (
    _ACROSS[:, None] * np.array([1.0, _COLOUR_COUNTS, _COLOUR_COUNTS], dtype=np.float32)
).reshape(-1)
_BY_COLOUR: Final = np.tile(np.eye(3, dtype=np.float32), (WIDE, 1))
# Of one cross-section, by colour: its mean, and how much it weighs. As products of its pixels.
_MEAN: Final = _BY_COLOUR * np.repeat(_ACROSS / _ACROSS.sum(), 3)[:, None]
_WEIGHS: Final = _BY_COLOUR * (_COUNTS**2)[:, None]
_BOTH: Final = np.concatenate((_MEAN, _WEIGHS), axis=1)
_ALL: Final = _WEIGHS.sum(axis=0)
# What a strip's squares lose with its means, as a quadratic form of these products: twice the one
# by the other, less the squares of the means. Of every cross-section with its own mean; and of all
# of a strip with their common one.
_LOST: Final = np.block([[-np.diag(_ALL), np.eye(3)], [np.eye(3), np.zeros((3, 3))]]).astype(
    np.float32
)
_LOST_EACH: Final = np.kron(np.eye(LONG, dtype=np.float32), _LOST)
_ADDED: Final = np.tile(np.eye(6, dtype=np.float32), (LONG, 1))
_SQUARES: Final = np.tile(_COUNTS**2, LONG)
_FLOOR: Final = np.float32(_NOISE**2 * LONG * float((_ACROSS**2).sum()))
# What is squared stays small about here.
_MIDDLE: Final = np.float32(128.0)


@dataclass(frozen=True, eq=False)
class StripLooks:
    """The contents of some strips. shape : of how many; pixels : (N, D); size : (2, N) how much
    contrast they have, as they are and freed of their shading"""

    shape: tuple[int, ...]
    pixels: Numbers
    size: Numbers

    @classmethod
    def of(cls, windows: Window) -> StripLooks:
        """windows : (..., LONG, WIDE, 3)"""
        rows = np.subtract(windows.reshape(-1, 3 * WIDE), _MIDDLE, dtype=np.float32)
        pixels = rows.reshape(-1, LONG * 3 * WIDE)
        both = (rows @ _BOTH).reshape(len(pixels), -1)
        added = both @ _ADDED
        square = (pixels * pixels) @ _SQUARES
        freed = square - np.einsum("nk,nk->n", both @ _LOST_EACH, both)
        raw = square - np.einsum("nk,nk->n", added @ _LOST, added) / np.float32(LONG)
        size = np.sqrt(2.0 * (np.maximum(np.stack((raw, freed)), 0.0) + _FLOOR))
        return cls(windows.shape[:-3], pixels, size)

    def like(self, looks: Numbers) -> Numbers:
        """(L, N) how alike some looks (L, 2, D) and these strips are, 1 for alike, 0 for unlike."""
        both = (looks.reshape(2 * len(looks), -1) @ self.pixels.T).reshape(len(looks), 2, -1)
        both /= self.size
        out: Numbers = both[:, 0] + both[:, 1]
        return out


def look_of(window: Window) -> Numbers:
    """(2, D) the look of one strip (LONG, WIDE, 3), as it is and freed of its shading: what strips'
    pixels are multiplied by."""
    rows = np.subtract(window.reshape(LONG, 3 * WIDE), _MIDDLE, dtype=np.float32)
    mean = rows @ _MEAN
    out = np.empty((2, LONG, 3 * WIDE), dtype=np.float32)
    for own, middle in zip(out, (mean.mean(axis=0, keepdims=True), mean), strict=True):
        look = (rows - np.tile(middle, WIDE)) * _COUNTS
        own[:] = look / np.sqrt(2.0 * ((look**2).sum() + _FLOOR)) * _COUNTS
    # A strip's own mean takes no part.
    by_colour = out[0] @ _BY_COLOUR
    out[0] -= np.tile(_MEAN.sum(axis=1) * np.tile(by_colour.sum(axis=0), WIDE) / LONG, (LONG, 1))
    out[1] -= np.tile(out[1] @ _BY_COLOUR, WIDE) * _MEAN.sum(axis=1)
    return out.reshape(2, -1)
