"""Where phases start and end: fits to courses that were made by hand, and to sets under a phone's
noise."""

from __future__ import annotations

import numpy as np
import pytest

from builders import TEN_MM, frames_missed, reviewed
from guide_arc.core.reps.arc import EVEN, Arc, arc_of
from guide_arc.core.reps.course import MovementShapes
from guide_arc.core.reps.own_arc import arcs_of
from guide_arc.core.reps.profile import SAMPLES, fit_reaches
from guide_arc.core.simulate.timing import minimum_jerk
from guide_arc.standards.loader import shipped, standard

START_S, LONG_S = 2.7, 2.2
# Where a ramp has five percent of its speed.
EDGE_OF_RAMP = 1.0 - np.sqrt(1.0 - np.sqrt(0.05))


def courses(ramps: tuple[float, ...], arc: Arc = EVEN) -> tuple[np.ndarray, np.ndarray]:
    """Times and levels of movements of 2.2 s that rise from 10 to 130 and start 2.7 s into
    theirs."""
    time = np.tile(np.linspace(2.0, 6.0, SAMPLES), (len(ramps), 1))
    made = np.array([[10.0, 130.0, START_S, np.log(LONG_S), r, r] for r in ramps])
    return time, MovementShapes(np.ones(len(ramps), bool), arc, arc).level(time, made)


def noisy(level: np.ndarray, deg: float, seed: int) -> np.ndarray:
    return level + deg * np.random.default_rng(seed).standard_normal(level.shape)


@pytest.mark.parametrize("ramp", [0.15, 0.3, 0.5])
def test_the_course_of_a_movement_is_found_again(ramp):
    """A fit to a course of its own family gives back the moments it was made of."""
    found = fit_reaches(*courses((ramp,)), 0.05)
    edge = EDGE_OF_RAMP * ramp * LONG_S
    assert found.start_s[0] == pytest.approx(START_S + edge, abs=0.012)
    assert found.end_s[0] == pytest.approx(START_S + LONG_S - edge, abs=0.012)
    assert found.misfit_deg[0] < 0.2


def test_reps_that_differ_keep_their_own_ramps():
    ramps = (0.12, 0.2, 0.3, 0.4, 0.5)
    time, level = courses(ramps)
    found = fit_reaches(time, noisy(level, 0.05, 3), 0.05)
    edge = EDGE_OF_RAMP * np.array(ramps) * LONG_S
    assert found.start_s == pytest.approx(START_S + edge, abs=0.025)
    assert found.end_s == pytest.approx(START_S + LONG_S - edge, abs=0.025)


def test_one_rep_that_is_dropped_keeps_its_own_length_in_noise():
    """Nine lowered in 3 s and one let fall in 0.9 s: what a set repeats is not put upon the one
    that does not."""
    lengths = np.full(10, 3.0)
    lengths[6] = 0.9
    made = np.array([[130.0, 10.0, 0.5, np.log(long), 0.2, 0.2] for long in lengths])
    time = np.stack([np.linspace(0.1, 0.9 + long, SAMPLES) for long in lengths])
    level = MovementShapes(np.zeros(10, bool), EVEN, EVEN).level(time, made)
    found = fit_reaches(time, noisy(level, 2.0, 12), 0.05)
    took = found.end_s - found.start_s
    seen = lengths * (1.0 - 2 * EDGE_OF_RAMP * 0.2)
    assert took[6] == pytest.approx(seen[6], abs=0.12)
    assert np.delete(took, 6) == pytest.approx(np.delete(seen, 6), abs=0.2)


def test_an_angle_that_changes_unevenly_along_its_arc_is_no_slow_start():
    """A hand that goes evenly from the elbow's straight to its bent: the angle by the law of
    cosines, not by our arcs."""
    reach = np.linspace(0.598, 0.15, 41)
    angle = 180.0 - np.degrees(np.arccos((0.3**2 + 0.3**2 - reach**2) / (2 * 0.3 * 0.3)))
    at = np.linspace(0.0, 1.0, 41)
    time = np.tile(np.linspace(0.0, 3.2, SAMPLES), (4, 1))
    way = minimum_jerk((time - 0.6) / 2.0)
    level = np.interp(way, at, angle)
    # Five percent of the fastest the elbow bends, counted on a fine grid.
    fine = np.linspace(0.6, 2.6, 20001)
    speed = np.gradient(np.interp(minimum_jerk((fine - 0.6) / 2.0), at, angle), fine)
    moving = fine[speed >= 0.05 * speed[100:-100].max()]
    told = fit_reaches(time, level, 0.05, (Arc(angle), Arc(angle)))
    assert told.start_s == pytest.approx(np.full(4, moving[0]), abs=0.02)
    assert told.end_s == pytest.approx(np.full(4, moving[-1]), abs=0.02)
    untold = fit_reaches(time, level, 0.05)
    assert untold.misfit_deg[0] > 5.0 * told.misfit_deg[0]


def test_a_pace_of_another_law_is_timed_too():
    """Speed as half a sine, which is none of our courses, in noise that stays for some frames."""
    rng = np.random.default_rng(5)
    time = np.tile(np.linspace(0.0, 3.2, SAMPLES), (8, 1))
    share = np.clip((time - 0.6) / 2.0, 0.0, 1.0)
    level = 20.0 + 90.0 * 0.5 * (1.0 - np.cos(np.pi * share))
    drift = np.zeros_like(level)
    for k in range(1, SAMPLES):
        drift[:, k] = 0.6 * drift[:, k - 1] + 0.8 * rng.standard_normal(8)
    found = fit_reaches(time, level + drift, 0.05)
    true = 0.6 + 2.0 * np.arcsin(0.05) / np.pi
    assert np.median(np.abs(found.start_s - true)) < 0.07
    assert np.median(np.abs(found.end_s - (3.2 - true))) < 0.07


def test_an_arc_goes_there_and_back_and_on_beyond_its_ends():
    arc = Arc(np.array([0.0, 10.0, 40.0, 90.0]))
    share = np.array([-0.5, 0.0, 0.2, 0.9, 1.0, 1.4])
    assert arc.share(arc.level(share)) == pytest.approx(share)
    assert arc.level(np.array([1.1])) > 90.0 > arc.level(np.array([0.99]))


def test_an_arc_on_which_a_measure_stands_still_tells_no_moments():
    assert arc_of(np.array([0.0, 0.5, 30.0, 60.0]), 0.2) is EVEN
    assert arc_of(np.array([0.0, -5.0, 30.0]), 0.2) is EVEN
    assert arc_of(np.array([0.0, 20.0, 60.0]), 0.2) is not EVEN


@pytest.mark.parametrize("id", list(shipped()))
def test_every_standards_arcs_rise_along_the_lift(id):
    plan = standard(id)
    for arc in arcs_of(plan):
        assert (np.diff(arc.level_deg) > 0.0).all()


@pytest.mark.parametrize(
    ("id", "even"),
    [
        ("overhead-press-dumbbell", False),
        ("overhead-press-dumbbell", True),
        ("seated-row-narrow-low", True),
    ],
)
def test_edges_under_ten_millimetres(id, even):
    review, truth = reviewed(id, reps=9, noise=TEN_MM, drift=0.001, even_lowering=even, seed=6)
    missed = frames_missed(review, truth)
    assert np.median(missed) < 1.0
    assert np.percentile(missed, 95) < 2.6
