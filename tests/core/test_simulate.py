"""The simulated client and camera: the same every time, and true to what they were told."""

from __future__ import annotations

import numpy as np
import pytest

from builders import filmed
from guide_arc.core.kinematics.measures.elbow_flexion import elbow_flexion
from guide_arc.core.kinematics.measures.shoulder_elevation import shoulder_elevation
from guide_arc.core.kinematics.measures.trunk_lean import trunk_lean
from guide_arc.core.kinematics.measures.wrist_bend import wrist_bend
from guide_arc.core.kinematics.vectors import length
from guide_arc.core.model.errors import BadInput
from guide_arc.core.simulate.camera import project
from guide_arc.core.simulate.timing import RepPlan, minimum_jerk
from guide_arc.standards.loader import standard


def points(done):
    return {n: done.exact[:, i] for i, n in enumerate(done.track.names)}


def test_the_same_seed_films_the_same_set():
    a = filmed("rope-pushdown", reps=2, noise=0.005, dropout=0.05, seed=4)
    b = filmed("rope-pushdown", reps=2, noise=0.005, dropout=0.05, seed=4)
    np.testing.assert_array_equal(a.track.position, b.track.position)
    assert a.truth == b.truth


def test_another_seed_films_another():
    a, b = (filmed("rope-pushdown", reps=2, noise=0.005, seed=s) for s in (1, 2))
    assert a.track.frames != b.track.frames or not np.array_equal(
        a.track.position, b.track.position
    )


@pytest.mark.parametrize("stature", [1.5, 1.75, 2.0])
def test_limbs_keep_their_length_and_follow_the_stature(stature):
    done = filmed("standing-barbell-curl", reps=2, stature_m=stature)
    p = points(done)
    arm = length(p["left_elbow"] - p["left_shoulder"])
    assert arm == pytest.approx(np.full(len(arm), 0.186 * stature), rel=1e-6)


def test_the_truths_range_is_the_exact_motion():
    done = filmed("standing-barbell-curl", reps=3)
    bend = elbow_flexion(points(done), "left")
    top = max(rep["range"]["to_deg"] for rep in done.truth["reps"])
    assert np.nanmax(bend) == pytest.approx(top, abs=0.7)


@pytest.mark.parametrize(
    ("check", "amount", "read"),
    [
        ("torso-swing", 18.0, lambda p: np.ptp(trunk_lean(p))),
        ("upper-arm-drift", 20.0, lambda p: np.ptp(shoulder_elevation(p, "left"))),
        ("wrist-bend", 50.0, lambda p: wrist_bend(p, "left").max()),
    ],
)
def test_a_fault_has_the_size_it_was_given(check, amount, read):
    done = filmed("standing-barbell-curl", reps=2, faults={check: amount})
    assert read(points(done)) == pytest.approx(amount, abs=0.5)
    assert done.truth["faults"][check]["amount"] == amount


def test_the_camera_on_the_left_sees_a_person_facing_left():
    done = filmed("standing-barbell-curl", reps=1, view="left")
    track = done.track
    toes = np.nanmean(track.point("left_foot")[:, 0])
    heel = np.nanmean(track.point("left_heel")[:, 0])
    assert toes < heel
    assert np.nanmean(track.point("nose")[:, 1]) < np.nanmean(track.point("left_hip")[:, 1])


def test_the_camera_in_front_sees_the_left_hand_on_the_right():
    picture = project(np.array([[[0.3, 1.0, 0.0], [-0.3, 1.0, 0.0]]]), "front")
    assert picture[0, 0, 0] > picture[0, 1, 0]


def test_lost_samples_are_about_the_share_asked_for():
    done = filmed("rope-pushdown", reps=4, dropout=0.05)
    lost = np.isnan(done.track.position[..., 0]).mean()
    assert 0.02 < lost < 0.09


def test_a_movement_is_smooth_and_whole():
    share = minimum_jerk(np.linspace(-0.2, 1.2, 300))
    assert share[0] == 0.0
    assert share[-1] == pytest.approx(1.0)
    assert (np.diff(share) >= 0).all()


def test_a_burst_covers_the_asked_share():
    plan = RepPlan(0.0, 1.2, 0.0, 2.0, 1.0, burst=1.0)
    share = plan.share(np.array([0.5, 0.7]))
    assert share[1] - share[0] > 0.9


@pytest.mark.parametrize(
    ("script", "words"),
    [
        ({"reps": 0}, "from 1 to 500"),
        ({"stature_m": 3.0}, "stature"),
        ({"faults": {"torso-swin": 5}}, "did you mean 'torso-swing'"),
        ({"faults": {"torso-swing": -5}}, "0 to 180"),
    ],
)
def test_what_can_not_be_performed_is_said(script, words):
    with pytest.raises(BadInput, match=words):
        filmed("rope-pushdown", **{"reps": 2, **script})


def test_a_target_that_the_school_lacks_can_not_be_missed():
    with pytest.raises(BadInput, match="no end-point check"):
        filmed("rope-pushdown", reps=1, faults={"end-point": 10.0})


def test_every_pose_of_a_rep_runs_from_start_to_turn():
    plan = standard("seated-row-narrow-low")
    done = filmed("seated-row-narrow-low", reps=1)
    bend = elbow_flexion(points(done), "right")
    assert bend.min() == pytest.approx(plan.start.elbow_deg, abs=0.5)
    assert bend.max() == pytest.approx(plan.turn.elbow_deg, abs=0.5)
