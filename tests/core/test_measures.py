"""Joint angles against poses worked out by hand, and what must not change them."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays
from scipy.spatial.transform import Rotation

from guide_arc.core.kinematics.guide import arm_directions
from guide_arc.core.kinematics.measures.elbow_flexion import elbow_flexion
from guide_arc.core.kinematics.measures.forearm_tilt import forearm_tilt
from guide_arc.core.kinematics.measures.hip_flexion import hip_flexion
from guide_arc.core.kinematics.measures.knee_flexion import knee_flexion
from guide_arc.core.kinematics.measures.shoulder_elevation import shoulder_elevation
from guide_arc.core.kinematics.measures.shoulder_plane import shoulder_plane
from guide_arc.core.kinematics.measures.trunk_lean import trunk_lean
from guide_arc.core.kinematics.measures.trunk_rotation import trunk_rotation
from guide_arc.core.kinematics.measures.trunk_side_lean import trunk_side_lean
from guide_arc.core.kinematics.measures.wrist_bend import wrist_bend
from guide_arc.core.kinematics.vectors import angle_deg, length

STANDING = {
    "left_shoulder": (0.19, 1.42, 0.0),
    "right_shoulder": (-0.19, 1.42, 0.0),
    "left_hip": (0.09, 0.92, 0.0),
    "right_hip": (-0.09, 0.92, 0.0),
    "left_knee": (0.09, 0.50, 0.0),
    "left_ankle": (0.09, 0.08, 0.0),
    "left_elbow": (0.19, 1.10, 0.0),
    "left_wrist": (0.19, 0.85, 0.0),
    "right_elbow": (-0.19, 1.10, 0.0),
    "right_wrist": (-0.19, 0.85, 0.0),
    "left_index": (0.19, 0.77, 0.02),
    "left_pinky": (0.19, 0.77, -0.02),
    "left_ear": (0.07, 1.60, 0.0),
}


def body(**moved: tuple[float, float, float]) -> dict[str, np.ndarray]:
    return {name: np.array([at], dtype=float) for name, at in {**STANDING, **moved}.items()}


def test_a_hanging_arm_is_straight_and_down():
    p = body()
    assert elbow_flexion(p, "left")[0] == pytest.approx(0.0)
    assert shoulder_elevation(p, "left")[0] == pytest.approx(0.0)
    assert forearm_tilt(p, "left")[0] == pytest.approx(180.0)
    assert wrist_bend(p, "left")[0] == pytest.approx(0.0)


def test_a_forearm_held_level_is_a_right_angle():
    p = body(left_wrist=(0.19, 1.10, 0.25))
    assert elbow_flexion(p, "left")[0] == pytest.approx(90.0)
    assert forearm_tilt(p, "left")[0] == pytest.approx(90.0)


@pytest.mark.parametrize(
    ("elbow", "elevation", "plane"),
    [
        ((0.51, 1.42, 0.0), 90.0, 0.0),  # straight out to the side
        ((0.19, 1.42, 0.32), 90.0, 90.0),  # straight ahead
        ((0.03, 1.42, 0.277), 90.0, 120.0),  # across the midline
        ((0.19, 1.42, -0.32), 90.0, -90.0),  # behind
        ((0.416, 1.646, 0.0), 135.0, 0.0),  # up and out
    ],
)
def test_the_upper_arm_in_elevation_and_plane(elbow, elevation, plane):
    p = body(left_elbow=elbow)
    assert shoulder_elevation(p, "left")[0] == pytest.approx(elevation, abs=0.1)
    assert shoulder_plane(p, "left")[0] == pytest.approx(plane, abs=0.1)


def test_the_right_arm_counts_from_its_own_side():
    p = body(right_elbow=(-0.51, 1.42, 0.0))
    assert shoulder_plane(p, "right")[0] == pytest.approx(0.0, abs=1e-9)


@pytest.mark.parametrize("degrees", [5.0, 14.0, 166.0, 175.0])
def test_the_plane_is_open_where_the_arm_lies_along_the_trunk(degrees):
    angle = np.radians(degrees)
    p = body(left_elbow=(0.19, 1.42 - 0.32 * np.cos(angle), 0.32 * np.sin(angle)))
    assert np.isnan(shoulder_plane(p, "left")[0])


def test_trunk_angles_have_the_signs_that_people_use():
    lean = body(left_shoulder=(0.19, 1.38, 0.2), right_shoulder=(-0.19, 1.38, 0.2))
    assert trunk_lean(lean)[0] == pytest.approx(np.degrees(np.arctan2(0.2, 0.46)))
    side = body(left_shoulder=(0.29, 1.42, 0.0), right_shoulder=(-0.09, 1.42, 0.0))
    assert trunk_side_lean(side)[0] > 0  # to the subject's left
    turned = body(left_shoulder=(0.16, 1.42, -0.1), right_shoulder=(-0.16, 1.42, 0.1))
    assert trunk_rotation(turned)[0] == pytest.approx(32.0, abs=0.1)  # to the left


def test_lying_face_up_and_face_down():
    up = body(
        left_shoulder=(0.19, 0.5, -0.5),
        right_shoulder=(-0.19, 0.5, -0.5),
        left_hip=(0.09, 0.5, 0.0),
        right_hip=(-0.09, 0.5, 0.0),
    )
    assert trunk_lean(up)[0] == pytest.approx(-90.0)
    assert np.isnan(trunk_side_lean(up)[0])
    down = {
        **up,
        "left_shoulder": np.array([[0.19, 0.5, 0.5]]),
        "right_shoulder": np.array([[-0.19, 0.5, 0.5]]),
    }
    assert trunk_lean(down)[0] == pytest.approx(90.0)


def test_standing_hips_and_knees():
    p = body()
    assert knee_flexion(p, "left")[0] == pytest.approx(0.0, abs=1e-6)
    assert 5 < hip_flexion(p, "left")[0] < 15  # shoulders are wider than hips


def test_a_missing_landmark_makes_no_angle():
    assert np.isnan(elbow_flexion(body(left_wrist=(np.nan, np.nan, np.nan)), "left")[0])


def test_a_segment_without_length_makes_no_angle():
    assert np.isnan(elbow_flexion(body(left_wrist=STANDING["left_elbow"]), "left")[0])


three = arrays(np.float64, (3, 3), elements=st.floats(-2, 2))


@given(three, st.integers(0, 2**32 - 1), st.floats(0.2, 5.0))
@settings(max_examples=60, deadline=None)
def test_turning_and_scaling_the_world_changes_no_bend(joints, seed, scale):
    assume(length(joints[0] - joints[1]) > 0.05)
    assume(length(joints[2] - joints[1]) > 0.05)
    names = ("left_shoulder", "left_elbow", "left_wrist")
    turned = (
        Rotation.from_quat(np.random.default_rng(seed).standard_normal(4)).apply(joints) * scale
    )
    before = elbow_flexion(dict(zip(names, joints, strict=True)), "left")
    after = elbow_flexion(dict(zip(names, turned, strict=True)), "left")
    assert after == pytest.approx(before, abs=1e-6)


pose = st.tuples(
    st.floats(16, 164),
    st.floats(-100, 140),
    st.floats(0, 150),
    st.floats(-1, 1),
    st.floats(-1, 1),
    st.floats(-1, 1),
)


@given(pose)
@settings(max_examples=60, deadline=None)
def test_a_pose_laid_out_measures_back(numbers):
    """The guide's poses and the measures are each other's inverse."""
    poses = np.array([numbers])
    upper, forearm = arm_directions(poses)
    mirror = np.array([1.0, 1.0, 1.0])
    shoulder = np.array(STANDING["left_shoulder"])
    elbow = shoulder + 0.32 * upper[0] * mirror
    p = body(left_elbow=tuple(elbow), left_wrist=tuple(elbow + 0.25 * forearm[0]))
    assert shoulder_elevation(p, "left")[0] == pytest.approx(numbers[0], abs=1e-6)
    assert shoulder_plane(p, "left")[0] == pytest.approx(numbers[1], abs=1e-5)
    assert elbow_flexion(p, "left")[0] == pytest.approx(numbers[2], abs=1e-5)


@given(
    arrays(np.float64, (3,), elements=st.floats(-1, 1)),
    arrays(np.float64, (3,), elements=st.floats(-1, 1)),
)
@settings(max_examples=60, deadline=None)
def test_an_angle_is_the_same_both_ways_round(a, b):
    assume(length(a) > 0.01)
    assume(length(b) > 0.01)
    assert angle_deg(a, b) == pytest.approx(angle_deg(b, a), abs=1e-9)
    assert angle_deg(a, -b) == pytest.approx(180.0 - angle_deg(a, b), abs=1e-6)
