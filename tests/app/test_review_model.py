"""The review's model without any widget: corrections, what they refuse, ghosts, undo over all of
it."""

from __future__ import annotations

from dataclasses import replace

import pytest

from builders import measured_set
from desks import Desk, UndoneModel
from guide_arc.core.model.settings import Correction
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.library.records import SetNotes, SetRecord


@pytest.fixture
def model(curl: ShownSet) -> UndoneModel:
    made = UndoneModel()
    record = SetRecord(
        1,
        "Cleo Marsh",
        "standing-barbell-curl",
        "locked-upper-arm",
        None,
        30.0,
        "2031-03-25",
        "c.csv",
        "0",
        100,
        30.0,
        "none",
        SetNotes(),
    )
    made.open(record, curl)
    return made


@pytest.fixture
def kept(model: UndoneModel) -> Desk:
    return model.desk


@pytest.fixture
def said(model: UndoneModel) -> list[str]:
    words: list[str] = []
    model.refused.connect(words.append)
    return words


def turn(model: UndoneModel, i: int) -> float:
    return model.measured.review.reps[i].turn_s


def test_every_correction_is_kept_with_its_review(model, kept):
    model.by_hand.correct("Not a rep", Correction("delete", turn(model, 0)))
    model.by_hand.correct("Merge", Correction("merge", turn(model, 0)))
    assert kept.reviews == [9, 8]
    assert [len(n.settings.corrections) for n in kept.notes] == [1, 2]
    model.undo()
    model.undo()
    assert kept.reviews == [9, 8, 9, 10]
    model.redo()
    assert len(model.measured.review.reps) == 9


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (Correction("delete", 0.1), "There is no rep there."),
        (Correction("split", 0.1), "There is no rep there that could be two."),
        (Correction("add", 0.3), "Nothing there comes and goes like a rep."),
        (Correction("bounds", 0.0, 0.8), "No rep lies between these moments."),
        (Correction("delete", 5.0, side="left"), "There is no rep there."),
    ],
)
def test_a_correction_that_fits_nothing_is_refused_and_changes_nothing(
    model, kept, said, change, words
):
    model.by_hand.correct("No", change)
    assert said == [words]
    assert kept.notes == []
    assert model.undo_words is None


def test_a_correction_that_changes_nothing_is_no_step_of_undo(model, said):
    rep = model.measured.review.reps[3]
    same = rep.lift.start_s
    model.by_hand.correct("Start", Correction("edge", same, same, edge="lift-start"))
    assert said == ["That changes nothing."]
    assert model.undo_words is None


def test_what_was_chosen_stays_chosen(model):
    model.choose_rep(model.measured.review.reps[7])
    finding, moment = model.finding.key, model.rep.turn_s
    model.by_hand.correct("Not a rep", Correction("delete", turn(model, 0)))
    assert model.finding.key == finding
    assert model.rep.number == 7
    assert model.rep.turn_s == pytest.approx(moment)


def test_where_a_rep_is_gone_the_one_before_it_is_chosen(model):
    model.choose_rep(model.measured.review.reps[7])
    model.by_hand.correct("Not a rep", Correction("delete", turn(model, 7)))
    assert model.rep.number == 7


def test_felt_and_loose_are_steps_of_undo(model):
    model.by_hand.toggle_felt("biceps")
    model.by_hand.toggle_felt("front shoulder")
    model.by_hand.toggle_felt("biceps")
    assert model.settings.felt == ("front shoulder",)
    model.by_hand.allow_loose(3)
    model.by_hand.allow_loose(3)  # no change, no step
    model.by_hand.allow_loose(-1)
    assert model.settings.loose_last == 3
    assert model.undo_words == "Loose last reps"
    for _ in range(4):
        model.undo()
    assert model.settings.felt == ()
    assert model.undo_words is None


def test_all_corrections_go_back_as_one_step(model):
    model.by_hand.uncorrect()  # nothing to take back
    assert model.undo_words is None
    model.by_hand.correct("a", Correction("delete", turn(model, 0)))
    model.by_hand.correct("b", Correction("delete", turn(model, 0)))
    model.by_hand.uncorrect()
    assert len(model.measured.review.reps) == 10
    model.undo()
    assert len(model.measured.review.reps) == 8


def test_a_ghost_of_this_set_goes_with_the_reps_it_was_of(model, curl):
    model.choose_rep(model.measured.review.reps[1])
    model.ghost_of_rep()
    assert model.ghost.words == "rep 2"
    model.ghost_of_rep(("both", 1))
    assert model.ghost.words == "rep 1"
    model.by_hand.correct("Not a rep", Correction("delete", turn(model, 0)))
    assert model.ghost is None


def test_a_ghost_of_another_set_stays(model):
    other = measured_set("standing-barbell-curl", reps=2, seed=50)
    model.ghost_of_set(other, "the set of 24 Feb 2031", 7)
    model.by_hand.correct("Not a rep", Correction("delete", turn(model, 0)))
    assert model.ghost.set_id == 7
    assert not model.ghost.own


def test_a_set_without_reps_is_no_ghost(model, said):
    from guide_arc.core.model.settings import Settings

    other = measured_set("standing-barbell-curl", reps=1)
    only = other.review.reps[0]
    empty = other.with_settings(Settings((Correction("delete", only.turn_s),)))
    model.ghost_of_set(empty, "nothing", 8)
    assert model.ghost is None
    assert said == ["That set has no reps to compare with."]


def test_nothing_is_corrected_without_a_set():
    bare = UndoneModel()
    bare.by_hand.correct("x", Correction("delete", 1.0))
    bare.by_hand.toggle_felt("biceps")
    bare.ghost_of_rep()
    assert bare.desk.notes == []
    assert bare.ghost is None


def test_undo_of_a_set_that_is_not_open_any_more_puts_its_whole_document_back(model, curl):
    model.by_hand.correct("Not a rep", Correction("delete", turn(model, 0)))
    model.by_hand.toggle_felt("biceps")
    before = model.notes
    model.set_done(True)
    model.open(replace(model.record, id=2, notes=SetNotes()), curl)
    model.undo()
    assert model.desk.elsewhere == [(1, before)]
    assert model.notes == SetNotes()
