"""Moments at every joint, worked by hand: x runs to the left, y up, z ahead; newtons and metres."""

from __future__ import annotations

import numpy as np
import pytest

from guide_arc.core.mechanics.joints import joint_moments
from guide_arc.core.mechanics.path_load import PathLoad, PathOfArms, load_along, own_kit
from guide_arc.core.mechanics.statics import ArmPoints, curve_of, load_of
from guide_arc.core.simulate.on_path import body_on_path, path_of
from guide_arc.standards.loader import standard

HIPS, SHOULDERS = 1.0, 1.5
TRUNK = {
    "left_hip": (0.1, HIPS, 0.0),
    "right_hip": (-0.1, HIPS, 0.0),
    "left_shoulder": (0.2, SHOULDERS, 0.0),
    "right_shoulder": (-0.2, SHOULDERS, 0.0),
}


def moments(side, elbow, wrist, force, grip=None):
    """One arm from its shoulder on, in places from the shoulder, under one force at the grip."""
    points = {name: np.array([place]) for name, place in TRUNK.items()}
    at = points[f"{side}_shoulder"]
    hand = wrist if grip is None else grip
    arm = ArmPoints(at, at + elbow, at + wrist, at + hand, at + hand)
    axis = np.array([[1.0, 0.0, 0.0]])
    own = load_of(arm, np.array([force], dtype=float), axis, "shoulder")
    one = np.zeros(1)
    path = PathOfArms(one, one, {side: arm}, {side: axis}, {side: axis}, "shoulder", one, one)
    load = PathLoad(path, {side: own}, curve_of(one, one, own.against_nm))
    return joint_moments(load, points, side)


def test_a_weight_held_straight_ahead_pulls_the_arm_down_in_flexion_alone():
    m = moments("left", (0, 0, 0.3), (0, 0, 0.6), (0, -100, 0), grip=(0, 0, 0.68))
    assert m.flexion[0] == pytest.approx(-68.0)
    assert (m.abduction[0], m.rotation[0]) == (pytest.approx(0.0), pytest.approx(0.0))
    assert m.elbow[0] == pytest.approx(38.0)
    assert m.wrist[0] == pytest.approx(8.0)
    # The hips lie under the shoulders: the trunk bends by as much, and leans to the arm's side.
    assert m.trunk_bend[0] == pytest.approx(68.0)
    assert m.trunk_side[0] == pytest.approx(20.0)


@pytest.mark.parametrize(("side", "out"), [("left", 1.0), ("right", -1.0)])
def test_a_weight_held_out_to_the_side_is_abduction_on_either_side(side, out):
    m = moments(side, (0.3 * out, 0, 0), (0.6 * out, 0, 0), (0, -100, 0))
    assert m.abduction[0] == pytest.approx(-60.0)
    assert m.flexion[0] == pytest.approx(0.0)
    assert m.trunk_side[0] == pytest.approx(80.0)  # 0.2 + 0.6 m from the middle
    assert m.trunk_bend[0] == pytest.approx(0.0)


@pytest.mark.parametrize(("side", "out"), [("left", 1.0), ("right", -1.0)])
def test_a_cable_across_the_body_turns_a_bent_arm_inward(side, out):
    m = moments(side, (0, -0.3, 0), (0, -0.3, 0.28), (-100 * out, 0, 0))
    assert m.rotation[0] == pytest.approx(-28.0)
    assert m.elbow[0] == pytest.approx(28.0)
    assert m.trunk_twist[0] == pytest.approx(28.0)


@pytest.mark.parametrize(
    "id", ["cable-cross-raise-low", "overhead-press-dumbbell", "bent-over-row"]
)
def test_twice_the_load_is_twice_every_moment_and_both_arms_are_alike(id):
    plan = standard(id)
    path, points = path_of(plan), body_on_path(plan)
    one = joint_moments(load_along(path, own_kit(plan, path, 10.0)), points)
    two = joint_moments(load_along(path, own_kit(plan, path, 20.0)), points)
    other = joint_moments(load_along(path, own_kit(plan, path, 10.0)), points, "right")
    for name in vars(one):
        assert getattr(two, name) == pytest.approx(2.0 * getattr(one, name), abs=1e-9), name
        assert getattr(other, name) == pytest.approx(getattr(one, name), abs=1e-6), name
    assert (one.shoulder >= np.abs(one.flexion) - 1e-9).all()
