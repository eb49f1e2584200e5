"""The measured body: each measure over time with its uncertainty, computed once when asked.

Uncertainties follow from the landmark noise by the measure's own derivatives (first-order
propagation, JCGM 100:2008, 5.1.2), with a stated term for what a picture's plane leaves out.
"""

from __future__ import annotations

from dataclasses import replace
from functools import cache, cached_property
from typing import Final

import numpy as np

from guide_arc.core.kinematics.cleaning import CleanTrack
from guide_arc.core.kinematics.in_picture import aside_u, in_picture
from guide_arc.core.kinematics.learned import Learned
from guide_arc.core.kinematics.measures.registry import (
    all_measures,
    full_name,
    measures,
    own_sign,
)
from guide_arc.core.kinematics.measures.shoulder_hike import ear_gap
from guide_arc.core.kinematics.measures.spec import MeasureSpec
from guide_arc.core.kinematics.propagation import Propagate, no_doubt, propagated
from guide_arc.core.kinematics.quiet import quietest_second
from guide_arc.core.kinematics.rules import PICTURE
from guide_arc.core.kinematics.trunk import Points, trunk
from guide_arc.core.kinematics.vectors import Array, Flags, median, seen_median, unit
from guide_arc.core.kinematics.views import near_side, shows
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.quantity import Series

# Derivatives change slowly: they are taken this often and drawn out between.
_DERIVATIVE_EVERY_S: Final = 0.25
_STEP_M: Final = 1e-4


