"""The load of a kit on a recorded set, frame by frame and lift by lift."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.vectors import Array, span_of, unit
from guide_arc.core.mechanics.kit import Kit, force_on
from guide_arc.core.mechanics.path_load import arm_of, trunk_frame, working_joint
from guide_arc.core.mechanics.statics import (
    ArmLoad,
    ArmPoints,
    Curve,
    curve_of,
    elbow_axis,
    load_of,
    mean_of,
    shoulder_axis,
)
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import Standard
from guide_arc.core.reps.segment import RepSet

# What is looked at besides a review's own landmarks.
LANDMARKS: Final = tuple(
    f"{side}_{part}"
    for side in SIDES
    for part in ("index", "pinky", "handle", "wrist", "elbow", "shoulder", "hip")
)
_NEEDED: Final = ("shoulder", "elbow", "wrist")


@dataclass(frozen=True, eq=False)
class RecordedLoad:
    """loads : by arm that works; seen : (T,) frames in which an arm's landmarks are there; curves : of each rep's lift"""

    time_s: Array
    loads: Mapping[Side, ArmLoad]
    seen: Mapping[Side, Array]
    curves: tuple[tuple[Rep, Curve], ...]


def recorded_load(
    body: Body, repset: RepSet, standard: Standard, kit: Kit, body_kg: float | None = None
) -> RecordedLoad:
    """The load on a recorded set. Raises BadInput for a picture, which does not show forces in space."""
    if body.cleaned.track.view != "none":
        raise BadInput(
            "a picture does not show how far the kit stands; forces need a recording in space"
        )
    working = _working(repset)
    if not working:
        raise BadInput("no rep was found, and so no arm that works")
    joint = working_joint(standard)
    points = body.points
    frame = trunk_frame(points)
    arms = {side: arm_of(points, side) for side in working}
    together = any(rep.side == "both" for rep in repset.reps)
    loads: dict[Side, ArmLoad] = {}
    seen: dict[Side, Array] = {}
    share: dict[Side, Array] = {}
    for side, arm in arms.items():
        sign = _sign(body.time_s, repset, side)
        share[side] = _share(body, standard, side)
        axis = _axis(arm, frame, body.time_s, sign, joint, standard)
        way = _way(arm, body.time_s, sign)
        own = {s: a.grip for s, a in arms.items()} if together else {side: arm.grip}
        force = force_on(kit, own, share[side], dict.fromkeys(own, way))[side]
        loads[side] = load_of(arm, force, axis, joint, body_kg)
        seen[side] = np.logical_and.reduce(
            [np.isfinite(points[f"{side}_{part}"]).all(axis=1) for part in _NEEDED]
        ) & np.isfinite(force).all(axis=1)
    curves = tuple((rep, _curve(rep, body, standard, loads, share)) for rep in repset.reps)
    return RecordedLoad(body.time_s, loads, seen, curves)


def _working(repset: RepSet) -> tuple[Side, ...]:
    sides = {rep.side for rep in repset.reps}
    return tuple(side for side in SIDES if side in sides or "both" in sides)


def _sign(time_s: Array, repset: RepSet, side: Side) -> Array:
    """(T,) +1 while an arm lifts, -1 while it lowers, 0 between."""
    out = np.zeros(len(time_s))
    for rep in repset.reps:
        if rep.side in (side, "both"):
            out[span_of(time_s, rep.lift.start_s, rep.lift.end_s)] = 1.0
            out[span_of(time_s, rep.lower.start_s, rep.lower.end_s)] = -1.0
    return out


def _share(body: Body, standard: Standard, side: Side) -> Array:
    asked = standard.range
    drive = body.driven(standard.drive, side).value
    return (drive - asked.from_deg) / (asked.to_deg - asked.from_deg)


def _axis(  # noqa: PLR0913
    arm: ArmPoints, frame: Array, time_s: Array, sign: Array, joint: str, standard: Standard
) -> Array:
    if joint == "elbow":
        return elbow_axis(arm, standard.range.direction)
    upper = np.einsum("tij,tj->ti", frame, arm.elbow - arm.shoulder)
    return shoulder_axis(upper, frame, time_s, sign)


def _way(arm: ArmPoints, time_s: Array, sign: Array) -> Array:
    """(T, 3) the hand's direction in the lift; where it stands still, as it was before."""
    rate = np.gradient(arm.grip, time_s, axis=0) * np.where(sign == 0.0, 1.0, sign)[:, None]
    moving = (sign != 0.0) & np.isfinite(rate).all(axis=1) & (np.linalg.norm(rate, axis=1) > 1e-3)
    known = np.flatnonzero(moving)
    if not len(known):
        return np.full(rate.shape, np.nan)
    before = np.maximum(np.searchsorted(known, np.arange(len(rate)), side="right") - 1, 0)
    out: Array = unit(rate[known[before]])
    return out


def _curve(
    rep: Rep,
    body: Body,
    standard: Standard,
    loads: Mapping[Side, ArmLoad],
    share: Mapping[Side, Array],
) -> Curve:
    sides = [s for s in loads if rep.side in (s, "both")]
    lift = span_of(body.time_s, rep.lift.start_s, rep.lift.end_s)
    against = mean_of([loads[s].against_nm[lift] for s in sides])
    of = mean_of([share[s][lift] for s in sides])
    asked = standard.range
    return curve_of(of, asked.from_deg + of * (asked.to_deg - asked.from_deg), against)
