"""The guide arc: the path of elbow and hand that a standard's key poses describe."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.anatomy import FOREARM_OVER_UPPER_ARM
from guide_arc.core.kinematics.vectors import Array, across, unit
from guide_arc.core.model.standard import ArmPose, Standard, TrunkPose


def pose_array(pose: ArmPose) -> Array:
    """(7,) elevation, plane and elbow in degrees, the forearm's direction, the grip in degrees."""
    return np.array(
        [pose.elevation_deg, pose.plane_deg, pose.elbow_deg, *pose.forearm_toward, pose.grip_deg],
        dtype=float,
    )


def poses_along(standard: Standard, share: Array) -> Array:
    """The intended pose at each share of the lift: 0 at the start, 1 at the turn.

    share : (N,) clipped to slightly outside 0 to 1, so that an over-reach stays on the line
    Returns (N, 7) as `pose_array`, in straight lines between the key poses.
    """
    return _between([(0.0, standard.start), *standard.ways, (1.0, standard.turn)], share)


def poses_back(standard: Standard, share: Array) -> Array:
    """As `poses_along` for the way down: 1 at the turn, 0 where the rep ends."""
    if not returns_elsewhere(standard):
        return poses_along(standard, share)
    end = standard.across or standard.start
    return _between([(0.0, end), *standard.backs, (1.0, standard.turn)], share)


def returns_elsewhere(standard: Standard) -> bool:
    """Whether the way down is another than the way up."""
    return bool(standard.backs) or standard.across is not None


def _between(knots: list[tuple[float, ArmPose]], share: Array) -> Array:
    at = np.array([s for s, _ in knots])
    table = np.stack([pose_array(p) for _, p in knots])
    share = np.asarray(share, dtype=float)
    out = np.stack([np.interp(share, at, column) for column in table.T], axis=-1)
    over = np.clip(share - 1.0, 0.0, 0.3)[..., None]
    under = np.clip(share, -0.3, 0.0)[..., None]
    out += over * (table[-1] - table[-2]) / (at[-1] - at[-2])
    out += under * (table[1] - table[0]) / (at[1] - at[0])
    return out


def trunk_along(standard: Standard, share: Array) -> Array:
    """(N, 4) the trunk's intended lean, side lean, twist and hike at each share of the lift."""
    start, turn = (_trunk_array(t) for t in standard.trunk)
    out: Array = start + np.asarray(share, dtype=float)[..., None] * (turn - start)
    return out


def _trunk_array(pose: TrunkPose) -> Array:
    return np.array([pose.lean_deg, pose.side_lean_deg, pose.twist_deg, pose.hike_pct], dtype=float)


def arm_directions(poses: Array) -> tuple[Array, Array]:
    """(..., 7) poses -> unit vectors of upper arm and forearm, (..., 3) each.

    Axes: out to the arm's own side, up along the trunk, ahead.
    """
    elevation, plane, bend = np.radians(np.moveaxis(poses[..., :3], -1, 0))
    upper = np.stack(
        (
            np.sin(elevation) * np.cos(plane),
            -np.cos(elevation),
            np.sin(elevation) * np.sin(plane),
        ),
        axis=-1,
    )
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
    """As `arm_path` from the turn to where the rep ends; None where that is the same way back."""
    if not returns_elsewhere(standard):
        return None
    return _joints(poses_back(standard, np.linspace(1.0 + beyond, -beyond, samples)), forearm)


def _joints(poses: Array, forearm: float) -> dict[str, Array]:
    upper, lower = arm_directions(poses)
    return {"elbow": upper, "wrist": upper + forearm * lower}
