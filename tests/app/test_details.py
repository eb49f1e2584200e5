"""The dialogs that ask whose set it is and what it is."""

from __future__ import annotations

from dataclasses import replace

import pytest

from builders import filmed
from guide_arc.app.places.queue.details_dialog import DetailsDialog, DetailsForm
from guide_arc.app.places.queue.incoming_dialog import IncomingDialog
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.intake import Details, Fits, Incoming, Known, Refused
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.loader import shipped
from guide_arc.standards.schools import Preference

CLIENTS = ["Ada Quill", "Cleo Marsh"]
KNOWN = Known(CLIENTS, Catalogue())
GIVEN = Details("Cleo Marsh", "standing-barbell-curl", "rising-upper-arm", "3-0-1-0", 27.5)


@pytest.fixture
def form(qtbot):
    made = DetailsForm(KNOWN, GIVEN)
    qtbot.addWidget(made)
    return made


def test_what_is_known_is_filled_in_and_comes_back(form):
    assert form.error() is None
    assert form.details() == GIVEN


def test_every_standard_can_be_chosen_with_its_schools(form):
    ids = [form.standard.itemData(i) for i in range(1, form.standard.count())]
    assert ids == list(shipped())
    form.standard.setCurrentIndex(form.standard.findData("overhead-press-dumbbell"))
    assert [form.school.itemText(i) for i in range(form.school.count())] == [
        "full lockout",
        "constant tension",
    ]
    form.standard.setCurrentIndex(form.standard.findData("seated-row-narrow-low"))
    assert not form.school.isEnabled()  # one school is no choice


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda f: f.client.setCurrentText("  "), "Choose the client"),
        (lambda f: f.standard.setCurrentIndex(0), "exercise"),
        (lambda f: f.tempo.setText("fast"), "LOWER-BOTTOM-LIFT-TOP"),
        (lambda f: f.load.setText("-3"), "kilograms"),
        (lambda f: f.load.setText("3000"), "kilograms"),
    ],
)
def test_what_is_wrong_is_said(form, change, words):
    change(form)
    assert words in form.error()


@pytest.mark.parametrize(
    ("text", "load"), [("", None), ("12", 12.0), ("12,5", 12.5), (" 7.5 kg", 7.5)]
)
def test_loads_read_as_people_write_them(form, text, load):
    form.load.setText(text)
    assert form.details().load_kg == load


def test_the_dialog_stays_open_until_all_is_right(qtbot):
    dialog = DetailsDialog(None, KNOWN, GIVEN)  # type: ignore[arg-type]
    qtbot.addWidget(dialog)
    dialog.show()
    dialog.form.tempo.setText("3")
    dialog.ok.click()
    assert dialog.isVisible()
    assert "tempo" in dialog.wrong.text()
    dialog.form.tempo.setText("")
    dialog.ok.click()
    assert not dialog.isVisible()
    assert dialog.form.details().tempo is None


@pytest.mark.parametrize(
    ("typed", "asked", "then"),
    [("275", "27.5", "27.5"), ("2.75", "27.5", "27.5"), ("60", "27.22", "27.22")],
)
def test_a_load_that_looks_like_a_slip_is_asked_about_where_it_is_typed(qtbot, typed, asked, then):
    usual = {("Cleo Marsh", "standing-barbell-curl"): 27.5}
    form = DetailsForm(replace(KNOWN, usual_kg=usual), GIVEN)
    qtbot.addWidget(form)
    assert form.meant.isHidden()
    form.load.setText(typed)
    assert not form.meant.isHidden()
    assert form.meant.text() == f"Is it {asked} kg?"
    assert "the usual 27.5 kg" in form.meant.toolTip()
    form.meant.click()
    assert form.load.text() == then
    assert form.meant.isHidden()
    form.load.setText(typed)
    assert form.error() is None  # asked, never refused
    form.client.setEditText("Ada Quill")
    assert form.meant.isHidden()  # of her nothing is usual


