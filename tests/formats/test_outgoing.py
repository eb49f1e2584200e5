"""What other programs read of us: the review as JSON and the measures as CSV."""

from __future__ import annotations

import csv
import io
import json

import pytest

from builders import filmed, reviewed
from guide_arc.core.review.measure_all import measure_all
from guide_arc.formats.measures_csv import measures_text
from guide_arc.formats.review_json import review_json


@pytest.fixture(scope="module")
def document():
    review, _ = reviewed("standing-barbell-curl", reps=4, noise=0.003, faults={"torso-swing": 20.0})
    return json.loads(review_json(review))


def test_the_review_names_what_it_is(document):
    assert document["format"] == "set-review/1"
    assert document["standard"] == "standing-barbell-curl"
    assert document["school"] == "locked-upper-arm"
    assert document["duration_s"] == pytest.approx(document["frames"] / 30.0, abs=0.02)


def test_each_rep_has_its_phases_in_order(document):
    for number, rep in enumerate(document["reps"], 1):
        assert rep["number"] == number
        assert rep["side"] == "both"
        assert rep["full"] is True
        assert rep["lift"][0] < rep["lift"][1] <= rep["lower"][0] < rep["lower"][1]
        assert rep["range"]["measure"] == "elbow_flexion"
        assert rep["range"]["from_deg"] < 20 < 120 < rep["range"]["to_deg"]
    assert document["reps"][-1]["bottom_hold"] is None


def test_each_finding_has_all_its_keys(document):
    for finding in document["findings"]:
        assert {
            "check",
            "verdict",
            "side",
            "reps",
            "value",
            "uncertainty",
            "limit",
            "unit",
            "at_s",
            "cue",
            "p",
            "hint",
        } <= set(finding)
        assert (finding["p"] is None) == (finding["verdict"] == "cannot-tell")
        assert finding["hint"] == (finding["verdict"] == "near" and finding["p"] >= 0.8)
        assert finding["verdict"] in ("ok", "near", "off", "cannot-tell")
        assert (finding["verdict"] == "cannot-tell") == ("why" in finding)


def test_every_check_stands_once_per_side(document):
    keys = [(f["check"], f["side"]) for f in document["findings"]]
    assert len(keys) == len(set(keys))
    assert ("upper-arm-drift", "left") in keys
    assert ("upper-arm-drift", "right") in keys
    assert ("torso-swing", "both") in keys


def test_off_is_past_the_limit_by_more_than_the_uncertainty(document):
    (swing,) = [f for f in document["findings"] if f["check"] == "torso-swing"]
    assert swing["verdict"] == "off"
    assert swing["value"] - swing["limit"] > swing["uncertainty"]


def test_a_row_of_measures_for_each_frame_at_the_tracks_own_times():
    track = filmed("lateral-raise-dumbbell", reps=1).track
    rows = list(csv.DictReader(io.StringIO(measures_text(track.time_s, measure_all(track, None)))))
    assert len(rows) == track.frames
    assert float(rows[7]["time_s"]) == track.time_s[7]
    assert rows[0]["left_shoulder_plane"] == ""  # the arm hangs: no azimuth
    assert float(rows[40]["left_elbow_flexion_u"]) > 0
    for name in list(rows[0])[1::2]:
        assert f"{name}_u" in rows[0]
