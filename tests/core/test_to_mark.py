"""Marking asks for what the exercise and the view need: nothing is clicked in vain, and nothing is
missed."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from builders import some_of
from faults_from_views import RECOMMENDED, near_arm, twice_the_limit
from guide_arc.core.model.landmarks import KIT
from guide_arc.core.model.marks import asked_points
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.review.assess import review_set
from guide_arc.core.review.to_mark import points_to_mark
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards.loader import standard

# Marked as one point, which stands for both of them.
_KNUCKLES = ("index", "pinky")


def marked(track: LandmarkTrack, names: tuple[str, ...]) -> LandmarkTrack:
    """What marks of these joints give of a recording, with its kit."""
    wanted = {
        name if name in ("neck", "mid_spine") else f"{name.partition('_')[0]}_{part}"
        for name in names
        for part in (_KNUCKLES if name.endswith("knuckles") else (name.partition("_")[2],))
    }
    kept = [i for i, n in enumerate(track.names) if n in wanted or n in KIT]
    return replace(
        track,
        names=tuple(track.names[i] for i in kept),
        position=track.position[:, kept],
        confidence=track.confidence[:, kept],
    )


def test_a_curl_from_the_side_asks_for_seven():
    names = points_to_mark(standard("standing-barbell-curl"), "left")
    assert [n.removeprefix("left_") for n in names] == [
        "ear",
        "shoulder",
        "elbow",
        "wrist",
        "knuckles",
        "hip",
        "ankle",
    ]


def test_a_row_from_the_side_asks_for_the_spine_as_well():
    names = points_to_mark(standard("bent-over-row"), "right")
    assert names[-2:] == ("neck", "mid_spine")
    assert "neck" not in points_to_mark(standard("standing-barbell-curl"), "right")
    assert "neck" not in points_to_mark(standard("cross-cable-rear-fly"), "back")


def test_a_push_up_from_the_side_asks_for_the_knee():
    assert "left_knee" in points_to_mark(standard("arched-handle-push-up"), "left")


@pytest.mark.parametrize(("id", "view"), some_of(RECOMMENDED)[::2])
def test_what_is_not_asked_for_changes_no_verdict(id, view):
    plan = standard(id)
    few = points_to_mark(plan, view)
    all_of_them = (*asked_points(view), *(n for n in few if n not in asked_points(view)))
    assert set(few) <= set(all_of_them)
    if few == all_of_them:
        return
    checks = [rule.name for rule in plan.checks]
    tempo, amount = twice_the_limit(plan, checks[-1])
    for faults in ({}, {checks[-1]: amount}):
        script = Script(reps=3, tempo=tempo, faults=faults, arms=near_arm(plan, view))
        track = perform(plan, script, Camera(view, 30.0, 1.0), 4).track
        told = [
            {
                (f.rule.name, f.side): f.verdict
                for f in review_set(marked(track, names), plan, tempo).findings
            }
            for names in (few, all_of_them)
        ]
        assert told[0] == told[1]
        assert np.isfinite(track.position).all()