def incoming(name: str, client: str = "", standard: str | None = "rope-pushdown") -> Incoming:
    data = csv_text(filmed("rope-pushdown", reps=1).track).encode()
    return Incoming(name, data, client, standard, 15.0, "2031-03-01", 100, 4.0)


def test_one_name_serves_the_rows_below_until_they_have_their_own(qtbot):
    dialog = IncomingDialog(None, KNOWN, [incoming(f"{i}.csv") for i in range(3)], [])  # type: ignore[arg-type]
    qtbot.addWidget(dialog)
    with qtbot.waitExposed(dialog):
        dialog.show()
    dialog.activateWindow()
    forms = [form for _item, form in dialog.forms]
    forms[0].field.setFocus()
    forms[0].field.clear()
    qtbot.keyClicks(forms[0].field, "Ada")  # completed to the client there is
    assert [f.client.currentText() for f in forms] == ["Ada Quill"] * 3
    forms[2].field.setFocus()
    forms[2].field.clear()
    qtbot.keyClicks(forms[2].field, "Esme Rook")
    forms[0].field.setFocus()
    forms[0].field.clear()
    qtbot.keyClicks(forms[0].field, "Cleo")
    assert [f.client.currentText() for f in forms] == ["Cleo Marsh", "Cleo Marsh", "Esme Rook"]


def test_a_file_that_names_no_exercise_asks_for_one(qtbot):
    dialog = IncomingDialog(None, KNOWN, [incoming("a.csv", "Ada Quill", None)], [])  # type: ignore[arg-type]
    qtbot.addWidget(dialog)
    dialog.try_accept()
    assert dialog.wrong.text() == "a.csv: Choose the exercise."


def test_files_that_can_not_come_in_are_listed_with_the_reason(qtbot):
    from PyQt6.QtWidgets import QLabel

    dialog = IncomingDialog(None, KNOWN, [], [Refused("b.csv", "b.csv, line 3: bad.")])  # type: ignore[arg-type]
    qtbot.addWidget(dialog)
    words = [label.text() for label in dialog.findChildren(QLabel)]
    assert "Not added. b.csv, line 3: bad." in words
    assert dialog.ok.text() == "Close"
    assert dialog.result_rows() == []


def test_a_preferred_school_is_chosen_until_one_is_chosen_by_hand(qtbot):
    rising = Preference("rising-upper-arm", "Cleo Marsh", "standing-barbell-curl")
    form = DetailsForm(Known(CLIENTS, Catalogue(), (rising,)), None, "Ada Quill")
    qtbot.addWidget(form)
    form.standard.setCurrentIndex(form.standard.findData("standing-barbell-curl"))
    assert form.school.currentData() == "locked-upper-arm"
    form.client.setEditText("Cleo Marsh")
    assert form.school.currentData() == "rising-upper-arm"
    form.school.setCurrentIndex(0)
    form.school.activated.emit(0)
    form.client.setEditText("Ada Quill")
    form.client.setEditText("Cleo Marsh")
    assert form.school.currentData() == "locked-upper-arm"


def test_a_file_that_names_no_exercise_comes_with_what_it_looks_like(qtbot):
    fits = Fits(("rope-pushdown", "cable-extension-one-arm"), True, "the arm's path fits better")
    item = incoming("a.csv", "Ada Quill", None)
    dialog = IncomingDialog(None, KNOWN, [replace(item, fits=fits)], [])  # type: ignore[arg-type]
    qtbot.addWidget(dialog)
    ((_item, form),) = dialog.forms
    assert form.standard.currentData() == "rope-pushdown"
    assert form.standard.itemData(2) == "cable-extension-one-arm"
    assert "Looks like Rope pushdown" in form.standard.toolTip()
    assert "One-arm cable extension" in form.standard.toolTip()
    assert dialog.error() is None
