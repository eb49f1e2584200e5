"""A lost sample is never evidence: what was not seen is neither wrong nor right."""

from __future__ import annotations

import csv
import io
from typing import Any

import numpy as np
import pytest

from builders import few_of, filmed
from gaps import lost, one_trial
from guide_arc.core.model.review import Review
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.review.assess import review_set
from guide_arc.core.review.praise import praise_of
from guide_arc.formats.reps_csv import reps_text
from guide_arc.formats.review_json import review_document
from guide_arc.standards.loader import standard

CURL = "standing-barbell-curl"
ARM = ["left_wrist", "left_index", "left_pinky", "left_thumb"]


@pytest.mark.parametrize("seed", few_of([f"test/{n}" for n in range(24)]))
def test_a_gap_in_a_clean_recording_turns_nothing_off_and_hides_no_rep_in_silence(seed: str):
    trial = one_trial(seed)
    assert not trial.off, trial.what
    assert not trial.reps, trial.what


@pytest.fixture(scope="module")
def curl() -> LandmarkTrack:
    return filmed(CURL, reps=6, view="left", noise=0.8, seed=3).track


def bend(review: Review, track: LandmarkTrack) -> np.ndarray:
    """(F,) where the elbow is bent by more than 90 degrees, from the marks of this very
    recording."""
    points = {
        n: track.position[:, track.names.index(f"left_{n}")] for n in ("shoulder", "elbow", "wrist")
    }
    upper, fore = points["shoulder"] - points["elbow"], points["wrist"] - points["elbow"]
    cosine = (upper * fore).sum(1) / np.linalg.norm(upper, axis=1) / np.linalg.norm(fore, axis=1)
    return cosine > 0.0


def by_check(review: Review) -> dict[str, Any]:
    return {f.rule.name: f for f in review.findings if f.side in ("left", "both")}


def test_a_forearm_that_is_lost_above_ninety_degrees_is_neither_short_nor_fast(curl):
    whole = review_set(curl, standard(CURL))
    review = review_set(lost(curl, ARM, bend(whole, curl)), standard(CURL))
    assert [f.key for f in review.with_verdict("off")] == []
    found = by_check(review)
    for name in ("range-short", "too-fast-lower", "momentum"):
        assert found[name].verdict == "cannot-tell", name
    assert "at least" in found["range-short"].why
    assert len(review.reps) == len(whole.reps)
    told = {p.words for p in praise_of(review)}
    assert "You lowered the weight under control." not in told


def test_ends_that_were_not_seen_are_null_for_other_programs(curl):
    whole = review_set(curl, standard(CURL))
    review = review_set(lost(curl, ARM, bend(whole, curl)), standard(CURL))
    for rep in review_document(review)["reps"]:
        start, end = rep["lift"]
        assert start is not None
        assert end is None
        assert rep["lower"][0] is None
    rows = list(csv.DictReader(io.StringIO(reps_text(review))))
    assert all(row["lift_end_s"] == "" and row["lift_start_s"] != "" for row in rows)


def test_an_arm_that_is_lost_does_no_less_than_the_other():
    track = filmed(CURL, reps=6, noise=0.002, seed=3).track
    last = track.time_s > 0.6 * track.time_s[-1]
    names = [n for n in track.names if n.startswith("right_") and n != "right_hip"]
    review = review_set(lost(track, names, last), standard(CURL))
    assert by_check(review)["left-right"].verdict != "off"
    assert len(review.reps) == 6


def test_a_long_gap_is_a_doubt_about_the_count(curl):
    third = (curl.time_s > 0.3 * curl.time_s[-1]) & (curl.time_s < 0.6 * curl.time_s[-1])
    review = review_set(lost(curl, ARM, third), standard(CURL))
    assert any("not seen from" in doubt for doubt in review.trust.doubts)


def test_a_check_that_saw_few_reps_proves_nothing(curl):
    """The upper arm is seen in two of six reps only."""
    whole = review_set(curl, standard(CURL))
    late = curl.time_s > whole.reps[1].end_s
    gone = lost(curl, ["left_elbow"], late & (np.arange(len(late)) % 60 < 40))
    drift = by_check(review_set(gone, standard(CURL)))["upper-arm-drift"]
    assert drift.verdict in ("cannot-tell", "near")


def test_a_short_flicker_costs_no_verdict(curl):
    gone = lost(curl, ARM, np.arange(curl.frames) % 50 < 3)
    whole = review_set(curl, standard(CURL))
    review = review_set(gone, standard(CURL))
    assert {f.rule.name for f in review.with_verdict("ok")} >= {
        f.rule.name for f in whole.with_verdict("ok")
    } - {"wrist-bend"}
