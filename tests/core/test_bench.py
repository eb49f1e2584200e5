"""What a bench holds: back, chest or upper arms; and what another angle of it changes."""

from __future__ import annotations

import numpy as np
import pytest

from guide_arc.core.mechanics.bench import arms_lower_by, bench_holds, leans_further_by
from guide_arc.core.mechanics.path_load import load_along, own_kit
from guide_arc.core.simulate.on_path import body_on_path, path_of
from guide_arc.standards.loader import shipped, standard

PAD = standard("preacher-curl")


@pytest.mark.parametrize(
    ("id", "holds"),
    [
        ("preacher-curl", "arms"),
        ("incline-bench-curl", "back"),
        ("flat-bench-press", "back"),
        ("chest-pad-high-row", "chest"),
        ("prone-incline-curl", "chest"),
        ("supported-rear-raise", "chest"),
        ("standing-barbell-curl", None),
    ],
)
def test_what_rests_on_the_bench_follows_from_how_the_trunk_leans(id, holds):
    assert bench_holds(standard(id)) == holds


@pytest.mark.parametrize("id", [i for i in shipped() if standard(i).bench_deg is not None])
def test_the_standards_own_angle_leaves_the_body_as_it_is(id):
    plan = standard(id)
    own, same = body_on_path(plan), body_on_path(plan, bench_deg=plan.bench_deg)
    assert all(np.allclose(own[name], same[name]) for name in own)


def hardest_deg(bench_deg: float | None) -> float:
    path = path_of(PAD, bench_deg=bench_deg)
    hardest = load_along(path, own_kit(PAD, path, 20.0)).curve.hardest
    assert hardest is not None
    return hardest.angle_deg


def test_a_steeper_pad_is_hardest_later_by_as_many_degrees():
    """The forearm is level where the elbow has bent by what the upper arm lacks to it."""
    assert hardest_deg(45.0) == hardest_deg(None)
    assert hardest_deg(60.0) - hardest_deg(45.0) == pytest.approx(15.0, abs=1.5)
    assert arms_lower_by(PAD, 60.0) == 15.0
    assert leans_further_by(PAD, 60.0) == 0.0


def test_the_trunk_stays_upright_beside_a_pad_and_leans_with_a_back_rest():
    body = body_on_path(PAD, bench_deg=60.0)
    trunk = (body["left_shoulder"] - body["left_hip"])[0]
    assert trunk[1] > 0.9 * np.linalg.norm(trunk)
    assert leans_further_by(standard("incline-bench-curl"), 26.0) == -30.0
    assert leans_further_by(standard("chest-pad-high-row"), 60.0) == 15.0
    assert leans_further_by(standard("standing-barbell-curl"), 60.0) < -25.0
