"""What is told of each rep and of the set: figures, trends, the break-down, causes, comparisons."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from builders import TEN_MM, filmed, reviewed
from guide_arc.core.kinematics.endpoints import height_words
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.figures import SetFigures
from guide_arc.core.model.landmarks import ALL
from guide_arc.core.model.review import Review
from guide_arc.core.model.settings import Settings
from guide_arc.core.model.standard import Tempo
from guide_arc.core.reps.phase import even_positions, moments, position_at
from guide_arc.core.review.assess import context_of, review_with_body
from guide_arc.core.review.causes import causes_of
from guide_arc.core.review.compare import Taken, compare, whole_set
from guide_arc.core.review.figures import figures_of, spectral_arc_length
from guide_arc.core.review.rank import proposed_cues
from guide_arc.standards.loader import standard


def taken(
    id: str = "standing-barbell-curl", settings: Settings | None = None, **film: Any
) -> Taken:
    plan = standard(id)
    done = filmed(id, **{"noise": 0.004, **film})
    asked = film.get("tempo")
    review, body, repset = review_with_body(
        done.track,
        plan,
        asked,
        also=ALL,
        settings=settings or Settings(),
    )
    figures = figures_of(context_of(body, repset, plan, asked))
    return whole_set(review, body, figures)


def stay(figures: SetFigures, rep: int, name: str) -> float:
    return max(s.largest.value for s in figures.reps[rep].stays if s.name == name)


@pytest.fixture(scope="module")
def clean_set() -> Taken:
    return taken(reps=8)


@pytest.fixture(scope="module")
def falling_apart() -> Taken:
    return taken(
        reps=10,
        fault_from=6,
        faults={"torso-swing": 18.0, "upper-arm-drift": 26.0},
        settings=Settings(felt=("front shoulder", "forearm")),
    )


def test_a_smooth_rep_in_figures(clean_set):
    for f in clean_set.figures.reps:
        assert f.range_deg.value == pytest.approx(122.0, abs=3.0)
        assert f.under_load_s == pytest.approx(
            f.lift_s + f.rep.lower.start_s - f.rep.lift.end_s + f.lower_s
        )
        # A minimum-jerk reach peaks at 1.875 times its mean speed, counted over the whole reach.
        assert 1.4 < f.lift_peak_deg_s / f.lift_mean_deg_s < 1.9
        assert f.smoothness > -1.7
        assert f.stops == 0
        assert abs(f.torso_early_deg.value) < 2.0
        assert stay(clean_set.figures, 0, "upper arm") < 3.0
        assert f.hand_at in ("the upper chest", "the shoulders")
        assert all(path.inside_pct > 95.0 for path in f.paths)


def test_a_jerky_lift_is_less_smooth_than_a_steady_one():
    time = np.linspace(0.0, 1.0, 60)
    smooth = 30 * time**2 * (1 - time) ** 2
    jerky = smooth * (1.0 + 0.8 * np.sin(2 * np.pi * 5 * time))
    assert spectral_arc_length(jerky, 60.0) < spectral_arc_length(smooth, 60.0) - 0.3
    assert np.isnan(spectral_arc_length(smooth[:3], 60.0))


def test_what_moved_is_as_large_as_the_fault(falling_apart):
    figures = falling_apart.figures
    assert stay(figures, 1, "torso lean") < 3.0
    assert stay(figures, 8, "torso lean") == pytest.approx(18.0, abs=3.0)
    assert stay(figures, 8, "upper arm") == pytest.approx(26.0, abs=3.0)
    elbow = next(p for p in figures.reps[8].paths if p.part == "elbow")
    # 26 degrees of an arm: twice the sine of half the angle.
    assert elbow.largest_pct.value == pytest.approx(200 * np.sin(np.radians(13)), abs=5.0)
    assert elbow.way == "ahead"
    assert elbow.at_share > 0.8


def test_a_trend_is_told_only_when_it_is_sure(clean_set):
    assert not any(
        t.sure for t in clean_set.figures.trends if t.name in ("range", "torso lean moved")
    )
    tiring = taken(reps=10, faults={"fatigue-drift": 30.0}).figures
    trend = next(t for t in tiring.trends if t.name == "range")
    assert trend.sure
    # 30 % of 122 degrees over nine steps.
    assert trend.per_rep.value == pytest.approx(-4.07, abs=2 * trend.per_rep.u + 0.2)
    assert "shrinks" in trend.says
    assert trend.first > trend.last


def test_three_reps_have_no_trend():
    assert taken(reps=3).figures.trends == ()


def test_where_the_set_broke_down(falling_apart, clean_set):
    broke = falling_apart.review.broke_down
    assert broke.rep == 6
    assert set(broke.checks) >= {"torso-swing", "upper-arm-drift"}
    assert broke.says == "form holds up to rep 5"
    assert [number for _, number in falling_apart.review.loose] == [6, 7, 8, 9, 10]
    assert clean_set.review.broke_down is None
    assert clean_set.review.loose == ()


def test_faulty_from_the_start_has_no_break():
    assert taken(reps=8, faults={"torso-swing": 18.0}).review.broke_down is None


def test_loose_last_reps_are_allowed_except_for_the_spine():
    faults = {"torso-swing": 18.0, "upper-arm-drift": 26.0}
    strict = taken(reps=8, fault_from=7, faults=faults).review
    loose = taken(reps=8, fault_from=7, faults=faults, settings=Settings(loose_last=2)).review
    assert {f.rule.name for f in proposed_cues(strict.findings)} == {
        "torso-swing",
        "upper-arm-drift",
    }
    assert {f.rule.name for f in proposed_cues(loose.findings)} == {"torso-swing"}
    drift = next(f for f in loose.findings if f.rule.name == "upper-arm-drift")
    assert drift.allowed
    assert drift.verdict == "off"
    one = taken(reps=8, fault_from=7, faults=faults, settings=Settings(loose_last=1)).review
    assert not any(f.allowed for f in one.findings)


def causes(review: Review, kind: str) -> list[str]:
    return [c.words for c in review.causes if c.kind == kind]


def test_what_was_felt_agrees_or_does_not(falling_apart):
    review = falling_apart.review
    assert any("front shoulder" in w and "agree" in w for w in causes(review, "agrees"))
    assert any("forearm" in w and "was not seen" in w for w in causes(review, "unexplained"))
    assert any("Not felt in the biceps" in w for w in causes(review, "unexplained"))
    assert any("nothing was felt in the lower back" in w for w in causes(review, "unfelt"))


def test_nothing_is_said_of_feelings_that_nobody_told():
    told = taken(reps=6, faults={"torso-swing": 18.0}).review.causes
    assert not [c for c in told if c.kind != "likely"]


def test_a_hidden_cause_is_said_to_be_hidden():
    plan = standard("standing-barbell-curl")
    done = filmed(plan.id, reps=5, view="front", noise=1.0)
    review = review_with_body(done.track, plan, settings=Settings(felt=("lower back",)))[0]
    assert any("could not be judged" in w for w in causes(review, "unexplained"))


def test_several_signs_of_too_much_weight_are_named_together():
    faults = {"torso-swing": 18.0, "upper-arm-drift": 26.0, "range-short": 30.0}
    assert causes(taken(reps=6, faults=faults).review, "likely")


def test_a_slower_lowering_and_a_shorter_range_are_found_between_two_sets():
    before = taken(reps=8, tempo=Tempo(1.5, 0.0, 1.0, 0.0))
    after = taken(reps=8, tempo=Tempo(3.0, 0.0, 1.0, 0.0), faults={"range-short": 15.0}, seed=11)
    changed = {row.name: row for row in compare(before, after).changes}
    assert changed["lowering"].says.startswith("slower lowering")
    assert changed["lowering"].change.value == pytest.approx(1.6, abs=0.3)
    assert changed["range"].change.value == pytest.approx(-15.0, abs=3.0)
    assert "lift" not in changed


def test_the_same_set_again_has_not_changed():
    comparison = compare(taken(reps=8, noise=TEN_MM), taken(reps=8, noise=TEN_MM, seed=21))
    assert len(comparison.changes) <= 1
    for before, after in comparison.courses:
        seen = np.isfinite(before.value + after.value)
        assert np.abs(before.value - after.value)[seen].max() < 6.0


def test_one_rep_against_another(falling_apart):
    first = replace(falling_apart, reps=falling_apart.review.reps[:1])
    ninth = replace(falling_apart, reps=falling_apart.review.reps[8:9])
    changed = [row.name for row in compare(first, ninth).changes]
    assert "torso lean" in changed


def test_only_sets_of_one_exercise_compare(clean_set):
    with pytest.raises(BadInput, match="two sets of one exercise"):
        compare(clean_set, taken("rope-pushdown", reps=3))
    with pytest.raises(BadInput, match="no rep"):
        compare(clean_set, replace(clean_set, reps=()))


def test_positions_in_a_rep_go_there_and_back(clean_set):
    rep = clean_set.review.reps[2]
    for at in np.linspace(rep.start_s, rep.end_s, 23):
        back = moments(rep, np.array([position_at(rep, float(at))]))[0]
        assert back == pytest.approx(at, abs=1e-6)
    assert moments(rep, even_positions(5))[0] == rep.lift.start_s
    assert moments(rep, even_positions(5))[-1] == pytest.approx(rep.lower.end_s)


@pytest.mark.parametrize(
    ("height", "words"),
    [
        (0.0, "the hips"),
        (20.0, "the navel"),
        (75.0, "the nipple line"),
        (133.0, "the nose"),
        (200.0, "above the head"),
    ],
)
def test_heights_along_the_trunk_in_words(height, words):
    assert height_words(height) == words


def test_where_feel_is_only_a_clue_no_set_is_called_on_target_by_it():
    review, _truth = reviewed("standing-barbell-curl", reps=4, noise=0.003)
    plan = review.standard
    (guide,) = causes_of(plan, review.findings, ("biceps",))
    (clue,) = causes_of(plan, review.findings, ("biceps",), "clue")
    assert "where this exercise aims" in guide.words
    assert "no proof" in clue.words
    assert causes_of(plan, review.findings, ("forearm",), "clue")[-1].kind == "unexplained"
    assert not any(
        "where this exercise aims" in c.words
        for c in causes_of(plan, review.findings, ("forearm",), "clue")
    )


def test_a_place_that_goes_with_another_way_of_it_is_said_not_to_agree():
    review, _truth = reviewed(
        "lateral-raise-dumbbell", reps=4, noise=0.003, faults={"elbow-path": 75.0}
    )
    (finding,) = [f for f in review.with_verdict("off") if f.rule.name == "elbow-path"][:1]
    told = causes_of(review.standard, review.findings, ("front shoulder",))[0]
    assert "agree" in told.words
    assert ("do not" in told.words) == (finding.way != "ahead")
