"""The standards' view-model without a window: finding, changing, and taking back."""

from __future__ import annotations

import pytest

from guide_arc.app.contract.history import UndoHistory
from guide_arc.app.places.standards.document import PULLS, REGIONS, searchable
from guide_arc.app.places.standards.edits import text_of
from guide_arc.app.places.standards.model import StandardsModel
from guide_arc.library.own_standards import OwnStandards
from guide_arc.standards.loader import shipped, standard

CURL = "standing-barbell-curl"


class Undone(StandardsModel):
    """The model with a history of its own to take its steps back by."""

    def __init__(self, own: OwnStandards) -> None:
        self.history = UndoHistory()
        super().__init__(own, self.history.push)

    @property
    def undo_words(self) -> str | None:
        return self.history.undo_words

    @property
    def redo_words(self) -> str | None:
        return self.history.redo_words

    def undo(self) -> None:
        step = self.history.to_undo()
        step.undo()
        self.history.undone(step)  # type: ignore[arg-type]

    def redo(self) -> None:
        step = self.history.to_redo()
        step.redo()
        self.history.redone(step)  # type: ignore[arg-type]


@pytest.fixture
def model(library) -> StandardsModel:
    made = Undone(OwnStandards(library))
    made.show(made.doc.choosing(CURL))
    return made


@pytest.fixture
def refused(model) -> list[str]:
    said: list[str] = []
    model.refused.connect(said.append)
    return said


def test_regions_and_kit_cover_the_catalogue():
    plans = [standard(id) for id in shipped()]
    assert {p.region for p in plans} == {region for region, _ in REGIONS}
    assert {p.pull for p in plans} == {pull for pull, _ in PULLS}


def test_standards_are_grouped_by_region_in_the_order_of_the_body(model):
    regions = [standard(id).region for id in model.doc.shown]
    order = [region for region, _ in REGIONS]
    assert regions == sorted(regions, key=order.index)


@pytest.mark.parametrize(
    ("words", "id"),
    [
        ("biceps", CURL),
        ("cable kneeling", "kneeling-cable-crunch"),
        ("rope", "rope-pushdown"),
        ("prone", "prone-incline-curl"),
        ("constant tension", "incline-dumbbell-press"),
        ("fibre", None),
        ("lying chains", "chain-fly"),
        ("one arm back", "seated-row-one-arm"),
        ("STANDING barbell", CURL),
        ("bench lats", "straight-arm-pulldown-bench"),
    ],
)
def test_words_of_muscle_kit_and_position_find_it(model, words, id):
    model.show(model.doc.searching(words))
    assert (id in model.doc.shown) if id else model.doc.shown == []


def test_searchable_words_are_small_and_hold_the_id():
    text = searchable(standard("overhead-press-barbell"))
    assert text == text.lower()
    assert "overhead-press-barbell" in text
    assert "front shoulder" in text


def test_a_filter_that_loses_the_chosen_one_chooses_the_first(model):
    model.show(model.doc.of_pull("chain"))
    assert model.doc.chosen == "chain-fly"
    model.show(model.doc.of_pull(None))
    assert model.doc.chosen == "chain-fly"
    model.show(model.doc.stepped(1))
    assert model.doc.chosen != "chain-fly"
    model.show(model.doc.stepped(-1))
    assert model.doc.chosen == "chain-fly"
    model.show(model.doc.stepped(-500))
    assert model.doc.chosen == model.doc.shown[0]


def test_a_change_is_kept_at_once_and_taken_back_step_by_step(model):
    assert model.set_value("check.torso-swing.limit_deg", 7.0, "Torso swings: 7")
    assert model.set_value("dose.rest_s", 75, "Rest 75")
    assert model.doc.mark == "yours, over the shipped one"
    assert [d.key for d in model.doc.changes] == ["dose.rest_s", "check.torso-swing.limit_deg"]
    assert model.undo_words == "Rest 75"
    model.undo()
    assert model.doc.plan.dose.rest_s == 90
    assert model.doc.plan.check("torso-swing").limit == 7.0
    model.undo()
    assert model.doc.mark == ""
    assert model.undo_words is None
    assert model.redo_words == "Torso swings: 7"
    model.redo()
    assert model.doc.plan.check("torso-swing").limit == 7.0
    model.set_value("dose.rest_s", 60, "Rest 60")
    assert model.redo_words is None


