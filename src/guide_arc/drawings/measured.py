"""A set that was measured: what the drawings look things up in."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.guide import arm_path
from guide_arc.core.kinematics.path import PARTS, Departure, Part, departure
from guide_arc.core.kinematics.views import near_side
from guide_arc.core.mechanics.off_plane import off_plane_in_picture
from guide_arc.core.mechanics.pull import Pull, pull_of
from guide_arc.core.model.figures import SetFigures
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.review import Review
from guide_arc.core.model.settings import Settings
from guide_arc.core.reps.segment import RepSet
from guide_arc.core.review.assess import context_of, review_body
from guide_arc.core.review.figures import figures_of
from guide_arc.drawings.dial import Ring, rings_of
from guide_arc.drawings.figure import Looking
from guide_arc.drawings.ribbon import Track
from guide_arc.drawings.shapes import Points


@dataclass(frozen=True, eq=False)
class Measured:
    """A review with the body and the drives it was computed from."""

    review: Review
    body: Body
    repset: RepSet

    def with_settings(self, settings: Settings) -> Measured:
        """The same recording reviewed anew with what the coach changed by hand."""
        review = self.review
        return Measured(*review_body(self.body, review.standard, review.tempo, settings))

    @cached_property
    def figures(self) -> SetFigures:
        """Every rep's figures and their trends: computed when first asked for."""
        review = self.review
        return figures_of(context_of(self.body, self.repset, review.standard, review.tempo))

    @cached_property
    def departures(self) -> dict[tuple[Side, Part], Departure]:
        """Elbow and hand against the guide arc, for the arms whose elevation is seen."""
        return {
            (side, part): departure(self.body, self.review.standard, side, part)
            for side in SIDES
            for part in PARTS
            if self.body.shows("shoulder_elevation", side) and self.review.side in ("both", side)
        }

    @property
    def time_s(self) -> Points:
        return self.body.time_s

    def index(self, at_s: float) -> int:
        """The frame that is on at a time."""
        i = int(np.searchsorted(self.time_s, at_s + 1e-9, side="right")) - 1
        return int(np.clip(i, 0, len(self.time_s) - 1))

    def pose(self, at_s: float) -> dict[str, Points]:
        """Every landmark at a time, (3,) each."""
        i = self.index(at_s)
        return {name: points[i] for name, points in self.body.points.items()}

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
        """The arm that the stage speaks of: the working one, nearest to the viewer."""
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

    @cached_property
    def guide(self) -> dict[str, Points]:
        """Elbow and wrist along the standard's guide arc, from the shoulder, upper-arm lengths."""
        return arm_path(self.review.standard)

    @cached_property
    def pulls(self) -> dict[Side, Pull | None]:
        """The line of pull at each hand over time."""
        return {side: pull_of(self.body, self.review.standard, side) for side in SIDES}

    @cached_property
    def off_plane(self) -> dict[Side, Quantity]:
        """How far a marked cable runs off the plane of the arm's way, in a picture that shows it."""
        out: dict[Side, Quantity] = {}
        for side, pull in self.pulls.items():
            lifts = [r.lift for r in self.review.reps if r.side in (side, "both")]
            found = off_plane_in_picture(self.body, self.review.standard, side, pull, lifts)
            if found is not None:
                out[side] = found
        return out

    def guide_in_space(self, side: Side, index: int) -> dict[str, Points]:
        """(N, 3) the guide arc hung on the shoulder as it is at a frame."""
        body = self.body
        shoulder = body.points[f"{side}_shoulder"][index]
        axes = body.trunk_frame[index]
        mirror = np.array([1.0 if side == "left" else -1.0, 1.0, 1.0])
        arm = body.upper_arm_m[side]
        return {
            part: shoulder + (points * mirror * arm) @ axes for part, points in self.guide.items()
        }
