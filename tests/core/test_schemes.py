"""Reps in every case that occurs: drop sets, supersets, one-and-a-half reps, form that falls
apart."""

from __future__ import annotations

import numpy as np
import pytest

from builders import FIRST_NINE, TEN_MM, counts, filmed, reviewed, slow, verdicts
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.reps.doubts import clock
from guide_arc.core.reps.segment import find_reps
from guide_arc.core.reps.superset import split_by_standard
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.joined import perform_in_turn
from guide_arc.core.simulate.perform import Script
from guide_arc.standards.loader import standard

CAMERA = Camera(noise=TEN_MM, drift=0.001, dropout=0.02)


@pytest.mark.parametrize(
    "id", ["standing-barbell-curl", "lateral-raise-dumbbell", "seated-row-narrow-low"]
)
def test_one_and_a_half_reps_are_pairs_of_lifts(id):
    review, truth = reviewed(id, reps=5, scheme="one-and-a-half", noise=TEN_MM)
    assert counts(review.reps) == counts(truth["reps"])
    assert len(review.reps) == 10
    assert any("one-and-a-half" in doubt for doubt in review.trust.doubts)


def test_plain_reps_are_not_taken_for_half_ones():
    review, _ = reviewed("standing-barbell-curl", reps=8, partial=2, noise=TEN_MM)
    assert not any("one-and-a-half" in doubt for doubt in review.trust.doubts)


@pytest.mark.parametrize("id", ["standing-barbell-curl", "rope-pushdown", "front-raise-midline"])
def test_a_drop_set_is_one_set_with_the_change_of_weight_left_out(id):
    plan = standard(id)
    again = Script(reps=4, opening="walk-in", opening_s=7.0)
    done = perform_in_turn([(plan, Script(reps=6)), (plan, again)], CAMERA, 2)
    found = find_reps(Body(clean(done.track)), plan)
    assert len(found.reps) == 10
    truth = [rep for part in done.truth["parts"] for rep in part["reps"]]
    missed = [abs(r.lift.start_s - t["lift"][0]) for r, t in zip(found.reps, truth, strict=True)]
    assert np.median(missed) < 0.1
    rest = [d for d in found.doubts if "rest after rep 6" in d.words]
    assert len(rest) <= 1


@slow
@pytest.mark.parametrize(
    ("first", "second"),
    [
        ("standing-barbell-curl", "lateral-raise-dumbbell"),
        ("overhead-press-dumbbell", "standing-barbell-curl"),
        ("rope-pushdown", "cable-cross-raise-low"),
        ("front-raise-midline", "lateral-raise-dumbbell"),
    ],
)
def test_a_superset_is_split_between_its_two_exercises(first, second):
    one, other = standard(first), standard(second)
    done = perform_in_turn([(one, Script(reps=6)), (other, Script(reps=7))], CAMERA, 4)
    parts = split_by_standard(Body(clean(done.track)), [one, other])
    assert [(p.standard.id, len(p.repset.reps)) for p in parts] == [(first, 6), (second, 7)]
    assert all(part.sure for part in parts)
    turn = done.truth["parts"][1]["reps"][0]["lift"][0]
    assert done.truth["parts"][0]["reps"][-1]["lower"][1] < parts[0].span.end_s < turn


def test_a_set_of_one_exercise_has_one_part():
    plan, other = standard("standing-barbell-curl"), standard("lateral-raise-dumbbell")
    body = Body(clean(filmed(plan.id, reps=5, noise=TEN_MM).track))
    parts = split_by_standard(body, [plan, other])
    assert [p.standard.id for p in parts] == [plan.id]
    with pytest.raises(ValueError, match="two standards"):
        split_by_standard(body, [plan])


@slow
@pytest.mark.parametrize(
    "id", [*FIRST_NINE, "shrug", "kneeling-cable-crunch", "anchored-bar-arc", "upright-narrow-dip"]
)
def test_reps_that_fall_apart_still_count(id):
    """Three faults at once from rep 6 on: the path is another one, the reps are reps."""
    plan = standard(id)
    spatial = ("upper-arm-drift", "torso-swing", "shoulder-hike", "elbow-bend-change", "elbow-path")
    faults = {r.name: 1.8 * r.limit for r in plan.checks if r.name in spatial}
    faults["fatigue-drift"] = 25.0
    review, truth = reviewed(id, reps=10, faults=faults, fault_from=6, noise=TEN_MM)
    assert len(review.reps) == len(truth["reps"])


@slow
def test_three_hundred_reps_at_24_frames():
    review, truth = reviewed("standing-barbell-curl", reps=300, rate=24.0, noise=TEN_MM, seed=9)
    assert counts(review.reps) == counts(truth["reps"])


def test_a_count_on_the_edge_says_where():
    review, _ = reviewed("standing-barbell-curl", reps=6, partial=1, noise=0.002)
    short = next(rep for rep in review.reps if not rep.full)
    share = abs(short.to_deg - short.from_deg) / abs(
        review.reps[0].to_deg - review.reps[0].from_deg
    )
    named = any(f"rep {short.number} is on the edge" in doubt for doubt in review.trust.doubts)
    assert named == (abs(share - 0.70) < 0.05)
    assert clock(74.25) == "1:14.2"


def test_half_a_lowering_is_not_asked_to_last_as_long_as_a_whole_one():
    review, _ = reviewed("standing-barbell-curl", reps=5, scheme="one-and-a-half", noise=0.003)
    assert "off" not in verdicts(review, "too-fast-lower")
    hurried, _ = reviewed(
        "standing-barbell-curl",
        reps=5,
        scheme="one-and-a-half",
        noise=0.003,
        faults={"too-fast-lower": 0.7},
    )
    assert "off" in verdicts(hurried, "too-fast-lower")


def test_a_hold_that_is_asked_in_every_rep_is_no_break():
    from guide_arc.core.model.standard import Tempo

    tempo = Tempo(2.0, 13.0, 1.0, 0.0)
    review, truth = reviewed("overhead-press-dumbbell", reps=4, tempo=tempo, noise=TEN_MM)
    assert counts(review.reps) == counts(truth["reps"])
    assert not any("rest after" in doubt for doubt in review.trust.doubts)


def test_a_long_rest_within_a_set_is_said_with_its_length():
    plan = standard("standing-barbell-curl")
    done = perform_in_turn(
        [(plan, Script(reps=5)), (plan, Script(reps=4, opening_s=14.0))], CAMERA, 3
    )
    found = find_reps(Body(clean(done.track)), plan)
    assert len(found.reps) == 9
    rest = next(d for d in found.doubts if "rest after rep 5" in d.words)
    assert found.reps[4].end_s <= rest.at_s <= found.reps[5].start_s
    assert "counted as one set" in rest.words


@pytest.mark.parametrize("view", ["left", "right"])
def test_a_superset_filmed_from_the_side_is_split_too(view):
    one, other = standard("standing-barbell-curl"), standard("front-raise-midline")
    camera = Camera(view, 30.0, 1.5, 0.3, 0.01)
    done = perform_in_turn([(one, Script(reps=5)), (other, Script(reps=5))], camera, 6)
    parts = split_by_standard(Body(clean(done.track)), [one, other])
    assert [p.standard.id for p in parts] == [one.id, other.id]
    assert sum(rep.full for rep in parts[0].repset.reps) == 5
