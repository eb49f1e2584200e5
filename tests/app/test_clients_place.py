"""The place Clients, by keys, mouse and commands."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from dataclasses import replace
from datetime import date
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QDialog

from builders import slow
from conftest import adder
from guide_arc.app.places.clients.typed import (
    cleared_from,
    cleared_words,
    days_from,
    days_typed,
    rack_from,
    rack_words,
    sore_from,
    sore_words,
    stature_from,
)
from guide_arc.app.widgets.picker import Picker
from guide_arc.core.model.client import Cleared, Client, SorePlace
from guide_arc.core.model.errors import BadInput
from guide_arc.library.clients import Clients
from guide_arc.library.records import Decision, SetNotes
from guide_arc.library.store import Library
from hands import Hands, dialog_of


@pytest.fixture(scope="module")
def three_weeks(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Cleo with three curls and a pushdown, Finn with one pushdown; built once and copied."""
    folder = tmp_path_factory.mktemp("weeks") / "library"
    library = Library.open(folder)
    add_set = adder(library)
    swings = {"faults": {"torso-swing": 22.0}}
    ids = [
        add_set("Cleo Marsh", reps=5, recorded="2031-03-01", load_kg=25.0, **swings),
        add_set("Cleo Marsh", reps=5, recorded="2031-03-08", load_kg=25.0, seed=2),
        add_set("Cleo Marsh", reps=5, recorded="2031-03-15", load_kg=30.0, seed=3, **swings),
        add_set("Cleo Marsh", "rope-pushdown", reps=4, recorded="2031-03-02"),
        add_set("Finn Adair", "rope-pushdown", reps=4, recorded="2031-03-03", seed=7),
    ]
    kept = {"torso-swing/both": Decision("keep", None, "Marit Engel", "2031-03-02")}
    library.keep_notes(ids[0], SetNotes(kept, state="done"))
    library.close()
    return folder


@pytest.fixture
def library(three_weeks: Path, tmp_path: Path) -> Iterator[Library]:
    shutil.copytree(three_weeks, tmp_path / "library")
    opened = Library.open(tmp_path / "library")
    yield opened
    opened.close()


@pytest.fixture
def years(library: Library) -> list[int]:
    """The ids of the sets, in the order in which they were taken in."""
    return [1, 2, 3, 4, 5]


@pytest.fixture
def window(years, open_window) -> Hands:
    hands = open_window()
    hands.do("go.clients")
    return hands


def place(window: Hands):
    return window.of("clients")


def dialog() -> QDialog:
    [found] = [
        w for w in QApplication.topLevelWidgets() if isinstance(w, QDialog) and w.isVisible()
    ]
    return found


def choose(window: Hands, name: str, standard: str | None = None) -> None:
    place(window).model.choose(name, standard)
    window.settle()


@slow
def test_form_against_load_says_what_follows(window: Hands):
    choose(window, "Cleo Marsh", "standing-barbell-curl")
    here = place(window)
    assert window.head("title") == "Cleo Marsh"
    assert "At 30 kg, from rep 1: torso swings" in here.says.text()
    assert "The last jump of more than 10 % was +20 %" in here.next.text()
    assert "Next: " in here.next.text()
    drawn = " ".join(here.course.drawn(900, 240).words())
    assert "25 kg" in drawn
    assert "+ 20 %" in drawn
    assert "15 Mar" in drawn


def test_keys_go_through_clients_exercises_and_sets(window: Hands):
    choose(window, "Cleo Marsh", "standing-barbell-curl")
    model = place(window).model
    assert model.doc.column == 2
    window.do("clients.earlier")
    assert model.doc.chosen_set.at.startswith("2031-03-08")
    window.do("clients.exercise")
    assert model.doc.standard == "rope-pushdown"
    window.do("clients.next")
    assert model.doc.chosen == "Finn Adair"
    window.do("clients.previous")
    assert model.doc.chosen == "Cleo Marsh"
    window.do("clients.grain")
    window.do("clients.grain")
    assert [c.label for c in model.doc.columns] == ["Mar 2031"]


def test_a_set_opens_and_escape_comes_back(window: Hands, years):
    choose(window, "Cleo Marsh", "standing-barbell-curl")
    window.do("clients.open")
    assert window.place == "review"
    assert window.review.doc.record.id == years[2]


def test_two_sets_side_by_side(window: Hands, years):
    choose(window, "Cleo Marsh", "standing-barbell-curl")
    window.do("clients.against")
    window.do("clients.earlier")
    window.do("clients.against")
    assert window.place == "review"
    assert window.review.doc.record.id == years[1]
    assert window.review.doc.ghost.set_id == years[2]


