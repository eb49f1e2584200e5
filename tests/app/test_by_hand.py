"""Reps corrected in the real window, and what the coach adds: felt, loose reps, ghosts, two
exercises."""

from __future__ import annotations

import shutil
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QContextMenuEvent, QMouseEvent
from PyQt6.QtWidgets import QApplication, QInputDialog, QMenu

from builders import TEN_MM, filmed, slow
from conftest import adder
from guide_arc.app.places.review.split_dialog import SplitDialog
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.joined import perform_in_turn
from guide_arc.core.simulate.perform import Script
from guide_arc.drawings.ribbon import x_of
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library
from guide_arc.standards.loader import standard
from hands import dialog_of, press

Key = Qt.Key
# The offscreen screen has no windows to raise; a real one says nothing.
POPUP = pytest.mark.qt_log_ignore("This plugin does not support")


@pytest.fixture(scope="session")
def three_sets(tmp_path_factory) -> Path:
    """Two sets of Cleo's curls, a month apart, and a superset of Benno's."""
    folder = tmp_path_factory.mktemp("three") / "library"
    library = Library.open(folder)
    add = adder(library)
    add("Cleo Marsh", reps=6, noise=0.003, faults={"upper-arm-drift": 26.0}, recorded="2031-03-25")
    add("Cleo Marsh", reps=6, noise=0.003, recorded="2031-02-24", seed=30)
    plans = [standard("standing-barbell-curl"), standard("lateral-raise-dumbbell")]
    both = perform_in_turn([(p, Script(reps=4)) for p in plans], Camera(noise=TEN_MM), 4)
    set_id, _ = library.add_set(
        csv_text(both.track).encode(),
        "benno.csv",
        client="Benno Hartz",
        standard=plans[0].id,
        school=plans[0].school.id,
        recorded="2031-03-26",
    )
    review_and_keep(library, set_id)
    library.close()
    return folder


@pytest.fixture
def library(three_sets, tmp_path):
    shutil.copytree(three_sets, tmp_path / "library")
    opened = Library.open(tmp_path / "library")
    yield opened
    opened.close()


@pytest.fixture
def window(open_window):
    window = open_window()
    window.shell.resize(1280, 800)
    window.open_set(1)
    window.settle()
    assert window.place == "review"
    return window


def reps(window):
    return window.review.doc.measured.review.reps


def mouse(widget, kind, x: float, y: float, button=Qt.MouseButton.LeftButton) -> None:
    at = QPointF(x, y)
    held = button if kind != QEvent.Type.MouseButtonRelease else Qt.MouseButton.NoButton
    event = QMouseEvent(
        kind, at, widget.mapToGlobal(at), button, held, Qt.KeyboardModifier.NoModifier
    )
    QApplication.sendEvent(widget, event)


def drag_edge(window, at_s: float, to_s: float) -> None:
    ribbon = window.review_place.ribbon
    axis = ribbon.axis()
    x0, x1 = x_of(axis, ribbon.width(), at_s), x_of(axis, ribbon.width(), to_s)
    mouse(ribbon, QEvent.Type.MouseButtonPress, x0, 40)
    mouse(ribbon, QEvent.Type.MouseMove, 0.5 * (x0 + x1), 40)
    mouse(ribbon, QEvent.Type.MouseMove, x1, 40)
    mouse(ribbon, QEvent.Type.MouseButtonRelease, x1, 40)


