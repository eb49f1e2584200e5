"""Praise is proved: each sentence by checks that were seen and `ok` in this very recording."""

from __future__ import annotations

from dataclasses import replace

import pytest

from builders import reviewed, some_of
from faults_from_views import twice_the_limit
from guide_arc.core.checks.registry import specs
from guide_arc.core.model.review import Review
from guide_arc.core.review.praise import praise_of
from guide_arc.formats.review_json import review_document
from guide_arc.standards.loader import shipped, standard

FAULTS = [(id, rule.name) for id in shipped() for rule in standard(id).checks]


def verdicts_of(review: Review, check: str) -> set[str]:
    return {f.verdict for f in review.findings if f.rule.name == check}


def test_a_clean_set_in_space_is_praised_for_the_whole_movement():
    review, _truth = reviewed("rope-pushdown", reps=5)
    first = praise_of(review)[0]
    assert first.words == review.standard.praise
    assert set(first.checks) == {f.rule.name for f in review.findings}


@pytest.mark.parametrize(("id", "check"), some_of(FAULTS)[::2])
def test_a_set_with_a_fault_is_not_praised_for_the_whole_movement(id: str, check: str):
    plan = standard(id)
    tempo, amount = twice_the_limit(plan, check)
    review, _truth = reviewed(id, reps=5, tempo=tempo, faults={check: amount}, noise=0.002)
    given = praise_of(review)
    assert plan.praise not in {p.words for p in given}
    for one in given:
        assert one.checks
        assert all(verdicts_of(review, name) == {"ok"} for name in one.checks)


@pytest.mark.parametrize("verdict", ["near", "cannot-tell", "off"])
def test_what_was_not_seen_to_be_right_proves_nothing(verdict: str):
    """One check that was not `ok`, on one side only, takes its own sentence and that of the whole movement away."""
    clean, _truth = reviewed("rope-pushdown", reps=5)
    at = next(i for i, f in enumerate(clean.findings) if f.rule.name == "upper-arm-drift")
    doubted = replace(clean.findings[at], verdict=verdict)
    review = replace(clean, findings=(*clean.findings[:at], doubted, *clean.findings[at + 1 :]))
    words = {p.words for p in praise_of(review)}
    assert clean.standard.praise not in words
    assert specs()["upper-arm-drift"].praise not in words


def test_a_tempo_that_nobody_asked_for_was_not_kept():
    from guide_arc.standards.tempo import parse_tempo  # noqa: PLC0415

    review, _truth = reviewed("rope-pushdown", reps=4, tempo=parse_tempo("x-x-x-x"))
    assert specs()["too-fast-lower"].praise not in {p.words for p in praise_of(review)}


def test_nothing_is_praised_without_a_rep():
    clean, _truth = reviewed("rope-pushdown", reps=3)
    assert praise_of(replace(clean, reps=())) == ()


def test_other_programs_read_the_praise_with_its_proof():
    review, _truth = reviewed("standing-barbell-curl", reps=5)
    listed = review_document(review)["praise"]
    assert listed
    ok = {f.rule.name for f in review.findings if f.verdict == "ok"}
    assert all(one["words"] and set(one["checks"]) <= ok for one in listed)
