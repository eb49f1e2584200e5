"""Elbow and hand against the guide arc, the line of pull, the slack zone, and a camera off
level."""

from __future__ import annotations

import numpy as np
import pytest

from builders import TEN_MM, filmed, reviewed, verdicts
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.kinematics.path import departure, guide_of
from guide_arc.core.mechanics.pull import working_plane
from guide_arc.core.mechanics.resistance import GRID, lever_along, slack_share
from guide_arc.core.model.errors import BadInput
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards.loader import standard


@pytest.mark.parametrize(
    ("id", "check", "amount"),
    [
        ("lateral-raise-dumbbell", "elbow-path", 60.0),
        ("front-raise-midline", "elbow-path", 60.0),
        ("cross-cable-rear-fly", "elbow-path", 60.0),
        ("cable-cross-raise-low", "hand-path", 80.0),
        ("cross-cable-rear-fly", "line-of-pull", 34.0),
        ("rope-pushdown", "line-of-pull", 50.0),
        ("cable-cross-raise-low", "slack-zone", 60.0),
    ],
)
def test_the_value_is_the_size_of_the_fault(id, check, amount):
    review, _ = reviewed(id, reps=5, faults={check: amount}, noise=0.002)
    found = [f for f in review.findings if f.rule.name == check]
    assert {f.verdict for f in found} == {"off"}
    assert all(f.value == pytest.approx(amount, abs=0.12 * amount) for f in found)


def test_a_path_says_which_way_it_leaves():
    review, _ = reviewed("lateral-raise-dumbbell", reps=4, faults={"elbow-path": 60.0})
    said = {f.says for f in review.findings if f.rule.name == "elbow-path"}
    assert all("behind" in words for words in said)


def test_a_picture_says_of_a_path_no_more_than_shows():
    """From the front an arm that goes behind looks like one that comes ahead: it is on its arc as
    far as shows."""
    for faults in ({}, {"elbow-path": 60.0}):
        review, _ = reviewed(
            "lateral-raise-dumbbell", reps=4, view="front", noise=1.0, faults=faults
        )
        found = [f for f in review.findings if f.rule.name == "elbow-path"]
        assert all(f.partly and "as far as shows" in f.says for f in found if f.verdict == "ok")
        assert "off" not in {f.verdict for f in found if not faults}


def test_too_much_range_is_no_wrong_path():
    review, _ = reviewed("front-raise-midline", reps=4, faults={"range-over": 12.0}, noise=0.002)
    assert set(verdicts(review, "elbow-path")) == {"ok"}


def test_the_departure_of_an_exact_set_is_next_to_nothing():
    plan = standard("lateral-raise-dumbbell")
    body = Body(clean(filmed(plan.id, reps=2).track))
    for part in ("elbow", "wrist"):
        found = departure(body, plan, "left", part)
        assert np.nanpercentile(found.size_pct, 95) < 3.0
        assert np.nanmin(found.share) > -0.16
    assert not departure(body, plan, "left", "elbow").spot
    curl = standard("standing-barbell-curl")
    assert departure(Body(clean(filmed(curl.id, reps=2).track)), curl, "left", "elbow").spot


def test_departures_are_mirrored_with_the_body():
    plan = standard("front-raise-midline")
    body = Body(clean(filmed(plan.id, reps=2, noise=0.0).track))
    left, right = (departure(body, plan, side, "elbow") for side in ("left", "right"))
    assert left.off_pct == pytest.approx(right.off_pct, abs=0.8)
    assert guide_of(body, plan, "left", "elbow") == pytest.approx(
        guide_of(body, plan, "right", "elbow")
    )


def test_a_pulley_that_is_not_in_the_recording_is_asked_for():
    done = filmed("rope-pushdown", reps=4, noise=0.002)
    bare = [i for i, n in enumerate(done.track.names) if not n.endswith("pulley")]
    from dataclasses import replace

    track = replace(
        done.track,
        names=tuple(done.track.names[i] for i in bare),
        position=done.track.position[:, bare],
        confidence=done.track.confidence[:, bare],
    )
    review = review_set(track, standard("rope-pushdown"))
    asked = [f for f in review.findings if f.rule.name == "line-of-pull"]
    assert {f.verdict for f in asked} == {"cannot-tell"}
    assert all("mark it" in f.why for f in asked)


def test_a_setup_fault_needs_a_cable():
    with pytest.raises(BadInput, match="no cable"):
        filmed("standing-barbell-curl", faults={"line-of-pull": 20.0})


