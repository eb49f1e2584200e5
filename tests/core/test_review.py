"""The whole review: order, cues, trust and the next prescription."""

from __future__ import annotations

import numpy as np
import pytest

from builders import TEN_MM, filmed, reviewed
from guide_arc.core.model.errors import BadInput
from guide_arc.core.review.assess import review_set
from guide_arc.core.review.measure_all import measure_all
from guide_arc.core.review.rank import MOST_CUES, proposed_cues
from guide_arc.standards.loader import standard


def test_what_may_hurt_the_spine_is_said_first():
    review, _ = reviewed(
        "standing-barbell-curl",
        reps=6,
        noise=0.003,
        faults={"range-short": 60.0, "torso-swing": 20.0, "shoulder-hike": 20.0},
    )
    off = [f.rule.name for f in review.with_verdict("off")]
    assert off[0] == "torso-swing"
    assert off.index("shoulder-hike") < off.index("range-short")


def test_at_most_three_cues_and_none_twice():
    review, _ = reviewed(
        "standing-barbell-curl",
        reps=6,
        noise=0.003,
        faults={
            "range-short": 40.0,
            "torso-swing": 20.0,
            "shoulder-hike": 20.0,
            "upper-arm-drift": 30.0,
        },
    )
    cues = proposed_cues(review.findings)
    names = [f.rule.name for f in cues]
    assert len(cues) == MOST_CUES
    assert len(set(names)) == MOST_CUES


def test_the_same_input_gives_the_same_review():
    done = filmed("rope-pushdown", reps=4, noise=TEN_MM)
    plan = standard("rope-pushdown")
    a, b = review_set(done.track, plan), review_set(done.track, plan)
    assert a.reps == b.reps
    assert a.findings == b.findings


def test_trust_tells_noise_and_gaps():
    review, _ = reviewed("rope-pushdown", reps=3, noise=TEN_MM, dropout=0.05)
    assert review.trust.noise_mm == pytest.approx(10.0, rel=0.12)
    assert 2.0 < review.trust.filled_pct < 9.0
    assert review.trust.scale == "true lengths"


def test_trust_tells_what_a_side_view_hides():
    review, _ = reviewed("standing-barbell-curl", reps=3, view="left")
    assert review.trust.view == "Seen from the left"
    assert "arms differ" in review.trust.cannot


def test_form_that_held_for_all_reps_earns_the_next_weight():
    review, _ = reviewed("standing-barbell-curl", reps=12, noise=0.003, load_kg=30.0)
    assert review.next_time.load_kg == pytest.approx(32.5)


def test_a_step_of_more_than_a_tenth_is_questioned():
    review, _ = reviewed("standing-barbell-curl", reps=12, noise=0.003, load_kg=15.0)
    assert review.next_time.load_kg == pytest.approx(15.0)
    assert "add reps first" in review.next_time.reason


def test_fewer_reps_than_the_range_add_reps_before_weight():
    review, _ = reviewed("standing-barbell-curl", reps=9, noise=0.003, load_kg=30.0)
    assert review.next_time.load_kg == pytest.approx(30.0)
    assert review.next_time.reps == (10, 12)


def test_form_that_gives_way_takes_weight_off():
    review, _ = reviewed(
        "standing-barbell-curl",
        reps=8,
        noise=0.003,
        load_kg=40.0,
        faults={"torso-swing": 22.0, "upper-arm-drift": 26.0},
    )
    assert review.next_time.load_kg < 40.0
    assert "lighter" in review.next_time.reason


def test_work_can_be_stopped():
    done = filmed("rope-pushdown", reps=3)

    class StopHere(Exception):
        pass

    def stop(share: float) -> None:
        if share > 0.4:
            raise StopHere

    with pytest.raises(StopHere):
        review_set(done.track, standard("rope-pushdown"), None, stop)


def test_measures_of_a_view_are_those_it_shows():
    done = filmed("standing-barbell-curl", reps=2, view="left")
    names = [s.name for s in measure_all(done.track, None)]
    assert "left_elbow_flexion" in names
    assert "right_elbow_flexion" not in names
    assert "trunk_rotation" not in names


def test_hike_is_measured_without_knowing_the_exercise():
    done = filmed("lateral-raise-dumbbell", reps=3, faults={"shoulder-hike": 16.0}, noise=0.002)
    series = {s.name: s for s in measure_all(done.track, None)}
    assert np.nanmax(series["left_shoulder_hike"].value) == pytest.approx(16.0, abs=2.0)


def test_an_unknown_school_offers_those_there_are():
    with pytest.raises(BadInput, match="locked-upper-arm"):
        standard("standing-barbell-curl", "nose")
