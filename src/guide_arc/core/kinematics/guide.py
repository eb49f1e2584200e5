"""The guide arc: the path of elbow and hand that a standard's key poses describe."""

from __future__ import annotations

from functools import lru_cache
from typing import Final

import numpy as np

from guide_arc.core.kinematics.anatomy import FOREARM_OVER_UPPER_ARM
from guide_arc.core.kinematics.vectors import Array, across, unit
from guide_arc.core.model.standard import ArmPose, Drive, Standard, TrunkPose


def pose_array(pose: ArmPose) -> Array:
    """(7,) elevation, plane and elbow in degrees, the forearm's direction, the grip in degrees."""
    return np.array(
        [pose.elevation_deg, pose.plane_deg, pose.elbow_deg, *pose.forearm_toward, pose.grip_deg],
        dtype=float,
    )


def poses_along(standard: Standard, share: Array) -> Array:
    """The intended pose at each share of the lift: 0 at the start, 1 at the turn.

    share : (N,) clipped to slightly outside 0 to 1, so that an over-reach stays on the line Returns
    (N, 7) as `pose_array`. Between two key poses the upper arm turns the shortest way from the one
    direction to the other, as an arm does; an arc that is meant to be level stays so.
    """
    knots = [(0.0, standard.start), *standard.ways, (1.0, standard.turn)]
    return _between(knots, share, standard)


def poses_back(standard: Standard, share: Array) -> Array:
    """As `poses_along` for the lowering: 1 at the turn, 0 at the end of the rep."""
    if not returns_elsewhere(standard):
        return poses_along(standard, share)
    end = standard.across or standard.start
    return _between([(0.0, end), *standard.backs, (1.0, standard.turn)], share, standard)


def returns_elsewhere(standard: Standard) -> bool:
    """Whether the way down is another than the way up."""
    return bool(standard.backs) or standard.across is not None


def _between(knots: list[tuple[float, ArmPose]], share: Array, standard: Standard) -> Array:
    even = standard.elbow_path in _ALONG_ANGLES
    at, table = _table(tuple(knots), None if even else standard.drive)
    share = np.asarray(share, dtype=float)
    out = np.stack([np.interp(share, at, column) for column in table.T], axis=-1)
    over = np.clip(share - 1.0, 0.0, 0.3)[..., None]
    under = np.clip(share, -0.3, 0.0)[..., None]
    out += over * (table[-1] - table[-2]) / (at[-1] - at[-2])
    out += under * (table[1] - table[0]) / (at[1] - at[0])
    return out


# Elbow paths that follow the two angles themselves rather than the shortest way.
_ALONG_ANGLES: Final = ("level-arc", "still")
# So many steps between two key poses, and directions nearer than this are one.
_STEPS: Final = 200
_SAME_RAD: Final = np.radians(1.0)


@lru_cache(maxsize=512)
def _table(knots: tuple[tuple[float, ArmPose], ...], drive: Drive | None) -> tuple[Array, Array]:
    at = np.array([s for s, _ in knots])
    table = np.stack([pose_array(p) for _, p in knots])
    return (at, table) if drive is None else _turned(at, table, drive)


def _turned(at: Array, table: Array, drive: Drive) -> tuple[Array, Array]:
    """The key poses with steps between them along which the upper arm turns the shortest way."""
    shares, rows, turns = [at[:1]], [table[:1]], 0.0
    for s0, s1, a, b in zip(at[:-1], at[1:], table[:-1], table[1:], strict=True):
        step = np.linspace(0.0, 1.0, _STEPS + 1)
        pose = a + step[:, None] * (b - a)
        ends = upper_arm_way(np.stack((a, b)))
        apart = float(np.arccos(np.clip(ends[0] @ ends[1], -1.0, 1.0)))
        if _SAME_RAD < apart < np.pi - _SAME_RAD:
            fine = np.linspace(0.0, 1.0, 4 * _STEPS + 1)[:, None]
            way = np.sin((1.0 - fine) * apart) * ends[0] + np.sin(fine * apart) * ends[1]
            way /= np.sin(apart)
            elevation = np.degrees(np.arccos(np.clip(-way[:, 1], -1.0, 1.0)))
            plane = np.degrees(np.unwrap(np.arctan2(way[:, 2], way[:, 0])))
            # As the key poses count it, a whole turn more or less.
            plane += 360.0 * np.round((a[1] - plane[0]) / 360.0)
            done = _progress(drive, elevation, plane)
            pose[:, 0] = np.interp(step, done, elevation)
            pose[:, 1] = np.interp(step, done, plane)
            pose[0, :2], pose[-1, 0] = a[:2], b[0]
        # A whole turn that one piece has made the next ones go on from.
        pose[:, 1] += turns
        turns = float(np.round((pose[-1, 1] - b[1]) / 360.0)) * 360.0
        shares.append(s0 + step[1:] * (s1 - s0))
        rows.append(pose[1:])
    return np.concatenate(shares), np.concatenate(rows)


