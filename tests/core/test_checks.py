"""Each check finds the fault it is for, at its size, and leaves a clean set alone."""

from __future__ import annotations

import pytest

from builders import (
    FIRST_NINE,
    TEN_MM,
    filmed,
    limit_pair,
    off_checks,
    reviewed,
    some_of,
    verdicts,
)
from guide_arc.core.checks.registry import specs
from guide_arc.core.model.finding import judge
from guide_arc.core.model.standard import Tempo
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.faults import faults_known
from guide_arc.standards.loader import shipped, standard

TIMED = (
    "too-fast-lower",
    "too-fast-lift",
    "too-slow-lower",
    "too-slow-lift",
    "hold-missing",
    "momentum",
)


def spatial_cases() -> list[tuple[str, str, str]]:
    return [
        (id, school, rule.name)
        for id, school in ((id, standard(id).school.id) for id in FIRST_NINE)
        for rule in standard(id, school).checks
        if rule.name in faults_known() and rule.name not in TIMED
    ]


@pytest.mark.parametrize(
    ("id", "school"), some_of([(id, standard(id).school.id) for id in shipped()])
)
def test_a_clean_set_has_nothing_off(id, school):
    review, _ = reviewed(id, school, reps=3, noise=TEN_MM, drift=0.002, dropout=0.02, seed=21)
    assert off_checks(review) == set()
    assert {f.rule.name for f in review.findings} == {c.name for c in standard(id, school).checks}


@pytest.mark.parametrize(("id", "school", "check"), some_of(spatial_cases()))  # type: ignore[arg-type]
def test_a_fault_of_twice_the_limit_is_found(id, school, check):
    amount = 2.0 * limit_pair(standard(id, school), check)
    review, _ = reviewed(id, school, reps=7, noise=TEN_MM, faults={check: amount}, seed=5)
    assert "off" in verdicts(review, check)


@pytest.mark.parametrize("id", ["standing-barbell-curl", "rope-pushdown", "seated-row-narrow-low"])
def test_timed_faults_are_found(id):
    plan = standard(id)
    asked = Tempo(2.0, 0.0, 1.0, 2.0)
    for check, amount in (
        ("too-fast-lower", 0.9),
        ("too-fast-lift", 0.3),
        ("hold-missing", 0.0),
        ("momentum", 95.0),
    ):
        done = filmed(id, reps=5, tempo=asked, noise=0.004, faults={check: amount})
        review = review_set(done.track, plan, asked)
        assert "off" in verdicts(review, check), check


@pytest.mark.parametrize(
    ("check", "amount"),
    [
        ("upper-arm-drift", 26.0),
        ("torso-swing", 20.0),
        ("shoulder-hike", 18.0),
        ("range-short", 30.0),
    ],
)
def test_the_value_is_the_size_of_the_fault(check, amount):
    review, _ = reviewed("standing-barbell-curl", reps=6, noise=0.003, faults={check: amount})
    found = [f for f in review.findings if f.rule.name == check]
    assert all(f.value == pytest.approx(amount, abs=3.0) for f in found)


def test_only_the_reps_that_have_it_are_named():
    review, _ = reviewed(
        "standing-barbell-curl", reps=10, noise=0.003, faults={"torso-swing": 22.0}, fault_from=7
    )
    (swing,) = [f for f in review.findings if f.rule.name == "torso-swing"]
    assert swing.reps == (7, 8, 9, 10)
    rep = next(r for r in review.reps if r.number == 7)
    assert rep.start_s <= swing.at_s <= review.reps[-1].end_s


def test_the_weaker_arm_is_named():
    review, _ = reviewed(
        "overhead-press-dumbbell", reps=6, noise=0.003, faults={"left-right": 40.0}
    )
    (gap,) = [f for f in review.findings if f.rule.name == "left-right"]
    assert gap.verdict == "off"
    assert "right arm does 40° less" in gap.says or "right arm does 41° less" in gap.says


