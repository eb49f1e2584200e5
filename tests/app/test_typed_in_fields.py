"""Fields for numbers in a window, under languages with a decimal comma and with a decimal point."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from PyQt6.QtCore import QLocale, Qt

from guide_arc.app.places.clients.typed import rack_from, stature_from
from guide_arc.app.places.marking.length_dialog import LengthDialog
from guide_arc.app.places.plan.scheme_dialog import _seconds
from guide_arc.app.places.queue.details_dialog import DetailsForm
from guide_arc.app.places.setup.room_dialog import numbers_from
from guide_arc.app.places.standards.sheets.sheet import number
from guide_arc.app.widgets.decimal_box import DecimalBox
from guide_arc.library.intake import Known
from guide_arc.standards.catalogue import Catalogue

_LANGUAGES = [QLocale.c(), QLocale(QLocale.Language.German), QLocale(QLocale.Language.English)]


@pytest.fixture(params=_LANGUAGES, ids=["C", "German", "English"])
def language(request: pytest.FixtureRequest) -> Iterator[QLocale]:
    before = QLocale()
    QLocale.setDefault(request.param)
    yield request.param
    QLocale.setDefault(before)


def typed_into(qtbot, box: DecimalBox, text: str) -> float:
    qtbot.addWidget(box)
    box.show()
    field = box.lineEdit()
    assert field is not None
    field.selectAll()
    for letter in text:
        qtbot.keyClicks(field, letter)
    qtbot.keyClick(field, Qt.Key.Key_Return)
    return box.value()


@pytest.mark.parametrize(
    ("text", "value"), [("2.20", 2.2), ("2,20", 2.2), ("0,45", 0.45), ("1.2", 1.2)]
)
def test_a_length_on_the_picture(qtbot, language: QLocale, text: str, value: float):
    dialog = LengthDialog(None, "length")  # type: ignore[arg-type]
    qtbot.addWidget(dialog)
    assert typed_into(qtbot, dialog.metres, text) == pytest.approx(value)


@pytest.mark.parametrize("text", ["12.5", "12,5", "12.5°", "12,5°"])
def test_a_limit_of_a_standard(qtbot, language: QLocale, text: str):
    assert typed_into(qtbot, number(10.5, "°", "limit"), text) == pytest.approx(12.5)


def test_what_is_typed_is_shown_as_understood_before_it_counts(qtbot, language: QLocale):
    box = DecimalBox()
    qtbot.addWidget(box)
    box.setRange(0, 5000)
    box.show()
    field = box.lineEdit()
    assert field is not None
    field.selectAll()
    qtbot.keyClicks(field, "1,250")
    assert box.understood.text() == "= 1.25"
    assert box.understood.isVisible()
    field.selectAll()
    qtbot.keyClicks(field, "27,5")
    assert not box.understood.isVisible()


def test_letters_are_not_taken(qtbot, language: QLocale):
    box = DecimalBox()
    box.setRange(0, 100)
    box.setValue(3.0)
    assert typed_into(qtbot, box, "abc") == 3.0


def test_the_other_fields_take_both_signs(qtbot):
    form = DetailsForm(Known(["Ada Quill"], Catalogue()), None, "Ada Quill")
    qtbot.addWidget(form)
    for text in ("27,5", "27.5 kg"):
        form.load.setText(text)
        assert form.details().load_kg == 27.5
    assert stature_from("1,72") == stature_from("1.72 m") == 1.72
    assert rack_from("2,5 to 10 by 2,5, 12,5", "dumbbells") == (2.5, 5.0, 7.5, 10.0, 12.5)
    assert numbers_from("2,5; 10.5, 12", "holes", 0, 100) == [2.5, 10.5, 12.0]
    from PyQt6.QtWidgets import QLineEdit

    field = QLineEdit("2,5")
    qtbot.addWidget(field)
    assert _seconds(field) == 2.5
