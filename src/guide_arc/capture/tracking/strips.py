"""The strip along a limb, turned about the joint above it, whatever is behind; and what is
remembered of how it looks.

A limb keeps its length and shortens only as the camera sees it foreshortened.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, Final

import cv2
import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.limbs import Limb, Spot
from guide_arc.capture.tracking.looks import LONG, WIDE, Numbers, StripLooks, Window

Picture = NDArray[np.uint8]
Degrees = NDArray[np.float64]

# Strips are cut out at these turns; a limb looks the same for about twice as much.
STEP_DEG: Final = 3.0
ANGLES_DEG: Final = np.arange(0.0, 360.0, STEP_DEG)
# Of the length that was marked: a limb may have been marked foreshortened, too.
LENGTHS: Final = np.array([0.45, 0.62, 0.78, 0.90, 1.0, 1.12])

# How far along the limb its strip is looked at, as shares of its length.
_SHARES: Final = np.linspace(0.06, 1.10, LONG, dtype=np.float32)[None, None, :, None]
# Movement distinguishes limbs away from the joint that they share.
_MIDDLE: Final = np.linspace(0.3, 1.0, LONG, dtype=np.float32)
# How many looks are learned at most, and how far from its angle one holds: then other things are
# behind it.
_MOST: Final = 24
_HOLDS_DEG: Final = 30.0
# A parabola that bends less has no peak.
_SHARPEST: Final = 1e-6


@dataclass(frozen=True, eq=False)
class Strip:
    """The measures of a limb's strip, in pixels of the worked picture."""

    limb: Limb
    long: float

    @cached_property
    def _across(self) -> Numbers:
        """How far off its middle the strip is compared."""
        half = self.limb.wide * self.long
        out: Numbers = np.linspace(-half, half, WIDE, dtype=np.float32)[None, None, None, :]
        return out

    def windows(
        self, picture: Picture, pivot: Spot, angles_deg: Degrees, lengths: Degrees
    ) -> Window:
        """(A, S, LONG, WIDE, 3) the pixels of the strip at every angle and length around a
        pivot."""
        out: Window = self.windows_about(picture, np.asarray(pivot)[None], angles_deg, lengths)[0]
        return out

    def windows_about(
        self, picture: Picture, pivots: Degrees, angles_deg: Degrees, lengths: Degrees
    ) -> Window:
        """(P, A, S, LONG, WIDE, 3) the same about several pivots, (P, 2)."""
        turn = np.radians(np.asarray(angles_deg, dtype=np.float32))[:, None, None, None]
        along = np.asarray(lengths, dtype=np.float32)[None, :, None, None] * self.long * _SHARES
        cos, sin = np.cos(turn), np.sin(turn)
        here = np.asarray(pivots, dtype=np.float32)[:, :, None, None, None, None]
        x = here[:, 0] + (cos * along - sin * self._across)
        y = here[:, 1] + (sin * along + cos * self._across)
        shape = x.shape
        seen = cv2.remap(
            picture,
            x.reshape(-1, WIDE),
            y.reshape(-1, WIDE),
            cv2.INTER_LINEAR,
            borderMode=cv2.BORDER_REPLICATE,
        )
        out: Window = seen.reshape(*shape[:3], LONG, WIDE, 3)
        return out

    def moved(self, moved: Picture, pivot: Spot, angles_deg: Degrees, lengths: Degrees) -> Numbers:
        """(A, S) the share of the limb's middle in which something moved, 0 to 1, at every angle
        and length.

        moved : of half the picture's size, as `behind.Behind.moved` says it
        """
        turn = np.radians(np.asarray(angles_deg, dtype=np.float32))[:, None, None]
        along = np.asarray(lengths, dtype=np.float32)[None, :, None] * self.long * _MIDDLE
        x = 0.5 * (np.float32(pivot[0]) + np.cos(turn) * along) - 0.25
        y = 0.5 * (np.float32(pivot[1]) + np.sin(turn) * along) - 0.25
        seen = cv2.remap(moved, x.reshape(-1, LONG), y.reshape(-1, LONG), cv2.INTER_NEAREST)
        out: Numbers = seen.mean(axis=1, dtype=np.float32).reshape(x.shape[:2]) / np.float32(255.0)
        return out

    def moved_then(self, moved: Picture, pivot: Spot, angle_deg: float, length: float) -> Numbers:
        """(N,) the same at one angle and length in several pictures, (N, H, W)."""
        turn = np.radians(np.float32(angle_deg))
        along = np.float32(length * self.long) * _MIDDLE
        x = np.rint(0.5 * (np.float32(pivot[0]) + np.cos(turn) * along) - 0.25).astype(int)
        y = np.rint(0.5 * (np.float32(pivot[1]) + np.sin(turn) * along) - 0.25).astype(int)
        _count, high, wide = moved.shape
        inside = (x >= 0) & (x < wide) & (y >= 0) & (y < high)
        seen = moved[:, y[inside], x[inside]]
        out: Numbers = seen.sum(axis=1, dtype=np.float32) / np.float32(255.0 * LONG)
        return out


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

    def root_fits(self, seen: StripLooks) -> Numbers:
        """How well strips fit what the coach marked, by their shape."""
        return _best(self.roots, seen).reshape(seen.shape)

    def learned_fits(self, seen: StripLooks, angles_deg: Degrees, since: int) -> Numbers:
        """(A, S) how well strips at some angles fit what was learned near those angles, -1 to 1.
        since : how many of the learned are left out, the first ones"""
        turns = np.array(self.turns_deg[since:])
        holds = np.abs(apart_deg(angles_deg[:, None], turns)) < _HOLDS_DEG
        here = np.flatnonzero(holds.any(axis=0))
        if not len(here):
            return np.full(seen.shape, -1.0, dtype=np.float32)
        never = np.where(holds[:, here], 0.0, -2.0).astype(np.float32)
        never = np.repeat(never.T, seen.shape[1], axis=1)
        best = _best([self.learned[since + i] for i in here], seen, never).reshape(seen.shape)
        return np.maximum(best, np.float32(-1.0))


def _best(looks: list[Numbers], seen: StripLooks, less: Numbers | None = None) -> Numbers:
    """(N,) how well strips fit the best of some looks; less : (L, N) what is taken off"""
    fits = seen.like(np.stack(looks))
    if less is not None:
        fits += less
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
    return 0.0 if abs(bend) < _SHARPEST else min(max(0.5 * (a - c) / bend, -0.5), 0.5)
