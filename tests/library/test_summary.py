"""What the queue says of a set without opening it."""

from __future__ import annotations

import json
from typing import Any

import pytest

from builders import reviewed
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.review.assess import review_set
from guide_arc.library.summary import summary_of
from guide_arc.standards.loader import standard


def summary(id: str, **film: Any) -> dict:
    review, _ = reviewed(id, **film)
    return summary_of(review)


def test_a_clean_set_says_so():
    seen = summary("rope-pushdown", reps=6, noise=0.003)
    assert seen["line"] == "all within the limits"
    assert seen["verdict"] == "ok"
    assert seen["urgency"] == 0


def test_the_worst_finding_and_how_many_more():
    seen = summary(
        "standing-barbell-curl",
        reps=6,
        noise=0.003,
        faults={"torso-swing": 22.0, "range-short": 40.0},
    )
    assert seen["line"].startswith("torso swings 22°, reps 1–6, and ")
    assert seen["verdict"] == "off"
    assert seen["off"] >= 2


def test_what_a_view_hides_is_not_called_fine():
    seen = summary("standing-barbell-curl", reps=6, view="left", noise=0.8)
    assert seen["verdict"] == "ok"
    assert "can't be told from this recording" in seen["line"]


def test_the_spine_is_more_urgent_than_the_range():
    swing = summary("standing-barbell-curl", reps=6, noise=0.003, faults={"torso-swing": 20.0})
    short = summary("standing-barbell-curl", reps=6, noise=0.003, faults={"range-short": 30.0})
    assert swing["urgency"] > short["urgency"] > 0


def test_full_and_short_reps_are_counted_apart_and_have_a_ring_each():
    seen = summary("lateral-raise-dumbbell", reps=5, partial=2, noise=0.003)
    assert (seen["full"], seen["partial"]) == (5, 2)
    assert [ring[2] for ring in seen["rings"]] == [True] * 5 + [False] * 2
    assert {5, 6} <= set(seen["off_rings"])


def test_rings_of_arms_that_alternate_are_told_apart():
    seen = summary(
        "front-raise-midline", reps=3, arms="alternating", noise=0.003, faults={"left-right": 34.0}
    )
    assert len(seen["rings"]) == 6
    assert {1, 3, 5} <= set(seen["off_rings"])  # the right arm's, every other one


def test_a_set_without_reps_says_why():
    review = review_set(
        reviewed_track("kneeling-cable-crunch", view="front"), standard("kneeling-cable-crunch")
    )
    seen = summary_of(review)
    assert seen["line"] == "this view does not show the movement that counts reps"
    assert seen["verdict"] == "cannot-tell"
    assert seen["rings"] == []


def reviewed_track(id: str, **film: Any) -> LandmarkTrack:
    from builders import filmed

    return filmed(id, reps=3, **film).track


@pytest.mark.parametrize("id", ["standing-barbell-curl", "seated-row-narrow-low"])
def test_a_glance_is_plain_data(id):
    seen = summary(id, reps=2)
    assert json.loads(json.dumps(seen)) == seen


def test_the_schools_name_stands_only_where_there_is_a_choice():
    assert summary("rope-pushdown", reps=2)["school"] == "upper arm locked"
    assert summary("seated-row-narrow-low", reps=2)["school"] == ""
