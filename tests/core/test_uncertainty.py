"""How sure a measure is, against many noisy copies of the same pose."""

from __future__ import annotations

import numpy as np
import pytest

from builders import filmed
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import CleanTrack, clean
from guide_arc.core.kinematics.measures import DEFINITIONS
from guide_arc.core.kinematics.views import OUT_OF_PLANE_U

SIGMA = 0.004


@pytest.fixture(scope="module")
def still() -> CleanTrack:
    """Noise-free landmarks with a stated uncertainty."""
    done = filmed("lateral-raise-dumbbell", reps=2)
    cleaned = clean(done.track)
    sigma = np.full(cleaned.sigma_m.shape, SIGMA)
    return CleanTrack(
        cleaned.track, cleaned.names, cleaned.position, cleaned.noise_m, sigma, 0.0, 0, 0, None
    )


@pytest.mark.parametrize(
    ("measure", "side"),
    [
        ("elbow_flexion", "left"),
        ("shoulder_elevation", "right"),
        ("shoulder_plane", "left"),
        ("trunk_lean", None),
        ("trunk_rotation", None),
        ("hip_flexion", "left"),
        ("forearm_tilt", "right"),
    ],
)
def test_the_propagated_uncertainty_is_what_noise_does(still, measure, side):
    body = Body(still)
    series = body.measure(measure, side)
    frame = int(np.nanargmax(body.measure("shoulder_elevation", "left").value))
    rng = np.random.default_rng(11)
    definition = DEFINITIONS[measure]
    points = {
        n: body.points[n][frame] + SIGMA * rng.standard_normal((4000, 3))
        for n in definition.points(side)
    }
    spread = np.nanstd(definition.formula(points, *((side,) if side else ())))
    assert series.u[frame] == pytest.approx(spread, rel=0.12)


def test_a_picture_adds_what_it_can_not_see():
    done = filmed("standing-barbell-curl", reps=2, view="left")
    u = Body(clean(done.track)).measure("elbow_flexion", "left").u
    assert np.nanmin(u) >= OUT_OF_PLANE_U


def test_a_measure_that_is_not_shown_is_empty():
    done = filmed("standing-barbell-curl", reps=2, view="left")
    body = Body(clean(done.track))
    assert not body.measure("elbow_flexion", "right").known
    assert not body.measure("trunk_rotation").known


@pytest.mark.parametrize("noise", [0.003, 0.006])
def test_nineteen_of_twenty_errors_fall_within_twice_the_uncertainty(noise):
    inside = []
    for seed in range(6):
        done = filmed("overhead-press-dumbbell", reps=4, noise=noise, wander=0.001, seed=seed)
        exact = filmed("overhead-press-dumbbell", reps=4, seed=seed)
        truth_body = Body(
            CleanTrack(
                exact.track, exact.track.names, exact.exact, np.zeros(len(exact.track.names)),
                np.full(exact.exact.shape[:2], 1e-4), 0.0, 0, 0, None,
            )
        )  # fmt: skip
        body = Body(clean(done.track))
        for measure, side in (
            ("elbow_flexion", "left"),
            ("shoulder_elevation", "right"),
            ("trunk_lean", None),
        ):
            got = body.measure(measure, side)
            miss = np.abs(got.value - truth_body.measure(measure, side).value)
            inside.append(np.nanmean(miss <= 2 * got.u))
    assert 0.90 <= np.mean(inside) <= 1.0
