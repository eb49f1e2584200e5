"""Two phones on one set: no clap, one starts late, one stops early."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from builders import filmed, slow
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.review import Review
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.review.assess import review_set
from guide_arc.core.review.together import together
from guide_arc.standards.loader import standard

RAISE = "lateral-raise-dumbbell"
# The trunk swings in the last three of eight reps: the side sees it, the front does not.
LEAN = {"reps": 8, "faults": {"torso-swing": 20.0}, "fault_from": 6, "noise": 1.0}


def part(track: LandmarkTrack, start_s: float, end_s: float) -> LandmarkTrack:
    """What another phone recorded that was started and stopped then, on a clock of its own."""
    kept = (track.time_s >= start_s) & (track.time_s <= end_s)
    return replace(
        track,
        time_s=track.time_s[kept] - track.time_s[kept][0],
        position=track.position[kept],
        confidence=track.confidence[kept],
    )


@pytest.fixture(scope="module")
def front() -> Review:
    return review_set(filmed(RAISE, view="front", seed=4, **LEAN).track, standard(RAISE))  # type: ignore[arg-type]


@slow
@pytest.mark.parametrize(("first", "last"), [(1, 8), (2, 8), (3, 8), (1, 7), (2, 7)])
def test_a_fault_keeps_its_reps_whenever_the_other_phone_was_started(
    front: Review, first: int, last: int
) -> None:
    assert len(front.reps) == 8
    whole = filmed(RAISE, view="left", seed=4, **LEAN).track  # type: ignore[arg-type]
    start = front.reps[first - 1].start_s - 0.6
    end = front.reps[last - 1].end_s + 0.6
    side = review_set(part(whole, 0.0 if first == 1 else start, end), standard(RAISE))
    assert len(side.reps) == last - first + 1

    both = together(front, [side])
    swing = next(f for f in both.findings if f.rule.name == "torso-swing")
    assert (swing.verdict, swing.seen_from) == ("off", "from the left")
    assert swing.reps == tuple(range(6, last + 1))
    assert swing.at_s is not None
    assert front.reps[5].start_s - 0.3 <= swing.at_s <= front.reps[7].end_s + 0.3
    hike = next(f for f in both.findings if f.key == "shoulder-hike/right")
    assert hike.seen_from == "from the front"
    said = any("both recordings" in doubt for doubt in both.trust.doubts)
    assert said == (len(side.reps) != 8)


def test_a_recording_that_shows_no_rep_takes_nothing_away(front: Review) -> None:
    still = filmed(RAISE, view="left", seed=4, **LEAN).track  # type: ignore[arg-type]
    side = review_set(part(still, 0.0, front.reps[0].start_s - 0.2), standard(RAISE))
    both = together(front, [side])
    assert [f.verdict for f in both.findings] == [f.verdict for f in front.findings]
    assert np.isfinite([f.at_s for f in both.findings if f.at_s is not None]).all()


def test_recordings_of_two_exercises_are_not_one_set(front: Review) -> None:
    curl = "standing-barbell-curl"
    other = review_set(filmed(curl, reps=3).track, standard(curl))
    with pytest.raises(BadInput, match="only if both are the same"):
        together(front, [other])
