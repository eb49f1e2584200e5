"""What is a rep of this set and what is not, case by case."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from builders import TEN_MM, counts, filmed
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.opening import LEAST_WALK_IN_S, surroundings
from guide_arc.standards.loader import standard


def joined(*tracks: LandmarkTrack, gap_s: float = 1.0) -> LandmarkTrack:
    """Recordings one after the other, standing still in between."""
    times, positions, at = [], [], 0.0
    names = [n for n in tracks[0].names if all(n in track.names for track in tracks)]
    for track in tracks:
        times.append(track.time_s - track.time_s[0] + at)
        positions.append(track.position[:, [track.names.index(n) for n in names]])
        at = float(times[-1][-1]) + gap_s
    position = np.concatenate(positions)
    return LandmarkTrack(
        time_s=np.concatenate(times),
        names=tuple(names),
        position=position,
        confidence=np.ones(position.shape[:2]),
    )


PLAN = standard("rope-pushdown")


@pytest.fixture(scope="module")
def pushdowns() -> LandmarkTrack:
    return filmed("rope-pushdown", reps=5, noise=0.004).track


def test_another_exercise_afterwards_adds_no_rep(pushdowns):
    presses = filmed("overhead-press-dumbbell", reps=1, noise=0.004).track
    review = review_set(joined(pushdowns, presses), PLAN)
    assert counts(review.reps) == [("both", True)] * 5


def test_one_arm_that_moves_alone_adds_no_rep(pushdowns):
    phone = filmed("standing-barbell-curl", reps=1, arms="right", noise=0.004).track
    review = review_set(joined(pushdowns, phone), PLAN)
    assert len(review.reps) == 5


def test_a_set_carried_on_after_a_pause_is_one_set(pushdowns):
    review = review_set(joined(pushdowns, pushdowns, gap_s=20.0), PLAN)
    assert [r.number for r in review.reps] == list(range(1, 11))
    assert review.reps[4].bottom_hold.length_s > 20.0


def test_bending_down_between_reps_adds_none():
    walk = filmed(
        "standing-barbell-curl", reps=3, opening="walk-in", opening_s=LEAST_WALK_IN_S, noise=TEN_MM
    )
    review = review_set(walk.track, standard("standing-barbell-curl"))
    assert len(review.reps) == 3
    assert review.reps[0].start_s > LEAST_WALK_IN_S - 0.5


def test_reps_that_shrink_to_half_stay_in_the_set():
    done = filmed("rope-pushdown", reps=10, noise=0.004, faults={"fatigue-drift": 50.0})
    review = review_set(done.track, PLAN)
    assert len(review.reps) == 10
    assert counts(review.reps) == counts(done.truth["reps"])


@pytest.mark.parametrize("share", [0.05, 0.2])
def test_a_twitch_is_no_rep(pushdowns, share):
    twitch = filmed(
        "rope-pushdown", reps=1, noise=0.004, faults={"range-short": (1 - share) * 92.0}
    ).track
    review = review_set(joined(pushdowns, twitch), PLAN)
    assert len(review.reps) == 5


def test_a_third_of_the_way_is_a_partial_rep(pushdowns):
    short = filmed("rope-pushdown", reps=1, noise=0.004, faults={"range-short": 0.6 * 92.0}).track
    review = review_set(joined(pushdowns, short), PLAN)
    assert [r.full for r in review.reps] == [True] * 5 + [False]


def test_someone_elsewhere_in_the_room_is_no_rep_of_this_set(pushdowns):
    moved = replace(pushdowns, position=pushdowns.position + np.array([0.0, 0.0, 1.5]))
    one = LandmarkTrack(
        time_s=moved.time_s[:130],
        names=moved.names,
        position=moved.position[:130],
        confidence=moved.confidence[:130],
    )
    review = review_set(joined(one, pushdowns), PLAN)
    assert len(review.reps) == 5


def test_walking_in_needs_its_time():
    with pytest.raises(ValueError, match="walking in takes"):
        surroundings("walk-in", 2.0, 10.0)
