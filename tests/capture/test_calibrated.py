"""Lost marked points filled by a pose model that the marks calibrate."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from clips import SmallFilm
from guide_arc.capture.tracking.calibrated import (
    CalibratedPoints,
    arm_px,
    filled,
    with_person,
)
from guide_arc.capture.tracking.following import MarkedPoints
from guide_arc.capture.tracking.pose import NobodyInView
from guide_arc.capture.tracking.tracker import Tracked
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.marks import Mark, Marks

RATE_HZ = 30.0
ARM_PX = 100.0
TIME_S = np.arange(300) / RATE_HZ
NAMES = ("left_shoulder", "left_elbow", "left_wrist")


def arm() -> Array:
    """(F, 3, 2) a curl of two links in the picture: a forearm that turns by 130° every 3 s."""
    bend = np.radians(65.0 * (1.0 - np.cos(2.0 * np.pi * TIME_S / 3.0)))
    shoulder = np.tile([400.0, 200.0], (len(TIME_S), 1))
    elbow = shoulder + np.array([0.0, ARM_PX])
    wrist = elbow + 80.0 * np.stack((np.sin(bend), np.cos(bend)), axis=1)
    return np.stack((shoulder, elbow, wrist), axis=1)


def tracked(position: Array, *, names: tuple[str, ...] = NAMES) -> Tracked:
    shape = position.shape[:2]
    return Tracked(names, position, np.full(shape, 0.95), np.zeros(shape, dtype=bool))


def lost(found: Tracked, name: str, low: int, high: int) -> Tracked:
    """A stretch that was lost, and found in a wrong place."""
    i = found.names.index(name)
    position, doubted = found.position.copy(), found.doubted.copy()
    confidence = found.confidence.copy()
    position[low:high, i] += 60.0
    doubted[low:high, i], confidence[low:high, i] = True, 0.0
    return replace(found, position=position, doubted=doubted, confidence=confidence)


def offset_model(noise_px: float = 2.0) -> Tracked:
    """A model whose wrist is off along the forearm and whose elbow is off to one side."""
    true = arm()
    rng = np.random.default_rng(3)
    out = true + rng.normal(0.0, noise_px, true.shape)
    forearm = true[:, 2] - true[:, 1]
    out[:, 2] += 0.15 * forearm
    out[:, 1] += [9.0, -4.0]
    return tracked(out)


def test_a_lost_wrist_comes_back_without_the_models_own_offset():
    got = filled(lost(tracked(arm()), "left_wrist", 100, 145), offset_model(), ARM_PX, TIME_S)
    miss = np.hypot(*(got.position[100:145, 2] - arm()[100:145, 2]).T)
    assert not got.doubted.any()
    assert np.percentile(miss, 95.0) < 0.06 * ARM_PX  # the model's own is off by 0.12 of an arm
    assert (got.confidence[100:145, 2] >= 0.9).all()


def test_what_the_marks_saw_stays_as_it_was():
    found = lost(tracked(arm()), "left_wrist", 100, 145)
    got = filled(found, offset_model(), ARM_PX, TIME_S)
    same = ~found.doubted
    assert np.array_equal(got.position[same], found.position[same])
    assert np.array_equal(got.confidence[same], found.confidence[same])


@pytest.mark.parametrize(
    "model",
    [
        pytest.param(offset_model(noise_px=15.0), id="jitters"),
        pytest.param(
            replace(offset_model(), confidence=np.full((len(TIME_S), 3), 0.3)), id="guesses"
        ),
        pytest.param(
            tracked(arm() + 40.0 * np.sin(TIME_S * 1.3)[:, None, None]), id="wanders off by itself"
        ),
    ],
)
def test_a_model_that_is_not_good_enough_fills_nothing(model):
    found = lost(tracked(arm()), "left_wrist", 100, 145)
    got = filled(found, model, ARM_PX, TIME_S)
    assert np.array_equal(got.doubted, found.doubted)


def test_a_joint_that_was_hardly_ever_seen_by_both_is_not_filled():
    found = lost(tracked(arm()), "left_wrist", 20, 300)
    assert filled(found, offset_model(), ARM_PX, TIME_S).doubted[20:, 2].all()


def test_left_and_right_are_those_of_the_marks():
    swapped = replace(offset_model(), names=tuple(n.replace("left", "right") for n in NAMES))
    got = filled(lost(tracked(arm()), "left_wrist", 100, 145), swapped, ARM_PX, TIME_S)
    assert not got.doubted.any()


def test_marked_knuckles_are_between_the_models_index_and_little_finger():
    true = arm()
    hand = true[:, 2] + np.array([0.0, 20.0])
    marked = tracked(np.concatenate((true, hand[:, None]), axis=1), names=(*NAMES, "left_knuckles"))
    fingers = np.stack((hand + np.array([8.0, 0.0]), hand - np.array([8.0, 0.0])), axis=1)
    model = tracked(
        np.concatenate((true, fingers), axis=1), names=(*NAMES, "left_index", "left_pinky")
    )
    got = filled(lost(marked, "left_knuckles", 100, 145), model, ARM_PX, TIME_S)
    assert np.abs(got.position[100:145, 3] - hand[100:145]).max() < 1.0


class FakeModel:
    """Finds the true joints; or nobody, or breaks."""

    def __init__(self, film: SmallFilm, trouble: Exception | None = None) -> None:
        self.film, self.trouble, self.ran = film, trouble, 0

    def why_not(self, clip, marks):
        return None

    def track(self, clip, marks, progress):
        self.ran += 1
        progress(1.0)
        if self.trouble is not None:
            raise self.trouble
        names = ("left_shoulder", "left_elbow", "left_wrist")
        return tracked(np.stack([self.film.truth(n) for n in names], axis=1), names=names)


def film_marks(film: SmallFilm) -> Marks:
    marks = Marks("left")
    for name in ("left_shoulder", "left_elbow", "left_wrist", "left_hip"):
        x, y = film.truth(name)[0]
        marks = marks.with_mark(name, Mark(0, float(x), float(y)))
    return marks


@pytest.fixture(scope="module")
def by_marks(pushdown_film: SmallFilm) -> Tracked:
    """What the marks alone find in the film."""
    return MarkedPoints().track(pushdown_film.clip, film_marks(pushdown_film), lambda _s: None)


@pytest.mark.parametrize("trouble", [NobodyInView("nobody"), BadInput("the process ended")])
def test_without_the_model_the_marks_alone_are_given_back(
    pushdown_film, by_marks, trouble, monkeypatch
):
    marks = film_marks(pushdown_film)
    found = lost(by_marks, "left_wrist", 5, 12)
    monkeypatch.setattr(MarkedPoints, "track", lambda *_a: found)
    shares: list[float] = []
    got = CalibratedPoints(FakeModel(pushdown_film, trouble)).track(
        pushdown_film.clip, marks, shares.append
    )
    assert got is found


def test_the_model_runs_only_where_something_was_lost(pushdown_film, by_marks, monkeypatch):
    marks = film_marks(pushdown_film)
    sure = replace(by_marks, doubted=np.zeros_like(by_marks.doubted))
    model = FakeModel(pushdown_film)
    monkeypatch.setattr(MarkedPoints, "track", lambda *_a: sure)
    assert CalibratedPoints(model).track(pushdown_film.clip, marks, lambda _s: None) is sure
    assert model.ran == 0
    monkeypatch.setattr(MarkedPoints, "track", lambda *_a: lost(sure, "left_wrist", 5, 12))
    got = CalibratedPoints(model).track(pushdown_film.clip, marks, lambda _s: None)
    assert model.ran == 1
    assert not got.doubted[:, got.names.index("left_wrist")].any()


def test_the_person_that_was_marked_is_the_one_for_the_model(pushdown_film):
    marks = film_marks(pushdown_film)
    person = with_person(marks, pushdown_film.clip).person
    assert person is not None
    frame, x0, y0, x1, y1 = person
    assert frame == 0
    for own in marks.points.values():
        assert x0 <= own[0].x <= x1
        assert y0 <= own[0].y <= y1
    chosen = replace(marks, person=(3, 1.0, 2.0, 30.0, 40.0))
    assert with_person(chosen, pushdown_film.clip) is chosen
    assert arm_px(pushdown_film.clip, marks) > 20.0