class Body:
    """All measures of a cleaned track.

    first_lift_s : when the first lift starts; shoulder hike counts from the quietest second
        before it. None when there is no lift: the hike then stays empty.
    propagate : gives the uncertainty of a formula of the landmarks
    """

    def __init__(
        self,
        cleaned: CleanTrack,
        first_lift_s: float | None = None,
        propagate: Propagate = propagated,
    ) -> None:
        self.cleaned = cleaned
        self.first_lift_s = first_lift_s
        self._propagate = propagate
        self._done: dict[str, Series] = {}
        self._local: dict[tuple[str, Side], Array] = {}
        self._lost: dict[str, Flags] = {}
        self.kept: dict[object, object] = {}

    @property
    def time_s(self) -> Array:
        return self.cleaned.time_s

    @cached_property
    def step_s(self) -> float:
        """The usual time between two frames."""
        return median(np.diff(self.time_s))

    def counted_from(self, first_lift_s: float | None) -> Body:
        """The same body with its shoulder hike counted from before this lift."""
        other = Body(self.cleaned, first_lift_s, self._propagate)
        other._done = {n: s for n, s in self._done.items() if not n.endswith("shoulder_hike")}
        other._local = self._local
        other._lost = self._lost
        other.kept = self.kept
        for kept in ("points", "trunk_frame", "learned"):
            other.__dict__[kept] = getattr(self, kept)
        return other

    @cached_property
    def points(self) -> Points:
        """Every body landmark by name, (T, 3). In a side view the hidden shoulder, hip and ear take
        the place of the near one in frames in which the tracker does not give them."""
        names = dict.fromkeys((*_all_parts(), *self.cleaned.names))
        out = {name: self.cleaned.point(name) for name in names}
        near = near_side(self.cleaned.track.view)
        if near:
            far = "right" if near == "left" else "left"
            for part in ("shoulder", "hip", "ear"):
                hidden, seen = out[f"{far}_{part}"], out[f"{near}_{part}"]
                # The breadth of a side view is a usual one about the middle: mirrored, it stays so.
                mirrored = seen * np.array([-1.0, 1.0, 1.0])
                if not np.isnan(hidden).any():
                    continue
                # One that comes and goes would jump against the near one: that replaces it in all
                # frames.
                used = np.isfinite(mirrored[:, 1]) | np.isnan(hidden[:, 1])
                out[f"{far}_{part}"] = np.where(used[:, None], mirrored, hidden)
        return out

    @cached_property
    def learned(self) -> Learned:
        """What is learned of the body over the whole set."""
        return Learned(self.cleaned, self.points)

    @property
    def trunk_m(self) -> Array:
        """(T,) mid-hips to mid-shoulders."""
        return self.learned.trunk_m

    def shows(self, measure: str, side: Side | None) -> bool:
        """Whether the view can show it and its landmarks were ever seen."""
        side = side if measures()[measure].per_side else None
        return (
            shows(self.cleaned.track.view, measure, side)
            and self.learned.seen.issuperset(measures()[measure].points(side))
            and (self.learned.trunk_is_seen or not measures()[measure].along_trunk)
        )

    def lost(self, measure: str, side: Side | None) -> Flags:
        """(T,) where a landmark of a measure was not seen, for longer than is drawn through."""
        side = side if measures()[measure].per_side else None
        name = full_name(measure, side)
        if name not in self._lost:
            out = np.zeros(len(self.time_s), dtype=bool)
            for part in measures()[measure].points(side):
                out |= np.isnan(self.points[part]).any(axis=1)
            self._lost[name] = out
        return self._lost[name]

    def points_at_camera(self, measure: str) -> bool:
        """Whether a measure can't be seen because the trunk that it is counted along points at the
        camera."""
        return measures()[measure].along_trunk and not self.learned.trunk_is_seen

    def measure(self, measure: str, side: Side | None = None) -> Series:
        """One measure over time; empty (all NaN) where the recording can't show it. The trunk has
        no side."""
        side = side if measures()[measure].per_side else None
        name = full_name(measure, side)
        if name not in self._done:
            self._done[name] = self._compute(measures()[measure], side, name)
        return self._done[name]

    def driven(self, measure: str, side: Side) -> Series:
        """A driving measure as one arm's own: the trunk's turned to its side, and a shrug counted
        from the lowest shoulder of the whole recording as long as no first lift is known."""
        if measure == "shoulder_hike" and self.first_lift_s is None:
            return self._rise(side)
        series = self.measure(measure, side)
        if own_sign(measure, side) > 0:
            return series
        return Series(series.name, series.unit, -series.value, series.u)

    def unsmoothed(self, measure: str, side: Side) -> Array | None:
        """(T,) a driving measure of landmarks as they came, but for outliers and gaps: noisier than
        `driven`, and not rounded where a movement begins. None if they are not known."""
        bridged = self.cleaned.bridged
        if bridged is None:
            return None
        other = Body(replace(self.cleaned, position=bridged), self.first_lift_s, no_doubt)
        other.__dict__["learned"] = self.learned
        return other.driven(measure, side).value

    def _rise(self, side: Side) -> Series:
        name = f"{side} rise"
        if name not in self._done:
            wanted = {n: self.points[n] for n in measures()["shoulder_hike"].points(side)}
            gap = ear_gap(wanted, side)
            u = self._propagate(self.cleaned, wanted, lambda p: ear_gap(p, side), 0.0)
            trunk_m = seen_median(self.trunk_m)
            lowest = float(np.nanpercentile(gap, 95))
            value = 100.0 * (lowest - gap) / trunk_m
            self._done[name] = Series(name, "pct", value, 100.0 * u / trunk_m)
        return self._done[name]

    def _compute(self, definition: MeasureSpec, side: Side | None, name: str) -> Series:
        empty = np.full(len(self.time_s), np.nan)
        if not self.shows(definition.name, side):
            return Series(name, definition.unit, empty, empty)
        view = self.cleaned.track.view
        flat = view != "none"
        formula = definition.formula
        if flat and definition.flat_formula is not None:
            formula = definition.flat_formula
        wanted = {n: self.points[n] for n in definition.points(side)}
        args = (side,) if side else ()
        value = formula(wanted, *args)
        joint_u_m = definition.joint_share * self.learned.joint_u_m
        u = self._propagate(self.cleaned, wanted, lambda p: formula(p, *args), joint_u_m)
        if definition.of_length == "trunk":
            value, u = self._as_hike(value, u)
        elif definition.of_length == "upper-arm" and side:
            arm = self.learned.upper_arm_m[side]
            value, u = 100.0 * value / arm, 100.0 * u / arm
        if flat and side and definition.foreshortened:
            value, u = in_picture(
                definition.name, side, wanted, value, u, learned=self.learned, view=view
            )
        if definition.name == "trunk_lean":
            value = self.cleaned.aside.unfolded(value)
        if flat:
            out = definition.out_of_plane_u
            u = np.hypot(u, np.hypot(out, aside_u(self.cleaned.aside, view, definition)))
            roll = self.cleaned.roll
            if roll is not None and definition.against_vertical:
                u = np.hypot(u, roll.u_deg)
        return Series(name, definition.unit, value, np.where(np.isfinite(value), u, np.nan))

    def change_u(self, measure: str, side: Side | None = None) -> Array:
        """(T,) the uncertainty of what a measure changed by within the set: where the camera stood,
        how the body is built and where a model puts its joints are the same all along, and drop
        out. Degrees."""
        definition = measures()[measure]
        flat = self.cleaned.track.view != "none"
        side = side if definition.per_side else None
        wanted = {n: self.points[n] for n in definition.points(side)}
        args = (side,) if side else ()
        own = self._propagate(self.cleaned, wanted, lambda p: definition.formula(p, *args), 0.0)
        out: Array = np.hypot(np.sqrt(2.0) * own, PICTURE.change_u_deg if flat else 0.0)
        return out

    @cached_property
    def quiet(self) -> slice | None:
        """The frames of the quietest second before the first lift; None without one."""
        if self.first_lift_s is None:
            return None
        return quietest_second(self.points, self.time_s, self.step_s, self.first_lift_s)

    def _as_hike(self, gap: Array, u: Array) -> tuple[Array, Array]:
        """Ear gaps in metres to percent of the trunk, counted from the quiet second."""
        quiet = self.quiet
        if quiet is None or not np.isfinite(gap[quiet]).any():
            return np.full_like(gap, np.nan), np.full_like(u, np.nan)
        rest = seen_median(gap[quiet])
        trunk_m = seen_median(self.trunk_m[quiet])
        rest_u = seen_median(u[quiet]) / 2.0
        return 100.0 * (rest - gap) / trunk_m, 100.0 * np.hypot(u, rest_u) / trunk_m

    @cached_property
    def trunk_frame(self) -> Array:
        """(T, 3, 3) rows: to the left, up, ahead. In a side view `left` is its normal."""
        up = unit(trunk(self.points))
        view = self.cleaned.track.view
        if view in ("left", "right"):
            left = np.broadcast_to(np.array([1.0, 0.0, 0.0]), up.shape)
        elif view in ("front", "back"):
            ahead = np.broadcast_to(np.array([0.0, 0.0, 1.0]), up.shape)
            left = np.cross(up, ahead)
        else:
            line = self.points["left_shoulder"] - self.points["right_shoulder"]
            left = unit(line - np.einsum("ti,ti->t", line, up)[:, None] * up)
        return np.stack((left, up, np.cross(left, up)), axis=1)

    def in_trunk(self, name: str, side: Side) -> Array:
        """(T, 3) of a landmark from that side's shoulder: out to its side, up, ahead; metres."""
        if (name, side) not in self._local:
            offset = self.points[name] - self.points[f"{side}_shoulder"]
            local: Array = np.einsum("tij,tj->ti", self.trunk_frame, offset)
            if side == "right":
                local = local * np.array([-1.0, 1.0, 1.0])
            self._local[(name, side)] = local
        return self._local[(name, side)]


@cache
def _all_parts() -> tuple[str, ...]:
    """The landmarks that any measure rests on."""
    parts = (p for name, side in all_measures() for p in measures()[name].points(side))
    return (*dict.fromkeys(parts), "nose")
