"""A reviewed set: the review with the body and the drives it was computed from, and what follows
from them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Self

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.guide import arm_path
from guide_arc.core.kinematics.path import PARTS, Departure, Part, departure
from guide_arc.core.mechanics.off_plane import off_plane_in_picture
from guide_arc.core.mechanics.pull import Pull, pull_of
from guide_arc.core.model.figures import SetFigures
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.quantity import Quantity, Series
from guide_arc.core.model.review import Review
from guide_arc.core.model.settings import Settings
from guide_arc.core.planning.history import NO_PAST, Past
from guide_arc.core.reps.segment import RepSet
from guide_arc.core.review.assess import context_of, review_body
from guide_arc.core.review.figures import figures_of
from guide_arc.core.review.flat_lift import lies_flat
from guide_arc.core.review.load_course import load_course
from guide_arc.core.review.together import together

Points = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class ReviewedSet:
    """One recording reviewed against one standard. Everything else is computed on first use and
    cached.

    past : what is known of the client, also used for the next dose
    others : the reviews of the same set's recordings from other sides; what they show is in
        `review`
    """

    review: Review
    body: Body
    repset: RepSet
    past: Past = NO_PAST
    others: tuple[Review, ...] = ()

    def with_settings(self, settings: Settings) -> Self:
        """The same recording reviewed again with what the coach changed by hand."""
        review = self.review
        again, body, repset = review_body(
            self.body, review.standard, review.tempo, settings, past=self.past
        )
        if self.others:
            load_kg = body.cleaned.track.facts.load_kg
            again = together(again, self.others, load_kg, self.past)
        return type(self)(again, body, repset, self.past, self.others)

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
    def guide(self) -> dict[str, Points]:
        """Elbow and wrist along the standard's guide arc, from the shoulder, upper-arm lengths."""
        return arm_path(self.review.standard)

    @cached_property
    def pulls(self) -> dict[Side, Pull | None]:
        """The line of pull at each hand over time."""
        return {side: pull_of(self.body, self.review.standard, side) for side in SIDES}

    @cached_property
    def loads(self) -> dict[Side, Series]:
        """What the kit asks of each arm's working joint over time, where its line of pull is known
        and a picture shows the lift as it is."""
        plan, view = self.review.standard, self.body.cleaned.track.view
        if view != "none" and not lies_flat(plan, view):
            return {}
        arms = len({r.side for r in self.review.reps if r.side != "both"}) or 2
        together = 2 if any(r.side == "both" for r in self.review.reps) else 1
        kg = self.body.cleaned.track.facts.load_kg
        return {
            side: load_course(self.body, plan, side, pull, kg, min(arms, together))
            for side, pull in self.pulls.items()
            if pull is not None
        }

    @cached_property
    def off_plane(self) -> dict[Side, Quantity]:
        """How far a marked cable runs off the plane of the arm's way, in a picture that shows
        it."""
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
        arm = body.learned.upper_arm_m[side]
        return {
            part: shoulder + (points * mirror * arm) @ axes for part, points in self.guide.items()
        }
