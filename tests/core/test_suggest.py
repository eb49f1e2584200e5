"""Which standard a movement fits: right over the whole catalogue, and honest when it is close."""

from __future__ import annotations

import numpy as np
import pytest

from builders import TEN_MM, filmed, some_of, with_positions
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.model.landmarks import ALL, BODY
from guide_arc.core.review.suggest import LANDMARKS, Choice, suggest
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.loader import shipped

EVERY = Catalogue().every_school()


def choice_for(id: str, school: str | None = None, *, pulleys: bool = True, **film) -> Choice:
    done = filmed(
        id, school, **{"reps": 3, "noise": TEN_MM, "drift": 0.001, "dropout": 0.02, **film}
    )
    names = (*BODY, *(n for n in LANDMARKS if pulleys or "pulley" not in n))
    found = suggest(Body(clean(done.track, tuple(dict.fromkeys(names)))), EVERY)
    assert found is not None
    return found


@pytest.mark.parametrize("id", some_of(list(shipped())))
def test_a_set_of_any_standard_is_recognised(id):
    """Without the pulleys, which no tracker gives: what the kit is must not decide."""
    assert choice_for(id, pulleys=False, seed=31, stature_m=1.6).best.standard.id == id


def test_the_other_arm_and_another_school_are_recognised():
    assert (
        choice_for("one-arm-dumbbell-row", arms="right").best.standard.id == "one-arm-dumbbell-row"
    )
    found = choice_for("standing-barbell-curl", "rising-upper-arm")
    assert found.best.standard.id == "standing-barbell-curl"
    assert found.best.standard.school.id == "rising-upper-arm"


def test_walking_in_and_alternating_do_not_mislead():
    found = choice_for("front-raise-midline", arms="alternating", opening="walk-in", opening_s=7.0)
    assert found.best.standard.id == "front-raise-midline"


def test_runners_up_are_given_once_each_with_a_reason():
    found = choice_for("standing-cable-curl")
    ids = [s.standard.id for s in found.ranked]
    assert len(ids) == len(set(ids)) == 5
    offs = [s.off for s in found.ranked]
    assert offs == sorted(offs)
    assert found.ranked[1].standard.name in found.reason


def test_a_marked_pulley_speaks_for_a_cable():
    with_it = choice_for("standing-cable-curl")
    by_id = {s.standard.id: s for s in with_it.ranked}
    others = [s for s in by_id.values() if s.standard.pull != "cable"]
    assert with_it.best.parts["kit"] < min(s.parts["kit"] for s in others)


def test_a_recording_without_arms_suggests_nothing():
    track = filmed("standing-barbell-curl", reps=1).track
    position = track.position.copy()
    for i, name in enumerate(track.names):
        if any(part in name for part in ("elbow", "wrist", "index", "pinky", "thumb")):
            position[:, i] = np.nan

    bare = with_positions(track, position)
    assert suggest(Body(clean(bare, ALL)), EVERY[:3]) is None
