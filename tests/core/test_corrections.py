"""Reps corrected by hand: what a coach asks for is what the review then counts."""

from __future__ import annotations

from typing import get_args

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import filmed, slow
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.model.settings import Correction, Edge, Settings
from guide_arc.core.reps.segment import RepSet, find_reps
from guide_arc.core.review.assess import review_body
from guide_arc.standards.loader import standard

PLAN = standard("standing-barbell-curl")


@pytest.fixture(scope="module")
def body() -> Body:
    return Body(clean(filmed("standing-barbell-curl", reps=6, noise=0.003).track))


@pytest.fixture(scope="module")
def found(body) -> RepSet:
    return find_reps(body, PLAN)


def by_hand(body: Body, *corrections: Correction) -> RepSet:
    return find_reps(body, PLAN, Settings(corrections))


def test_a_boundary_goes_where_it_is_put(body, found):
    rep = found.reps[2]
    moved = by_hand(
        body, Correction("edge", rep.lower.end_s, rep.lower.end_s + 0.2, edge="lower-end")
    )
    assert moved.reps[2].lower.end_s == pytest.approx(rep.lower.end_s + 0.2)
    assert moved.reps[2].lift == rep.lift
    assert moved.reps[3] == found.reps[3]


def test_a_boundary_that_meets_the_next_one_takes_it_along(body, found):
    rep = found.reps[1]
    to_s = rep.lower.start_s + 0.3
    moved = by_hand(body, Correction("edge", rep.lift.end_s, to_s, edge="lift-end")).reps[1]
    assert moved.lift.end_s == pytest.approx(to_s)
    assert moved.lower.start_s == pytest.approx(to_s)
    assert moved.top_hold is None


def test_a_boundary_stays_between_its_neighbours(body, found):
    rep, before = found.reps[3], found.reps[2]
    moved = by_hand(body, Correction("edge", rep.lift.start_s, 0.0, edge="lift-start")).reps[3]
    assert moved.lift.start_s == pytest.approx(before.lower.end_s)


def test_a_deleted_rep_is_gone_and_the_rest_are_counted_anew(body, found):
    left = by_hand(body, Correction("delete", found.reps[1].turn_s))
    assert [rep.number for rep in left.reps] == [1, 2, 3, 4, 5]
    assert left.reps[1].lift == found.reps[2].lift


def test_two_reps_become_one_and_one_becomes_two(body, found):
    merged = by_hand(body, Correction("merge", found.reps[1].turn_s))
    assert len(merged.reps) == 5
    assert merged.reps[1].start_s == found.reps[1].start_s
    assert merged.reps[1].end_s == found.reps[2].end_s
    meet = 0.5 * (found.reps[1].end_s + found.reps[2].start_s)
    split = by_hand(body, Correction("merge", found.reps[1].turn_s), Correction("split", meet))
    assert len(split.reps) == 6
    assert split.reps[1].turn_s == pytest.approx(found.reps[1].turn_s, abs=0.2)
    assert split.reps[2].turn_s == pytest.approx(found.reps[2].turn_s, abs=0.2)


def test_a_rep_that_was_taken_out_is_added_again(body, found):
    at = found.reps[4].turn_s
    again = by_hand(body, Correction("delete", at), Correction("add", at))
    assert len(again.reps) == 6
    assert again.reps[4].lift.start_s == pytest.approx(found.reps[4].lift.start_s, abs=0.05)


def test_only_what_lies_between_the_marks_is_counted(body, found):
    start, end = found.reps[1].start_s - 0.2, found.reps[4].end_s + 0.2
    inside = by_hand(body, Correction("bounds", start, end))
    assert [rep.turn_s for rep in inside.reps] == pytest.approx(
        [rep.turn_s for rep in found.reps[1:5]], abs=0.05
    )


def test_what_fits_no_rep_is_left_out_and_said(body):
    lost = Settings((Correction("delete", 0.1),))
    review, _, repset = review_body(body, PLAN, None, lost)
    assert len(review.reps) == 6
    assert repset.unfit == lost.corrections
    assert any("no longer fits any rep" in doubt for doubt in review.trust.doubts)


def test_a_correction_leaves_the_other_doubts_standing():
    track = filmed("standing-barbell-curl", reps=5, scheme="one-and-a-half", noise=0.003).track
    body = Body(clean(track))
    before = find_reps(body, PLAN)
    assert [d.words for d in before.doubts]
    edge = before.reps[0].lift.start_s
    moved = find_reps(
        body, PLAN, Settings((Correction("edge", edge, edge - 0.1, edge="lift-start"),))
    )
    assert [d.words for d in moved.doubts] == [d.words for d in before.doubts]


def test_an_arm_that_alternates_is_corrected_by_itself():
    track = filmed("front-raise-midline", reps=4, arms="alternating", noise=0.003).track
    plan = standard("front-raise-midline")
    whole = find_reps(Body(clean(track)), plan)
    left = next(rep for rep in whole.reps if rep.key == ("left", 2))
    out = find_reps(
        Body(clean(track)), plan, Settings((Correction("delete", left.turn_s, side="left"),))
    )
    assert sum(rep.side == "left" for rep in out.reps) == 3
    assert sum(rep.side == "right" for rep in out.reps) == 4


def test_a_correction_says_what_it_needs():
    with pytest.raises(ValueError, match="edge"):
        Correction("edge", 1.0, 2.0)
    with pytest.raises(ValueError, match="to_s"):
        Correction("bounds", 1.0)


corrections = st.builds(
    lambda kind, at, to, edge: Correction(
        kind,
        at,
        to if kind in ("edge", "bounds") else None,
        "both",
        edge if kind == "edge" else None,
    ),
    st.sampled_from(["edge", "delete", "split", "merge", "add", "bounds"]),
    st.floats(-5, 40),
    st.floats(-5, 40),
    st.sampled_from(get_args(Edge)),
)


@settings(max_examples=60, deadline=None)
@given(made=st.lists(corrections, max_size=6))
@slow
def test_whatever_is_corrected_the_phases_stay_in_order(made):
    out = find_reps(_BODY, PLAN, Settings(tuple(made)))
    edges = [
        t
        for rep in out.reps
        for t in (rep.lift.start_s, rep.lift.end_s, rep.lower.start_s, rep.lower.end_s)
    ]
    assert edges == sorted(edges)
    assert [rep.number for rep in out.reps] == list(range(1, len(out.reps) + 1))


_BODY = Body(clean(filmed("standing-barbell-curl", reps=5, noise=0.003, seed=3).track))
