"""Reps and phases: what a coach counts, and what walking in or a phone must not add."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from builders import TEN_MM, counts, filmed, frames_missed, reviewed, slow, some_of
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.model.rep import Rep, Span
from guide_arc.core.model.standard import Range
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.reps.candidates import Candidate
from guide_arc.core.reps.doubts import doubts_of_noise
from guide_arc.core.reps.drive import DriveSignal
from guide_arc.core.reps.movements import movements, turning_points
from guide_arc.core.reps.segment import find_reps
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.opening import LEAST_WALK_IN_S
from guide_arc.core.simulate.timing import minimum_jerk
from guide_arc.standards.loader import shipped, standard


@pytest.mark.parametrize("id", some_of(list(shipped())))
def test_every_standard_is_counted_under_a_phones_noise(id):
    review, truth = reviewed(
        id, None, reps=5, partial=1, noise=TEN_MM, drift=0.002, dropout=0.03, stature_m=1.66
    )
    assert counts(review.reps) == counts(truth["reps"])


@pytest.mark.parametrize(
    "id",
    ["standing-barbell-curl", "rope-pushdown", "lateral-raise-dumbbell", "front-raise-midline"],
)
def test_walking_in_taking_the_kit_and_a_look_at_the_phone_are_no_reps(id):
    review, truth = reviewed(
        id, reps=4, opening="walk-in", opening_s=LEAST_WALK_IN_S, noise=TEN_MM, seed=3
    )
    assert counts(review.reps) == counts(truth["reps"])


def test_a_single_rep_between_walking_in_and_leaving():
    review, _ = reviewed(
        "rope-pushdown", reps=1, opening="walk-in", opening_s=LEAST_WALK_IN_S, noise=TEN_MM
    )
    assert counts(review.reps) == [("both", True)]


@slow
def test_two_hundred_reps():
    review, _ = reviewed("lateral-raise-dumbbell", reps=200, rate=24.0, noise=0.003)
    assert review.full_reps == 200


@pytest.mark.parametrize("rate", [24.0, 50.0, 120.0, 240.0])
def test_any_frame_rate(rate):
    review, truth = reviewed("standing-barbell-curl", reps=4, rate=rate, noise=0.004)
    assert counts(review.reps) == counts(truth["reps"])


def test_a_hold_of_ten_seconds_is_one_hold():
    review, _ = reviewed("seated-row-narrow-low", reps=4, first_hold_s=10.0, noise=TEN_MM)
    assert len(review.reps) == 4
    first = review.reps[0].top_hold
    assert first is not None
    assert first.length_s == pytest.approx(10.1, abs=0.3)


def test_arms_that_alternate_are_numbered_by_themselves():
    review, truth = reviewed("front-raise-midline", reps=4, arms="alternating", noise=TEN_MM)
    assert counts(review.reps) == counts(truth["reps"])
    assert [r.number for r in review.reps if r.side == "left"] == [1, 2, 3, 4]
    assert [r.number for r in review.reps if r.side == "right"] == [1, 2, 3, 4]


@pytest.mark.parametrize("arm", ["left", "right"])
def test_one_arm_alone(arm):
    review, _ = reviewed("one-arm-dumbbell-row", reps=5, arms=arm, noise=TEN_MM)
    assert review.side == arm
    assert len(review.reps) == 5


def test_a_mirrored_body_gives_mirrored_reps():
    done = filmed("one-arm-dumbbell-row", reps=4, arms="left", noise=0.003)
    track = done.track
    names = tuple(
        "right" + n[4:] if n.startswith("left") else "left" + n[5:] if n.startswith("right") else n
        for n in track.names
    )
    mirrored = replace(track, names=names, position=track.position * np.array([-1.0, 1.0, 1.0]))
    plan = standard("one-arm-dumbbell-row")
    left, right = review_set(track, plan), review_set(mirrored, plan)
    assert right.side == "right"
    for a, b in zip(left.reps, right.reps, strict=True):
        assert b.lift.start_s == pytest.approx(a.lift.start_s, abs=1e-6)
        assert b.to_deg == pytest.approx(a.to_deg, abs=1e-6)


def test_turning_the_room_changes_no_rep():
    done = filmed("rope-pushdown", reps=3, noise=0.003)
    c, s = np.cos(0.6), np.sin(0.6)
    turn = np.array([[c, 0, s], [0, 1, 0], [-s, 0, c]])
    turned = replace(done.track, position=done.track.position @ turn.T + np.array([0.5, 0.0, 1.0]))
    plan = standard("rope-pushdown")
    before, after = review_set(done.track, plan), review_set(turned, plan)
    for a, b in zip(before.reps, after.reps, strict=True):
        assert b.from_deg == pytest.approx(a.from_deg, abs=0.05)
        assert b.lower.end_s == pytest.approx(a.lower.end_s, abs=0.02)


def test_stretching_time_changes_no_range():
    done = filmed("standing-barbell-curl", reps=4)
    slow = replace(done.track, time_s=done.track.time_s * 1.5)
    plan = standard("standing-barbell-curl")
    for a, b in zip(review_set(done.track, plan).reps, review_set(slow, plan).reps, strict=True):
        assert b.to_deg - b.from_deg == pytest.approx(a.to_deg - a.from_deg, abs=1.0)


def test_more_standing_before_adds_no_rep():
    short, _ = reviewed("standing-barbell-curl", reps=3, opening_s=1.0, noise=0.003)
    long, _ = reviewed("standing-barbell-curl", reps=3, opening_s=20.0, noise=0.003)
    assert counts(short.reps) == counts(long.reps)


@pytest.mark.parametrize(
    "id", ["standing-barbell-curl", "rope-pushdown", "overhead-press-dumbbell"]
)
def test_phases_of_a_clean_set_are_right_to_the_frame(id):
    review, truth = reviewed(id, reps=5, rate=60.0)
    for got, true in zip(review.reps, truth["reps"], strict=True):
        assert got.lift.start_s == pytest.approx(true["lift"][0], abs=0.05)
        assert got.lift.end_s == pytest.approx(true["lift"][1], abs=0.05)
        assert got.lower.start_s == pytest.approx(true["lower"][0], abs=0.05)
        assert got.lower.end_s == pytest.approx(true["lower"][1], abs=0.05)
        assert got.from_deg == pytest.approx(true["range"]["from_deg"], abs=1.5)
        assert got.to_deg == pytest.approx(true["range"]["to_deg"], abs=1.5)


def test_the_last_rep_has_no_bottom_hold():
    review, _ = reviewed("standing-barbell-curl", reps=3)
    assert review.reps[-1].bottom_hold is None


def test_one_arm_that_does_less_still_counts_as_both():
    review, _ = reviewed(
        "overhead-press-dumbbell", reps=4, faults={"left-right": 35.0}, noise=TEN_MM
    )
    assert review.side == "both"
    assert len(review.reps) == 4


def test_a_still_person_does_nothing():
    done = filmed("standing-barbell-curl", reps=1, noise=0.003)
    still = done.track.time_s < 1.5
    track = LandmarkTrack(
        time_s=done.track.time_s[still],
        names=done.track.names,
        position=done.track.position[still],
        confidence=done.track.confidence[still],
    )
    review = review_set(track, standard("standing-barbell-curl"))
    assert review.reps == ()
    assert "no rep of this exercise was found" in review.trust.doubts
    assert all(f.verdict == "cannot-tell" for f in review.findings)


def test_a_view_that_hides_the_driving_measure_says_so():
    done = filmed("kneeling-cable-crunch", reps=3, view="front")
    review = review_set(done.track, standard("kneeling-cable-crunch"))
    assert review.reps == ()
    assert "this view does not show the movement that counts reps" in review.trust.doubts


def test_a_curl_from_the_front_is_counted_by_how_the_forearm_looks():
    done = filmed("standing-barbell-curl", reps=3, view="front", noise=1.0)
    review = review_set(done.track, standard("standing-barbell-curl"))
    assert len(review.reps) == 3
    assert not review.with_verdict("off")


def test_a_press_from_the_front_is_counted_and_its_range_is_told():
    for faults, said in (({}, set()), ({"range-short": 32.0}, {"off"})):
        done = filmed("overhead-press-dumbbell", reps=4, view="front", noise=1.0, faults=faults)
        review = review_set(done.track, standard("overhead-press-dumbbell"))
        assert len(review.reps) == 4
        found = {f.verdict for f in review.findings if f.rule.name == "range-short"}
        assert said <= found
        assert ("off" in found) == bool(said)


# Movements of a signal that was laid out by hand


def drive_of(signal: np.ndarray, rate: float = 60.0) -> DriveSignal:
    time = np.arange(len(signal)) / rate
    return DriveSignal(
        "both", "elbow_flexion", Range(0, 100, 10), time, signal, np.ones(len(signal), bool), 0.05
    )


def laid_out(*moves: tuple[float, float], rate: float = 60.0) -> np.ndarray:
    """(seconds, degrees to go to) one after the other, with a smooth profile each."""
    parts, at = [], 0.0
    for seconds, to in moves:
        share = minimum_jerk(np.linspace(0, 1, round(seconds * rate), endpoint=False))
        parts.append(at + (to - at) * share)
        at = to
    return np.concatenate(parts)


def test_turning_points_ignore_what_is_too_small():
    signal = laid_out((1, 100), (1, 95), (1, 100), (1, 0))
    points = turning_points(signal, 20.0)
    assert len(points) == 3
    assert signal[points[1]] == pytest.approx(100, abs=0.5)


def test_a_sticking_point_does_not_end_the_lift():
    signal = laid_out((1, 0), (0.8, 50), (0.1, 50), (0.8, 100), (0.5, 100), (2, 0), (1, 0))
    found = movements(drive_of(signal), 20.0)
    assert [m.sign for m in found] == [1, -1]
    assert found[0].span.length_s == pytest.approx(1.6, abs=0.15)


def test_a_stop_in_the_middle_of_the_lift_does_not_end_it_either():
    signal = laid_out((1, 0), (0.8, 50), (0.6, 50), (0.8, 100), (0.5, 100), (2, 0), (1, 0))
    found = movements(drive_of(signal), 20.0)
    assert found[0].span.length_s == pytest.approx(2.1, abs=0.15)


def test_a_long_hold_belongs_to_neither_movement():
    signal = laid_out((1, 0), (1, 100), (12, 100), (2, 0), (1, 0))
    noisy = signal + 0.3 * np.random.default_rng(0).standard_normal(len(signal))
    lift, lower = movements(drive_of(noisy), 20.0)
    assert lift.span.end_s == pytest.approx(1.95, abs=0.12)
    assert lower.span.start_s == pytest.approx(14.1, abs=0.15)


def test_the_edge_speed_is_five_percent_of_each_phases_own_peak():
    signal = laid_out((1, 0), (0.5, 100), (4, 0), (1, 0), rate=240.0)
    lift, lower = movements(drive_of(signal, 240.0), 20.0)
    for move, start, length in ((lift, 1.0, 0.5), (lower, 1.5, 4.0)):
        assert move.span.start_s == pytest.approx(start + 0.0595 * length, abs=0.04)
        assert move.span.end_s == pytest.approx(start + length - 0.0595 * length, abs=0.04)


def test_hike_counts_from_the_quiet_second():
    done = filmed("lateral-raise-dumbbell", reps=3, faults={"shoulder-hike": 15.0}, noise=0.002)
    body = Body(clean(done.track))
    first = find_reps(body, standard("lateral-raise-dumbbell")).first_lift_s
    hike = body.counted_from(first).measure("shoulder_hike", "left").value
    assert np.nanmax(hike) == pytest.approx(15.0, abs=1.5)
    assert np.abs(hike[:30]).max() < 1.5
    assert not body.measure("shoulder_hike", "left").known


@pytest.mark.parametrize("even", [False, True])
def test_phases_under_noise_whatever_the_pace(even):
    """A lowering with a bell of speed and one to an even count are both timed to a few frames."""
    review, truth = reviewed(
        "standing-barbell-curl", reps=8, noise=TEN_MM, drift=0.001, even_lowering=even, seed=4
    )
    missed = frames_missed(review, truth)
    assert np.median(missed) < 1.5
    assert max(missed) < 8.0


def spans(*ends: tuple[float, float], short: tuple[int, ...] = ()) -> tuple[Rep, ...]:
    """Reps of a set from when to when, by hand."""
    return tuple(
        Rep(
            i + 1,
            "both",
            i not in short,
            Span(a, 0.5 * (a + b)),
            None,
            Span(0.5 * (a + b), b),
            None,
            "elbow_flexion",
            20.0,
            130.0,
        )
        for i, (a, b) in enumerate(ends)
    )


def test_a_rep_that_noise_may_have_cut_or_made_is_told():
    """Sums by hand: four reps of five seconds with one cut into halves, one swallowed, and a twitch
    before them."""
    usual = ((0.0, 5.0), (5.0, 10.0), (10.0, 15.0))
    assert doubts_of_noise(spans(*usual), []) == []
    halves = doubts_of_noise(spans(*usual, (15.0, 17.4), (17.4, 20.0)), [])
    assert [d.words for d in halves] == [
        "rep 4 is over in 48 % of the usual time: it may be a part of one",
        "rep 5 is over in 52 % of the usual time: it may be a part of one",
    ]
    assert all(d.hardly is None for d in halves)  # it may be a fast one just as well
    long = doubts_of_noise(spans(*usual, (15.0, 25.0)), [])
    assert [d.words for d in long] == ["rep 4 takes 2.0 times the usual time: it may be two"]
    first = doubts_of_noise(spans((0.0, 4.0), (5.0, 10.0), (10.0, 15.0), short=(0,)), [])
    assert [d.words for d in first] == ["rep 1 is short and full ones follow it: it may be none"]
    meant = spans(*((5.0 * i, 5.0 * i + 4.5) for i in range(6)), short=(1, 3, 5))
    assert doubts_of_noise(meant, []) == []  # short ones and full ones in turn are the set's rule
    twitches = spans(*((5.0 * i, 5.0 * i + 4.5) for i in range(6)), short=(1, 2, 4))
    assert [d.words for d in doubts_of_noise(twitches, [])] == [
        "3 of 6 reps are short, with full ones after them: unless half reps were asked for, they"
        " may be none"
    ]
    assert first[0].hardly == ("both", 1)  # what may be none is judged for nothing
    assert doubts_of_noise((), []) == []


def test_what_is_as_large_as_a_rep_beside_the_set_is_told_and_what_lies_apart_is_not():
    """The last rep's two ends are led aside for a moment: it falls in two, and neither looks like
    the others."""
    found = find_reps(
        Body(clean(filmed("standing-barbell-curl", reps=3).track)),
        standard("standing-barbell-curl"),
    )
    one = found.cut[next(iter(found.cut))][0]

    def moved(by_s: float) -> Candidate:
        lift, lower = (
            replace(
                m, span=replace(m.span, start_s=m.span.start_s + by_s, end_s=m.span.end_s + by_s)
            )
            for m in (one.lift, one.lower)
        )
        return replace(one, lift=lift, lower=lower)

    long_s = one.lower.span.end_s - one.lift.span.start_s
    end_s = found.reps[-1].end_s - one.lift.span.start_s
    beside, after_it = moved(end_s + 0.3), moved(end_s + 0.5 + long_s)
    apart = moved(end_s + 2 * long_s + 9.0)
    told = doubts_of_noise(found.reps, [after_it, apart, beside])
    assert sorted(d.at_s for d in told) == [beside.lift.span.end_s, after_it.lift.span.end_s]
    assert all("not counted" in d.words for d in told)