@slow
def test_a_boundary_is_dragged_on_the_ribbon_and_taken_back(qtbot, window, library):
    window.review.choose_rep(reps(window)[2])
    before = reps(window)[2].lower.end_s
    drag_edge(window, before, before + 0.15)
    window.settle()
    moved = reps(window)[2].lower.end_s
    assert moved == pytest.approx(before + 0.15, abs=0.03)
    assert window.review_place.by_hand.text() == "1 by hand"
    assert library.record(1).notes.settings.corrections[0].edge == "lower-end"
    kept = library.kept_review(1)["reps"][2]["lower"][1]
    assert kept == pytest.approx(moved, abs=1e-3)
    press(qtbot, window, Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert reps(window)[2].lower.end_s == before
    assert window.review_place.by_hand.text() == ""


def test_scrubbing_over_other_reps_moves_no_boundary(window):
    window.review.choose_rep(reps(window)[0])
    edge = reps(window)[4].lift.start_s
    drag_edge(window, edge, edge + 0.3)
    assert window.review.doc.settings.corrections == ()
    assert window.review.playback.at_s == pytest.approx(edge + 0.3, abs=0.05)


def test_another_button_lets_a_dragged_boundary_go(window):
    window.review.choose_rep(reps(window)[2])
    ribbon, edge = window.review_place.ribbon, reps(window)[2].lift.start_s
    x = x_of(ribbon.axis(), ribbon.width(), edge)
    mouse(ribbon, QEvent.Type.MouseButtonPress, x, 40)
    mouse(ribbon, QEvent.Type.MouseMove, x + 20, 40)
    assert ribbon.drag is not None
    mouse(ribbon, QEvent.Type.MouseButtonPress, x + 20, 40, Qt.MouseButton.RightButton)
    mouse(ribbon, QEvent.Type.MouseButtonRelease, x + 20, 40)
    assert window.review.doc.settings.corrections == ()


@slow
def test_reps_by_keys(qtbot, window):
    window.review.choose_rep(reps(window)[1])
    press(qtbot, window, Key.Key_Backspace)
    assert len(reps(window)) == 5
    press(qtbot, window, Key.Key_A)  # the clock still stands in it
    assert len(reps(window)) == 6
    window.review.choose_rep(reps(window)[3])
    press(qtbot, window, Key.Key_M)
    assert len(reps(window)) == 5
    assert window.undo_words == "Merge two reps"
    window.review.playback.go_to(reps(window)[0].end_s + 0.1)
    press(qtbot, window, Key.Key_BracketLeft)
    assert len(reps(window)) == 4
    assert window.review.doc.settings.bounds[0] == pytest.approx(window.review.playback.at_s)
    window.do("set.uncorrect")
    assert len(reps(window)) == 6
    for _ in range(5):
        press(qtbot, window, Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.undo_words is None
    assert window.review.doc.settings.corrections == ()
    press(qtbot, window, Key.Key_Y, Qt.KeyboardModifier.ControlModifier)
    assert len(reps(window)) == 5


def test_what_can_not_be_done_is_said(qtbot, window):
    window.review.choose_rep(reps(window)[5])
    press(qtbot, window, Key.Key_M)
    assert "no rep after this one" in window.said
    window.review.playback.go_to(0.2)
    window.review.doc = replace(window.review.doc, rep=None)
    press(qtbot, window, Key.Key_A)
    assert "like a rep" in window.said
    press(qtbot, window, Key.Key_BracketRight)
    assert "must end after it starts" in window.said
    assert len(reps(window)) == 6


def test_the_nearest_boundary_comes_to_the_clock(qtbot, window):
    rep = reps(window)[2]
    window.review.choose_rep(rep)
    window.review.playback.go_to(rep.lift.start_s - 0.1)
    press(qtbot, window, Key.Key_S)
    assert reps(window)[2].lift.start_s == pytest.approx(rep.lift.start_s - 0.1, abs=0.02)


@POPUP
def test_the_ribbons_menu_acts_where_it_was_asked(window):
    ribbon = window.review_place.ribbon
    rep = reps(window)[3]
    x = int(x_of(ribbon.axis(), ribbon.width(), rep.turn_s))
    at = QPoint(x, 30)
    event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, at, ribbon.mapToGlobal(at))
    QApplication.sendEvent(ribbon, event)
    menu = next(m for m in window.shell.findChildren(QMenu) if m.isVisible() and m.title() == "")
    words = [a.text() for a in menu.actions() if a.text()]
    assert words[:4] == [
        "Put the nearest boundary here",
        "Split the rep here",
        "Merge with the next rep",
        "Not a rep",
    ]
    menu.close()
    assert window.review.doc.rep.number == 4
    window.do("rep.delete")
    assert len(reps(window)) == 5


@slow
def test_corrections_are_there_after_a_restart(qtbot, window, open_window):
    window.review.choose_rep(reps(window)[1])
    press(qtbot, window, Key.Key_Backspace)
    window.close()
    again = open_window()
    again.open_set(1)
    again.settle()
    assert len(reps(again)) == 5
    assert again.review_place.by_hand.text() == "1 by hand"


def test_decisions_survive_a_correction(qtbot, window, library):
    press(qtbot, window, Key.Key_K)
    kept = window.review.doc.finding.key
    window.review.choose_rep(reps(window)[0])
    press(qtbot, window, Key.Key_Backspace)
    assert library.record(1).notes.decisions[kept].choice == "keep"
    assert window.review.doc.finding.key == kept


def test_where_it_was_felt_is_joined_with_what_was_measured(window, library):
    felt = window.review_place.felt
    menu = felt.menu()
    assert [a.text() for a in menu.actions()][:2] == ["biceps", "front shoulder"]
    menu.actions()[1].trigger()
    window.settle()
    assert felt.button.text() == "Felt in: front shoulder ▾"
    assert "the two agree" in felt.words.text()
    assert library.record(1).notes.settings.felt == ("front shoulder",)
    window.undo()
    assert felt.button.text() == "Where was it felt? ▾"


def test_loose_last_reps_are_allowed(window):
    window.shell.actions_by_id["set.loose"].trigger()
    dialog = dialog_of(window, QInputDialog)
    dialog.setIntValue(6)
    dialog.accept()
    window.settle()
    drift = next(f for f in window.review.doc.findings if f.rule.name == "upper-arm-drift")
    assert drift.allowed
    row = next(r for r in window.review_place.findings.rows if r.finding is drift)
    assert "allowed in the last reps" in row.number.text()


@slow
def test_path_traces_and_numbers_show_what_they_are_for(qtbot, window):
    place = window.review_place
    window.review.choose_rep(reps(window)[2])
    press(qtbot, window, Key.Key_B)
    place.paths.grab()
    assert "of the arm ahead, at the turn" in place.paths.accessibleDescription()
    press(qtbot, window, Key.Key_G)
    place.traces.grab()
    assert "left elbow bend" in place.traces.accessibleDescription()
    assert not place.shelf_panel.isVisible()
    press(qtbot, window, Key.Key_J)
    place.numbers.grab()
    assert "range" in place.numbers.accessibleDescription()
    press(qtbot, window, Key.Key_J)
    assert place.right.current == "What to say"


@POPUP
def test_the_traces_are_chosen_from_what_the_recording_shows(window):
    place = window.review_place
    window.shell.actions_by_id["view.measures"].trigger()
    menu = next(m for m in place.findChildren(QMenu) if m.isVisible())
    wanted = next(a for a in menu.actions() if a.text() == "left wrist bend")
    wanted.trigger()
    menu.close()
    place.traces.grab()
    assert "left wrist bend" in place.traces.accessibleDescription()
    for trace in place.traces.shown():
        place.traces.want(tuple(t for t in place.traces.shown() if t != trace))
    assert place.traces.shown()  # never none: the usual ones come back


@slow
def test_a_rep_as_ghost(qtbot, window):
    window.review.choose_rep(reps(window)[0])
    press(qtbot, window, Key.Key_O)
    press(qtbot, window, Key.Key_Down)
    window.review_place.stage.grab()
    assert "ghost: rep 1" in window.review_place.stage.accessibleDescription()
    window.review_place.right.show_sheet("Compare")
    assert window.review_place.compare.view.state.after == "rep 2"
    window.review.choose_rep(reps(window)[0])
    press(qtbot, window, Key.Key_O)
    assert window.review.doc.ghost is None


@slow
def test_the_set_before_as_ghost_and_in_figures(qtbot, window):
    press(qtbot, window, Key.Key_C)
    window.settle()
    compare = window.review_place.compare
    assert compare.view.state.before == "the set of 24 Feb 2031"
    changed = [row.name for row in compare.view.state.comparison.changes]
    assert "upper arm, left" in changed
    assert compare.choice.currentText().startswith("the set of 24 Feb 2031")
    compare.view.grab()
    assert "moves more" in compare.view.accessibleDescription()
    press(qtbot, window, Key.Key_C)
    assert window.review.doc.ghost is None
    assert "Choose an earlier set" in compare.note.text()


@slow
def test_without_another_set_there_is_nothing_to_compare(qtbot, window):
    window.open_set(3)
    window.settle()
    press(qtbot, window, Key.Key_C)
    assert "no other set" in window.said


@slow
def test_a_superset_becomes_two_sets_and_one_again(window, library):
    window.open_set(3)
    window.settle()
    window.shell.actions_by_id["set.split"].trigger()
    ask = dialog_of(window, QInputDialog)
    ask.setTextValue("Dumbbell lateral raise")
    ask.accept()
    window.settle()
    dialog = dialog_of(window, SplitDialog)
    assert [dialog.table.item(row, 2).text() for row in (0, 1)] == ["4", "4"]
    dialog.table.item(1, 0).setCheckState(Qt.CheckState.Unchecked)
    assert not dialog.make.isEnabled()
    dialog.table.item(1, 0).setCheckState(Qt.CheckState.Checked)
    dialog.make.click()
    window.settle()
    assert library.count() == 4
    assert library.record(4).standard == "lateral-raise-dumbbell"
    assert len(library.kept_review(3)["reps"]) == len(library.kept_review(4)["reps"]) == 4
    window.undo()
    window.settle()
    assert library.count() == 3
    assert library.record(3).notes.settings.corrections == ()
    assert library.track(3).frames > 0


def test_a_set_of_one_exercise_is_not_split(window, library):
    window.of("review").asking.propose_split("lateral-raise-dumbbell")
    window.settle()
    dialog = dialog_of(window, SplitDialog)
    assert not dialog.make.isEnabled()
    dialog.reject()
    assert library.count() == 3


@slow
def test_a_track_of_one_view_shows_its_path_beside(open_window, library):
    track = filmed("lateral-raise-dumbbell", reps=4, view="front", noise=1.0).track
    set_id, _ = library.add_set(
        csv_text(track).encode(),
        "dario.csv",
        client="Dario Venn",
        standard="lateral-raise-dumbbell",
        school="stops-level",
    )
    review_and_keep(library, set_id)
    window = open_window()
    window.open_set(set_id)
    window.settle()
    window.review_place.left.show_sheet("Path")
    window.review_place.paths.grab()
    words = window.review_place.paths.accessibleDescription()
    assert "seen from the front" in words
    assert "seen from the side" not in words
