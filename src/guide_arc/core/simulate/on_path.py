"""A body of one stature along a standard's path, from the start to the turn."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.anatomy import Anatomy
from guide_arc.core.kinematics.guide import poses_along, trunk_along
from guide_arc.core.kinematics.pose_fit import MEASURES
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.mechanics.bench import arms_lower_by, leans_further_by
from guide_arc.core.mechanics.path_load import POINTS, USUAL_STATURE_M, PathOfArms, arms_on_path
from guide_arc.core.mechanics.statics import Joint
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.standard import Standard
from guide_arc.core.simulate.skeleton import Posture, landmarks


def body_on_path(
    standard: Standard,
    stature_m: float = USUAL_STATURE_M,
    bench_deg: float | None = None,
    count: int = POINTS,
) -> dict[str, Array]:
    """Every landmark along the lift, (count, 3); y = 0 is the floor, the hips are above x = z = 0
    at the start.

    bench_deg : the bench's angle over level, which sets the trunk's lean, or the upper arms' where
        they lie on it; None takes the standard's own
    """
    share = np.linspace(0.0, 1.0, count)
    lean, aside, twist, hike, rounding = trunk_along(standard, share).T
    poses = poses_along(standard, share)
    if bench_deg is not None:
        lean = lean + leans_further_by(standard, bench_deg)
        poses[:, MEASURES.index("shoulder_elevation")] -= arms_lower_by(standard, bench_deg)
    arms: dict[Side, Array] = {side: poses.copy() for side in SIDES}
    if standard.arms == "one":
        arms["right"] = np.broadcast_to(arms["right"][:1], arms["right"].shape)
    raised: dict[Side, Array] = dict.fromkeys(SIDES, hike / 100.0)
    posture = Posture(
        lean_deg=lean,
        side_lean_deg=aside,
        twist_deg=twist,
        hike=raised,
        wrist_deg=np.zeros(count),
        place_m=np.zeros((count, 2)),
        round_deg=rounding,
    )
    points = landmarks(Anatomy(stature_m), standard.base, posture, arms)
    start = 0.5 * (points["left_hip"][0] + points["right_hip"][0])
    floor = min(
        float(points[n][:, 1].min()) for n in ("left_foot", "right_foot", "left_heel", "right_heel")
    )
    # Lying bodies rest on a bench whose height the skeleton knows; only those on the floor are set
    # down on it.
    down = floor if standard.base in ("standing", "hinged", "seated", "kneeling") else 0.0
    return {name: p - np.array([start[0], down, start[2]]) for name, p in points.items()}


def path_of(
    standard: Standard,
    stature_m: float = USUAL_STATURE_M,
    bench_deg: float | None = None,
    count: int = POINTS,
    joint: Joint | None = None,
) -> PathOfArms:
    """Both arms along the lift. joint : as in `arms_on_path`"""
    share = np.linspace(0.0, 1.0, count)
    return arms_on_path(body_on_path(standard, stature_m, bench_deg, count), standard, share, joint)
