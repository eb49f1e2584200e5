"""The smoother against a slow second method, and what a person would notice if it were wrong."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from guide_arc.core.kinematics.smoothing import (
    Smoother,
    best_cutoffs,
    gap_growth,
    response,
    stiffness,
)


def slow_smooth(signal, cutoff_hz, rate_hz, weight):
    """The same fit by dense matrices, straight from its definition."""
    difference = np.diff(np.eye(len(signal)), n=3, axis=0)
    matrix = np.diag(weight) + stiffness(cutoff_hz, rate_hz) * difference.T @ difference
    return np.linalg.solve(matrix, weight * signal)


@given(st.integers(0, 10_000), st.floats(1.0, 8.0), st.integers(24, 120))
@settings(max_examples=25, deadline=None)
def test_the_fast_fit_is_the_slow_fit(seed, cutoff, rate):
    rng = np.random.default_rng(seed)
    signal = np.cumsum(rng.standard_normal(90))
    weight = (rng.random(90) > 0.1).astype(float)
    fast = Smoother(np.arange(90) / rate).smooth(signal, cutoff, weight)
    slow = slow_smooth(signal, cutoff, float(rate), np.maximum(weight, 1e-9))
    assert fast == pytest.approx(slow, abs=1e-5)


@pytest.mark.parametrize("power", [0, 1, 2])
def test_level_slope_and_curve_pass_untouched(power):
    time = np.sort(np.random.default_rng(3).uniform(0, 4, 150))
    time = np.linspace(0, 4, 150) + 0.3 * (time - np.linspace(0, 4, 150)) / 10
    signal = 3.0 * (time - 1.0) ** power
    assert Smoother(time).smooth(signal, 2.0) == pytest.approx(signal, abs=1e-6)


def test_a_movement_is_not_delayed():
    time = np.arange(0, 6, 1 / 60)
    signal = np.sin(2 * np.pi * 0.5 * time)
    smooth = Smoother(time).smooth(signal, 4.0)
    lag = np.argmax(np.correlate(smooth, signal, "full")) - (len(signal) - 1)
    assert lag == 0
    assert np.abs(smooth - signal)[30:-30].max() < 0.01


def test_few_of_the_cutoff_frequency_gets_through():
    time = np.arange(0, 20, 1 / 100)
    wave = np.sin(2 * np.pi * 4.0 * time)
    smooth = Smoother(time).smooth(wave, 4.0)
    assert np.std(smooth[300:-300]) / np.std(wave) == pytest.approx(0.5, abs=0.02)
    assert response(np.array([4.0]), 4.0)[0] == pytest.approx(0.5)


def test_a_missing_stretch_is_filled_along_the_curve():
    time = np.arange(0, 3, 1 / 30)
    signal = 40 * np.sin(2 * np.pi * 0.4 * time)
    seen = np.ones(len(time))
    seen[40:46] = 0.0
    holed = np.where(seen > 0, signal, 0.0)
    filled = Smoother(time).smooth(holed, 5.0, seen)
    assert np.abs(filled - signal)[38:48].max() < 0.5


def test_uneven_times_are_taken_as_they_are():
    rng = np.random.default_rng(5)
    time = np.cumsum(rng.uniform(0.02, 0.05, 200))
    signal = 30 * np.sin(2 * np.pi * 0.3 * time)
    noisy = signal + rng.standard_normal(200)
    smooth = Smoother(time).smooth(noisy, 2.0)
    assert np.sqrt(np.mean((smooth - signal) ** 2)) < 0.55


def test_times_almost_on_top_of_each_other_do_no_harm():
    time = np.sort(np.concatenate((np.arange(0, 3, 1 / 30), [1.00001])))
    smooth = Smoother(time).smooth(np.sin(time), 3.0)
    assert np.abs(smooth - np.sin(time)).max() < 0.01


def test_a_few_samples_come_back_as_they_were():
    time = np.arange(5) / 30
    signal = np.array([1.0, 5.0, 2.0, 8.0, 3.0])
    assert Smoother(time).smooth(signal, 2.0) == pytest.approx(signal)


def test_fast_motion_asks_for_a_higher_cutoff_than_slow():
    time = np.arange(0, 10, 1 / 60)
    rng = np.random.default_rng(1)
    slow = np.sin(2 * np.pi * 0.2 * time)
    fast = np.sin(2 * np.pi * 2.5 * time)
    signals = np.stack([slow, fast], axis=1)[:, :, None] + 0.02 * rng.standard_normal((600, 2, 1))
    chosen = best_cutoffs(signals, 60.0, (1.5, 3.0, 6.0, 12.0))
    assert chosen[0] < chosen[1]


def test_uncertainty_grows_into_a_gap():
    growth = gap_growth(8, 4.0, 30.0)
    assert growth[3] > growth[0] >= 1.0
    assert gap_growth(12, 4.0, 30.0).max() > growth.max()
