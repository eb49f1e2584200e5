"""How a limb looks: a strip along it, turned about the joint above it, whatever is behind.

Two looks are compared by normalised cross-correlation, once as they are and once freed of their shading
along the limb (each cross-section without its mean), in brightness and in colour. A limb keeps its length
and shortens only as the camera sees it foreshortened.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Final

import cv2
import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.limbs import Limb, Spot

Picture = NDArray[np.uint8]
Numbers = NDArray[np.float32]
Degrees = NDArray[np.float64]

STEP_DEG: Final = 3.0
ANGLES_DEG: Final = np.arange(0.0, 360.0, STEP_DEG)
# Of the length that was marked: a limb may have been marked foreshortened, too.
LENGTHS: Final = np.array([0.45, 0.62, 0.78, 0.90, 1.0, 1.12])

_LONG, _WIDE = 14, 9
_FROM, _TO = 0.06, 1.10
# Contrast below the noise of a sensor says nothing, grey levels of 255.
_NOISE: Final = 3.0
# Colour is told apart more finely than brightness, and suffers less from light.
_COLOUR_COUNTS: Final = 1.6
# How much each place across the strip counts: the limb itself, less what is beside it.
_ACROSS: Final = np.exp(-0.5 * (np.linspace(-1.0, 1.0, _WIDE) / 0.6) ** 2).astype(np.float32)
# How many looks are learned at most, and how far from its angle one holds: then other things are behind it.
_MOST: Final = 24
_HOLDS_DEG: Final = 30.0
# A parabola that bends less has no peak.
_SHARPEST: Final = 1e-6


@dataclass(frozen=True, eq=False)
class Strip:
    """The measures of a limb's strip, in pixels of the worked picture."""

    limb: Limb
    long: float

    def windows(
        self, picture: Picture, pivot: Spot, angles_deg: Degrees, lengths: Degrees
    ) -> Numbers:
        """(A, S, K, 3) what lies in the strip at every angle and length about a pivot."""
        out: Numbers = self.windows_about(picture, np.asarray(pivot)[None], angles_deg, lengths)[0]
        return out

    def windows_about(
        self, picture: Picture, pivots: Degrees, angles_deg: Degrees, lengths: Degrees
    ) -> Numbers:
        """(P, A, S, K, 3) the same about several pivots, (P, 2)."""
        turn = np.radians(np.asarray(angles_deg, dtype=np.float32))[:, None, None, None]
        share = np.linspace(_FROM, _TO, _LONG, dtype=np.float32)[None, None, :, None]
        along = np.asarray(lengths, dtype=np.float32)[None, :, None, None] * self.long * share
        half = self.limb.wide * self.long
        aside = np.linspace(-half, half, _WIDE, dtype=np.float32)[None, None, None, :]
        cos, sin = np.cos(turn), np.sin(turn)
        here = np.asarray(pivots, dtype=np.float32)[:, :, None, None, None, None]
        x = here[:, 0] + (cos * along - sin * aside)
        y = here[:, 1] + (sin * along + cos * aside)
        shape = x.shape
        seen = cv2.remap(
            picture, x.reshape(-1, _WIDE), y.reshape(-1, _WIDE), cv2.INTER_LINEAR,
            borderMode=cv2.BORDER_REPLICATE,
        )  # fmt: skip
        out: Numbers = seen.reshape(*shape[:3], _LONG, _WIDE, 3).astype(np.float32)
        return out


# A cross-section's pixels as they count, its mean in each colour, and its pixels without that, as products of one row.
_COUNTS: Final = (
    _ACROSS[:, None] * np.array([1.0, _COLOUR_COUNTS, _COLOUR_COUNTS], dtype=np.float32)
).reshape(-1)
_MEAN: Final = np.kron((_ACROSS / _ACROSS.sum())[:, None], np.eye(3, dtype=np.float32))
_FREED: Final = (np.eye(3 * _WIDE) - np.tile(_MEAN, (1, _WIDE))).astype(np.float32) * _COUNTS
_SIZE: Final = _LONG * _WIDE * 3


