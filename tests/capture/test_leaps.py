"""A joint that was found elsewhere from one frame to the next is doubted about that moment; a fast
arm is not."""

from __future__ import annotations

import numpy as np
import pytest

from guide_arc.capture.tracking.leaps import about_leaps

LONG = 100.0


def swing(rate_hz: float, lift_s: float, deg: float = 80.0) -> np.ndarray:
    """An upper arm that goes up and down by bells of speed, with half a pixel of noise."""
    t = np.arange(0.0, 4.0, 1.0 / rate_hz)
    turn = np.radians(deg) * 0.5 * (1.0 - np.cos(np.pi * t / lift_s))
    noise = np.random.default_rng(3).normal(0.0, 0.5, (len(t), 2))
    return LONG * np.stack((np.sin(turn), np.cos(turn)), axis=1) + noise


@pytest.mark.parametrize(
    ("rate_hz", "lift_s"), [(12.0, 0.7), (24.0, 0.4), (30.0, 0.4), (60.0, 0.3)]
)
def test_a_brisk_arm_leaps_nowhere(rate_hz: float, lift_s: float):
    assert not about_leaps(swing(rate_hz, lift_s), LONG, 1.0 / rate_hz).any()


@pytest.mark.parametrize("rate_hz", [24.0, 30.0, 60.0])
def test_the_frames_on_both_sides_of_a_leap_are_doubted(rate_hz: float):
    along = swing(rate_hz, 1.0)
    gone = slice(40, 43)
    along[gone] += (28.0, -8.0)
    doubted = about_leaps(along, LONG, 1.0 / rate_hz)
    assert doubted[gone].all()
    assert doubted[38:45].all()
    reach = round(0.13 * rate_hz) + 2
    assert not doubted[: 40 - reach].any()
    assert not doubted[43 + reach :].any()


def test_a_course_of_a_frame_or_two_has_no_leap():
    for frames in (1, 2):
        assert not about_leaps(np.zeros((frames, 2)), LONG, 1 / 30).any()