def test_a_cue_is_followed_and_said_another_way(window: Hands):
    choose(window, "Cleo Marsh", "standing-barbell-curl")
    here = place(window)
    assert here.model.doc.sheet.cues[0].outcome == "worked" or here.model.doc.sheet.cues[0].after
    window.do("clients.cue")
    window.do("clients.words")
    asked = dialog()
    words = here.model.doc.other_words()
    assert len(words) >= 2
    asked.setTextValue(words[0])  # type: ignore[attr-defined]
    asked.accept()
    window.settle()
    assert here.model.doc.own_words["torso-swing"] == words[0]
    window.undo()
    assert "torso-swing" not in here.model.doc.own_words


@slow
def test_the_sets_before_and_after_a_cue_stand_side_by_side(window: Hands):
    choose(window, "Cleo Marsh", "standing-barbell-curl")
    model = place(window).model
    window.do("clients.cue")
    given = model.doc.chosen_cue.given_in
    window.do("clients.cue_sets")
    assert window.place == "review"
    shown = window.review.doc.record
    assert (shown.recorded, shown.id) > (given.at, given.id)
    assert window.review.doc.ghost.set_id == given.id


def test_what_is_known_is_kept_and_taken_back(window: Hands, library: Library):
    choose(window, "Cleo Marsh")
    window.do("clients.known")
    form = dialog()
    form.stature.setText("5 ft 8 in")  # type: ignore[attr-defined]
    form.racks["bar"].setText("20 to 40 by 2.5")  # type: ignore[attr-defined]
    form.sore.setPlainText("left elbo from 2031-03-01")  # type: ignore[attr-defined]
    form.try_accept()  # type: ignore[attr-defined]
    assert "elbow" in form.wrong.text()  # type: ignore[attr-defined]
    form.sore.setPlainText("left elbow from 2031-03-01")  # type: ignore[attr-defined]
    form.try_accept()  # type: ignore[attr-defined]
    window.settle()
    known = Clients(library).client("Cleo Marsh")
    assert known.stature_m == pytest.approx(1.727, abs=1e-3)
    assert known.rack_kg["bar"][-1] == 40.0
    assert known.sore == (SorePlace("left elbow", date(2031, 3, 1)),)
    window.undo()
    assert Clients(library).client("Cleo Marsh").sore == ()
    window.redo()
    assert Clients(library).client("Cleo Marsh").sore == known.sore


def test_somebody_new_renamed_joined_and_erased(window: Hands, library: Library, years):
    model = place(window).model
    model.changes.keep(Client("Esme Rook"), None)
    window.settle()
    assert model.doc.chosen == "Esme Rook"
    assert "No reviewed set yet" in place(window).says.text()
    model.keep(replace(model.doc.sheet.client, name="Esme Reed"))
    window.settle()
    assert "Esme Reed" in library.clients()
    choose(window, "Finn Adair")
    model.changes.join("Finn Adair", "Cleo Marsh")
    window.settle()
    assert library.record(years[4]).client == "Cleo Marsh"
    window.undo()
    assert library.record(years[4]).client == "Finn Adair"
    choose(window, "Finn Adair")
    model.changes.erase("Finn Adair")
    window.settle()
    assert "Finn Adair" not in library.clients()
    window.undo()
    assert library.record(years[4]).client == "Finn Adair"


def test_erasing_a_client_whose_set_is_open_leaves_nothing_open(window: Hands, years):
    window.open_set(years[4])
    window.do("go.clients")
    choose(window, "Finn Adair")
    place(window).model.changes.erase("Finn Adair")
    window.settle()
    window.do("go.review")
    assert window.review.doc.record is None or window.review.doc.record.id != years[4]


@slow
def test_the_report_and_the_export_are_written(window: Hands, tmp_path: Path):
    choose(window, "Cleo Marsh", "standing-barbell-curl")
    place(window).asking.write_report(tmp_path / "cleo.pdf")
    window.settle()
    assert (tmp_path / "cleo.pdf").read_bytes()[:4] == b"%PDF"
    assert "Standing barbell curl" in (tmp_path / "cleo.html").read_text()
    place(window).asking.export_to(tmp_path)
    window.settle()
    assert (tmp_path / "Cleo Marsh" / "sets.csv").exists()


def test_a_click_and_the_wheel_choose_among_the_columns(window: Hands, qtbot):
    choose(window, "Cleo Marsh", "standing-barbell-curl")
    view = place(window).course
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=view.rect().center().__class__(30, 60))
    assert place(window).model.doc.column == 0


