"""A client's answer comes back into the real window: by file, drop folder and clipboard."""

from __future__ import annotations

from datetime import date, timedelta
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QMessageBox

from builders import slow
from guide_arc.app.places.queue.evening_dialogs import SummaryDialog
from guide_arc.formats.answer_json import answer_code, answer_file
from guide_arc.library.answers import PageKey, answers_of, page_key
from guide_arc.library.store import Library
from hands import Hands, dialog_of, drop


@pytest.fixture
def two(library: Library, add_set) -> list[int]:
    return [
        add_set("Ada Quill", reps=2, seed=1, load_kg=20.0),
        add_set("Ben Tarrow", reps=2, seed=2, load_kg=25.0),
    ]


def answered(key: PageKey, days_later: int = 0, **more: object) -> str:
    made = f"{date.today() + timedelta(days=days_later)}T19:12:00"
    return answer_file(key.key, {"page": key.token, "made": made, **more})


def pain(window: Hands, set_id: int) -> bool:
    return window.program.library.library.record(set_id).notes.pain


def test_pain_in_a_dropped_answer_stops_the_next_load_at_once(
    library: Library, two: list[int], open_window, tmp_path: Path
):
    key = page_key(library, two[0], date.today())
    (tmp_path / "reply.json").write_text(
        answered(key, hurt=["left elbow"], words="<b>clicks</b> a bit")
    )
    window = open_window()
    window.open_set(two[0])
    assert not window.review.doc.next_time.ask_first
    drop(window, tmp_path / "reply.json")
    window.settle()
    assert "Ada Quill answered" in window.said
    assert "no load is proposed" in window.said
    assert window.review.doc.next_time.ask_first
    shown = window.review_place.felt.words
    assert "pain in left elbow" in shown.text()
    assert "“<b>clicks</b> a bit”" in shown.text()
    assert shown.textFormat() is Qt.TextFormat.PlainText
    assert not pain(window, two[1])
    window.undo()
    window.settle()
    assert not pain(window, two[0])
    assert not window.review.doc.next_time.ask_first
    assert answers_of(window.program.library.library, two[0]) == ()
    window.redo()
    window.settle()
    assert pain(window, two[0])


def test_an_answer_next_to_a_broken_one_and_a_recording_each_find_their_way(
    library: Library, two: list[int], open_window, tmp_path: Path
):
    key = page_key(library, two[1], date.today())
    good = answered(key, words="fine")
    (tmp_path / "a.json").write_text(good)
    (tmp_path / "b.json").write_text(good.replace("fine", "easy"))
    (tmp_path / "c.txt").write_text(f"Hello\n{answer_code(good)}")
    window = open_window()
    drop(window, tmp_path / "a.json", tmp_path / "b.json", tmp_path / "c.txt")
    window.settle()
    opened = window.program.library.library
    assert len(answers_of(opened, two[1])) == 1
    found: list[str] = []
    window.program.intake.read_quarantine(lambda ones: found.extend(one.why for one in ones))
    window.settle()
    assert len(found) == 1
    assert "changed after it was written" in found[0]


def test_an_odd_date_is_asked_about(library: Library, two: list[int], open_window, tmp_path: Path):
    key = page_key(library, two[0], date.today())
    (tmp_path / "late.json").write_text(answered(key, days_later=400, hurt=["neck"]))
    window = open_window()
    drop(window, tmp_path / "late.json")
    window.settle()
    box = dialog_of(window, QMessageBox)
    assert "Ada Quill" in box.text()
    assert "in the future" in box.informativeText()
    assert "pain in neck" in box.informativeText()
    assert box.defaultButton() is box.button(QMessageBox.StandardButton.Cancel)
    box.button(QMessageBox.StandardButton.Cancel).click()
    window.settle()
    assert not pain(window, two[0])
    drop(window, tmp_path / "late.json")
    window.settle()
    box = dialog_of(window, QMessageBox)
    next(b for b in box.buttons() if b.text() == "Take it in").click()
    window.settle()
    assert pain(window, two[0])


def test_an_answer_is_taken_from_the_clipboard(library: Library, two: list[int], open_window):
    key = page_key(library, two[0], date.today())
    window = open_window()
    clipboard = QGuiApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("nothing of this kind")
    window.do("file.paste-answer")
    assert "holds no answer" in window.said
    clipboard.setText(f"Hi!\n{answer_code(answered(key, left=1))}")
    window.do("file.paste-answer")
    window.settle()
    assert window.said.startswith("Ada Quill answered")
    window.do("file.paste-answer")
    window.settle()
    assert window.said.startswith("This answer was taken in before: Ada Quill")


@slow
def test_the_page_that_is_saved_can_be_answered_and_the_drop_folder_takes_it(
    two: list[int], open_window, tmp_path: Path
):
    window = open_window()
    window.open_set(two[1])
    place = window.of("review")
    place.asking.leaving.save_page(tmp_path / "page.pdf")
    window.settle()
    html = (tmp_path / "page.html").read_text()
    key = page_key(window.program.library.library, two[1], date.today())
    assert f'data-page="{key.token}" data-key="{key.key}"' in html
    folder = tmp_path / "drop"
    folder.mkdir()
    (folder / "x.json").write_text(answered(key, hurt=["left wrist"]))
    watch = window.program.drop_folder
    watch.choose(str(folder))
    watch.timer.stop()
    watch.clock.elapsed = lambda: 0.0
    watch.look()
    window.settle()
    watch.clock.elapsed = lambda: 10_000.0
    watch.look()
    window.settle()
    assert pain(window, two[1])
    assert not watch.asked


def test_the_evening_writes_a_page_for_every_set_and_says_who_has_not_answered(
    library: Library, two: list[int], open_window, tmp_path: Path
):
    page_key(library, two[0], date.today() - timedelta(days=5))
    window = open_window()
    for set_id in two:
        window.open_set(set_id)
        window.do("review.done")
        window.settle()
    window.do("go.queue")
    window.do("queue.evening")
    dialog = dialog_of(window, SummaryDialog)
    assert "No answer yet: Ada Quill\n" in dialog.text.toPlainText()
    dialog.write_pages(tmp_path)
    window.settle()
    today = date.today().isoformat()
    assert window.said == f"2 pages for 2 clients written to {today}."
    folder = tmp_path / today
    assert sorted(p.name for p in folder.iterdir()) == ["Ada Quill", "Ben Tarrow"]
    (ada,) = (folder / "Ada Quill").glob("*.html")
    assert ada.with_suffix(".pdf").exists()
    key = page_key(window.program.library.library, two[0], date.today())
    assert key.token in ada.read_text()
    (tmp_path / "back.json").write_text(answered(key, words="thanks"))
    dialog.reject()
    drop(window, tmp_path / "back.json")
    window.settle()
    window.do("queue.evening")
    assert "No answer yet" not in dialog_of(window, SummaryDialog).text.toPlainText()
