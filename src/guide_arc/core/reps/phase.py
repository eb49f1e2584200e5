"""Where in a rep a moment is, so that reps of any tempo can be placed over each other.

The position counts 0 to 1 over the lift, 1 to 2 over the top hold, 2 to 3 over the lower and 3 to 4
over the bottom hold.
"""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.rep import Rep


def _edges(rep: Rep) -> list[float]:
    end = rep.bottom_hold.end_s if rep.bottom_hold else rep.lower.end_s
    return [rep.lift.start_s, rep.lift.end_s, rep.lower.start_s, rep.lower.end_s, end]


def position_at(rep: Rep, at_s: float) -> float:
    """The position of a moment in a rep, held at its ends."""
    edges = _edges(rep)
    for k in (0, 1, 2, 3):
        if at_s <= edges[k + 1] and edges[k + 1] > edges[k]:
            return k + max(at_s - edges[k], 0.0) / (edges[k + 1] - edges[k])
    return 3.0 if rep.bottom_hold is None else 4.0


def moments(rep: Rep, position: Array) -> Array:
    """(N,) seconds of positions in a rep."""
    out: Array = np.interp(position, np.arange(5.0), _edges(rep))
    return out


def even_positions(count: int) -> Array:
    """(2 * count,) positions evenly over the lift and then over the lower."""
    way = np.linspace(0.0, 1.0, count)
    return np.concatenate((way, 2.0 + way))
