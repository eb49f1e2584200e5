"""The queue as it is seen: cards, choosing, states, progress."""

from __future__ import annotations

import json
from pathlib import Path
from types import SimpleNamespace

import pytest
from PyQt6.QtCore import QModelIndex, QPoint, Qt
from PyQt6.QtWidgets import QApplication, QPushButton

from guide_arc.app.look import theme
from guide_arc.app.places.queue import card
from guide_arc.app.places.queue.model import row_words
from guide_arc.app.places.queue.place import QueuePlace
from guide_arc.app.services import set_list
from guide_arc.app.services.set_list import SetList
from guide_arc.drawings.palette import DARK, LIGHT
from guide_arc.library.queue_rows import QueueFilter, QueuePage, QueueRow
from guide_arc.standards.catalogue import Catalogue

SUMMARY = {
    "line": "torso swings 22°, reps 3–5",
    "verdict": "off",
    "off": 1,
    "near": 0,
    "urgency": 6.0,
    "full": 5,
    "partial": 1,
    "name": "Standing barbell curl",
    "school": "upper arm locked",
    "intended": [10.0, 132.0],
    "rings": [[10.0, 130.0, True]] * 5 + [[10.0, 70.0, False]],
    "off_rings": [2, 3, 4],
}


def row(
    id: int, client: str, state: str = "waiting", summary: dict | None = SUMMARY, pain: bool = False
) -> QueueRow:
    return QueueRow(
        id,
        client,
        "standing-barbell-curl",
        27.5,
        "2031-03-25T09:05",
        pain,
        state,  # type: ignore[arg-type]
        "left",
        json.dumps(summary) if summary else None,
    )


ROWS = [
    row(1, "Cleo Marsh", pain=True),
    row(2, "Finn Adair"),
    row(3, "Ada Quill", "done"),
    row(4, "Esme Rook", summary=None),
]


class Quiet:
    """A program with a list of sets, which does jobs at once and hears what is opened."""

    def __init__(self) -> None:
        self.colours = LIGHT
        self.opened: list[int] = []
        self.sets = SetList(self, Path("nowhere"))  # type: ignore[arg-type]
        self.intake = SimpleNamespace(ask_for_files=lambda: None)
        self.remembered = SimpleNamespace(text=lambda _key, default="": default)
        self.library = SimpleNamespace(
            ready=True,
            when_ready=lambda then: then(),
            folder=Path("nowhere"),
            catalogue=Catalogue,
        )
        self.measuring = SimpleNamespace(open=self.opened.append)

    def start(self, job, done, over=None):
        done(job.work.run(lambda _share: None))

    def changed(self) -> None:
        pass


def page(_folder, wanted: QueueFilter):
    words, state = wanted.words.lower(), wanted.state
    found = [r for r in ROWS if words in r.client.lower() and state in (None, r.state)]
    return QueuePage(tuple(found[wanted.after : wanted.after + wanted.limit]), 3)


@pytest.fixture
def place(qtbot, monkeypatch):
    theme.load_fonts()
    monkeypatch.setattr(set_list, "read_page", page)
    program = Quiet()
    made = QueuePlace(program)  # type: ignore[arg-type]
    qtbot.addWidget(made)
    made.resize(1100, 600)
    with qtbot.waitExposed(made):
        made.show()
    program.sets.refresh()
    return made


def colours_in(place, index: int, left: int, right: int) -> set[str]:
    """The colours that are painted in a part of a card."""
    rect = place.list.visualRect(place.list.model().index(index, 0))
    shot = place.list.viewport().grab(rect).toImage()
    return {
        shot.pixelColor(x, y).name().upper()
        for x in range(left, right)
        for y in range(shot.height())
    }


def test_a_card_shows_the_dial_the_shape_and_the_pain(place):
    assert LIGHT["actual"] in colours_in(place, 0, 10, 95)  # rings that were fine
    assert LIGHT["off"] in colours_in(place, 0, 104, 130)  # the word pain
    assert LIGHT["off"] in colours_in(place, 1, 104, 122)  # the wedge
    plain = colours_in(place, 2, 104, 122)
    assert LIGHT["off"] not in plain


