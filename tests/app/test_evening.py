"""The coach's evening, by keys: clean sets in one go, the pace, answers from templates, what was
said to whom."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from dataclasses import replace
from datetime import date, datetime, timedelta
from pathlib import Path

import pytest
from PyQt6.QtCore import QDate, Qt
from PyQt6.QtGui import QGuiApplication

from conftest import adder
from guide_arc.app.places.queue.evening_dialogs import CleanDialog, SummaryDialog
from guide_arc.app.places.queue.follow_ups_dialog import FollowUpsDialog
from guide_arc.app.places.review.answers_dialog import AnswersDialog, filled_in
from guide_arc.app.services.destinations import ToQueue
from guide_arc.app.widgets.follow_up_dialog import FollowUpDialog
from guide_arc.core.model.client import SorePlace
from guide_arc.library.clients import Clients
from guide_arc.library.evening import evening_text, note_reviewed, told_on
from guide_arc.library.follow_ups import follow_ups, keep_follow_up
from guide_arc.library.pace import Took, minutes_words, pace_of
from guide_arc.library.store import Library
from guide_arc.library.taking_out import take_client_out, take_out
from guide_arc.library.undoing import take_back
from hands import Hands, dialog_of, press

Key = Qt.Key
CLEAN, SWINGS, HURTS = 1, 2, 3


@pytest.fixture(scope="module")
def three_wait(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A clean set, one in which the torso swings, and a clean one with pain."""
    folder = tmp_path_factory.mktemp("waiting") / "library"
    library = Library.open(folder)
    add = adder(library)
    add("Ada Quill", "lateral-raise-dumbbell", reps=4, recorded="2031-03-01", load_kg=6.0)
    add("Cleo Marsh", reps=4, recorded="2031-03-02", load_kg=25.0, faults={"torso-swing": 22.0})
    hurts = add("Finn Adair", "rope-pushdown", reps=4, recorded="2031-03-03")
    notes = library.record(hurts).notes
    library.keep_notes(hurts, type(notes)(pain=True))
    library.close()
    return folder


@pytest.fixture
def library(three_wait: Path, tmp_path: Path) -> Iterator[Library]:
    shutil.copytree(three_wait, tmp_path / "library")
    opened = Library.open(tmp_path / "library")
    yield opened
    opened.close()


def states(library: Library) -> dict[int, str]:
    return {i: library.record(i).notes.state for i in (CLEAN, SWINGS, HURTS)}


def test_clean_sets_are_shown_then_marked_in_one_step_and_undo_puts_them_back(
    window: Hands, library: Library
):
    window.do("queue.clean")
    dialog = dialog_of(window, CleanDialog)
    assert dialog.ids() == (CLEAN,)
    assert "Ada Quill" in dialog.boxes[CLEAN].text()
    dialog.try_accept()
    window.settle()
    assert states(library) == {CLEAN: "done", SWINGS: "waiting", HURTS: "waiting"}
    window.undo()
    assert set(states(library).values()) == {"waiting"}
    window.redo()
    assert states(library)[CLEAN] == "done"


def test_a_set_that_is_unticked_stays_and_none_ticked_is_said(window: Hands, library: Library):
    window.do("queue.clean")
    dialog = dialog_of(window, CleanDialog)
    dialog.boxes[CLEAN].setChecked(False)
    dialog.try_accept()
    assert dialog.isVisible()
    assert "No set is ticked" in dialog.wrong.text()
    dialog.reject()
    assert set(states(library).values()) == {"waiting"}


def test_the_queue_says_how_long_it_will_take_and_learns_this_coachs_pace(
    window: Hands, library: Library
):
    # One clean set and two others, by the usual pace: 45 + 2 × 150 s.
    assert window.head("position") == "3 waiting, about 6 min"
    for seconds in (20.0, 30.0, 40.0, 30.0, 30.0, 5000.0):
        note_reviewed(library, SWINGS, seconds, datetime(2031, 3, 4, 20, int(seconds) % 60))
        library.keep_notes(SWINGS, library.record(SWINGS).notes)
    for i in range(5):  # one document a set and day: other days
        note_reviewed(library, SWINGS, 30.0, datetime(2031, 3, 5 + i, 20))
    window.sets.refresh()
    window.settle()
    # Sets with something off take this coach half a minute: 45 + 2 × 30 s.
    assert window.head("position") == "3 waiting, about 2 min"


def test_the_pace_is_a_median_and_what_was_left_alone_does_not_count():
    took = [Took(s, clean=True) for s in (10, 12, 14, 16, 1000, 5000, 18)]
    assert pace_of(took).clean_s == 14
    assert pace_of(took[:4]).learned is False
    assert minutes_words(0) == ""
    assert minutes_words(20) == "about 1 min"
    assert minutes_words(1720) == "about 30 min"


