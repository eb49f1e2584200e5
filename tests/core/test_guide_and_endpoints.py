"""The guide arc from key poses, foreshortened arms, and where a hand should finish."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from builders import measured_set
from guide_arc.core.kinematics.anatomy import FOREARM_OVER_UPPER_ARM, Anatomy
from guide_arc.core.kinematics.endpoints import TARGETS, hand
from guide_arc.core.kinematics.foreshortening import ARM_OVER_TRUNK, elevation, limb_length
from guide_arc.core.kinematics.guide import arm_path, poses_along
from guide_arc.core.kinematics.vectors import median, span_of
from guide_arc.core.kinematics.views import hidden_axis, how_to_see, near_side, shown, shows
from guide_arc.standards.loader import shipped, standard


@pytest.mark.parametrize("id", list(shipped()))
def test_the_guide_runs_from_the_start_to_the_turn(id):
    plan = standard(id)
    poses = poses_along(plan, np.array([0.0, 1.0]))
    assert poses[0, :3] == pytest.approx(
        [plan.start.elevation_deg, plan.start.plane_deg, plan.start.elbow_deg]
    )
    assert poses[1, :3] == pytest.approx(
        [plan.turn.elevation_deg, plan.turn.plane_deg, plan.turn.elbow_deg]
    )


def test_a_pose_on_the_way_bends_the_path():
    plan = standard("seated-row-narrow-low")
    half = poses_along(plan, np.array([0.5]))[0]
    assert half[0] == pytest.approx(plan.ways[0][1].elevation_deg)
    straight = replace(plan, ways=())
    assert poses_along(straight, np.array([0.5]))[0, 0] != pytest.approx(half[0])


def test_an_over_reach_stays_on_the_line():
    plan = standard("standing-barbell-curl")
    beyond = poses_along(plan, np.array([1.1]))[0]
    assert beyond[2] == pytest.approx(132 + 0.1 * 122)


def test_the_path_keeps_the_arms_lengths():
    path = arm_path(standard("overhead-press-dumbbell"), 25)
    assert np.linalg.norm(path["elbow"], axis=1) == pytest.approx(np.ones(25))
    fore = np.linalg.norm(path["wrist"] - path["elbow"], axis=1)
    assert fore == pytest.approx(np.full(25, FOREARM_OVER_UPPER_ARM))


def test_a_curls_hand_goes_ahead_and_up_and_a_presses_hand_overhead():
    curl = arm_path(standard("standing-barbell-curl"))["wrist"]
    assert curl[0, 1] < -1.5
    assert curl[20, 2] > 0.5
    press = arm_path(standard("overhead-press-dumbbell"))["wrist"]
    assert press[-1, 1] > 1.5


def test_proportions_add_up_to_a_person():
    body = Anatomy(1.8)
    height = (
        body.ankle_height_m + body.shank_m + body.thigh_m + body.trunk_m + body.ear_above_shoulder_m
    )
    assert 1.62 < height < 1.72  # the ears' height


# Foreshortening


@pytest.mark.parametrize("degrees", [35.0, 60.0, 90.0, 120.0])
def test_an_arm_that_points_at_the_camera_is_measured_by_how_short_it_looks(degrees):
    angle, depth = np.radians(degrees), np.radians(75.0)
    rise = np.array([-0.32 * np.cos(angle)])
    across = 0.32 * np.sin(angle) * np.cos(depth)
    flat = np.degrees(np.arctan2(across, -rise))
    value, u = elevation(flat, rise, 0.32, 0.03)
    assert value[0] == pytest.approx(degrees, abs=3.0)
    assert u[0] < 12.0


def test_an_arm_in_the_plane_is_measured_by_its_angle():
    value, _ = elevation(
        np.array([10.0]), np.array([-0.32 * np.cos(np.radians(10.0)) * 0.99]), 0.32, 0.03
    )
    assert value[0] == pytest.approx(10.0, abs=0.5)


def test_an_arm_never_seen_whole_gets_the_usual_length():
    length, u = limb_length(np.full(50, 0.10), 0.5, ARM_OVER_TRUNK)
    assert length == pytest.approx(0.5 * 0.186 / 0.288)
    assert u > limb_length(np.full(50, 0.33), 0.5, ARM_OVER_TRUNK)[1]


# Views


@pytest.mark.parametrize(
    ("view", "axis", "near"),
    [
        ("none", None, None),
        ("front", 2, None),
        ("back", 2, None),
        ("left", 0, "left"),
        ("right", 0, "right"),
    ],
)
def test_a_view_hides_one_axis_and_sees_one_side(view, axis, near):
    assert hidden_axis(view) == axis
    assert near_side(view) == near


def test_what_each_view_shows_is_what_the_format_says():
    side = {name for name, s in shown("left") if s in ("left", None)}
    assert side == {
        "elbow_flexion",
        "shoulder_elevation",
        "trunk_lean",
        "hip_flexion",
        "knee_flexion",
        "forearm_tilt",
        "wrist_bend",
        "elbow_height",
        "spine_bend",
        "shoulder_hike",
    }
    assert {name for name, _ in shown("front")} == {
        "shoulder_elevation",
        "trunk_side_lean",
        "shoulder_hike",
        "elbow_height",
    }
    assert len(shown("none")) == 22
    assert not shows("left", "elbow_flexion", "right")


def test_the_advice_names_a_view_that_shows_it():
    assert how_to_see("trunk_lean", "front", None) == "film from the side"
    assert how_to_see("elbow_flexion", "front", "right") == "film from the right side"
    assert (
        how_to_see("shoulder_hike", "left", "right")
        == "film from the front, or from the right side"
    )
    assert "in space" in how_to_see("trunk_rotation", "left", None)


# Where the hand finishes


@pytest.fixture(scope="module")
def rising():
    return measured_set("standing-barbell-curl", "rising-upper-arm", reps=2)


def test_nothing_is_missing_once_the_target_is_reached(rising):
    top = rising.index(rising.review.reps[0].turn_s)
    bottom = rising.index(rising.review.reps[0].start_s)
    missing = TARGETS["nose-height"].missing(rising.body, "left")
    assert missing[top] < 12
    assert missing[bottom] > 100


def test_the_midline_counts_for_each_hand_from_its_own_side():
    crossing = measured_set("cable-cross-raise-low", reps=2)
    top = crossing.index(crossing.review.reps[0].turn_s)
    start = crossing.index(crossing.review.reps[0].start_s)
    for side in ("left", "right"):
        missing = TARGETS["midline"].missing(crossing.body, side)
        assert missing[top] < 0 < missing[start]


def test_the_waist_and_the_eyes_are_reached_where_they_should_be():
    row = measured_set("seated-row-narrow-low", reps=2)
    top, start = (row.index(t) for t in (row.review.reps[0].turn_s, row.review.reps[0].start_s))
    waist = TARGETS["waist"].missing(row.body, "left")
    assert waist[top] < waist[start]
    front = measured_set("front-raise-midline", reps=2)
    eyes = TARGETS["eye-level"].missing(front.body, "left")
    assert (
        eyes[front.index(front.review.reps[0].turn_s)]
        < 20
        < eyes[front.index(front.review.reps[0].start_s)]
    )


def test_the_hand_is_between_the_knuckles(rising):
    at = hand(rising.body, "left")[10]
    p = rising.body.points
    assert at == pytest.approx(0.5 * (p["left_index"][10] + p["left_pinky"][10]))


# Small helpers that everything leans on


@pytest.mark.parametrize("count", [1, 2, 5, 8])
def test_the_quick_median_is_the_median(count):
    values = np.random.default_rng(count).standard_normal(count)
    assert median(values) == pytest.approx(float(np.median(values)))
    assert np.isnan(median(np.array([])))


def test_a_span_holds_at_least_one_sample():
    time = np.arange(10) / 10
    assert span_of(time, 0.2, 0.5) == slice(2, 5)
    window = span_of(time, 0.31, 0.32)
    assert window.stop - window.start == 1
