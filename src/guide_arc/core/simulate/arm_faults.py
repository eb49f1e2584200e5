"""Faults of the simulated client's arms: where the poses leave the standard's, and by how much."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Final

import numpy as np

from guide_arc.core.kinematics.anatomy import FOREARM_OVER_UPPER_ARM, Anatomy
from guide_arc.core.kinematics.endpoints import TARGETS
from guide_arc.core.kinematics.guide import (
    arm_directions,
    arm_path,
    poses_along,
    trunk_along,
    way_back,
)
from guide_arc.core.kinematics.trunk import Points, trunk
from guide_arc.core.kinematics.vectors import Array, cross, dot, length, unit
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.standard import Standard
from guide_arc.core.simulate.faults import goes_over_at_start
from guide_arc.core.simulate.skeleton import Posture, landmarks

_ELEVATION, _PLANE, _ELBOW, _OUT, _GRIP = 0, 1, 2, 3, 6
_WAY_BETTER_PCT: Final = 5.0
_SHIFTS: Final = np.linspace(0.0, 75.0, 151)
# The checks that also report a shift of one number of a pose.
_ALSO: Final = {
    _ELBOW: ("elbow-bend-change",),
    _PLANE: ("grip-width",),
    _ELEVATION: ("upper-arm-drift", "elbow-low", "elbow-high"),
}
_OF_DRIVE: Final = {
    "elbow_flexion": _ELBOW,
    "shoulder_elevation": _ELEVATION,
    "shoulder_plane": _PLANE,
}


def arm_faults(
    standard: Standard, anatomy: Anatomy, poses: Array, bump: Array, faults: Mapping[str, float]
) -> Array:
    """(T, 7) an arm's poses with the faults in them.

    bump : (T,) 0 at the start and 1 at the turn of the reps that have them
    Raises BadInput for an end-point fault of a standard that has no such check.
    """
    out = poses.copy()
    out[:, _ELEVATION] += faults.get("upper-arm-drift", 0.0) * bump
    bend = faults.get("elbow-bend-change", 0.0)
    # A bent elbow that has no room to bend more opens instead.
    room = 160.0 - max(standard.start.elbow_deg, standard.turn.elbow_deg)
    out[:, _ELBOW] += (bend if room >= bend else -bend) * bump
    for name, sign in (("elbow-low", -1.0), ("elbow-high", 1.0)):
        if name in faults:
            asked = np.degrees(np.arccos(np.clip(-sign * faults[name] / 100.0, -1.0, 1.0)))
            out[:, _ELEVATION] += (asked - standard.turn.elevation_deg) * bump
    for part, name in (("elbow", "elbow-path"), ("wrist", "hand-path")):
        if name in faults:
            column, shift = _off_path(standard, part, faults[name])
            out[:, column] += shift * bump
    if "hand-off-head" in faults:
        out[:, _ELEVATION] -= _off_head(standard, anatomy, faults["hand-off-head"]) * bump
    if "grip-width" in faults:
        out[:, _OUT] += _out_of_plane(standard, faults["grip-width"])
    if "end-point" in faults:
        column, shift, at_start = _short_of_target(standard, anatomy, faults["end-point"])
        out[:, column] += shift * (1.0 - bump if at_start else bump)
    if "range-over" in faults and goes_over_at_start(standard) and standard.drive in _OF_DRIVE:
        deeper = -standard.range.direction * faults["range-over"]
        out[:, _OF_DRIVE[standard.drive]] += deeper * (1.0 - bump)
    out[:, _GRIP] += faults.get("forearm-turn", 0.0) * bump
    out[:, _ELBOW] = np.clip(out[:, _ELBOW], 0.0, 160.0)
    return out


@lru_cache(maxsize=32)
def _off_path(standard: Standard, part: str, amount_pct: float) -> tuple[int, float]:
    """Which number of the pose to shift at the turn, and by how much, so that the joint leaves
    its guide arc by the asked share of the upper arm."""
    guide = arm_path(standard, 61, beyond=0.15)[part]
    back = way_back(standard, 61, beyond=0.15)
    if back is not None:
        guide = np.concatenate((guide, back[part]))
    share = np.linspace(0.0, 1.0, 41)
    hangs = standard.turn.elevation_deg < 25.0
    tried = np.linspace(0.0, 75.0, 201)
    ways: list[tuple[int, Array]] = [(_PLANE, -tried), (_ELEVATION, -tried), (_ELEVATION, tried)]
    if hangs and part == "wrist":
        ways = [(_OUT, tried / 30.0)]
    elif hangs or standard.drive == "shoulder_plane":
        ways = [(_ELEVATION, tried if hangs else -tried)]
    best: tuple[float, int, float] | None = None
    for column, shifts in ways:
        poses = np.repeat(poses_along(standard, share)[None], len(shifts), axis=0)
        poses[..., column] += shifts[:, None] * share
        upper, forearm = arm_directions(poses)
        way = upper if part == "elbow" else upper + FOREARM_OVER_UPPER_ARM * forearm
        squared = dot(way, way)[..., None] - 2.0 * way @ guide.T + dot(guide, guide)
        gaps = np.sqrt(np.maximum(squared.min(axis=-1), 0.0))
        miss = np.abs(100.0 * gaps.max(axis=-1) - amount_pct)
        i = int(np.argmin(miss))
        # The first way that gets there is the usual one; along some arcs it leads nowhere.
        if best is None or miss[i] < best[0] - _WAY_BETTER_PCT:
            best = (float(miss[i]), column, float(shifts[i]))
    assert best is not None
    return best[1], best[2]


def _out_of_plane(standard: Standard, amount_deg: float) -> float:
    """The outward change of the forearm's direction that puts it so far out of its plane."""
    poses = poses_along(standard, np.linspace(0.2, 1.0, 41))
    tried = np.linspace(0.0, 4.0, 401)
    more = np.repeat(poses[None], len(tried), axis=0)
    more[..., _OUT] += tried[:, None]
    out = np.degrees(np.median(np.arcsin(arm_directions(more)[1][..., 0]), axis=-1))
    return float(tried[np.argmin(np.abs(out - out[0] - amount_deg))])


