"""The load of a kit on a recorded set, frame by frame and lift by lift."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.vectors import Array, length, span_of, unit
from guide_arc.core.mechanics.kit import (
    GRAVITY,
    HANDS_WIDTH_M,
    Band,
    Cable,
    FreeWeight,
    Kit,
    force_on,
)
from guide_arc.core.mechanics.path_load import arm_of, trunk_frame, working_joint
from guide_arc.core.mechanics.statics import (
    ArmLoad,
    ArmPoints,
    Curve,
    Joint,
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
# Minimum samples of a lift, and the order of the polynomial fitted to it, for its accelerations.
_FEWEST: Final = 12
_ORDER: Final = 6
_NEEDED: Final = ("shoulder", "elbow", "wrist")


@dataclass(frozen=True, eq=False)
class RecordedLoad:
    """loads : by arm that works; seen : (T,) frames in which an arm's landmarks are there; curves :
    of each rep's lift
    against_u_nm : (T,) standard uncertainty of each arm's `against_nm`, from the landmarks and from
        the kit's place
    momentum_pct : of each lift, the largest part of the kit's force that speeds it up or slows it
        down, in percent of what it weighs at the hand; NaN for kit whose mass does not go with the
        hand"""

    time_s: Array
    loads: Mapping[Side, ArmLoad]
    seen: Mapping[Side, Array]
    curves: tuple[tuple[Rep, Curve], ...]
    against_u_nm: Mapping[Side, Array]
    momentum_pct: tuple[float, ...]


def recorded_load(
    body: Body, repset: RepSet, standard: Standard, kit: Kit, body_kg: float | None = None
) -> RecordedLoad:
    """The load on a recorded set. Raises BadInput for a picture, which does not show forces in
    space."""
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
    u_nm: dict[Side, Array] = {}
    for side, arm in arms.items():
        sign = _sign(body.time_s, repset, side)
        share[side] = _share(body, standard, side)
        axis = _axis(arm, frame, body.time_s, sign, joint, standard)
        way = _way(arm, body.time_s, sign)
        own = {s: a.grip for s, a in arms.items()} if together else {side: arm.grip}
        force = force_on(kit, own, share[side], dict.fromkeys(own, way), sign)[side]
        loads[side] = load_of(arm, force, axis, joint, body_kg)
        seen[side] = np.logical_and.reduce(
            [np.isfinite(points[f"{side}_{part}"]).all(axis=1) for part in _NEEDED]
        ) & np.isfinite(force).all(axis=1)
        u_nm[side] = _u_nm(body, side, arm, joint, force, kit)
    momentum = tuple(_momentum_pct(rep, body.time_s, arms, kit) for rep in repset.reps)
    curves = tuple((rep, _curve(rep, body, standard, loads, share)) for rep in repset.reps)
    return RecordedLoad(body.time_s, loads, seen, curves, u_nm, momentum)


def _u_nm(body: Body, side: Side, arm: ArmPoints, joint: Joint, force: Array, kit: Kit) -> Array:
    """(T,) how unsure the moment is: the force on an uncertain lever, and a line that may start a
    hand's width off."""
    about = arm.elbow if joint == "elbow" else arm.shoulder
    size = length(force)
    sigma = np.hypot(body.cleaned.sigma(f"{side}_wrist"), body.cleaned.sigma(f"{side}_{joint}"))
    u: Array = size * sigma
    spots = (
        kit.pulley_m if isinstance(kit, Cable) else kit.anchor_m if isinstance(kit, Band) else None
    )
    if spots is not None:
        far = np.maximum(length(np.asarray(spots[side]) - arm.grip), HANDS_WIDTH_M)
        # A hand's width is two standard uncertainties.
        u = np.hypot(u, size * length(arm.grip - about) * 0.5 * HANDS_WIDTH_M / far)
    return u


def _momentum_pct(rep: Rep, time_s: Array, arms: Mapping[Side, ArmPoints], kit: Kit) -> float:
    """Newton's second law on the kit's mass: a free weight moves with the hand, a stack with its
    cable, slower by the pulley ratio. The mass itself falls out of the share."""
    if not isinstance(kit, FreeWeight | Cable):
        return float("nan")
    slower = kit.ratio if isinstance(kit, Cable) else 1.0
    window = span_of(time_s, rep.lift.start_s, rep.lift.end_s)
    found = []
    for side, arm in arms.items():
        if rep.side not in (side, "both") or window.stop - window.start < _FEWEST:
            continue
        if isinstance(kit, Cable):
            place = length(arm.grip[window] - np.asarray(kit.pulley_m[side]))[:, None]
        else:
            place = arm.grip[window]
        # A smooth course through the lift: its second derivative is not made of single frames.
        at = time_s[window] - time_s[window].mean()
        fit = np.polynomial.polynomial.polyfit(at, place, _ORDER)
        rate = np.polynomial.polynomial.polyder(fit, 2)
        speeding = np.linalg.norm(np.polynomial.polynomial.polyval(at, rate).T, axis=-1)
        found.append(100.0 * float(speeding.max()) / (GRAVITY * slower))
    return max(found, default=float("nan"))


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


def _axis(
    arm: ArmPoints, frame: Array, time_s: Array, sign: Array, joint: str, standard: Standard
) -> Array:
    if joint == "elbow":
        return elbow_axis(arm, standard.range.direction)
    upper = np.einsum("tij,tj->ti", frame, arm.elbow - arm.shoulder)
    return shoulder_axis(upper, frame, time_s, sign)


def _way(arm: ArmPoints, time_s: Array, sign: Array) -> Array:
    """(T, 3) the hand's direction in the lift; if it does not move, the direction of the sample
    before."""
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
    angle_deg = asked.from_deg + of * (asked.to_deg - asked.from_deg)
    # A lift that begins below the range or goes past it is at the range's start or end there.
    return curve_of(np.clip(of, 0.0, 1.0), angle_deg, against)
