"""What a drifting upper arm does to shoulder and elbow, against a sum made by hand."""

from __future__ import annotations

import numpy as np
import pytest

from builders import filmed
from edits import seen, shoulder_turn, take
from guide_arc.core.kinematics.vectors import span_of
from guide_arc.core.review.assess import review_with_body
from guide_arc.core.review.drift_load import drift_load
from guide_arc.standards.loader import standard

CURL = "standing-barbell-curl"


def reviewed(view="none", noise=2.0):
    """Six curls whose upper arms were turned 28 degrees ahead on the way up."""
    done = take(CURL, None, reps=6)
    shoulder_turn(done, 28.0, "turn", "both", None)
    return review_with_body(seen(done, view, noise, 3), standard(CURL))


def test_the_levers_are_those_of_two_bars_in_a_plane():
    """Upper arm and forearm as two bars that hang from the shoulder: the lever of a weight about
    the shoulder is their reach ahead, about the elbow that of the forearm alone."""
    review, body, _repset = reviewed()
    rep = review.reps[2]
    found = drift_load(body, standard(CURL), [rep], "left")
    lift = span_of(body.time_s, rep.lift.start_s, rep.lift.end_s)
    raised = np.radians(body.measure("shoulder_elevation", "left").value[lift])
    flexed = np.radians(body.measure("elbow_flexion", "left").value[lift])
    upper = body.learned.upper_arm_m["left"]
    points = body.points
    grip = 0.5 * (points["left_index"] + points["left_pinky"])
    fore = float(np.nanmedian(np.linalg.norm(grip - points["left_elbow"], axis=1)))
    first = raised[:3].mean()
    reach = {
        "shoulder": upper * np.sin(raised) + fore * np.sin(raised + flexed),
        "shoulder_kept": upper * np.sin(first) + fore * np.sin(first + flexed),
        "elbow": fore * np.sin(raised + flexed),
        "elbow_kept": fore * np.sin(first + flexed),
    }
    assert found.shoulder == pytest.approx(np.abs(reach["shoulder"]).max(), rel=0.06)
    assert found.shoulder_kept == pytest.approx(np.abs(reach["shoulder_kept"]).max(), rel=0.06)
    assert found.elbow == pytest.approx(np.abs(reach["elbow"]).mean(), rel=0.06)
    assert found.elbow_kept == pytest.approx(np.abs(reach["elbow_kept"]).mean(), rel=0.06)
    assert found.shoulder > 1.15 * found.shoulder_kept


def told(review) -> list[str]:
    return [c.words for c in review.causes if c.kind == "load"]


def test_the_sentence_names_both_joints_and_needs_a_drift():
    [words] = told(reviewed()[0])
    assert words.startswith("The drifting upper arm raises the shoulder's peak load by ")
    assert words.endswith(" % off the elbow.")
    clean = review_with_body(filmed(CURL, reps=6).track, standard(CURL))[0]
    assert told(clean) == []


def test_from_the_front_no_lever_is_seen_and_none_is_told():
    review = reviewed("front", 1.0)[0]
    assert told(review) == []
