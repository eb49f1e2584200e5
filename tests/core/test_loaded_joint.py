"""Which joint tells how hard a lift is: no usual kit of any standard is said to pull with the
lift."""

from __future__ import annotations

import pytest

from guide_arc.core.mechanics.path_load import load_along, loaded_joint, own_kit
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.standard import TRUNK_DRIVES
from guide_arc.core.simulate.on_path import path_of
from guide_arc.standards.loader import shipped, standard


@pytest.mark.parametrize("id", shipped())
def test_the_usual_kit_resists_the_joint_that_is_looked_at(id):
    plan = standard(id)
    if plan.drive in (*TRUNK_DRIVES, "shoulder_hike"):
        return
    path = path_of(plan, joint=loaded_joint(plan))
    try:
        curve = load_along(path, own_kit(plan, path)).curve
    except BadInput:
        return
    assert curve.hardest is not None
    assert curve.hardest.nm > 3.0


@pytest.mark.parametrize(
    ("id", "joint"),
    [
        ("standing-barbell-curl", "elbow"),
        ("rope-pushdown", "elbow"),
        ("preacher-curl", "elbow"),
        ("overhead-press-barbell", "shoulder"),
        ("bent-over-row", "shoulder"),
        ("lat-pulldown-wide", "shoulder"),
        ("flat-bench-press", "shoulder"),
        ("lateral-raise-dumbbell", "shoulder"),
        ("forward-hand-push-up", "elbow"),
    ],
)
def test_presses_rows_and_pulldowns_are_the_shoulders(id, joint):
    assert loaded_joint(standard(id)) == joint
