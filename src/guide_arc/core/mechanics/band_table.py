"""A band measured by hanging weights on it: its length at each, and the table of forces that
follows."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

from guide_arc.core.mechanics.kit import GRAVITY
from guide_arc.core.model.errors import BadInput

_FEWEST = 2


@dataclass(frozen=True)
class MeasuredBand:
    """rest_m : its length with nothing on it; table : (stretch in metres, newtons), rising"""

    rest_m: float
    table: tuple[tuple[float, float], ...]

    @property
    def newton_per_m(self) -> float:
        """Its mean stiffness over what was measured: the straight line through no stretch and no
        force that misses the table least (sum of squares)."""
        return sum(x * f for x, f in self.table) / sum(x * x for x, _f in self.table)

    @property
    def straight_to_pct(self) -> float:
        """How far the table leaves that line at most, in percent of its largest force."""
        most = max(f for _x, f in self.table)
        return 100.0 * max(abs(f - self.newton_per_m * x) for x, f in self.table) / most


def measured_band(rest_m: float, hung: Sequence[tuple[float, float]]) -> MeasuredBand:
    """A band from what was hung on it. hung : (kilograms, length in metres) in any order

    Raises BadInput if it gets shorter under more weight, or is not longer than at rest.
    """
    if rest_m <= 0:
        raise BadInput("the length with nothing on it is missing")
    if len(hung) < _FEWEST:
        raise BadInput("hang at least two weights: one does not show how it stiffens")
    rows = sorted(hung)
    for kg, length_m in rows:
        if kg <= 0:
            raise BadInput(f"{kg:g} kg is no weight to hang")
        if length_m <= rest_m:
            raise BadInput(
                f"under {kg:g} kg it is {100 * length_m:g} cm long, no more than the"
                f" {100 * rest_m:g} cm at rest"
            )
    for (a, at), (b, longer) in itertools.pairwise(rows):
        if a == b:
            raise BadInput(f"{a:g} kg is given twice")
        if longer <= at:
            raise BadInput(
                f"under {b:g} kg it is {100 * longer:g} cm long, and under {a:g} kg already"
                f" {100 * at:g} cm"
            )
    return MeasuredBand(rest_m, tuple((m - rest_m, kg * GRAVITY) for kg, m in rows))
