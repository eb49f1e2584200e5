"""Praise is proved: each sentence by checks that were seen and `ok` in this very recording."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from builders import reviewed, some_of
from edits import abduct, bend, roll, seen, shoulder_turn, spine, take, unmarked
from faults_from_views import twice_the_limit
from guide_arc.core.checks.registry import specs
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import PraiseLine
from guide_arc.core.review.assess import review_set
from guide_arc.core.review.praise import praise_of
from guide_arc.formats.review_json import review_document
from guide_arc.standards.loader import shipped, standard

FAULTS = [(id, rule.name) for id in shipped() for rule in standard(id).checks]


def verdicts_of(review: Review, check: str) -> set[str]:
    return {f.verdict for f in review.findings if f.rule.name == check}


def test_a_clean_set_in_space_is_praised_in_the_words_of_its_standard_first():
    review, _truth = reviewed("rope-pushdown", reps=5)
    first = praise_of(review)[0]
    assert (first.words, first.checks) == (
        "The elbows opened fully, rep after rep.",
        ("range-short",),
    )
    # What that says is not said again in a check's own words.
    assert len({name for p in praise_of(review) for name in p.checks}) == sum(
        len(p.checks) for p in praise_of(review)
    )


def test_a_sentence_without_a_proof_of_its_own_needs_every_check():
    clean, _truth = reviewed("rope-pushdown", reps=5)
    whole = PraiseLine("All of it was right.")
    held = tuple(
        f for f in clean.findings if f.rule.name != "hold-missing"
    )  # no hold was asked for
    review = replace(clean, standard=replace(clean.standard, praise=(whole,)), findings=held)
    assert praise_of(review)[0].words == whole.words
    doubted = replace(clean.findings[0], verdict="near")
    review = replace(review, findings=(doubted, *held[1:]))
    assert whole.words not in {p.words for p in praise_of(review)}


def test_every_shipped_sentence_has_a_proof():
    for id in shipped():
        schools = [standard(id, s.id) for s in standard(id).schools]
        checked = {rule.name for plan in schools for rule in plan.checks}
        for line in standard(id).praise:
            assert line.proof, id
            assert checked.issuperset(line.proof), (id, line.words)


# What was praised before though it was not so: the movement, what was done instead, and what may
# not be said of it.
NOT_SO = [
    ("cross-body-curl", [(abduct, 25, "turn"), (roll, 30, "turn")], "crosses"),
    ("cable-extension-one-arm", [(shoulder_turn, 60, "always")], "behind"),
    ("overhead-cable-extension-one-arm", [(shoulder_turn, -34, "always")], "ear"),
    ("shrug", [(bend, 35, "turn")], "nothing else moves"),
    ("bent-over-row", [(spine, 40, "rep")], "back"),
]


@pytest.mark.parametrize(("id", "edits", "words"), NOT_SO)
def test_what_was_done_otherwise_is_not_praised(id: str, edits: list[Any], words: str):
    done = take(id, None, reps=6)
    for edit, by, when in edits:
        edit(done, by, when, "both", None)
    review = review_set(seen(done, "none", 2.0, 11), standard(id))
    assert not [p.words for p in praise_of(review) if words in p.words]


def test_a_back_that_was_judged_by_the_hips_is_not_praised_as_a_whole_back():
    done = take("standing-barbell-curl", None, reps=6)
    unmarked(done, 0.0, "rep", "both", None)
    review = review_set(seen(done, "left", 1.0, 11), standard("standing-barbell-curl"))
    assert verdicts_of(review, "neutral-back") == {"ok"}
    assert specs()["neutral-back"].praise not in {p.words for p in praise_of(review)}


@pytest.mark.parametrize(("id", "check"), some_of(FAULTS)[::2])
def test_a_set_with_a_fault_is_not_praised_for_what_went_wrong(id: str, check: str):
    plan = standard(id)
    tempo, amount = twice_the_limit(plan, check)
    review, _truth = reviewed(id, reps=5, tempo=tempo, faults={check: amount}, noise=0.002)
    for one in praise_of(review):
        assert one.checks
        assert check not in one.checks
        assert all(verdicts_of(review, name) == {"ok"} for name in one.checks)


@pytest.mark.parametrize("verdict", ["near", "cannot-tell", "off"])
def test_what_was_not_seen_to_be_right_proves_nothing(verdict: str):
    """One check that was not `ok`, on one side only, takes its own sentence away."""
    clean, _truth = reviewed("rope-pushdown", reps=5)
    at = next(i for i, f in enumerate(clean.findings) if f.rule.name == "torso-swing")
    doubted = replace(clean.findings[at], verdict=verdict)  # type: ignore[arg-type]
    review = replace(clean, findings=(*clean.findings[:at], doubted, *clean.findings[at + 1 :]))
    words = {p.words for p in praise_of(review)}
    assert specs()["torso-swing"].praise in {p.words for p in praise_of(clean)}
    assert specs()["torso-swing"].praise not in words


def test_a_tempo_that_nobody_asked_for_was_not_kept():
    from guide_arc.standards.tempo import parse_tempo

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
