"""The real window on a library with two sets, with keys and mouse, as a coach uses it."""

from __future__ import annotations

import shutil
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QApplication, QInputDialog, QMessageBox

from builders import filmed
from conftest import adder
from guide_arc.app.places.queue.details_dialog import DetailsDialog
from guide_arc.app.places.queue.incoming_dialog import IncomingDialog
from guide_arc.app.places.review.document import done_noted
from guide_arc.app.shell.keys_page import KeysPage
from guide_arc.app.widgets.picker import Picker
from guide_arc.drawings.palette import DARK, LIGHT
from guide_arc.formats.track_file import write_track
from guide_arc.library import reviewing as computing
from guide_arc.library.store import Library
from hands import dialog_of, drop, press

Key = Qt.Key


@pytest.fixture(scope="session")
def two_sets(tmp_path_factory) -> Path:
    """A library with Cleo's set with faults and Finn's clean one, built once and copied."""
    folder = tmp_path_factory.mktemp("two") / "library"
    library = Library.open(folder)
    add = adder(library)
    add(
        "Cleo Marsh",
        reps=5,
        noise=0.003,
        faults={"torso-swing": 22.0, "upper-arm-drift": 26.0},
        fault_from=3,
    )
    add("Finn Adair", "rope-pushdown", reps=4, noise=0.003)
    library.close()
    return folder


@pytest.fixture
def library(two_sets, tmp_path):
    shutil.copytree(two_sets, tmp_path / "library")
    opened = Library.open(tmp_path / "library")
    yield opened
    opened.close()


@pytest.fixture
def reviewing(qtbot, window):
    """The same window with Cleo's set open."""
    window.shell.activateWindow()
    window.queue_place.list.setFocus()
    press(qtbot, window, Key.Key_Return)
    window.settle()
    assert window.place == "review"
    return window


def test_the_same_file_dropped_twice_is_said(window, library, tmp_path):
    data, name = library.track_bytes(1)
    (tmp_path / name).write_bytes(data)
    drop(window, tmp_path / name)
    dialog_of(window, IncomingDialog).ok.click()
    window.settle()
    assert "1 already in the library" in window.said
    assert library.count() == 2


def test_adding_is_undone(window, library, tmp_path):
    write_track(filmed("rope-pushdown", reps=2, seed=99).track, tmp_path / "finn.csv")
    drop(window, tmp_path / "finn.csv")
    dialog_of(window, IncomingDialog).ok.click()
    window.settle()
    assert library.count() == 3
    window.undo()
    assert library.count() == 2
    window.redo()
    assert library.count() == 3


def test_typing_finds_sets_and_escape_clears(qtbot, window):
    press(qtbot, window, Key.Key_Slash)
    qtbot.keyClicks(window.queue_place.search_field, "finn")
    window.settle()
    assert [row.client for row in window.sets.doc.rows] == ["Finn Adair"]
    qtbot.keyClicks(window.queue_place.search_field, "xyz")
    window.settle()
    assert "No set matches" in window.queue_place.empty.text()
    press(qtbot, window, Key.Key_Escape)
    assert len(window.sets.doc.rows) == 2


def test_the_worst_set_stands_first_and_opens_on_its_worst_finding(reviewing):
    assert reviewing.head("title") == "Cleo Marsh"
    assert reviewing.review.doc.finding.rule.name == "torso-swing"
    assert reviewing.head("position") == "set 1 of 2 waiting"


def test_frames_reps_and_findings_from_the_keyboard(qtbot, reviewing):
    clock = reviewing.review.playback
    before = clock.at_s
    press(qtbot, reviewing, Key.Key_Period)
    assert clock.at_s == pytest.approx(before + 1 / 30, abs=1e-3)
    press(qtbot, reviewing, Key.Key_Comma)
    assert clock.at_s == pytest.approx(before, abs=1e-3)
    press(qtbot, reviewing, Key.Key_W)
    assert reviewing.review.doc.rep.number == 5
    press(qtbot, reviewing, Key.Key_Up)
    assert reviewing.review.doc.rep.number == 4
    press(qtbot, reviewing, Key.Key_N)
    assert reviewing.review.doc.finding.rule.name == "upper-arm-drift"