def test_what_no_standard_may_be_is_refused_and_nothing_changes(model, refused):
    assert not model.set_value("range.to_deg", 12.0, "x")
    assert not model.set_value("check.nothing.limit_deg", 12.0, "x")
    assert not model.set_values({"posture.base": 3.0}, "x")
    assert not model.rename("ab")
    assert len(refused) == 4
    assert "15 degrees apart" in refused[0]
    assert "no 'nothing'" in refused[1]
    assert not model.doc.is_own
    assert model.undo_words is None


def test_several_keys_are_one_step(model):
    assert model.set_values({"range.to_deg": 120.0, "pose.turn.arm.elbow_deg": 120.0}, "Turn 120")
    assert (model.doc.plan.range.to_deg, model.doc.plan.turn.elbow_deg) == (120.0, 120.0)
    model.undo()
    assert model.doc.plan == standard(CURL)


def test_a_school_is_changed_where_it_differs_and_the_file_where_it_does_not(model):
    model.show(model.doc.of_school("rising-upper-arm"))
    model.set_value("check.upper-arm-drift.limit_deg", 50.0, "x")
    model.set_value("check.torso-swing.limit_deg", 8.0, "x")
    model.set_value("check.end-point.limit_pct", 9.0, "x")
    strict = model.doc.catalogue.standard(CURL)
    rising = model.doc.catalogue.standard(CURL, "rising-upper-arm")
    assert (strict.check("upper-arm-drift").limit, rising.check("upper-arm-drift").limit) == (
        12,
        50,
    )
    assert (strict.check("torso-swing").limit, rising.check("torso-swing").limit) == (8, 8)
    assert strict.check("end-point") is None
    assert rising.check("end-point").limit == 9
    assert model.doc.plan == rising


def test_copies_have_their_own_ids_and_go_again(model):
    id = model.copy_as_own("Tour curl")
    assert id == model.doc.chosen == "tour-curl"
    assert model.doc.mark == "yours"
    assert model.doc.changes == []
    model.show(model.doc.choosing(CURL))
    assert model.copy_as_own("Tour curl") == "tour-curl-2"
    model.show(model.doc.of_own(True))
    assert model.doc.shown == ["tour-curl", "tour-curl-2"]
    assert model.revert()
    assert model.doc.shown == ["tour-curl"]
    model.undo()
    assert model.doc.shown == ["tour-curl", "tour-curl-2"]


def test_reverting_brings_the_shipped_one_back(model):
    model.set_value("check.torso-swing.limit_deg", 7.0, "x")
    assert model.revert()
    assert model.doc.plan == standard(CURL)
    assert not model.revert()
    model.undo()
    assert model.doc.plan.check("torso-swing").limit == 7.0


def test_a_copy_with_sets_is_not_taken_out(model, refused, add_set, library):
    model.copy_as_own("Tour curl")
    library.change_set(add_set(standard=CURL), standard="tour-curl")
    assert not model.revert()
    assert "follows this standard" in refused[0]
    assert model.doc.is_own


def test_the_text_goes_out_as_it_stands(model):
    assert 'id = "standing-barbell-curl"' in text_of(model.doc, model.own.texts())
    model.set_value("check.torso-swing.limit_deg", 7.5, "x")
    assert "limit_deg = 7.5" in text_of(model.doc, model.own.texts())
    assert model.take_in(
        text_of(model.doc, model.own.texts()).replace('"standing-barbell-curl"', '"other-curl"'),
        "other-curl",
    )
    assert model.doc.chosen == "other-curl"
