"""What must not change the answer: the body's side, where and how large it stands, the pace, the
wait before."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import filmed, slow
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.kinematics.measures.registry import all_measures
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.reps.segment import find_reps
from guide_arc.standards.loader import standard

PLAN = standard("front-raise-midline")
SET = filmed(PLAN.id, reps=3, noise=0.003, seed=8).track
# Turned the other way about, a body's side lean and rotation change their sign.
_SIGNED = ("trunk_side_lean", "trunk_rotation")


def with_places(track: LandmarkTrack, position: np.ndarray) -> LandmarkTrack:
    return replace(track, position=position)


def mirrored(track: LandmarkTrack) -> LandmarkTrack:
    """The same set by a body whose left is its right."""
    swapped = {"left": "right", "right": "left"}
    parts = [name.partition("_") for name in track.names]
    order = [track.names.index(swapped.get(a, a) + dash + b) for a, dash, b in parts]
    return with_places(track, track.position[:, order] * np.array([-1.0, 1.0, 1.0]))


@settings(max_examples=8, deadline=None)
@given(seed=st.integers(0, 10_000))
def test_a_mirrored_body_gives_mirrored_measures(seed):
    track = filmed(PLAN.id, reps=2, noise=0.004, faults={"left-right": 20.0}, seed=seed).track
    body, mirror = Body(clean(track), 2.0), Body(clean(mirrored(track)), 2.0)
    for measure, side in all_measures():
        across = {"left": "right", "right": "left", None: None}[side]
        got, want = mirror.measure(measure, side).value, body.measure(measure, across).value  # type: ignore[arg-type]
        sign = -1.0 if measure in _SIGNED else 1.0
        seen = np.isfinite(got + want)
        assert sign * got[seen] == pytest.approx(want[seen], abs=1e-6), measure


@settings(max_examples=10, deadline=None)
@given(
    turn=st.floats(-180.0, 180.0),
    scale=st.floats(0.8, 1.3),
    x=st.floats(-3.0, 3.0),
    z=st.floats(-3.0, 3.0),
)
@slow
def test_turning_moving_and_scaling_the_world_changes_no_rep_and_no_range(turn, scale, x, z):
    a = np.radians(turn)
    about = np.array([[np.cos(a), 0, np.sin(a)], [0, 1, 0], [-np.sin(a), 0, np.cos(a)]])
    moved = with_places(SET, scale * SET.position @ about.T + np.array([x, 0.0, z]))
    here, there = (find_reps(Body(clean(t)), PLAN).reps for t in (SET, moved))
    assert [(r.side, r.full) for r in here] == [(r.side, r.full) for r in there]
    for one, two in zip(here, there, strict=True):
        assert two.to_deg == pytest.approx(one.to_deg, abs=0.6)
        assert two.lift.start_s == pytest.approx(one.lift.start_s, abs=0.05)


@settings(max_examples=10, deadline=None)
@given(slower=st.floats(0.7, 2.5))
@slow
def test_stretching_the_time_changes_no_range(slower):
    stretched = replace(SET, time_s=SET.time_s * slower)
    here, there = (find_reps(Body(clean(t)), PLAN).reps for t in (SET, stretched))
    assert len(here) == len(there)
    for one, two in zip(here, there, strict=True):
        assert two.full == one.full
        assert two.to_deg == pytest.approx(one.to_deg, abs=1.5)
        assert two.from_deg == pytest.approx(one.from_deg, abs=1.5)


@settings(max_examples=8, deadline=None)
@given(wait=st.floats(0.5, 25.0), seed=st.integers(0, 1000))
@slow
def test_standing_still_before_the_set_adds_no_rep(wait, seed):
    rng = np.random.default_rng(seed)
    step = float(np.median(np.diff(SET.time_s)))
    frames = round(wait / step)
    still = SET.position[:1] + 0.003 * rng.standard_normal((frames, *SET.position.shape[1:]))
    longer = LandmarkTrack(
        time_s=np.arange(frames + SET.frames) * step,
        names=SET.names,
        position=np.concatenate((still, SET.position)),
        confidence=np.ones((frames + SET.frames, len(SET.names))),
    )
    here, there = (find_reps(Body(clean(t)), PLAN).reps for t in (SET, longer))
    assert [(r.side, r.full) for r in here] == [(r.side, r.full) for r in there]
    first = there[0].lift.start_s - frames * step + SET.time_s[0]
    assert first == pytest.approx(here[0].lift.start_s, abs=0.06)
