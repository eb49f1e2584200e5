"""Choosing an exercise by typing."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QComboBox, QVBoxLayout, QWidget

from guide_arc.app.widgets.picker import Pick, Picker, make_searchable, matches, pick_one

Key = Qt.Key
OFFERED = [
    Pick("standing-barbell-curl", "Standing barbell curl", "front arm biceps"),
    Pick("rope-pushdown", "Rope pushdown", "back arm triceps cable"),
    Pick("kneeling-cable-crunch", "Kneeling cable crunch", "trunk abs cable"),
    Pick("reverse-crunch", "Reverse crunch", "trunk abs"),
]


@pytest.fixture
def beneath(qtbot: Any) -> Iterator[QWidget]:
    window = QWidget()
    qtbot.addWidget(window)
    window.show()
    yield window
    window.close()


@pytest.fixture
def opened(beneath: QWidget) -> tuple[Picker, list[str]]:
    taken: list[str] = []
    pick_one(beneath, "Add an exercise", "Which exercise?", OFFERED, "Add", taken.append)
    [dialog] = beneath.findChildren(Picker)
    return dialog, taken


def shown(dialog: Picker) -> list[str]:
    rows = (dialog.list.item(row) for row in range(dialog.list.count()))
    return [item.text() for item in rows if item is not None]


def test_words_match_in_any_order_and_any_case():
    assert matches("crunch CABLE", "Kneeling cable crunch trunk abs")
    assert not matches("crunch rope", "Kneeling cable crunch trunk abs")
    assert matches("  ", "anything")


def test_what_is_typed_narrows_the_list_and_enter_takes_the_first(
    qtbot: Any, opened: tuple[Picker, list[str]]
):
    dialog, taken = opened
    assert len(shown(dialog)) == 4
    qtbot.keyClicks(dialog.field, "crunch cable")
    assert shown(dialog) == ["Kneeling cable crunch"]
    qtbot.keyClick(dialog.field, Key.Key_Return)
    assert taken == ["kneeling-cable-crunch"]


def test_a_muscle_finds_exercises_and_arrows_go_through_them(
    qtbot: Any, opened: tuple[Picker, list[str]]
):
    dialog, taken = opened
    qtbot.keyClicks(dialog.field, "abs")
    assert shown(dialog) == ["Kneeling cable crunch", "Reverse crunch"]
    for _ in range(3):  # the last row is the last
        qtbot.keyClick(dialog.field, Key.Key_Down)
    qtbot.keyClick(dialog.field, Key.Key_Return)
    assert taken == ["reverse-crunch"]


def test_nothing_found_says_so_and_takes_nothing(qtbot: Any, opened: tuple[Picker, list[str]]):
    dialog, taken = opened
    qtbot.keyClicks(dialog.field, "leg press")
    assert dialog.none.text() == "Nothing matches “leg press”."
    assert dialog.none.isVisible()
    qtbot.keyClick(dialog.field, Key.Key_Return)
    assert dialog.isVisible()
    qtbot.keyClick(dialog.field, Key.Key_Escape)
    assert taken == []


@pytest.fixture
def combo(beneath: QWidget) -> QComboBox:
    box = QComboBox()
    other = QComboBox()
    layout = QVBoxLayout(beneath)
    layout.addWidget(box)
    layout.addWidget(other)
    box.addItem("Which exercise?", None)
    for pick in OFFERED:
        box.addItem(pick.words, pick.id)
    make_searchable(box)
    return box


def typed(qtbot: Any, combo: QComboBox, words: str) -> None:
    field = combo.lineEdit()
    assert field is not None
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, words)
    qtbot.keyClick(field, Key.Key_Return)


def test_part_of_a_name_chooses_the_exercise(qtbot: Any, combo: QComboBox):
    typed(qtbot, combo, "cable crunch")
    assert combo.currentData() == "kneeling-cable-crunch"
    assert combo.currentText() == "Kneeling cable crunch"


def test_what_matches_nothing_leaves_the_exercise_as_it_was(qtbot: Any, combo: QComboBox):
    combo.setCurrentIndex(2)
    typed(qtbot, combo, "leg press")
    assert combo.currentData() == "rope-pushdown"
    assert combo.currentText() == "Rope pushdown"