def test_slow_turning_points_are_no_holds():
    asked = Tempo(3.0, 0.0, 1.0, 1.0)
    done = filmed("standing-barbell-curl", reps=5, tempo=Tempo(3.0, 0.0, 1.0, 0.0))
    review = review_set(done.track, standard("standing-barbell-curl"), asked)
    assert verdicts(review, "hold-missing") == ["off"]


def test_a_hold_that_was_kept_is_fine():
    asked = Tempo(2.0, 1.0, 1.0, 1.0)
    done = filmed("standing-barbell-curl", reps=5, tempo=asked, noise=0.004)
    review = review_set(done.track, standard("standing-barbell-curl"), asked)
    assert verdicts(review, "hold-missing") == ["ok"]


def test_without_a_demand_no_tempo_is_too_fast():
    done = filmed("front-raise-midline", reps=4, faults={"too-fast-lower": 0.5})
    assert verdicts(review_set(done.track, standard("front-raise-midline")), "too-fast-lower") == [
        "ok"
    ]


@pytest.mark.parametrize(
    ("view", "check"),
    [
        ("right", "left-right"),
        ("left", "left-right"),
    ],
)
def test_a_view_that_can_not_show_it_gives_no_verdict(view, check):
    done = filmed("standing-barbell-curl", reps=4, view=view, noise=1.0)
    review = review_set(done.track, standard("standing-barbell-curl"))
    found = [f for f in review.findings if f.rule.name == check]
    assert found
    assert all(f.verdict == "cannot-tell" for f in found)
    assert all(f.why and f.why.endswith("only a recording in space shows it") for f in found)


@pytest.mark.parametrize("view", ["front", "back"])
def test_a_front_view_does_not_judge_the_torso(view):
    done = filmed("lateral-raise-dumbbell", reps=4, view=view, noise=1.0)
    review = review_set(done.track, standard("lateral-raise-dumbbell"))
    assert set(verdicts(review, "torso-swing")) == {"cannot-tell"}
    assert "off" not in verdicts(review, "elbow-bend-change")
    assert len(review.reps) == 4


def test_the_hidden_arm_of_a_side_view_is_not_judged():
    done = filmed("standing-barbell-curl", reps=4, view="left", noise=1.0)
    review = review_set(done.track, standard("standing-barbell-curl"))
    by_side = {f.side: f.verdict for f in review.findings if f.rule.name == "range-short"}
    assert by_side == {"left": "ok", "right": "cannot-tell"}


def test_heavy_noise_is_said_rather_than_judged():
    done = filmed("lateral-raise-dumbbell", reps=3, noise=0.05, seed=2)
    review = review_set(done.track, standard("lateral-raise-dumbbell"))
    bends = [f for f in review.findings if f.rule.name == "elbow-bend-change"]
    assert all(f.verdict in ("cannot-tell", "near") for f in bends)


@pytest.mark.parametrize(
    ("value", "uncertainty", "verdict"),
    [
        (5, 2, "ok"),
        (8, 2, "ok"),
        (8.5, 2, "near"),
        (10, 2, "near"),
        (12, 2, "near"),
        (12.1, 2, "off"),
        (10.1, 0.0, "off"),
    ],
)
def test_a_verdict_is_never_surer_than_the_measurement(value, uncertainty, verdict):
    assert judge(value, uncertainty, 10.0) == verdict


def test_every_check_has_a_unit_and_a_file():
    import guide_arc.core.checks as package

    folder = package.__path__[0]
    for name, spec in specs().items():
        assert spec.limit_unit("deg") in ("deg", "pct")
        assert name == spec.name
        with open(f"{folder}/{name.replace('-', '_')}.py", encoding="utf-8") as file:
            assert file.readline().startswith(f'"""{name}: ')


def test_too_few_reps_show_no_trend():
    review, _ = reviewed("rope-pushdown", reps=3)
    (drift,) = [f for f in review.findings if f.rule.name == "fatigue-drift"]
    assert drift.verdict == "cannot-tell"
    assert "at least 5" in drift.why