@lru_cache(maxsize=32)
def _off_head(standard: Standard, anatomy: Anatomy, amount_pct: float) -> float:
    """By how many degrees the upper arms have to sink at the turn for the hands to be so far from
    the ears."""
    pose = poses_along(standard, np.array([1.0]))
    rest = np.repeat(pose, len(_SHIFTS), axis=0)
    tried = rest.copy()
    tried[:, _ELEVATION] -= _SHIFTS
    still = np.zeros(len(_SHIFTS))
    posture = Posture(
        still, still, still, dict.fromkeys(SIDES, still), still, np.zeros((len(still), 2))
    )
    points = landmarks(anatomy, standard.base, posture, {"left": tried, "right": rest})
    away = 100.0 * length(points["left_wrist"] - points["left_ear"]) / anatomy.upper_arm_m
    return float(_SHIFTS[np.argmin(np.abs(np.abs(away - away[0]) - amount_pct))])


@dataclass(frozen=True, eq=False)
class _Tried:
    """Figures with one pose changed more and more, as targets see a body."""

    points: Points

    @cached_property
    def trunk_m(self) -> Array:
        return length(trunk(self.points))

    @cached_property
    def trunk_frame(self) -> Array:
        up = unit(trunk(self.points))
        line = self.points["left_shoulder"] - self.points["right_shoulder"]
        left = unit(line - (line * up).sum(axis=-1, keepdims=True) * up)
        return np.stack((left, up, cross(left, up)), axis=1)


def _short_of_target(
    standard: Standard, anatomy: Anatomy, amount_pct: float
) -> tuple[int, float, bool]:
    """Which number of the pose to shift, by how much, and whether at the start, so that the end of
    the lift is the asked share short of the target. The smallest shift that other checks leave
    alone.
    """
    rule = standard.check("end-point")
    if rule is None:
        raise BadInput(f"{standard.id} in this school has no end-point check to go wrong")
    target = TARGETS[rule.target or ""]
    at_start = rule.at == "start"
    pose = poses_along(standard, np.array([0.0 if at_start else 1.0]))
    lean, aside, twist, hike, _rounding = trunk_along(
        standard, np.array([0.0 if at_start else 1.0])
    )[0]
    still = np.ones(len(_SHIFTS))
    posture = Posture(
        lean * still,
        aside * still,
        twist * still,
        dict.fromkeys(SIDES, hike / 100.0 * still),
        6.0 * still,
        np.zeros((len(still), 2)),
    )
    rest = np.repeat(pose, len(_SHIFTS), axis=0)
    found: list[tuple[float, int, float]] = []
    for column in (_PLANE, _ELEVATION, _ELBOW):
        for sign in (1.0, -1.0):
            tried = rest.copy()
            tried[:, column] += sign * _SHIFTS
            if column == _ELBOW:
                tried[:, column] = np.clip(tried[:, column], 0.0, 160.0)
            body = _Tried(
                landmarks(anatomy, standard.base, posture, {"left": tried, "right": rest})
            )
            gap = np.abs(target.missing(body, "left") - amount_pct)
            best = int(np.argmin(gap))
            guarded = any(standard.check(name) for name in _ALSO.get(column, ()))
            drives = _OF_DRIVE.get(standard.drive) == column
            cost = 100.0 * gap[best] + _SHIFTS[best] + 120.0 * guarded + 100.0 * drives
            found.append((float(cost), column, float(sign * _SHIFTS[best])))
    _, column, shift = min(found)
    return column, shift, at_start
