"""The review's model without any widget: corrections, what they refuse, ghosts, undo over all of
it."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

import pytest

from builders import measured_set
from desks import Desk, UndoneModel
from guide_arc.app.places.review.by_hand import corrected, felt_there, loosened, uncorrected
from guide_arc.app.places.review.document import done_noted, ghost_of
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
    return model.doc.measured.review.reps[i].turn_s


def test_every_correction_is_kept_with_its_review(model, kept):
    model.set_up(
        partial(corrected, words="Not a rep", correction=Correction("delete", turn(model, 0)))
    )
    model.set_up(partial(corrected, words="Merge", correction=Correction("merge", turn(model, 0))))
    assert kept.reviews == [9, 8]
    assert [len(n.settings.corrections) for n in kept.notes] == [1, 2]
    model.undo()
    model.undo()
    assert kept.reviews == [9, 8, 9, 10]
    model.redo()
    assert len(model.doc.measured.review.reps) == 9


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (Correction("delete", 0.1), "There is no rep there."),
        (Correction("split", 0.1), "There is no rep there that could be two."),
        (Correction("add", 0.3), "Nothing there comes and goes like a rep."),
        (Correction("bounds", 0.0, 0.8), "There is no rep between these moments."),
        (Correction("delete", 5.0, side="left"), "There is no rep there."),
    ],
)
def test_a_correction_that_fits_nothing_is_refused_and_changes_nothing(
    model, kept, said, change, words
):
    model.set_up(partial(corrected, words="No", correction=change))
    assert said == [words]
    assert kept.notes == []
    assert model.undo_words is None


def test_a_correction_that_changes_nothing_is_no_step_of_undo(model, said):
    rep = model.doc.measured.review.reps[3]
    same = rep.lift.start_s
    model.set_up(
        partial(
            corrected, words="Start", correction=Correction("edge", same, same, edge="lift-start")
        )
    )
    assert said == ["That changes nothing."]
    assert model.undo_words is None


def test_what_was_chosen_stays_chosen(model):
    model.choose_rep(model.doc.measured.review.reps[7])
    finding, moment = model.doc.finding.key, model.doc.rep.turn_s
    model.set_up(
        partial(corrected, words="Not a rep", correction=Correction("delete", turn(model, 0)))
    )
    assert model.doc.finding.key == finding
    assert model.doc.rep.number == 7
    assert model.doc.rep.turn_s == pytest.approx(moment)


def test_where_a_rep_is_gone_the_one_before_it_is_chosen(model):
    model.choose_rep(model.doc.measured.review.reps[7])
    model.set_up(
        partial(corrected, words="Not a rep", correction=Correction("delete", turn(model, 7)))
    )
    assert model.doc.rep.number == 7


def test_felt_and_loose_are_steps_of_undo(model):
    model.set_up(partial(felt_there, spot="biceps"))
    model.set_up(partial(felt_there, spot="front shoulder"))
    model.set_up(partial(felt_there, spot="biceps"))
    assert model.doc.settings.felt == ("front shoulder",)
    model.set_up(partial(loosened, last=3))
    model.set_up(partial(loosened, last=3))  # no change, no step
    model.set_up(partial(loosened, last=-1))
    assert model.doc.settings.loose_last == 3
    assert model.undo_words == "Loose last reps"
    for _ in range(4):
        model.undo()
    assert model.doc.settings.felt == ()
    assert model.undo_words is None


def test_all_corrections_go_back_as_one_step(model):
    model.set_up(uncorrected)  # nothing to take back
    assert model.undo_words is None
    model.set_up(partial(corrected, words="a", correction=Correction("delete", turn(model, 0))))
    model.set_up(partial(corrected, words="b", correction=Correction("delete", turn(model, 0))))
    model.set_up(uncorrected)
    assert len(model.doc.measured.review.reps) == 10
    model.undo()
    assert len(model.doc.measured.review.reps) == 8


def test_a_ghost_of_this_set_goes_with_the_reps_it_was_of(model, curl):
    model.choose_rep(model.doc.measured.review.reps[1])
    model.show_ghost(model.doc.own_ghost())
    assert model.doc.ghost.words == "rep 2"
    model.show_ghost(model.doc.own_ghost(("both", 1)))
    assert model.doc.ghost.words == "rep 1"
    model.set_up(
        partial(corrected, words="Not a rep", correction=Correction("delete", turn(model, 0)))
    )
    assert model.doc.ghost is None


def test_a_ghost_of_another_set_stays(model):
    other = measured_set("standing-barbell-curl", reps=2, seed=50)
    model.show_ghost(ghost_of(other, "the set of 24 Feb 2031", 7))
    model.set_up(
        partial(corrected, words="Not a rep", correction=Correction("delete", turn(model, 0)))
    )
    assert model.doc.ghost.set_id == 7
    assert not model.doc.ghost.own


def test_a_set_without_reps_is_no_ghost():
    from guide_arc.core.model.settings import Settings

    other = measured_set("standing-barbell-curl", reps=1)
    only = other.review.reps[0]
    empty = other.with_settings(Settings((Correction("delete", only.turn_s),)))
    assert ghost_of(empty, "nothing", 8) is None


def test_nothing_is_corrected_without_a_set():
    bare = UndoneModel()
    bare.set_up(partial(corrected, words="x", correction=Correction("delete", 1.0)))
    bare.set_up(partial(felt_there, spot="biceps"))
    bare.show_ghost(bare.doc.own_ghost())
    assert bare.desk.notes == []
    assert bare.doc.ghost is None


def test_undo_of_a_set_that_is_not_open_any_more_puts_its_whole_document_back(model, curl):
    model.set_up(
        partial(corrected, words="Not a rep", correction=Correction("delete", turn(model, 0)))
    )
    model.set_up(partial(felt_there, spot="biceps"))
    before = model.doc.notes
    model.note(done_noted(model.doc, True))
    model.open(replace(model.doc.record, id=2, notes=SetNotes()), curl)
    model.undo()
    assert model.desk.elsewhere == [(1, before)]
    assert model.doc.notes == SetNotes()