def _progress(drive: Drive, elevation: Array, plane: Array) -> Array:
    """How far along the shortest way each of its points is, counted as the driving measure counts
    it: that runs evenly from pose to pose. Where it does not run one way only, the way's own length
    counts."""
    along = {"shoulder_elevation": elevation, "shoulder_plane": plane}.get(drive)
    if along is not None and abs(along[-1] - along[0]) > 1e-6:
        done = (along - along[0]) / (along[-1] - along[0])
        if (np.diff(done) > 0.0).all():
            out: Array = done
            return out
    return np.linspace(0.0, 1.0, len(elevation))


def upper_arm_way(poses: Array) -> Array:
    """(..., 3) the upper arm's direction in each pose."""
    elevation, plane = np.radians(poses[..., 0]), np.radians(poses[..., 1])
    return np.stack(
        (np.sin(elevation) * np.cos(plane), -np.cos(elevation), np.sin(elevation) * np.sin(plane)),
        axis=-1,
    )


def trunk_along(standard: Standard, share: Array) -> Array:
    """(N, 5) the trunk's intended lean, side lean, twist, hike and rounding at each share of the
    lift."""
    start, turn = (_trunk_array(t) for t in standard.trunk)
    out: Array = start + np.asarray(share, dtype=float)[..., None] * (turn - start)
    return out


def _trunk_array(pose: TrunkPose) -> Array:
    return np.array(
        [pose.lean_deg, pose.side_lean_deg, pose.twist_deg, pose.hike_pct, pose.round_deg],
        dtype=float,
    )


def arm_directions(poses: Array) -> tuple[Array, Array]:
    """(..., 7) poses -> unit vectors of upper arm and forearm, (..., 3) each.

    Axes: out to the arm's own side, up along the trunk, ahead.
    """
    bend = np.radians(poses[..., 2])
    upper = upper_arm_way(poses)
    toward = unit(across(poses[..., 3:6], upper))
    toward = np.where(np.isnan(toward), unit(across(np.array([0.31, 0.17, 0.94]), upper)), toward)
    forearm = np.cos(bend)[..., None] * upper + np.sin(bend)[..., None] * toward
    return upper, forearm


def arm_path(
    standard: Standard,
    samples: int = 41,
    forearm: float = FOREARM_OVER_UPPER_ARM,
    beyond: float = 0.0,
) -> dict[str, Array]:
    """Elbow and wrist from the shoulder along the lift, in upper-arm lengths.

    forearm : its length over the upper arm's; beyond : how far past either end the path goes
    on, as a share of the lift
    Returns {"elbow": (samples, 3), "wrist": (samples, 3)} in (out, up, ahead).
    """
    return _joints(poses_along(standard, np.linspace(-beyond, 1.0 + beyond, samples)), forearm)


def way_back(
    standard: Standard,
    samples: int = 41,
    forearm: float = FOREARM_OVER_UPPER_ARM,
    beyond: float = 0.0,
) -> dict[str, Array] | None:
    """As `arm_path` from the turn to where the rep ends; None if that is the same way back."""
    if not returns_elsewhere(standard):
        return None
    return _joints(poses_back(standard, np.linspace(1.0 + beyond, -beyond, samples)), forearm)


def _joints(poses: Array, forearm: float) -> dict[str, Array]:
    upper, lower = arm_directions(poses)
    return {"elbow": upper, "wrist": upper + forearm * lower}
