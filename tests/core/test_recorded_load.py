"""The load on a recorded set: friction, momentum and uncertainty, from sums worked by hand."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from builders import filmed
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.mechanics.band_table import measured_band
from guide_arc.core.mechanics.kit import Band, Cable, FreeWeight
from guide_arc.core.mechanics.recorded_load import LANDMARKS, recorded_load
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import ALL
from guide_arc.core.reps.segment import find_reps
from guide_arc.standards.loader import standard

CURL = standard("standing-barbell-curl")
SPOTS = {"left": (0.2, 0.1, 0.6), "right": (-0.2, 0.1, 0.6)}


def loaded(kit: object, **film: Any):
    body = Body(
        clean(filmed(CURL.id, reps=3, **film).track, tuple(dict.fromkeys((*ALL, *LANDMARKS))))
    )
    repset = find_reps(body, CURL)
    return body, repset, recorded_load(body, repset, CURL, kit)  # type: ignore[arg-type]


def test_friction_makes_lifting_heavier_and_lowering_lighter():
    plain, rubbed = (loaded(Cable(20.0, SPOTS, friction=f)) for f in (0.0, 0.1))  # type: ignore[arg-type]
    body, repset, smooth = plain
    force = [np.linalg.norm(one.loads["left"].force_n, axis=-1) for one in (smooth, rubbed[2])]
    for rep in repset.reps:
        lift = (body.time_s > rep.lift.start_s + 0.05) & (body.time_s < rep.lift.end_s - 0.05)
        lower = (body.time_s > rep.lower.start_s + 0.05) & (body.time_s < rep.lower.end_s - 0.05)
        assert force[1][lift] == pytest.approx(1.1 * force[0][lift])
        assert force[1][lower] == pytest.approx(0.9 * force[0][lower])
    # 20 kg on one stack in two hands.
    assert np.nanmedian(force[0]) == pytest.approx(0.5 * 20.0 * 9.80665)


def test_a_quick_lift_carries_momentum_and_a_slow_one_hardly():
    """A smooth reach of s metres in T seconds speeds up by at most 5.77 s / T² (Flash and Hogan
    1985)."""
    slow = loaded(FreeWeight(30.0, "bar"), tempo=replace(CURL.tempo, lift_s=2.0), noise=0.002)[2]
    quick = loaded(FreeWeight(30.0, "bar"), tempo=replace(CURL.tempo, lift_s=0.7), noise=0.002)[2]
    assert max(slow.momentum_pct) < 20.0
    # The hand goes about 0.55 m: 5.77 × 0.55 / 0.49 = 6.5 m/s², two thirds of gravity, and turns on
    # its way.
    assert 40.0 < np.median(quick.momentum_pct) < 120.0
    assert np.median(quick.momentum_pct) > 4.0 * np.median(slow.momentum_pct)


def test_a_stack_on_a_ratio_moves_slower_and_a_band_has_no_mass():
    film = {"tempo": replace(CURL.tempo, lift_s=0.7), "noise": 0.002}
    one = loaded(Cable(20.0, SPOTS), **film)[2].momentum_pct  # type: ignore[arg-type]
    two = loaded(Cable(20.0, SPOTS, ratio=2.0), **film)[2].momentum_pct  # type: ignore[arg-type]
    assert two == pytest.approx([0.5 * m for m in one])
    assert all(np.isnan(m) for m in loaded(Band(SPOTS, 0.3, 200.0), **film)[2].momentum_pct)  # type: ignore[arg-type]


def test_the_uncertainty_of_the_moment_holds_its_error():
    kit = FreeWeight(30.0, "bar")
    truth = loaded(kit, noise=0.0, seed=3)[2]
    found = loaded(kit, noise=0.01, seed=3)[2]
    missed = np.abs(found.loads["left"].against_nm - truth.loads["left"].against_nm)
    inside = missed < 2.0 * found.against_u_nm["left"]
    assert 0.85 < np.mean(inside[np.isfinite(missed)]) <= 1.0


def test_where_a_pulley_stands_is_a_doubt_that_a_weight_has_not():
    cable = loaded(Cable(20.0, SPOTS), noise=0.003)[2].against_u_nm["left"]  # type: ignore[arg-type]
    weight = loaded(FreeWeight(20.0, "bar"), noise=0.003)[2].against_u_nm["left"]
    assert np.nanmedian(cable) > 1.5 * np.nanmedian(weight)


def test_a_band_measured_with_weights_by_hand():
    """90 cm at rest; 2 kg stretch it by 6 cm, 4 kg by 22 cm, 6 kg by 35 cm."""
    band = measured_band(0.9, [(6.0, 1.25), (2.0, 0.96), (4.0, 1.12)])
    assert [x for x, _f in band.table] == pytest.approx([0.06, 0.22, 0.35])
    assert [f for _x, f in band.table] == pytest.approx([19.6133, 39.2266, 58.8399])
    assert band.newton_per_m == pytest.approx(
        (0.06 * 19.6133 + 0.22 * 39.2266 + 0.35 * 58.8399) / (0.0036 + 0.0484 + 0.1225)
    )
    kit = Band(SPOTS, band.rest_m, None, band.table)  # type: ignore[arg-type]
    # Half way between two weights half way between their forces, and nothing while it hangs loose.
    assert kit.force_n(np.array([-0.1, 0.14, 0.35])) == pytest.approx([0.0, 29.42, 58.84], abs=0.01)


@pytest.mark.parametrize(
    ("rest", "hung", "said"),
    [
        (0.0, [(2, 0.9), (4, 1.0)], "nothing on it is missing"),
        (0.9, [(2, 1.0)], "at least two"),
        (0.9, [(2, 0.9), (4, 1.0)], "no more than the 90 cm at rest"),
        (0.9, [(2, 1.1), (4, 1.0)], "under 4 kg it is 100 cm long, and under 2 kg already 110 cm"),
        (0.9, [(2, 1.0), (2, 1.1)], "2 kg is given twice"),
        (0.9, [(0, 1.0), (2, 1.1)], "no weight to hang"),
    ],
)
def test_what_no_band_does_is_said(rest, hung, said):
    with pytest.raises(BadInput, match=said):
        measured_band(rest, hung)


def test_the_hardest_point_and_slack_are_within_the_range():
    """One-arm rows that begin below the range and go past it."""
    row = standard("one-arm-dumbbell-row")
    for fault in ({}, {"range-over": 18.0}):
        body = Body(
            clean(
                filmed(row.id, reps=4, noise=0.002, faults=fault).track,
                tuple(dict.fromkeys((*ALL, *LANDMARKS))),
            )
        )
        repset = find_reps(body, row)
        found = recorded_load(body, repset, row, FreeWeight(20.0, "dumbbell"))
        assert found.curves
        for _rep, curve in found.curves:
            assert curve.hardest is not None
            assert 0.0 <= curve.hardest.share <= 1.0
            assert all(0.0 <= a <= b <= 1.0 for a, b in curve.slack)