def test_a_weight_on_a_turning_arm_is_hardest_level():
    """A straight arm raised from hanging to level: the lever arm grows with the sine of the
    angle."""
    share = np.linspace(0.0, 1.0, 60)
    angle = share * np.pi / 2
    place = np.stack((np.sin(angle), -np.cos(angle), np.zeros(60)), axis=-1) * 0.6
    down = np.broadcast_to([0.0, -1.0, 0.0], (60, 3))
    lever = lever_along(share, place, down, np.pi / 2)
    assert lever == pytest.approx(0.6 * np.sin(np.linspace(0, np.pi / 2, GRID)), abs=0.03)
    # Below 15 % of the peak while sin(angle) < 0.15: a tenth of a right angle.
    assert slack_share(lever) == pytest.approx(np.arcsin(0.15) / (np.pi / 2), abs=0.03)
    assert slack_share(-lever) > 0.95
    with pytest.raises(ValueError, match="cubic"):
        lever_along(share[:3], place[:3], down[:3], 1.0)


def test_a_straight_way_spans_no_plane():
    line = np.linspace(0.2, 0.6, 30)[:, None] * np.array([[1.0, 0.0, 0.0]])
    assert working_plane(line + np.array([0.0, 0.001, 0.0])) is None
    turn = np.linspace(0, 1.5, 40)
    arc = np.stack((np.sin(turn), -np.cos(turn), np.zeros(40)), axis=-1) * 0.5
    assert np.abs(working_plane(arc)) == pytest.approx([0.0, 0.0, 1.0], abs=1e-6)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("view", "roll"), [("front", 8.0), ("back", -7.0), ("left", 12.0), ("right", -12.0)]
)
def test_a_camera_off_level_is_put_straight(view, roll):
    plan = standard("standing-barbell-curl")
    camera = Camera(view, 30.0, 1.5, 0.3, 0.0, roll_deg=roll)
    review = review_set(perform(plan, Script(reps=4), camera, 3).track, plan)
    found = review.trust.roll_deg
    assert abs(found.value) == pytest.approx(abs(roll), abs=2.0 * found.u)
    assert "off" not in verdicts(review, "torso-swing")
    straight = review_set(perform(plan, Script(reps=4), Camera(view, 30.0, 1.5), 3).track, plan)
    assert straight.trust.roll_deg is None


def test_a_leaning_trunk_is_measured_right_by_a_tilted_camera():
    """Without the correction the lean would be off by the whole tilt."""
    plan = standard("standing-barbell-curl")
    level, tilted = (
        Body(clean(perform(plan, Script(reps=2), Camera("left", 30.0, 1.0, roll_deg=r), 5).track))
        for r in (0.0, 12.0)
    )
    lean, same = level.measure("trunk_lean"), tilted.measure("trunk_lean")
    miss = np.nanmedian(np.abs(same.value - lean.value))
    assert miss < 3.0
    assert np.nanmedian(same.u) > miss / 2
    assert np.nanmedian(same.u) > np.nanmedian(lean.u)


def test_an_arm_across_the_picture_is_not_timed_by_its_foreshortened_elbow():
    """A press seen from the side is counted and timed by the arm's pose, and a clean one has
    nothing off."""
    review, truth = reviewed("overhead-press-dumbbell", reps=5, view="left", noise=1.0)
    assert len(review.reps) == len(truth["reps"])
    for rep, true in zip(review.reps, truth["reps"], strict=True):
        assert rep.lower.length_s == pytest.approx(true["lower"][1] - true["lower"][0], abs=0.25)
    assert not review.with_verdict("off")


def test_a_view_that_hides_the_joint_still_times_the_lift():
    """From the front a row's elbow bends towards the camera; how the arm looks tells how far it
    is."""
    review, truth = reviewed("one-arm-dumbbell-row", reps=5, view="front", noise=1.0)
    assert len(review.reps) == len(truth["reps"])
    for rep, true in zip(review.reps, truth["reps"], strict=True):
        assert rep.lower.length_s == pytest.approx(true["lower"][1] - true["lower"][0], abs=0.35)
    assert not {"too-fast-lower", "too-fast-lift"} & {
        f.rule.name for f in review.with_verdict("off")
    }


def test_noise_in_a_press_is_not_noise_in_a_curl(tmp_path):
    """The hand of a press works from the shoulder: no slack where the elbow alone would show
    some."""
    review, _ = reviewed("overhead-press-dumbbell", reps=3, noise=TEN_MM)
    assert not review.with_verdict("off")