def test_typed_racks_statures_and_sore_places_read_back():
    assert rack_from("2.5 to 10 by 2.5, 34; 38", "x") == (2.5, 5.0, 7.5, 10.0, 34.0, 38.0)
    assert rack_words((2.5, 5.0, 7.5, 10.0, 34.0, 38.0)) == "2.5 to 10 by 2.5, 34, 38"
    assert rack_from("45 lb", "x") == (20.41,)
    assert rack_from("", "x") == ()
    assert stature_from("172 cm") == stature_from("1,72 m") == 1.72
    sore = sore_from("neck from 2031-02-01 to 2031-02-20\n", date(2031, 3, 1))
    assert sore_from(sore_words(sore), date(2031, 3, 1)) == sore
    for bad in ("ten", "10 to 5 by 1", "1 to 9999999 by 0.1", "0"):
        with pytest.raises(BadInput):
            rack_from(bad, "x")
    for bad in ("tall", "7 m"):
        with pytest.raises(BadInput):
            stature_from(bad)
    for bad in ("heart", "neck from yesterday", "neck from 2031-03-02 to 2031-03-01"):
        with pytest.raises(BadInput):
            sore_from(bad, date(2031, 3, 1))


def test_tired_days_make_the_next_dose_easier_and_are_taken_back(window: Hands, library: Library):
    choose(window, "Cleo Marsh", "standing-barbell-curl")
    here = place(window)
    before = here.model.doc.sheet.next
    for day in (date(2031, 3, 13), date(2031, 3, 15)):
        here.model.tired_on(day)
        window.settle()
    assert "tired on 2031-03-15" in window.said
    assert Clients(library).client("Cleo Marsh").tired == (date(2031, 3, 13), date(2031, 3, 15))
    assert here.model.doc.sheet.next.change == "deload"
    assert "poor sleep or soreness" in " ".join(here.model.doc.sheet.next.reasons)
    window.undo()
    assert here.model.doc.sheet.next.change == before.change
    assert Clients(library).client("Cleo Marsh").tired == (date(2031, 3, 13),)


def test_what_a_clinician_cleared_is_noted_and_lets_the_dose_go_on(
    window: Hands, library: Library, qtbot
):
    clients = Clients(library)
    choose(window, "Cleo Marsh", "standing-barbell-curl")
    here = place(window).model
    here.keep(replace(here.doc.sheet.client, sore=(SorePlace("left elbow", date(2031, 1, 1)),)))
    window.settle()
    assert here.doc.sheet.next.change == "stop"
    here.clear("left elbow", date(2031, 3, 10))
    window.settle()
    assert "a clinician cleared left elbow" in window.said
    known = clients.client("Cleo Marsh")
    assert known.cleared == (Cleared("left elbow", date(2031, 3, 10)),)
    assert known.sore == (SorePlace("left elbow", date(2031, 1, 1), date(2031, 3, 9)),)
    assert here.doc.sheet.next.change != "stop"
    assert here.doc.sheet.next.load_kg
    window.undo()
    assert here.doc.sheet.next.change == "stop"
    window.do("clients.cleared")
    ask = dialog_of(window, Picker)
    assert ask.list.item(0).text() == "Everything"
    qtbot.keyClicks(ask.field, "elbow left")
    qtbot.keyClick(ask.field, Qt.Key.Key_Return)
    window.settle()
    assert clients.client("Cleo Marsh").cleared == (Cleared("left elbow", date.today()),)


def test_what_was_cleared_is_typed_with_what_is_known():
    today = date(2031, 3, 20)
    cleared = cleared_from("Left elbow on 2031-03-16\n\neverything\n", today)
    assert cleared == (Cleared("left elbow", date(2031, 3, 16)), Cleared(None, today))
    assert cleared_from(cleared_words(cleared), today) == cleared
    for bad, why in (
        ("heart on 2031-03-01", "can't be cleared"),
        ("neck on Monday", "write it as"),
        ("neck on 2031-03-21", "is to come"),
    ):
        with pytest.raises(BadInput, match=why):
            cleared_from(bad, today)


def test_tired_days_are_typed_with_what_is_known():
    assert days_from("2031-03-18, 2031-03-16,") == (date(2031, 3, 16), date(2031, 3, 18))
    assert days_typed(days_from("2031-03-16")) == "2031-03-16"
    with pytest.raises(BadInput, match="write it as"):
        days_from("last week")
