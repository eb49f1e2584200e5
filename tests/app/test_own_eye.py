"""The coach's own eye answers what the recording can't: in the real window, kept, undone, and
counted for the weight."""

from __future__ import annotations

import shutil
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt

from builders import filmed
from conftest import adder
from guide_arc.core.model.settings import EyeAnswer, Settings
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.merging import merged_notes
from guide_arc.library.records import SetNotes
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.set_document import added, notes_in
from guide_arc.library.store import Library
from hands import press

Key = Qt.Key


@pytest.fixture(scope="session")
def one_phone(tmp_path_factory) -> Path:
    """Twelve clean curls filmed from the left with the head out of the picture: raised shoulders
    can't be told."""
    folder = tmp_path_factory.mktemp("phone") / "library"
    library = Library.open(folder)
    whole = filmed("standing-barbell-curl", reps=12, view="left", noise=0.6, seed=3).track
    seen = [i for i, name in enumerate(whole.names) if not name.endswith("ear")]
    track = replace(
        whole,
        names=tuple(whole.names[i] for i in seen),
        position=whole.position[:, seen],
        confidence=whole.confidence[:, seen],
    )
    set_id, _ = library.add_set(
        csv_text(track).encode(),
        "curl.csv",
        client="Cleo Marsh",
        standard="standing-barbell-curl",
        school="locked-upper-arm",
        recorded="2031-03-25",
        load_kg=30.0,
    )
    review_and_keep(library, set_id)
    adder(library)("Benno Hartz", reps=1, noise=0.003)
    library.close()
    return folder


@pytest.fixture
def library(one_phone, tmp_path):
    shutil.copytree(one_phone, tmp_path / "library")
    opened = Library.open(tmp_path / "library")
    yield opened
    opened.close()


@pytest.fixture
def window(open_window):
    window = open_window()
    window.open_set(1)
    window.settle()
    assert window.place == "review"
    return window


def chosen(window, check: str):
    finding = next(f for f in window.review.doc.findings if f.rule.name == check)
    window.review.choose_finding(finding)
    window.settle()
    return finding.key


def told(window, key: str):
    return next(f for f in window.review.doc.findings if f.key == key)


def answer_all(qtbot, window) -> None:
    """Every check that the next weight waits for is seen to hold: one key each, as the next one is
    chosen by itself."""
    chosen(window, window.review.doc.next_time.look_for[0])
    for _ in range(12):
        if not window.review.doc.next_time.look_for:
            return
        assert window.review.doc.finding.rule.name in window.review.doc.next_time.look_for
        press(qtbot, window, Key.Key_Q)
        window.settle()
    pytest.fail(f"the weight still waits for {window.review.doc.next_time.look_for}")


def test_one_key_answers_and_the_next_weight_follows(qtbot, window, library):
    before = window.review.doc.next_time
    assert before.load_kg == 30.0
    assert "shoulder-hike" in before.look_for
    assert "Did you see it?" in window.of("review").sheet.next_why.text()
    answer_all(qtbot, window)
    after = window.review.doc.next_time
    assert (after.change, after.load_kg) == ("up", 32.5)
    assert "Did you see it?" not in window.of("review").sheet.next_why.text()
    kept = library.record(1).notes.settings.eye
    assert {a.saw for a in kept} == {"held"}
    assert all(a.at for a in kept)


def test_it_is_undone_like_anything_else_and_the_same_key_takes_it_back(qtbot, window, library):
    key = chosen(window, "shoulder-hike")
    press(qtbot, window, Key.Key_Q, Qt.KeyboardModifier.ShiftModifier)
    window.settle()
    assert told(window, key).judged == "off"
    assert "Seen to break" in window.shell.actions_by_id["edit.undo"].text()
    window.undo()
    assert told(window, key).judged == "cannot-tell"
    assert library.record(1).notes.settings.eye == ()
    window.redo()
    assert told(window, key).judged == "off"
    window.review.choose_finding(told(window, key))
    press(qtbot, window, Key.Key_Q, Qt.KeyboardModifier.ShiftModifier)
    window.settle()
    assert told(window, key).judged == "cannot-tell"


def test_it_has_its_own_mark_and_stays_when_the_set_is_opened_again(qtbot, window):
    key = chosen(window, "shoulder-hike")
    press(qtbot, window, Key.Key_Q)
    window.settle()
    panel = window.of("review").sheet.findings
    row = next(r for r in panel.rows if r.finding.key == key)
    assert row.number.text().startswith("seen by eye: held")
    assert "measured" in row.number.text()
    window.open_set(2)
    window.open_set(1)
    assert told(window, key).eye == "held"


def test_what_was_seen_to_break_can_be_said_to_the_client(qtbot, window):
    key = chosen(window, "shoulder-hike")
    press(qtbot, window, Key.Key_Q, Qt.KeyboardModifier.ShiftModifier)
    window.settle()
    window.review.choose_finding(told(window, key))
    window.do("finding.keep")
    assert [f.key for f in window.review.doc.kept] == [key]


def notes(*answers: EyeAnswer) -> SetNotes:
    return SetNotes(settings=Settings(eye=answers))


def test_two_windows_join_what_each_saw_and_tell_what_they_saw_differently():
    swing, hike = EyeAnswer("torso-swing/both", "held"), EyeAnswer("shoulder-hike/left", "broke")
    joined = merged_notes(notes(), notes(swing), notes(hike))
    assert {a.finding for a in joined.value.settings.eye} == {swing.finding, hike.finding}
    assert joined.clashes == ()
    other = EyeAnswer(swing.finding, "broke")
    joined = merged_notes(notes(), notes(swing), notes(other))
    assert joined.value.settings.eye == (other,)
    assert "torso swing" in joined.words


def test_a_bundle_takes_it_along():
    said = notes(EyeAnswer("torso-swing/both", "held", "Marit Engel", "2031-03-25T19:00:00"))
    assert notes_in(added(said)) == said
