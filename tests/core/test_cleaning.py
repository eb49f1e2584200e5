"""Slips, swaps, gaps and uneven frames of a tracker, put in on purpose and taken out again."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from builders import filmed, with_positions
from guide_arc.core.kinematics.cleaning import clean, running_median
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.track import LandmarkTrack


@pytest.fixture(scope="module")
def done():
    return filmed("standing-barbell-curl", reps=4, noise=0.004)


def error_m(cleaned, done, name):
    truth = done.exact[:, done.track.names.index(name)]
    return np.sqrt(((cleaned.point(name) - truth) ** 2).sum(axis=-1))


def test_smoothing_halves_the_noise(done):
    cleaned = clean(done.track)
    raw = done.track.point("left_wrist") - done.exact[:, done.track.names.index("left_wrist")]
    before = np.sqrt((raw**2).sum(axis=-1).mean())
    after = np.sqrt((error_m(cleaned, done, "left_wrist") ** 2).mean())
    assert after < 0.62 * before


def test_the_noise_is_found_from_the_recording(done):
    assert np.median(clean(done.track).noise_m) == pytest.approx(0.004, rel=0.1)


def test_a_single_slip_is_thrown_out(done):
    position = done.track.position.copy()
    wrist = done.track.names.index("left_wrist")
    position[100, wrist] += 0.3
    cleaned = clean(with_positions(done.track, position))
    assert cleaned.outliers >= 1
    assert error_m(cleaned, done, "left_wrist")[95:106].max() < 0.02


def test_left_taken_for_right_is_turned_back(done):
    position = done.track.position.copy()
    names = done.track.names
    for frame in (60, 61, 62):
        for i, name in enumerate(names):
            if name.startswith("left_"):
                j = names.index("right" + name[4:])
                position[frame, [i, j]] = position[frame, [j, i]]
    cleaned = clean(with_positions(done.track, position))
    assert cleaned.swapped_frames == 3
    assert error_m(cleaned, done, "left_elbow")[55:68].max() < 0.02


def test_a_short_gap_is_bridged_and_less_sure(done):
    position = done.track.position.copy()
    wrist = done.track.names.index("right_wrist")
    position[80:86, wrist] = np.nan
    cleaned = clean(with_positions(done.track, position))
    assert error_m(cleaned, done, "right_wrist")[80:86].max() < 0.04
    sigma = cleaned.sigma("right_wrist")
    assert sigma[83] > 1.3 * sigma[40]


def test_a_long_gap_stays_empty(done):
    position = done.track.position.copy()
    position[60:100, done.track.names.index("right_wrist")] = np.nan
    cleaned = clean(with_positions(done.track, position))
    assert np.isnan(cleaned.point("right_wrist")[62:98]).all()
    assert np.isfinite(cleaned.point("right_wrist")[20:55]).all()


def test_uneven_frames_measure_like_even_ones(done):
    rng = np.random.default_rng(2)
    track = done.track
    keep = np.sort(rng.choice(track.frames, int(0.8 * track.frames), replace=False))
    thinned = LandmarkTrack(
        time_s=track.time_s[keep],
        names=track.names,
        position=track.position[keep],
        confidence=track.confidence[keep],
    )
    cleaned = clean(thinned)
    truth = done.exact[keep][:, track.names.index("left_wrist")]
    miss = np.sqrt(((cleaned.point("left_wrist") - truth) ** 2).sum(axis=-1).mean())
    assert miss < 0.006


def test_a_landmark_never_seen_is_left_out(done):
    position = done.track.position.copy()
    position[:, done.track.names.index("nose")] = np.nan
    cleaned = clean(with_positions(done.track, position))
    assert "nose" not in cleaned.names
    assert np.isnan(cleaned.point("nose")).all()


def test_one_frame_is_no_recording(done):
    track = done.track
    one = LandmarkTrack(
        time_s=track.time_s[:1],
        names=track.names,
        position=track.position[:1],
        confidence=track.confidence[:1],
    )
    with pytest.raises(BadInput, match="needs at least 2"):
        clean(one)


def test_a_picture_without_a_trunk_can_not_be_scaled():
    done = filmed("standing-barbell-curl", reps=1, view="left")
    position = done.track.position.copy()
    for name in ("left_hip", "right_hip"):
        position[:, done.track.names.index(name)] = np.nan
    with pytest.raises(BadInput, match="no trunk"):
        clean(with_positions(done.track, position))


def test_running_median_is_the_median_of_each_window():
    values = np.random.default_rng(0).standard_normal((30, 2))
    slow = [np.median(values[max(0, i - 2) : i + 3], axis=0) for i in range(2, 28)]
    assert running_median(values, 5)[2:28] == pytest.approx(np.array(slow))


def test_samples_without_any_confidence_are_no_measurements() -> None:
    """A tracker that lost an elbow may still write down a place: the set is measured as if it were
    missing."""
    track = filmed("standing-barbell-curl", reps=2, view="left", noise=0.5).track
    elbow = track.names.index("left_elbow")
    position, confidence = track.position.copy(), track.confidence.copy()
    position[100:110, elbow] += 150.0
    confidence[100:110, elbow] = 0.0
    lost = replace(track, position=position, confidence=confidence)
    gap = position.copy()
    gap[100:110, elbow] = np.nan
    missing = replace(track, position=gap)
    assert np.allclose(
        clean(lost).point("left_elbow"), clean(missing).point("left_elbow"), equal_nan=True
    )
    # A file whose every confidence is 0 says nothing by it.
    silent = replace(track, confidence=np.zeros_like(track.confidence))
    assert np.allclose(clean(silent).point("left_elbow"), clean(track).point("left_elbow"))