def test_from_the_first_key_to_the_summary_without_the_mouse(
    window: Hands, library: Library, qtbot, tmp_path: Path
):
    window.open_set(SWINGS)
    press(qtbot, window, Key.Key_K)
    press(qtbot, window, Key.Key_T, Qt.KeyboardModifier.ShiftModifier)
    answers = dialog_of(window, AnswersDialog)
    assert "Cleo" in answers.filled()
    assert "Torso" not in answers.filled()  # cues are words for a client, not the names of checks
    answers.text.setPlainText("{client}, read this: {cues}")
    answers.try_accept()
    window.settle()
    note = library.record(SWINGS).notes.note
    assert note.startswith("Cleo, read this: Stand as if your back were against a wall.")
    press(qtbot, window, Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    assert states(library)[SWINGS] == "done"
    (told,) = told_on(library, date.today())
    assert told.client == "Cleo Marsh"
    assert told.cues == ("Stand as if your back were against a wall.",)
    assert told.note == note
    window.do("go.queue")
    window.do("queue.evening")
    summary = dialog_of(window, SummaryDialog)
    words = summary.text.toPlainText()
    assert "1 set of 1 client reviewed" in words
    assert "said: Stand as if your back were against a wall." in words
    assert "next: 22.5 kg" in words
    summary.copy()
    assert QGuiApplication.clipboard().text() == words
    summary.save(tmp_path / "evening.txt")
    assert (tmp_path / "evening.txt").read_text() == words
    summary.save(tmp_path / "no" / "such" / "evening.txt")
    assert "can't be written" in window.said
    # The changed answer is kept for the next set.
    window.open_set(CLEAN)
    window.do("review.answer")
    assert dialog_of(window, AnswersDialog).text.toPlainText() == "{client}, read this: {cues}"


def test_a_set_that_went_back_or_was_erased_is_not_told(window: Hands, library: Library):
    note_reviewed(library, CLEAN, 30.0, datetime(2031, 3, 4, 20))
    day = date(2031, 3, 4)
    assert told_on(library, day) == []  # it still waits
    library.keep_notes(CLEAN, type(library.record(CLEAN).notes)(state="done"))
    assert len(told_on(library, day)) == 1
    removed = take_out(library, [CLEAN])
    assert told_on(library, day) == []
    assert evening_text([], day) == "No set was reviewed on 2031-03-04."
    take_back(library, removed)
    assert len(told_on(library, day)) == 1


def test_pain_is_told_as_asking_first(library: Library):
    note_reviewed(library, HURTS, 30.0, datetime(2031, 3, 4, 20))
    notes = library.record(HURTS).notes
    library.keep_notes(HURTS, type(notes)(pain=True, state="done"))
    (told,) = told_on(library, date(2031, 3, 4))
    assert told.then == "ask a licensed clinician first"


def test_what_was_noted_as_sore_after_the_review_is_told_as_asking_first(library: Library):
    note_reviewed(library, CLEAN, 30.0, datetime(2031, 3, 4, 20))
    record, day = library.record(CLEAN), date(2031, 3, 4)
    library.keep_notes(CLEAN, type(record.notes)(state="done"))
    (told,) = told_on(library, day)
    assert "reps" in told.then
    clients = Clients(library)
    for place, then in (("left knee", told.then), ("left elbow", "ask a licensed clinician first")):
        own = clients.client(record.client)
        clients.keep(replace(own, sore=(SorePlace(place, day),)))
        assert told_on(library, day)[0].then == then


def test_an_answer_keeps_what_is_no_name_and_is_not_too_long(window: Hands):
    assert filled_in("{client}: {load}  {x}", {"client": "Ada"}) == "Ada: {load} {x}"
    window.open_set(CLEAN)
    window.do("review.answer")
    dialog = dialog_of(window, AnswersDialog)
    dialog.text.setPlainText("word " * 100)
    dialog.try_accept()
    assert "letters" in dialog.wrong.text()
    before = list(dialog.texts)
    dialog.new.click()
    assert len(dialog.texts) == len(before) + 1
    dialog.forget.click()
    assert dialog.texts == before


def test_a_follow_up_is_kept_told_when_due_done_put_off_and_undone(window: Hands, library: Library):
    window.open_set(HURTS)
    window.do("review.follow-up")
    dialog = dialog_of(window, FollowUpDialog)
    assert dialog.words.itemText(0) == "Ask what the clinician said"
    assert dialog.day == date.today() + timedelta(7)
    dialog.words.setCurrentText("  ")
    dialog.try_accept()
    assert "Say what" in dialog.wrong.text()
    dialog.words.setCurrentText("Ask about the elbow")
    dialog.due.setDate(QDate.currentDate())
    dialog.try_accept()
    window.settle()
    keep_follow_up(library, "Ada Quill", "Ask for a side view", date.today() + timedelta(3))
    window.program.go(ToQueue())
    window.settle()
    queue = window.of("queue")
    assert queue.due.text() == "1 follow-up due: Finn Adair: Ask about the elbow"
    window.do("queue.follow-ups")
    dialog = dialog_of(window, FollowUpsDialog)
    assert [box.text().partition(":")[0] for box in dialog.boxes.values()] == [
        "Finn Adair",
        "Ada Quill",
    ]
    dialog.try_accept()
    assert "Nothing is ticked" in dialog.wrong.text()
    next(iter(dialog.boxes.values())).setChecked(True)
    dialog.later.click()
    window.settle()
    assert not queue.due.isVisible()
    assert [f.client for f in follow_ups(library)] == ["Ada Quill", "Finn Adair"]
    window.undo()
    assert queue.due.isVisible()
    window.do("queue.follow-ups")
    dialog = dialog_of(window, FollowUpsDialog)
    next(iter(dialog.boxes.values())).setChecked(True)
    dialog.try_accept()
    window.settle()
    assert [f.client for f in follow_ups(library)] == ["Ada Quill"]
    window.undo()
    window.undo()
    assert [f.words for f in follow_ups(library)] == ["Ask for a side view"]


def test_follow_ups_go_with_their_client(library: Library):
    keep_follow_up(library, "Ada Quill", "Ask how it went", date(2031, 3, 5), CLEAN)
    Clients(library).rename("Ada Quill", "Ada Quince")
    [one] = follow_ups(library)
    assert (one.client, one.words, one.late_days(date(2031, 3, 8))) == (
        "Ada Quince",
        "Ask how it went",
        3,
    )
    take_client_out(library, "Ada Quince")
    assert follow_ups(library) == []
