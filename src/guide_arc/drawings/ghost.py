"""Another rep placed over the figure: the pose at the same point of its lift or lower."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from guide_arc.core.kinematics.trunk import middle
from guide_arc.core.kinematics.vectors import length
from guide_arc.core.model.rep import Rep
from guide_arc.core.reps.phase import moments, position_at
from guide_arc.drawings.shapes import Points
from guide_arc.drawings.shown_set import ShownSet


@dataclass(frozen=True, eq=False)
class Ghost:
    """A rep of this set or of another one.

    words : what it is called on the stage; own : whether it is of the set that is open
    set_id : the other set's, if it is from one
    """

    measured: ShownSet
    rep: Rep
    words: str
    own: bool
    set_id: int | None = None

    def at(self, onto: ShownSet, at_s: float) -> float | None:
        """The moment of the ghost's rep that matches a moment of the open set, by rep and phase;
        None outside the reps."""
        rep = onto.review.rep_at(at_s)
        if rep is None:
            return None
        return float(moments(self.rep, np.array([position_at(rep, at_s)]))[0])

    def pose(self, onto: ShownSet, at_s: float) -> dict[str, Points] | None:
        """Every landmark of the ghost at the moment of its rep that matches a moment of the open
        set, on the same hips and as large; None outside the reps or where no trunk is seen."""
        there = self.at(onto, at_s)
        if there is None:
            return None
        pose, here = self.measured.pose(there), onto.pose(at_s)
        hips, own_hips = middle(pose, "hip"), middle(here, "hip")
        size = _trunk(onto) / max(_trunk(self.measured), 1e-6)
        if not np.isfinite(hips[1] + own_hips[1] + size):
            return None
        return {name: own_hips + size * (point - hips) for name, point in pose.items()}


def usual_rep(measured: ShownSet) -> Rep | None:
    """The full rep whose range is nearest to the set's median: the rep that represents the set."""
    full = [r for r in measured.review.reps if r.full] or list(measured.review.reps)
    if not full:
        return None
    sizes = [abs(r.to_deg - r.from_deg) for r in full]
    middle = float(np.median(sizes))
    return min(zip(full, sizes, strict=True), key=lambda pair: abs(pair[1] - middle))[0]


def _trunk(measured: ShownSet) -> float:
    """The usual length of the trunk: what makes two bodies as large."""
    points = measured.body.points
    trunk = length(middle(points, "shoulder") - middle(points, "hip"))
    seen = trunk[np.isfinite(trunk)]
    return float(np.median(seen)) if len(seen) else float("nan")
