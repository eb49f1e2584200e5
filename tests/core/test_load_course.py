"""The load strip: what the kit asks of the working joint over a recording, by hand and with its
uncertainty."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from builders import measured_set
from guide_arc.core.mechanics.pull import pull_of
from guide_arc.core.review.load_course import load_course
from guide_arc.standards.loader import standard

G = 9.80665


def course(id: str, kg: float | None, arms: int = 2, **film: Any):
    measured = measured_set(id, reps=2, **film)
    plan = measured.review.standard
    pull = pull_of(measured.body, plan, "left")
    assert pull is not None
    return measured, pull, load_course(measured.body, plan, "left", pull, kg, arms)


def test_a_weight_asks_its_weight_times_the_level_distance_from_the_joint():
    measured, pull, load = course("lateral-raise-dumbbell", 6.0)
    level = (pull.hand - measured.body.points["left_shoulder"])[:, [0, 2]]
    by_hand = 6.0 * G * np.hypot(*level.T)
    assert load.unit == "Nm"
    assert load.value == pytest.approx(by_hand, rel=1e-9, nan_ok=True)
    # Arms level at 0.6 m ask most, arms that nearly hang less than a third of it.
    assert 25.0 < np.nanmax(load.value) < 45.0
    assert np.nanmin(load.value) < 0.33 * np.nanmax(load.value)


def test_a_bar_is_shared_by_the_arms_and_a_dumbbell_is_not():
    whole = course("standing-barbell-curl", 30.0, arms=1)[2]
    half = course("standing-barbell-curl", 30.0, arms=2)[2]
    assert half.value == pytest.approx(0.5 * whole.value, nan_ok=True)
    alone = course("lateral-raise-dumbbell", 6.0, arms=1)[2]
    assert alone.value == pytest.approx(course("lateral-raise-dumbbell", 6.0)[2].value, nan_ok=True)


def test_without_a_weight_the_lever_arm_is_told():
    _measured, _pull, load = course("standing-barbell-curl", None)
    assert load.unit == "cm"
    assert 20.0 < np.nanmax(load.value) < 45.0


def test_a_cable_pulls_along_its_line():
    measured, pull, load = course("rope-pushdown", 20.0)
    joint = measured.body.points["left_elbow"]
    i = int(np.nanargmax(load.value))
    line = pull.pulley[i] - pull.hand[i]
    far = np.linalg.norm(np.cross(joint[i] - pull.hand[i], line)) / np.linalg.norm(line)
    assert load.value[i] == pytest.approx(0.5 * 20.0 * G * far, rel=1e-6)


def test_the_uncertainty_holds_the_error_of_a_noisy_recording():
    """Ten millimetres on each landmark: the band of two u holds what the same set without noise
    gives."""
    plan = standard("standing-barbell-curl")
    clean = measured_set(plan.id, reps=3, noise=0.0, seed=5)
    noisy = measured_set(plan.id, reps=3, noise=0.01, seed=5)
    pulls = [pull_of(m.body, plan, "left") for m in (clean, noisy)]
    truth, found = (
        load_course(m.body, plan, "left", p, 30.0, 2)  # type: ignore[arg-type]
        for m, p in zip((clean, noisy), pulls, strict=True)
    )
    missed = np.abs(found.value - truth.value) / found.u
    assert 0.9 < np.nanmean(missed < 2.0) <= 1.0
    assert np.nanmedian(found.u) > np.nanmedian(truth.u)


def test_a_pulley_put_up_by_eye_makes_it_less_sure():
    measured, pull, marked = course("standing-cable-curl", 20.0)
    by_eye = load_course(
        measured.body, measured.review.standard, "left", replace(pull, u_m=0.1), 20.0, 2
    )
    seen = load_course(
        measured.body, measured.review.standard, "left", replace(pull, u_m=0.03), 20.0, 2
    )
    assert (np.nanmedian(by_eye.u)) > np.nanmedian(seen.u)
    assert marked.value == pytest.approx(seen.value, nan_ok=True)


def test_in_a_picture_the_scale_is_part_of_the_doubt():
    side = course("standing-barbell-curl", 30.0, view="left", noise=1.0)[2]
    space = course("standing-barbell-curl", 30.0, noise=0.002)[2]
    assert np.nanmax(side.value) == pytest.approx(np.nanmax(space.value), rel=0.1)
    assert np.nanmedian(side.u / side.value) > np.nanmedian(space.u / space.value)
