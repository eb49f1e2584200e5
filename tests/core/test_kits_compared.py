"""Compare kits on one motion, and the weight that is as hard on another."""

from __future__ import annotations

import numpy as np
import pytest

from guide_arc.core.mechanics.compare import as_hard, kits_beside
from guide_arc.core.mechanics.kit import Cable, Chain, FreeWeight
from guide_arc.core.mechanics.path_load import load_along, own_kit
from guide_arc.core.simulate.on_path import path_of
from guide_arc.standards.loader import standard


def peak(load) -> float:
    return max(float(np.mean([a.against_nm for a in load.loads.values()], axis=0).max()), 0.0)


@pytest.mark.parametrize(
    "id", ["standing-barbell-curl", "lateral-raise-dumbbell", "flat-bench-press", "rope-pushdown"]
)
def test_each_kit_comes_to_the_same_peak(id):
    plan = standard(id)
    path = path_of(plan, 1.8)
    beside = kits_beside(path, own_kit(plan, path), 40.0)
    assert beside
    for one in beside:
        assert peak(one.load) == pytest.approx(40.0, rel=1e-9)
        assert peak(load_along(path, one.kit)) == pytest.approx(40.0, rel=1e-9)


def test_a_level_forearm_says_how_many_kilograms_that_is():
    """By hand: at 90° a dumbbell hangs from a level forearm; its torque is m g times the forearm to
    the grip."""
    path = path_of(standard("standing-barbell-curl"), 1.75)
    [dumbbell] = [
        b for b in kits_beside(path, FreeWeight(10.0, "bar"), 30.0) if b.words == "dumbbell"
    ]
    arm = path.arms["left"]
    lever = float((arm.grip - arm.elbow)[:, [0, 2]].__pow__(2).sum(axis=1).max()) ** 0.5
    assert isinstance(dumbbell.kit, FreeWeight)
    assert dumbbell.kit.kg == pytest.approx(30.0 / (9.80665 * lever), rel=0.01)


def test_what_pulls_with_the_lift_is_left_out():
    """A pushdown is pressed down: a dumbbell, a chain and a bar from the floor all help it."""
    plan = standard("rope-pushdown")
    path = path_of(plan)
    words = {b.words for b in kits_beside(path, own_kit(plan, path), 20.0)}
    assert {"cable", "band"} <= words
    assert "dumbbell" not in words


def test_ten_kilograms_of_each_are_ten_kilograms():
    path = path_of(standard("flat-bench-press"))
    kits = {b.words: b.kit for b in kits_beside(path, FreeWeight(60.0, "bar"), None)}
    assert kits["dumbbell"] == FreeWeight(10.0, "dumbbell")
    assert isinstance(kits["chains"], Chain)
    assert kits["chains"].kg == 10.0


def test_the_weight_for_another_exercise_is_in_proportion():
    plan = standard("cable-cross-raise-low")
    path = path_of(plan)
    kit = own_kit(plan, path)
    assert isinstance(kit, Cable)
    full = peak(load_along(path, kit))
    assert as_hard(path, kit, full) == pytest.approx(kit.kg)
    assert as_hard(path, kit, 0.5 * full) == pytest.approx(0.5 * kit.kg)
    assert as_hard(path, Chain(10.0, 5.0, 2.0, 0.0), full) is None
