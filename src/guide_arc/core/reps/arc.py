"""How a measure changes along the way that a movement is meant to take: a hand that goes along its
arc at an even pace does not bend the elbow at one."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array

# Beyond its ends the arc goes on straight for so many times its length.
_BEYOND: Final = 3.0


@dataclass(frozen=True, eq=False)
class Arc:
    """level_deg : (K,) the measure at even shares of the way, rising all along"""

    level_deg: Array

    @cached_property
    def _table(self) -> tuple[Array, Array, Array]:
        """Shares of the way, the measure there, and how fast it rises there."""
        share = np.linspace(0.0, 1.0, len(self.level_deg))
        slope = np.gradient(self.level_deg, share)
        first, last = self.level_deg[0], self.level_deg[-1]
        return (
            np.concatenate(([-_BEYOND], share, [1.0 + _BEYOND])),
            np.concatenate(
                ([first - _BEYOND * slope[0]], self.level_deg, [last + _BEYOND * slope[-1]])
            ),
            np.concatenate((slope[:1], slope, slope[-1:])),
        )

    def share(self, level_deg: Array) -> Array:
        """How far along the way a measure is."""
        share, level, _slope = self._table
        out: Array = np.interp(level_deg, level, share)
        return out

    def level(self, share: Array) -> Array:
        """The measure at a share of the way."""
        shares, level, _slope = self._table
        out: Array = np.interp(share, shares, level)
        return out

    def slope(self, share: Array) -> Array:
        """Degrees by the whole way, at a share of it."""
        shares, _level, slope = self._table
        out: Array = np.interp(share, shares, slope)
        return out


def arc_of(level_deg: Array, least_share: float) -> Arc:
    """The arc of a measure that rises along the way; an even one if it nearly stops somewhere (less
    than a share of its usual speed): moments could not be distinguished from it there."""
    rise = np.diff(level_deg)
    known = np.isfinite(rise).all() and rise.mean() > 0.0
    return Arc(level_deg) if known and rise.min() >= least_share * rise.mean() else EVEN


EVEN: Final = Arc(np.array([0.0, 90.0, 180.0]))