def test_the_list_goes_on_to_its_end_and_stays_where_it_is(qtbot, place, monkeypatch):
    monkeypatch.setattr(place.sets, "_where", Path("nowhere"))
    many = tuple(row(i, f"Ada Quill {i:04d}") for i in range(1, 1241))
    monkeypatch.setattr(
        set_list,
        "read_page",
        lambda _f, wanted: QueuePage(many[wanted.after : wanted.after + wanted.limit], 1240),
    )
    place.sets.refresh()
    model, bar = place.list.model(), place.list.verticalScrollBar()
    assert model.rowCount() == 200
    place.sets.choose(3)
    bar.setValue(bar.maximum())
    QApplication.processEvents()
    at = bar.value()
    assert model.rowCount() >= 400
    assert bar.value() == at  # more came below; nothing moved
    while model.canFetchMore(QModelIndex()):
        before = model.rowCount()
        bar.setValue(bar.maximum())
        QApplication.processEvents()
        assert model.rowCount() > before
    assert model.rowCount() == 1240
    assert not model.canFetchMore(QModelIndex())
    assert place.sets.doc.chosen == 3
    assert place.sets.doc.position(1240) == (1240, 1240)
    # Another search begins with its first rows again, and the next ones come before its last is
    # reached.
    place.sets.search("quill")
    QApplication.processEvents()
    before = model.rowCount()
    assert 200 <= before < 1240
    bar.setValue(bar.maximum() - 5 * bar.pageStep())
    assert model.rowCount() > before


def test_a_card_follows_what_changes_in_its_row(place, monkeypatch):
    assert LIGHT["off"] in colours_in(place, 1, 104, 122)
    fine = json.loads(ROWS[1].glance) | {"verdict": "ok", "off": 0, "line": "nothing is off"}  # type: ignore[arg-type]
    changed = [ROWS[0], ROWS[1]._replace(glance=json.dumps(fine)), *ROWS[2:]]
    monkeypatch.setattr(set_list, "read_page", lambda *_a, **_k: QueuePage(tuple(changed), 3))
    place.sets.refresh()
    assert LIGHT["off"] not in colours_in(place, 1, 104, 122)
    place.sets.choose(changed[1].id)
    assert LIGHT["guide"] in colours_in(place, 1, 0, 3)  # its edge: it is the chosen one now


def test_a_set_without_a_review_shows_its_exercise_by_name_and_its_load(place, monkeypatch):
    painted: list[str] = []
    as_before = card._text

    def listening(painter, x, y, text, **how):
        painted.append(text)
        as_before(painter, x, y, text, **how)

    monkeypatch.setattr(card, "_text", listening)
    place.card.set_colours(DARK)
    waiting = 2  # Ada's set is done, and not shown
    colours_in(place, waiting, 0, 2)
    assert "Standing barbell curl" in painted
    assert "27.5 kg" in painted
    assert not any("-" in words for words in painted)
    index = place.list.model().index(waiting, 0)
    assert index.data().startswith("Esme Rook, Standing barbell curl, 25 Mar 2031")


def test_a_row_reads_as_a_sentence():
    assert (
        row_words(ROWS[0])
        == "Cleo Marsh, Standing barbell curl, 25 Mar 2031, 09:05: torso swings 22°, reps 3–5"
    )
    assert row_words(ROWS[3]).endswith("being reviewed")


def test_a_click_opens_and_arrows_choose(qtbot, place):
    spot = place.list.visualRect(place.list.model().index(1, 0)).center()
    qtbot.mouseClick(place.list.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(spot))
    assert place.program.opened == [2]
    qtbot.keyClick(place.list, Qt.Key.Key_Down)
    assert place.sets.doc.chosen == 4
    qtbot.keyClick(place.list, Qt.Key.Key_Up)
    assert place.sets.doc.chosen == 2


def test_a_choice_made_elsewhere_is_shown(place):
    place.sets.choose(4)
    assert place.list.currentIndex().row() == 2


@pytest.mark.parametrize(
    ("words", "clients"),
    [
        ("waiting", ["Cleo Marsh", "Finn Adair", "Esme Rook"]),
        ("reviewed", ["Ada Quill"]),
        ("all", ["Cleo Marsh", "Finn Adair", "Ada Quill", "Esme Rook"]),
    ],
)
def test_the_states_are_chosen_with_a_click(qtbot, place, words, clients):
    button = next(b for b in place.findChildren(QPushButton) if b.text() == words)
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    assert [r.client for r in place.sets.doc.rows] == clients
    assert button.isChecked()


def test_nothing_found_is_said_in_words(qtbot, place):
    qtbot.keyClicks(place.search_field, "nobody")
    assert place.pages.currentWidget() is place.empty
    assert "nobody" in place.empty.text()
    place.search_field.clear()
    assert place.pages.currentWidget() is place.list


def test_dark_repaints_the_cards(place):
    place.set_colours(DARK)
    assert DARK["panel"] in colours_in(place, 0, 10, 95)
