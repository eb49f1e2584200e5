"""The load along a standard's path: what a kit asks of the working joint from the start to the
turn."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.guide import arm_path
from guide_arc.core.kinematics.vectors import Array, angle_deg, unit
from guide_arc.core.mechanics.kit import (
    AnchoredBar,
    Band,
    BodyWeight,
    Cable,
    Chain,
    FreeWeight,
    Kit,
    Machine,
    force_on,
)
from guide_arc.core.mechanics.rules import PULL
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
from guide_arc.core.model.standard import Standard

POINTS: Final = 201
USUAL_STATURE_M: Final = 1.75
USUAL_LOAD_KG: Final = 10.0
_ON_HANDS: Final = ("plank", "pike")
_BENDS_ELBOW: Final = "elbow-bend"


@dataclass(frozen=True, eq=False)
class PathOfArms:
    """Both arms along the lift of a standard, as bodies of one stature do it; feet : (3,) between
    the ankles on the floor

    share : (P,) of the range; angle_deg : (P,) the driving measure; axis : of the joint that is
        looked at, by side
    angle_of : the joint that the driving measure belongs to
    """

    share: Array
    angle_deg: Array
    arms: Mapping[Side, ArmPoints]
    axis: Mapping[Side, Array]
    way: Mapping[Side, Array]
    joint: Joint
    feet: Array
    hips: Array
    angle_of: Joint = "shoulder"


@dataclass(frozen=True, eq=False)
class PathLoad:
    """What a kit asks along a path."""

    path: PathOfArms
    loads: Mapping[Side, ArmLoad]
    curve: Curve

    @property
    def worst_off_plane_deg(self) -> float | None:
        values = np.concatenate([np.ravel(a.off_plane_deg) for a in self.loads.values()])
        return float(np.nanmax(values)) if np.isfinite(values).any() else None


def working_joint(standard: Standard) -> Joint:
    """The elbow if the drive is its flexion, otherwise the shoulder."""
    return "elbow" if standard.drive == "elbow_flexion" else "shoulder"


def loaded_joint(standard: Standard) -> Joint:
    """The joint whose load says how hard a point of the lift is: the working one; but
    where a bending elbow only goes along with an upper arm that turns (presses, rows, pulldowns),
    the shoulder. On the floor the hands push straight up next to the shoulders, and it is the
    elbows that straighten; a curl trains the elbow flexors, wherever the upper arm goes."""
    if standard.base in _ON_HANDS or standard.line == _BENDS_ELBOW:
        return working_joint(standard)
    way = arm_path(standard)["elbow"]
    if float(angle_deg(way[:1], way[-1:])[0]) > PULL.goes_along_deg:
        return "shoulder"
    return working_joint(standard)


def arms_on_path(
    points: Mapping[str, Array], standard: Standard, share: Array, joint: Joint | None = None
) -> PathOfArms:
    """A path from body landmarks along it, (P, 3) each, one row for each share of the lift. joint :
    the one that is looked at; None takes the working one"""
    joint = joint or working_joint(standard)
    working: tuple[Side, ...] = ("left",) if standard.arms == "one" else SIDES
    arms = {side: arm_of(points, side) for side in working}
    frame = trunk_frame(points)
    axis: dict[Side, Array] = {}
    lifting = np.ones(len(share))
    for side, arm in arms.items():
        if joint == "elbow":
            axis[side] = elbow_axis(arm, standard.range.direction)
        else:
            upper = np.einsum("tij,tj->ti", frame, arm.elbow - arm.shoulder)
            axis[side] = shoulder_axis(upper, frame, share, lifting)
    way = {side: unit(np.gradient(arm.grip, share, axis=0)) for side, arm in arms.items()}
    asked = standard.range
    feet = 0.5 * (points["left_ankle"][0] + points["right_ankle"][0])
    hips = 0.5 * (points["left_hip"][0] + points["right_hip"][0])
    return PathOfArms(
        share=share,
        angle_deg=asked.from_deg + share * (asked.to_deg - asked.from_deg),
        arms=arms,
        axis=axis,
        way=way,
        joint=joint,
        feet=np.array([feet[0], 0.0, feet[2]]),
        hips=hips,
        angle_of=working_joint(standard),
    )


def arm_of(points: Mapping[str, Array], side: Side) -> ArmPoints:
    """One arm of a body. Kit takes hold at the handle, else between the knuckles, else at the
    wrist."""
    wrist = points[f"{side}_wrist"]
    knuckles = wrist
    if f"{side}_index" in points and f"{side}_pinky" in points:
        middle = 0.5 * (points[f"{side}_index"] + points[f"{side}_pinky"])
        knuckles = np.where(np.isfinite(middle), middle, wrist)
    handle = points.get(f"{side}_handle")
    grip = knuckles if handle is None else np.where(np.isfinite(handle), handle, knuckles)
    return ArmPoints(points[f"{side}_shoulder"], points[f"{side}_elbow"], wrist, grip, knuckles)


def trunk_frame(points: Mapping[str, Array]) -> Array:
    """(T, 3, 3) rows: to the left, up along the trunk, ahead."""
    shoulders = 0.5 * (points["left_shoulder"] + points["right_shoulder"])
    hips = 0.5 * (points["left_hip"] + points["right_hip"])
    up = unit(shoulders - hips)
    line = points["left_shoulder"] - points["right_shoulder"]
    left = unit(line - np.sum(line * up, axis=-1, keepdims=True) * up)
    return np.stack((left, up, np.cross(left, up)), axis=1)


def elbow_way(points: Mapping[str, Array], side: Side = "left") -> Array:
    """(P, 3) an elbow's way from its shoulder in upper-arm lengths: to the left, up along the
    trunk, ahead."""
    upper = np.einsum(
        "tij,tj->ti", trunk_frame(points), points[f"{side}_elbow"] - points[f"{side}_shoulder"]
    )
    way: Array = upper / np.nanmedian(np.linalg.norm(upper, axis=1))
    return way


def load_along(path: PathOfArms, kit: Kit, body_kg: float | None = None) -> PathLoad:
    """What a kit asks along a path. One arm that works carries the whole load."""
    forces = force_on(kit, {s: a.grip for s, a in path.arms.items()}, path.share, path.way)
    loads = {
        s: load_of(a, forces[s], path.axis[s], path.joint, body_kg) for s, a in path.arms.items()
    }
    against = mean_of([a.against_nm for a in loads.values()])
    return PathLoad(path, loads, curve_of(path.share, path.angle_deg, against))


def own_kit(standard: Standard, path: PathOfArms, load_kg: float | None = None) -> Kit:
    """A standard's usual kit, standing where its file puts it.

    Raises BadInput if its file says too little of it.
    """
    kg = USUAL_LOAD_KG if load_kg is None else load_kg
    place = standard.pulley_m or standard.anchor_m
    if standard.pull == "free-weight":
        return FreeWeight(kg, "dumbbell" if standard.held in ("dumbbell", "dumbbells") else "bar")
    if standard.pull == "cable" and place is not None:
        return Cable(kg, placed(path, place), each=standard.held == "handles")
    if standard.pull == "band" and place is not None:
        spots = placed(path, place)
        rest = min(
            float(np.linalg.norm(path.arms[s].grip - np.asarray(spots[s]), axis=-1).min())
            for s in path.arms
        )
        return Band(spots, 0.8 * rest, 40.0 * kg)
    if standard.pull == "chain":
        return Chain(kg, 0.5 * kg, 2.0, 0.0)
    if standard.pull == "anchored-bar" and place is not None:
        out = path.feet + np.array(place)
        return AnchoredBar((float(out[0]), float(out[1]), float(out[2])), 20.0, 2.2, kg, 2.0)
    if standard.pull in ("body-weight", "assisted"):
        return BodyWeight(75.0, kg if standard.pull == "assisted" else 0.0)
    if standard.pull == "machine":
        return Machine(((0.0, kg * 9.80665), (1.0, kg * 9.80665)))
    raise BadInput(f"the usual kit of {standard.id} is not known well enough; give one with --kit")


def placed(
    path: PathOfArms, offset: tuple[float, float, float]
) -> dict[Side, tuple[float, float, float]]:
    """The place of kit that a standard puts at a distance to the arm's side, up, and in front of
    the feet."""
    out: dict[Side, tuple[float, float, float]] = {}
    for side, sign in (("left", 1.0), ("right", -1.0)):
        spot = path.feet + np.array([sign * offset[0], offset[1], offset[2]])
        out[side] = (float(spot[0]), float(spot[1]), float(spot[2]))  # type: ignore[index]
    return out
