"""Values that can't be wrong: tracks, spans, findings."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import BODY, KIT, other
from guide_arc.core.model.quantity import Series
from guide_arc.core.model.rep import Rep, Span
from guide_arc.core.model.standard import CheckRule, Range, Tempo
from guide_arc.core.model.track import LandmarkTrack


def track(**changed: Any) -> LandmarkTrack:
    given = {
        "time_s": np.array([0.0, 0.1, 0.2]),
        "names": ("nose", "left_wrist"),
        "position": np.zeros((3, 2, 3)),
        "confidence": np.ones((3, 2)),
        **changed,
    }
    return LandmarkTrack(**given)


@pytest.mark.parametrize(
    ("changed", "words"),
    [
        ({"position": np.zeros((3, 2, 2))}, "shape"),
        ({"confidence": np.ones((3, 1))}, "confidences"),
        ({"names": ("nose", "nose")}, "twice"),
        ({"view": "front"}, "does not go with world"),
        (
            {"space": "image", "view": "left", "position": np.zeros((3, 2, 2))},
            "size of its picture",
        ),
        ({"time_s": np.array([0.0, 0.2, 0.1])}, "rise"),
        ({"time_s": np.array([0.0, np.nan, 0.2])}, "finite"),
        ({"time_s": np.array([-0.1, 0.0, 0.1])}, "negative"),
        ({"position": np.full((3, 2, 3), 1400.0)}, "metres"),
    ],
)
def test_a_track_that_can_not_be_is_refused(changed, words):
    with pytest.raises(BadInput, match=words):
        track(**changed)


def test_a_track_can_not_be_changed_afterwards():
    mine = np.zeros((3, 2, 3))
    made = track(position=mine)
    mine[0, 0, 0] = 5.0
    assert made.position[0, 0, 0] == 0.0
    with pytest.raises(ValueError, match="read-only"):
        made.position[0, 0, 0] = 1.0


def test_a_tracks_rate_and_length():
    made = track()
    assert made.frames == 3
    assert made.frame_rate_hz == pytest.approx(10.0)
    assert made.duration_s == pytest.approx(0.3)
    assert (
        track(
            time_s=np.array([0.0]), position=np.zeros((1, 2, 3)), confidence=np.ones((1, 2))
        ).duration_s
        == 0.0
    )


def test_a_pulley_far_away_makes_nobody_a_giant():
    position = np.zeros((3, 2, 3))
    position[:, 1] = (0.0, 2.2, 9.0)
    assert track(names=("nose", "left_pulley"), position=position).has("left_pulley")


def test_a_landmark_that_is_not_there_is_all_missing():
    made = track()
    assert not made.has("right_hip")
    assert np.isnan(made.point("right_hip")).all()


def test_the_names_are_those_of_the_format():
    assert len(BODY) == 27
    assert len(KIT) == 9
    assert other("left") == "right"
    assert other("right") == "left"


def test_a_span_does_not_end_before_it_starts():
    assert Span(1.0, 2.5).length_s == pytest.approx(1.5)
    with pytest.raises(ValueError, match="before it starts"):
        Span(2.0, 1.0)


def test_a_reps_moments():
    rep = Rep(3, "left", True, Span(1, 2), Span(2, 3), Span(3, 5), None, "elbow_flexion", 10, 130)
    assert rep.key == ("left", 3)
    assert rep.turn_s == pytest.approx(2.5)
    assert rep.under_load_s == pytest.approx(4.0)


def finding(side: str, reps: tuple[int, ...]) -> Finding:
    rule = CheckRule("torso-swing", 9.0, "spine", "Torso swings", "Because of it.", "Stand still.")
    return Finding(rule, "off", side, reps, 12.0, 1.0, 9.0, "deg", 1.0, "torso swings 12°")  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("side", "rep_side", "number", "about"),
    [
        ("left", "left", 2, True),
        ("left", "right", 2, False),
        ("both", "right", 2, True),
        ("left", "both", 2, True),
        ("both", "both", 3, False),
    ],
)
def test_a_finding_knows_the_reps_it_is_about(side, rep_side, number, about):
    rep = Rep(number, rep_side, True, Span(0, 1), None, Span(1, 2), None, "elbow_flexion", 0, 1)
    assert finding(side, (1, 2)).is_about(rep) is about
    assert finding(side, (1, 2)).key == f"torso-swing/{side}"


def test_a_series_has_a_value_and_an_uncertainty_for_each_sample():
    with pytest.raises(ValueError, match="trunk_lean"):
        Series("trunk_lean", "deg", np.zeros(3), np.zeros(2))
    assert not Series("trunk_lean", "deg", np.full(3, np.nan), np.full(3, np.nan)).known


def test_tempo_and_range_in_words_and_numbers():
    assert str(Tempo(3.0, None, 1.0, 0.5)) == "3-x-1-0.5"
    assert Range(100, 10, 12).size_deg == 90


def test_the_nearest_known_word_is_offered():
    assert did_you_mean("wrld", ("world", "image")) == " (did you mean 'world'?)"
    assert did_you_mean("qqqq", ("world", "image")) == ""
