"""A reviewed set as it is drawn: the side it is seen from, what the picture must hold, rings and
ribbons."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.review.reviewed_set import ReviewedSet
from guide_arc.drawings.dial import Ring, rings_of
from guide_arc.drawings.figure import Looking
from guide_arc.drawings.ribbon import Track
from guide_arc.drawings.shapes import Points


@dataclass(frozen=True, eq=False)
class ShownSet(ReviewedSet):
    """A reviewed set with what its drawings share, each made once."""

    @cached_property
    def looking(self) -> Looking:
        """The side to look from: the camera's, or else the best one for the standard."""
        view = self.body.cleaned.track.view
        if view != "none":
            return view
        best = self.review.standard.views[0]
        if best in SIDES and self.review.side in SIDES:
            return "left" if self.review.side == "left" else "right"
        return best  # type: ignore[return-value]

    @property
    def can_turn(self) -> bool:
        """Only a recording in space can be looked at from another side."""
        return self.body.cleaned.track.view == "none"

    @cached_property
    def shown_side(self) -> Side:
        """The arm that the stage shows: the working one, nearest to the viewer."""
        if self.review.side in SIDES:
            return "left" if self.review.side == "left" else "right"
        near = near_side(self.looking)
        return near or "left"

    @cached_property
    def extent(self) -> Points:
        """(N, 3) what the picture must hold: the body while it works, and the guide's reach."""
        reps = self.review.reps
        start = reps[0].start_s - 0.5 if reps else self.time_s[0]
        end = reps[-1].end_s + 0.5 if reps else self.time_s[-1]
        inside = (self.time_s >= start) & (self.time_s <= end)
        every = max(1, int(inside.sum()) // 60)
        stack = [p[inside][::every] for p in self.body.points.values()]
        flat = np.concatenate(stack)
        flat = flat[np.isfinite(flat).all(axis=-1)]
        if not len(flat):
            return np.zeros((1, 3))
        low, high = np.percentile(flat, (0.5, 99.5), axis=0)
        head = high + np.array([0.0, 0.14, 0.0])
        return np.stack((low, head, flat.min(axis=0), np.minimum(flat.max(axis=0), high + 0.3)))

    @cached_property
    def rings(self) -> tuple[Ring, ...]:
        return rings_of(self.review, self.repset)

    @cached_property
    def tracks(self) -> tuple[Track, ...]:
        """The ribbon's lines: one for arms together, one per arm when they alternate."""
        out = []
        for side, drive in self.repset.drives.items():
            span = drive.intended
            share = (drive.lift_deg - span.direction * span.from_deg) / span.size_deg
            reps = tuple(r for r in self.review.reps if r.side == side)
            out.append(Track(side, drive.time_s, share, reps))
        return tuple(out)