def test_playing_at_quarter_speed_round_a_rep(qtbot, reviewing):
    clock = reviewing.review.playback
    press(qtbot, reviewing, Key.Key_L)
    press(qtbot, reviewing, Key.Key_4)
    start = clock.at_s
    press(qtbot, reviewing, Key.Key_Space)
    qtbot.waitUntil(lambda: clock.at_s != start, timeout=3000)
    assert clock.loop.start_s <= clock.at_s <= clock.loop.end_s
    assert "quarter speed · looping the rep" in reviewing.review_place.clock.text()
    press(qtbot, reviewing, Key.Key_Space)
    assert not clock.playing


def test_the_next_set_stands_still_with_a_finding_of_its_own(qtbot, reviewing):
    clock = reviewing.review.playback
    start = clock.at_s
    press(qtbot, reviewing, Key.Key_Space)
    qtbot.waitUntil(lambda: clock.at_s != start, timeout=3000)
    reviewing.do("review.next-set")
    place, model = reviewing.review_place, reviewing.review
    assert reviewing.head("title") == "Finn Adair"
    assert not clock.playing
    assert not place.ticker.ticking
    rows = [row.finding for row in place.findings.rows]
    assert set(rows) == set(model.doc.findings)
    assert model.doc.finding is None or model.finding in rows


