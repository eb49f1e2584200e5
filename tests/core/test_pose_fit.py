"""The arm's pose from one picture: what it tells, and how sure it says it is."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from builders import filmed, slow
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.kinematics.path_fit import elbow_off
from guide_arc.core.kinematics.pose_fit import MEASURES, fitted_arm, likeliest_way
from guide_arc.core.model.track import BETWEEN_VIEWS, CameraPlace, LandmarkTrack
from guide_arc.core.review.assess import review_set
from guide_arc.core.review.far_arm import told_once
from guide_arc.core.simulate.camera import camera_from
from guide_arc.core.simulate.perform import Performance, Script, perform
from guide_arc.core.simulate.tracker import TrackerNoise
from guide_arc.standards.loader import standard

PHONE = TrackerNoise(jitter=2.0, offset=3.5)


def measured(done: Performance) -> tuple[Body, Body]:
    """A recording as a picture shows it, and the same in space without any noise."""
    exact = LandmarkTrack(
        done.track.time_s, done.track.names, done.exact, np.ones(done.exact.shape[:2])
    )
    return Body(clean(done.track)), Body(clean(exact))


def at_work(done: Performance) -> np.ndarray:
    reps = done.truth["reps"]
    time = done.track.time_s
    return (time >= reps[0]["lift"][0]) & (time <= reps[-1]["lower"][1])


@pytest.mark.parametrize(
    ("id", "view"),
    [
        ("flat-bench-press", "left"),
        ("overhead-press-dumbbell", "left"),
        ("face-pull", "left"),
        ("lat-pulldown-wide", "front"),
        ("reverse-machine-fly", "front"),
        ("standing-barbell-curl", "left"),
        ("lateral-raise-dumbbell", "front"),
        ("chain-fly", "front"),
        ("one-arm-dumbbell-row", "left"),
    ],
)
def test_a_straight_look_gives_the_angle_that_the_picture_hides(id, view):
    plan = standard(id)
    done = perform(plan, Script(reps=4), camera_from(view, noise=0.3), 4)
    seen, exact = measured(done)
    inside = at_work(done)
    fit = fitted_arm(seen, plan, "left")
    assert fit is not None
    off = fit.value[plan.drive] - exact.measure(plan.drive, "left").value
    assert np.sqrt(np.mean(off[inside] ** 2)) < 4.0
    assert np.median(fit.misfit[inside]) < 1.0


@slow
@pytest.mark.parametrize("view", ["left", "front", "front-left", "back-right"])
def test_its_uncertainty_covers_the_truth_of_other_bodies_and_cameras(view):
    within, every = 0, 0
    for seed, id in enumerate(
        ("rope-pushdown", "incline-dumbbell-press", "cable-short-lever-lift")
    ):
        plan = standard(id)
        for arms in (0.9, 1.1):
            camera = camera_from(view, yaw_deg=4.0, pitch_deg=5.0, roll_deg=-2.0, tracker=PHONE)
            done = perform(plan, Script(reps=3, arm_length=arms), camera, 20 + seed)
            seen, exact = measured(done)
            side = "right" if "right" in view else "left"
            fit = fitted_arm(seen, plan, side)  # type: ignore[arg-type]
            assert fit is not None
            for measure in MEASURES:
                off = fit.value[measure] - exact.measure(measure, side).value  # type: ignore[arg-type]
                known = at_work(done) & np.isfinite(off)
                within += int((np.abs(off[known]) <= 2.0 * fit.u[measure][known]).sum())
                every += int(known.sum())
    assert within / every > 0.85


def test_a_hidden_angle_gets_a_wide_uncertainty_and_no_verdict():
    """An arm that is raised straight at the camera looks the same whatever its plane is."""
    plan = standard("lateral-raise-dumbbell")
    front, _ = measured(filmed("lateral-raise-dumbbell", reps=3, view="front", noise=1.0))
    off = elbow_off(front, plan, "left")
    assert off is not None
    high = np.nanargmax(front.measure("shoulder_elevation", "left").value)
    assert off.other_pct[high] > plan.check("elbow-path").limit


def test_where_the_hand_is_lost_a_raise_is_still_told():
    plan = standard("lateral-raise-dumbbell")
    done = filmed("lateral-raise-dumbbell", reps=4, view="front", noise=1.0)
    position = done.track.position.copy()
    hands = [
        i
        for i, n in enumerate(done.track.names)
        if n.endswith(("wrist", "index", "pinky", "thumb"))
    ]
    position[60:, hands] = np.nan
    body = Body(clean(replace(done.track, position=position)))
    fit = fitted_arm(body, plan, "left")
    assert fit is not None
    assert np.isfinite(fit.value["shoulder_elevation"][80:]).mean() > 0.95
    assert len(review_set(replace(done.track, position=position), plan).reps) == 4


def test_a_limb_takes_no_short_cut_between_places_that_look_alike():
    """Two places of a path look the same for a moment: the way there tells which one it is."""
    place = np.concatenate((np.linspace(5, 35, 31), np.linspace(35, 5, 31)))
    cost = (np.arange(41)[None] - place[:, None]) ** 2
    cost[20:26] = np.minimum(cost[20:26], (np.arange(41)[None] - 2.0) ** 2 * 0.5)
    assert np.abs(likeliest_way(cost, 15.0) - place).max() <= 2.0


@pytest.mark.parametrize("stated", sorted(BETWEEN_VIEWS))
def test_a_camera_between_two_sides_is_found_and_judged_by(stated):
    plan = standard("standing-barbell-curl")
    base, _off = BETWEEN_VIEWS[stated]
    camera = camera_from(stated, yaw_deg=8.0, noise=1.0)
    for faults in ({}, {"torso-swing": 18.0}):
        done = perform(plan, Script(reps=4, faults=faults), camera, 6)
        assert done.track.view == base
        review = review_set(done.track, plan)
        assert len(review.reps) == 4
        off = {f.rule.name for f in review.with_verdict("off")}
        assert ("torso-swing" in off) == bool(faults)
        assert bool(off) == bool(faults)
    aside = clean(done.track).aside
    assert aside.yaw_deg == pytest.approx(camera.yaw_deg, abs=3.0 * aside.u_deg)


def test_a_yaw_that_was_measured_is_taken_at_its_word():
    done = perform(
        standard("standing-barbell-curl"), Script(reps=3), camera_from("left", yaw_deg=20.0), 6
    )
    told = replace(done.track, camera=CameraPlace(yaw_deg=20.0))
    aside = clean(told).aside
    assert aside.yaw_deg == 20.0
    assert aside.u_deg < clean(done.track).aside.u_deg


def test_a_lying_bodys_camera_is_not_taken_for_one_farther_round():
    """The trunk that gives the scale is itself narrowed there."""
    plan = standard("lying-triceps-extension")
    done = perform(plan, Script(reps=3), camera_from("front-left", noise=1.0), 6)
    assert clean(done.track).aside.yaw_deg == pytest.approx(-45.0, abs=12.0)


def test_the_arm_behind_the_body_is_mentioned_once():
    plan = standard("standing-barbell-curl")
    review = review_set(filmed("standing-barbell-curl", reps=4, view="left", noise=1.0).track, plan)
    assert {f.side for f in review.findings} == {
        "left",
        "right",
        "both",
    }  # each has its place in the file
    read = told_once(review.findings, "left")
    assert "right" not in {f.side for f in read}
    assert {f.rule.name for f in read} == {f.rule.name for f in review.findings}
    assert sum("right arm is behind the body" in words for words in review.trust.doubts) == 1
    assert "range too short" not in review.trust.cannot