def looks(windows: Numbers) -> Numbers:
    """(..., D) what two windows are compared by; the product of two is 1 for alike, 0 for unlike."""
    shape = windows.shape[:-3]
    rows = windows.reshape(-1, 3 * _WIDE)
    out = np.empty((len(rows) // _LONG, 2 * _SIZE), dtype=np.float32)
    raw, freed = out[:, :_SIZE].reshape(-1, _LONG, 3 * _WIDE), out[:, _SIZE:]
    mean = (rows @ _MEAN).reshape(-1, _LONG, 3).mean(axis=1)
    np.subtract(rows.reshape(raw.shape), np.tile(mean, (1, _WIDE))[:, None], out=raw)
    raw *= _COUNTS
    out[:, :_SIZE] = raw.reshape(-1, _SIZE)
    freed[:] = (rows @ _FREED).reshape(-1, _SIZE)
    floor = np.float32(_NOISE**2 * _LONG * float((_ACROSS**2).sum()))
    for part in (out[:, :_SIZE], out[:, _SIZE:]):
        part /= np.sqrt(2.0 * (np.einsum("ij,ij->i", part, part) + floor))[:, None]
    return out.reshape(*shape, 2 * _SIZE)


@dataclass(eq=False)
class Gallery:
    """The remembered looks of one limb: those of the coach's marks, and those learned on the way.

    What was learned holds near the angle it was learned at, where the same is behind the limb.
    """

    strip: Strip
    roots: list[Numbers] = field(default_factory=list)
    learned: list[Numbers] = field(default_factory=list)
    turns_deg: list[float] = field(default_factory=list)

    def learn(self, look: Numbers, turn_deg: float) -> None:
        self.learned.append(look)
        self.turns_deg.append(turn_deg)

    @property
    def full(self) -> bool:
        return len(self.learned) >= _MOST

    def root_fits(self, seen: Numbers) -> Numbers:
        """(A, S) how well looks (A, S, D) fit what the coach marked."""
        return _best(self.roots, seen)

    def learned_fits(self, seen: Numbers, angles_deg: Degrees) -> Numbers:
        """(A, S) how well looks (A, S, D) at some angles fit what was learned near those angles, -1 to 1."""
        holds = np.abs(apart_deg(angles_deg[:, None], np.array(self.turns_deg))) < _HOLDS_DEG
        here = np.flatnonzero(holds.any(axis=0))
        if not len(here):
            return np.full(seen.shape[:2], -1.0, dtype=np.float32)
        never = np.where(holds[:, here], 0.0, -2.0).astype(np.float32)
        return np.maximum(_best([self.learned[i] for i in here], seen, never), np.float32(-1.0))


def _best(every: list[Numbers], seen: Numbers, less: Numbers | None = None) -> Numbers:
    """(A, S) how well looks (A, S, D) fit the best of some; less : (A, N) what is taken off, by angle and look"""
    fits = np.stack(every) @ seen.reshape(-1, seen.shape[-1]).T
    fits = fits.reshape(-1, *seen.shape[:2])
    if less is not None:
        fits += less.T[:, :, None]
    out: Numbers = fits.max(axis=0)
    return out


def apart_deg(a: Any, b: Any) -> Any:
    """From b to a, the shorter way round, -180 to 180."""
    return (a - b + 180.0) % 360.0 - 180.0


def between(row: Numbers, at: int) -> float:
    """Where between samples a fit is best, from a parabola through the best and its neighbours."""
    if not 0 < at < len(row) - 1:
        return 0.0
    a, b, c = float(row[at - 1]), float(row[at]), float(row[at + 1])
    bend = a - 2 * b + c
    return 0.0 if abs(bend) < _SHARPEST else float(np.clip(0.5 * (a - c) / bend, -0.5, 0.5))