def test_keep_drop_reword_and_undo(qtbot, reviewing, library):
    panel = reviewing.review_place.findings
    press(qtbot, reviewing, Key.Key_K)
    assert panel.count.text() == "1 of 3"
    assert panel.keep.text() == "Kept"
    press(qtbot, reviewing, Key.Key_E)
    dialog = dialog_of(reviewing, QInputDialog)
    dialog.setTextValue("Ribs down.")
    dialog.accept()
    reviewing.settle()
    finding = reviewing.review.doc.finding
    assert (
        library.record(reviewing.review.doc.record.id).notes.decisions[finding.key].words
        == "Ribs down."
    )
    assert any("Ribs down." in row.cue.text() for row in panel.rows)
    press(qtbot, reviewing, Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    press(qtbot, reviewing, Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert panel.count.text() == "0 of 3"
    assert library.record(reviewing.review.doc.record.id).notes.decisions == {}


def test_a_note_is_saved_as_it_is_typed(qtbot, reviewing, library):
    press(qtbot, reviewing, Key.Key_T)
    qtbot.keyClicks(reviewing.review_place.note, "keep it up")
    reviewing.settle()
    assert library.record(reviewing.review.doc.record.id).notes.note == "keep it up"
    assert (
        reviewing.review.doc.decision(reviewing.review.doc.finding) is None
    )  # K and P were letters here


def test_the_chosen_finding_is_seen_whole(qtbot, reviewing):
    panel = reviewing.review_place.findings
    for _ in range(len(panel.rows)):
        press(qtbot, reviewing, Key.Key_N)
        qtbot.waitUntil(lambda: not panel._settle.isActive())
        row = next(r for r in panel.rows if r.finding is reviewing.review.doc.finding)
        top = row.mapTo(panel.area.viewport(), QPoint(0, 0)).y()
        assert top >= 0
        assert top + row.height() <= panel.area.viewport().height()


def test_a_click_on_a_finding_shows_it(qtbot, reviewing):
    row = next(
        r for r in reviewing.review_place.findings.rows if r.finding.rule.name == "upper-arm-drift"
    )
    qtbot.mouseClick(row, Qt.MouseButton.LeftButton)
    assert reviewing.review.doc.finding is row.finding
    assert reviewing.review.playback.at_s == pytest.approx(row.finding.at_s)
    assert any("upper arm" in w for w in reviewing.review_place.stage.drawn(500, 500).words())


def test_dragging_on_the_ribbon_scrubs(qtbot, reviewing):
    ribbon = reviewing.review_place.ribbon
    qtbot.mousePress(ribbon, Qt.MouseButton.LeftButton, pos=QPoint(200, 40))
    first = reviewing.review.playback.at_s
    qtbot.mouseMove(ribbon, QPoint(400, 40))
    qtbot.mouseRelease(ribbon, Qt.MouseButton.LeftButton, pos=QPoint(400, 40))
    qtbot.mousePress(ribbon, Qt.MouseButton.LeftButton, pos=QPoint(400, 40))
    assert reviewing.review.playback.at_s > first


def test_a_click_on_the_shelf_goes_to_that_rep(qtbot, reviewing):
    shelf = reviewing.review_place.shelf
    qtbot.mouseClick(shelf, Qt.MouseButton.LeftButton, pos=QPoint(12, 20))
    assert reviewing.review.doc.rep.number == 1


def test_the_dial_is_painted_in_the_palettes_colours(reviewing):
    dial = reviewing.review_place.dial
    shot = dial.grab().toImage()
    seen = {
        shot.pixelColor(x, y).name().upper()
        for x in range(0, shot.width(), 2)
        for y in range(0, shot.height(), 2)
    }
    assert LIGHT["actual"] in seen
    assert LIGHT["off"] in seen


def test_dark_changes_the_sheet_and_is_remembered(reviewing, settings):
    reviewing.shell.set_mode("dark")
    QApplication.processEvents()
    shot = reviewing.shell.grab().toImage()
    assert shot.pixelColor(5, shot.height() - 5) == QColor(DARK["paper"])
    assert settings.value("mode") == "dark"


def test_done_takes_the_set_off_the_queue_and_opens_the_next(qtbot, reviewing, library):
    press(qtbot, reviewing, Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    reviewing.settle()
    assert reviewing.head("title") == "Finn Adair"
    assert library.count("waiting") == 1
    press(qtbot, reviewing, Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    reviewing.settle()
    assert reviewing.head("title") == "Cleo Marsh"
    assert library.count("waiting") == 2


def test_the_next_set_and_back(qtbot, reviewing):
    press(qtbot, reviewing, Key.Key_PageDown)
    reviewing.settle()
    assert reviewing.head("title") == "Finn Adair"
    press(qtbot, reviewing, Key.Key_PageDown)
    assert "last set" in reviewing.said
    press(qtbot, reviewing, Key.Key_PageUp)
    reviewing.settle()
    assert reviewing.head("title") == "Cleo Marsh"


def test_the_next_set_was_measured_beforehand(qtbot, reviewing, monkeypatch):
    def measured_again(*_what: object, **_more: Any) -> None:
        raise AssertionError("it is there already")

    monkeypatch.setattr(computing, "compute", measured_again)
    reviewing.do("review.next-set")
    assert reviewing.head("title") == "Finn Adair"
    assert reviewing.review.doc.measured is not None


def test_another_school_is_judged_again_and_undone(qtbot, reviewing):
    press(qtbot, reviewing, Key.Key_I, Qt.KeyboardModifier.ControlModifier)
    dialog = dialog_of(reviewing, DetailsDialog)
    dialog.form.school.setCurrentIndex(1)
    dialog.ok.click()
    reviewing.settle()
    drift = [f for f in reviewing.review.doc.findings if f.rule.name == "upper-arm-drift"]
    assert all(f.verdict == "ok" for f in drift)
    assert reviewing.head("guide") == "rising to nose height"
    reviewing.undo()
    reviewing.settle()
    assert reviewing.head("guide") == "upper arm locked"


def test_erasing_asks_first_and_can_be_undone(qtbot, window, library):
    press(qtbot, window, Key.Key_Delete)
    box = dialog_of(window, QMessageBox)
    assert "Erase Cleo Marsh's set" in box.text()
    next(b for b in box.buttons() if b.text() == "Erase").click()
    window.settle()
    assert library.count() == 1
    press(qtbot, window, Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    window.settle()
    assert sorted(row.client for row in window.sets.doc.rows) == ["Cleo Marsh", "Finn Adair"]
    assert all(row.summary for row in window.sets.doc.rows)


def test_a_pain_flag_puts_a_set_first(qtbot, window, library):
    window.sets.choose(2)
    window.do("queue.open")
    window.settle()
    press(qtbot, window, Key.Key_U)
    press(qtbot, window, Key.Key_Escape)
    assert window.sets.doc.rows[0].client == "Finn Adair"


def test_reviewed_sets_are_shown_on_demand(window, library):
    window.open_set(1)
    window.review.note(done_noted(window.review.doc, True))
    window.sets.show_state("done")
    window.settle()
    assert [row.client for row in window.sets.doc.rows] == ["Cleo Marsh"]


def test_size_and_last_set_are_remembered(window, open_window, settings):
    window.shell.resize(1100, 710)
    window.open_set(2)
    window.settle()
    window.close()
    again = open_window()
    assert again.shell.height() == 710
    assert again.sets.doc.chosen == 2


def test_a_track_file_that_vanished_is_said_in_words(window, library):
    for file in (library.folder / "tracks").iterdir():
        file.unlink()
    window.do("queue.open")
    window.settle()
    assert "can't be read" in window.said
    assert window.place == "queue"


def test_any_command_is_found_by_typing(qtbot, reviewing):
    press(qtbot, reviewing, Key.Key_K, Qt.KeyboardModifier.ControlModifier)
    palette = dialog_of(reviewing, Picker)
    qtbot.keyClicks(palette.field, "quarter")
    assert palette.list.count() == 1
    qtbot.keyClick(palette.field, Key.Key_Return)
    assert reviewing.review.playback.speed == 0.25


def test_the_page_of_keys_lists_every_command(window):
    commands = list(window.shell.registry)
    window.do("help.keys")
    from PyQt6.QtWidgets import QLabel

    page = dialog_of(window, KeysPage)
    words = {label.text() for label in page.findChildren(QLabel)}
    assert all(c.words.rstrip("…") in words for c in commands)


def test_marking_a_set_without_a_clip_says_so_and_leaves_the_queues_keys(window):
    hints = window.shell.foot.hints.text()
    window.do("go.marking")
    assert "there is no clip to mark" in window.said
    assert window.place == "queue"
    assert window.shell.foot.hints.text() == hints


def test_the_page_of_keys_begins_where_one_is_and_is_searched(qtbot, reviewing):
    reviewing.do("help.keys")
    from PyQt6.QtWidgets import QLabel

    def shown() -> list[str]:
        labels = (w for w in page.findChildren(QLabel) if w.isVisible())
        return [w.text() for w in labels]

    def heads() -> list[str]:
        found = [w for w in page.findChildren(QLabel) if w.objectName() == "heading"]
        return [w.text() for w in found if w.isVisible()]

    page = dialog_of(reviewing, KeysPage)
    assert heads()[:2] == ["In Review", "Everywhere"]
    assert len(heads()) == len(set(heads()))
    qtbot.keyClicks(page.field, "quarter speed")
    assert heads() == ["In Review"]
    assert "Quarter speed" in shown()
    page.field.clear()
    qtbot.keyClicks(page.field, "xyzzy")
    assert heads() == []
    assert "Nothing matches “xyzzy”." in shown()


def test_care_is_said(window):
    window.do("help.about")
    assert "diagnoses nothing" in dialog_of(window, QMessageBox).text()


def test_the_coachs_name_is_kept(window, library):
    window.do("edit.coach")
    dialog = dialog_of(window, QInputDialog)
    dialog.setTextValue("Marit Engel")
    dialog.accept()
    window.settle()
    assert library.setting("coach") == "Marit Engel"


def test_every_command_has_words_help_and_keys_of_its_own_in_its_place(window):
    registry = window.shell.registry
    for command in registry:
        assert command.words
        assert command.help
    for place in registry.doors:
        keys = [key for command in registry.within(place) for key in command.keys]
        assert len(keys) == len(set(keys)), place


def test_a_picture_of_the_window_can_be_taken(window, tmp_path):
    assert window.shell.grab().save(str(tmp_path / "shot.png"))


def test_pain_stops_the_prescription_at_once_and_undo_brings_it_back(qtbot, reviewing):
    sheet = reviewing.review_place
    before = sheet.next.text()
    assert not sheet.stop.isVisible()
    press(qtbot, reviewing, Key.Key_U)
    assert sheet.stop.isVisible()
    assert "see a licensed clinician" in sheet.stop.text()
    assert sheet.next.text() == "Next: ask first, nothing to lift until then"
    assert "kg" not in sheet.next.text()
    reviewing.undo()
    assert sheet.next.text() == before
    assert not sheet.stop.isVisible()
