"""The first evening: an empty library, files dropped in, and everything there again tomorrow."""

from __future__ import annotations

from PyQt6.QtCore import Qt

from builders import filmed
from guide_arc.app.places.queue.incoming_dialog import IncomingDialog
from guide_arc.formats.track_csv import csv_text
from guide_arc.formats.track_file import write_track
from hands import dialog_of, drop, press

Key = Qt.Key


def test_an_empty_library_says_what_to_do(open_window):
    window = open_window()
    assert "No set is waiting" in window.queue_place.empty.text()
    assert window.queue_place.pages.currentWidget() is window.queue_place.empty
    assert not window.can("queue.open")


def test_the_whole_evening(qtbot, open_window, library, settings, tmp_path):
    """A file is dropped in, two cues are kept, the page is made; tomorrow everything is there."""
    track = filmed(
        "standing-barbell-curl",
        reps=6,
        noise=0.003,
        faults={"torso-swing": 22.0, "range-short": 30.0},
    ).track
    write_track(track, tmp_path / "cleo.csv")
    window = open_window()
    drop(window, tmp_path / "cleo.csv")
    dialog = dialog_of(window, IncomingDialog)
    dialog.ok.click()
    assert "Choose the client" in dialog.wrong.text()
    dialog.forms[0][1].client.setCurrentText("Cleo Marsh")
    dialog.ok.click()
    window.settle()
    assert [row.client for row in window.sets.doc.rows] == ["Cleo Marsh"]
    window.do("queue.open")
    window.settle()
    press(qtbot, window, Key.Key_K)
    press(qtbot, window, Key.Key_N)
    press(qtbot, window, Key.Key_K)
    assert len(window.review.doc.kept) == 2
    window.of("review").asking.leaving.save_page(tmp_path / "page.pdf")
    window.settle()
    assert (tmp_path / "page.pdf").stat().st_size > 5000
    window.close()

    again = open_window()
    assert again.sets.doc.rows[0].client == "Cleo Marsh"
    again.do("queue.open")
    again.settle()
    assert {f.rule.name for f in again.review.doc.kept} == {"torso-swing", "range-short"}


def test_a_bad_file_is_named_and_the_good_one_comes_in(open_window, tmp_path):
    write_track(filmed("rope-pushdown", reps=2).track, tmp_path / "ada.csv")
    (tmp_path / "bad.csv").write_text("hello")
    window = open_window()
    drop(window, tmp_path / "ada.csv", tmp_path / "bad.csv")
    dialog = dialog_of(window, IncomingDialog)
    assert len(dialog.forms) == 1
    dialog.forms[0][1].client.setCurrentText("Ada Quill")
    dialog.forms[0][1].load.setText("heavy")
    dialog.ok.click()
    assert "must be kilograms" in dialog.wrong.text()
    dialog.forms[0][1].load.setText("12,5 kg")
    dialog.ok.click()
    window.settle()
    assert window.sets.doc.rows[0].load_kg == 12.5


def test_a_set_whose_review_was_never_computed_gets_one(open_window, library):
    data = csv_text(filmed("rope-pushdown", reps=2).track).encode()
    library.add_set(data, "a.csv", client="Ada Quill", standard="rope-pushdown", school="locked")
    window = open_window()
    window.settle()
    assert window.sets.doc.rows[0].summary is not None
