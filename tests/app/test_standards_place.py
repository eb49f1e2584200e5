"""The place Standards in the real window: finding, reading, changing, and making one's own."""

from __future__ import annotations

import shutil
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QApplication, QInputDialog, QLabel, QMessageBox, QPushButton

from builders import filmed, slow
from conftest import adder
from guide_arc.app.places.queue.incoming_dialog import IncomingDialog
from guide_arc.app.places.standards.proposal_dialog import ProposalDialog
from guide_arc.app.services.destinations import ToQueue
from guide_arc.drawings.standard_sheet import handles
from guide_arc.formats.track_file import write_track
from guide_arc.library.store import Library
from guide_arc.standards.loader import parse_toml, shipped
from hands import dialog_of, drop, press

Key = Qt.Key
CURL = "standing-barbell-curl"


@pytest.fixture(scope="session")
def curls(tmp_path_factory) -> Path:
    """A library with two curls of Cleo's, one with a swing, built once and copied."""
    folder = tmp_path_factory.mktemp("curls") / "library"
    library = Library.open(folder)
    add = adder(library)
    add("Cleo Marsh", reps=4, noise=0.003, seed=1)
    add("Cleo Marsh", reps=4, noise=0.003, seed=2, faults={"torso-swing": 14.0})
    library.close()
    return folder


@pytest.fixture
def library(curls, tmp_path):
    shutil.copytree(curls, tmp_path / "library")
    opened = Library.open(tmp_path / "library")
    yield opened
    opened.close()


@pytest.fixture
def window(open_window, qtbot):
    shown = open_window()
    press(qtbot, shown, Key.Key_F4)
    shown.standards.show(shown.standards.doc.choosing(CURL))
    settle(shown)
    return shown


def settle(window) -> None:
    """Let the place try the standard once it has been left alone for its moment."""
    place = window.standards_place
    if place._settle.isActive():
        place._settle.stop()
        place._try()
    window.settle()


def words_on(widget) -> str:
    return " ".join(label.text() for label in widget.findChildren(QLabel))


def test_f4_shows_all_standards_and_the_figure_moves(window):
    place = window.standards_place
    assert window.place == "standards"
    assert window.shell.shown.buttons["standards"].isChecked()
    assert window.head("position") == f"{len(shipped())} standards"
    assert set(place.films) == set(shipped())
    before = place.stage.at_s
    place.stage._tick()
    assert place.stage.at_s != before
    clock = place.tiles.clock_s
    place.tiles._tick()
    assert place.tiles.clock_s > clock
    window.program.go(ToQueue())
    assert not place.tiles._timer.isActive()


def test_any_word_finds_a_standard(window):
    place = window.standards_place
    for words, id in (
        ("traps", "shrug"),
        ("kneeling cable", "kneeling-cable-crunch"),
        ("obliques ball", "swiss-ball-side-turn"),
        ("chains", "chain-fly"),
        ("lying dumbbell", "lying-triceps-extension"),
    ):
        if id == "lying-triceps-extension":
            words = "lying bar triceps"
        place.search.setText(words)
        assert id in window.standards.doc.shown, words
    place.search.setText("zither")
    assert window.standards.doc.shown == []
    assert place.finder.none_found.isVisible()
    place.search.clear()
    place.finder.kit.setCurrentIndex(place.finder.kit.findData("band"))
    assert window.standards.doc.shown == ["band-up-and-over"]
    assert window.standards.doc.chosen == "band-up-and-over"
    place.finder.kit.setCurrentIndex(0)
    place.finder.only_own.click()
    assert "have not made or changed" in place.finder.none_found.text()


@slow
def test_slash_goes_to_the_search_and_keys_walk_the_tiles(window, qtbot):
    press(qtbot, window, Key.Key_Slash)
    assert QApplication.focusWidget() is window.standards_place.search
    window.standards_place.tiles.setFocus()
    press(qtbot, window, Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    assert window.standards.doc.chosen == "standing-cable-curl"
    press(qtbot, window, Key.Key_Up, Qt.KeyboardModifier.ControlModifier)
    assert window.standards.doc.chosen == CURL


def test_what_it_asks_is_said_with_its_cautions(window):
    said = words_on(window.standards_place.asks)
    for words in (
        "bar in an underhand grip",
        "biceps",
        "upper arm stays",
        "3–4 × 8–12",
        "If an elbow aches",
    ):
        assert words in said


@slow
def test_a_typed_limit_is_kept_tried_and_taken_back(window, qtbot):
    place, model = window.standards_place, window.standards
    assert "1 of Cleo’s last 2 sets pass" in place.results.text()
    assert "all 15 checks hold" in place.results.text()
    place.checks.limits["torso-swing"].setValue(20)
    settle(window)
    assert model.doc.plan.check("torso-swing").limit == 20
    assert "2 of Cleo’s last 2 sets pass" in place.results.text()
    assert "yours, over the shipped one" in place.name.text()
    assert place.revert.isVisible()
    assert "1 of them yours" in window.head("position")
    assert [d.key for d in model.doc.changes] == ["check.torso-swing.limit_deg"]
    assert "torso swing" in words_on(place.changes)
    press(qtbot, window, Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    settle(window)
    assert model.doc.plan.check("torso-swing").limit == 9
    assert not model.doc.is_own
    press(qtbot, window, Key.Key_Y, Qt.KeyboardModifier.ControlModifier)
    assert model.doc.plan.check("torso-swing").limit == 20
    settle(window)


def test_a_changed_standard_reviews_its_sets_anew(window, library):
    swinging = next(
        r for r in library.queue() if "torso-swing" in str(library.kept_review(r.id)["findings"][0])
    )
    window.standards_place.checks.limits["torso-swing"].setValue(20)
    settle(window)
    kept = library.kept_review(swinging.id)
    (swing,) = [f for f in kept["findings"] if f["check"] == "torso-swing"]
    assert (swing["verdict"], swing["limit"]) == ("ok", 20.0)
    assert library.record(swinging.id).notes.decisions == {}


@slow
def test_a_limit_that_is_too_tight_shows_on_the_clean_set(window):
    place = window.standards_place
    place.checks.limits["wrist-bend"].setValue(2)
    settle(window)
    assert "Wrist curls in off" in place.results.text()
    assert "off" in place.checks._clean["wrist-bend"].text()


@slow
def test_a_value_that_no_standard_may_have_is_refused_with_a_sentence(window):
    window.standards_place.asks.ends["to"].setValue(20)
    assert "15 degrees apart" in window.said
    assert window.standards.doc.plan.range.to_deg == 132
    asks = window.standards_place.asks
    asks.tempo.setText("fast")
    asks.tempo.editingFinished.emit()
    assert "LOWER-BOTTOM-LIFT-TOP" in window.said
    assert asks.tempo.text() == "2-x-1-x"
    asks.tempo.setText("3-x-1-1")
    asks.tempo.editingFinished.emit()
    assert str(window.standards.doc.plan.tempo) == "3-x-1-1"
    settle(window)


def drag(figure, start: QPointF, end: QPointF) -> None:
    steps = [start + (end - start) * (i / 6) for i in range(7)]
    left = Qt.MouseButton.LeftButton
    for kind, at, buttons in (
        [(QEvent.Type.MouseButtonPress, start, left)]
        + [(QEvent.Type.MouseMove, p, left) for p in steps[1:]]
        + [(QEvent.Type.MouseButtonRelease, end, Qt.MouseButton.NoButton)]
    ):
        button = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseMove else left
        QApplication.sendEvent(
            figure,
            QMouseEvent(
                kind, at, figure.mapToGlobal(at), button, buttons, Qt.KeyboardModifier.NoModifier
            ),
        )


@slow
def test_a_ring_on_the_figure_is_dragged_to_another_range(window):
    place = window.standards_place
    place.stage.figure.look_from(90)
    place.stage.look_at(0.0)
    rings = handles(
        place.stage._sheet_state(), place.stage.figure.width(), place.stage.figure.height()
    )
    turn, start = (QPointF(*rings[n]) for n in ("turn", "start"))
    drag(place.stage.figure, turn, turn + (start - turn) * 0.25)
    plan = window.standards.doc.plan
    assert 85 < plan.range.to_deg < 125
    assert plan.turn.elbow_deg == plan.range.to_deg
    assert window.undo_words.startswith("Turn ")
    settle(window)
    assert "full" not in place.results.text()


def test_the_corridor_is_dragged_wider(window):
    window.standards.show(window.standards.doc.choosing("lateral-raise-dumbbell"))
    place = window.standards_place
    place.stage.look_at(0.0)
    rings = handles(
        place.stage._sheet_state(), place.stage.figure.width(), place.stage.figure.height()
    )
    edge, middle = (
        QPointF(*rings["corridor"]),
        0.5 * (QPointF(*rings["start"]) + QPointF(*rings["turn"])),
    )
    before = window.standards.doc.plan.check("elbow-path").limit
    drag(place.stage.figure, edge, edge + (edge - middle) * 0.8)
    assert window.standards.doc.plan.check("elbow-path").limit > before
    settle(window)


def test_the_figure_turns_by_mouse_keys_and_command(window, qtbot):
    figure = window.standards_place.stage.figure
    figure.look_from(0)
    corner = QPointF(20, 20)
    drag(figure, corner, corner + QPointF(100, 0))
    assert figure.turn_deg == pytest.approx(60)
    figure.setFocus()
    qtbot.keyClick(figure, Key.Key_Right)
    assert figure.turn_deg == pytest.approx(75)
    press(qtbot, window, Key.Key_V)
    assert figure.turn_deg == pytest.approx(180)
    drawn = figure.drawn(400, 500).words()
    assert "start" in drawn
    assert "turn" in drawn


def test_space_stops_and_a_click_on_the_phases_looks_at_a_moment(window, qtbot):
    place = window.standards_place
    place.tiles.setFocus()
    press(qtbot, window, Key.Key_Space)
    assert not place.stage.playing
    qtbot.mouseClick(
        place.stage.phases,
        Qt.MouseButton.LeftButton,
        pos=QPoint(place.stage.phases.width() // 2, 10),
    )
    assert place.stage.at_s == pytest.approx(0.5 * place.stage.cycle.length_s, abs=0.1)
    assert any("lift" in w for w in place.stage.phases.drawn(400, 46).words())


@slow
def test_schools_stand_side_by_side_and_one_can_be_preferred(window):
    place = window.standards_place
    place.sheets.show_sheet("Schools")
    button = next(
        b for b in place.schools.findChildren(QPushButton) if b.text() == "rising to nose height"
    )
    button.click()
    assert window.standards.doc.plan.school.id == "rising-upper-arm"
    assert "rising to nose height" in place.name.text()
    said = words_on(place.schools)
    assert "64" in said
    assert "not asked" in said
    place.schools.who.setCurrentIndex(place.schools.who.findData("Cleo Marsh"))
    next(b for b in place.schools.findChildren(QPushButton) if b.text() == "Prefer").click()
    (kept,) = window.program.library.own_standards.preferences()
    assert (kept.school, kept.client, kept.standard) == ("rising-upper-arm", "Cleo Marsh", CURL)
    assert "Cleo Marsh, in this exercise" in words_on(place.schools)
    next(b for b in place.schools.findChildren(QPushButton) if b.text() == "Forget").click()
    assert window.program.library.own_standards.preferences() == ()


@slow
def test_a_schools_own_limit_is_changed_in_the_school_only(window):
    window.standards.show(window.standards.doc.of_school("rising-upper-arm"))
    window.standards_place.checks.limits["upper-arm-drift"].setValue(70)
    window.standards_place.checks.limits["end-point"].setValue(15)
    catalogue = window.program.library.catalogue()
    assert catalogue.standard(CURL, "rising-upper-arm").check("upper-arm-drift").limit == 70
    assert catalogue.standard(CURL, "rising-upper-arm").check("end-point").limit == 15
    assert catalogue.standard(CURL).check("upper-arm-drift").limit == 12
    settle(window)


def test_the_views_say_what_they_can_judge(window):
    place = window.standards_place
    place.sheets.show_sheet("Views")
    assert "Filming" in words_on(place.views)
    window.settle()
    said = words_on(place.views)
    assert "In space: 15 of 15 checks" in said
    assert "From the left · best" in said
    assert "arms differ" in said.split("From the left")[1].split("From the right")[0]
    window.standards.show(window.standards.doc.choosing("cross-cable-rear-fly"))
    window.settle()
    assert "cable off the arm's plane" in words_on(place.views).split("From the front")[1]


@slow
def test_a_copy_is_made_renamed_and_taken_out(window, qtbot):
    press(qtbot, window, Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    dialog = dialog_of(window, QInputDialog)
    dialog.setTextValue("Curl for the tour")
    dialog.accept()
    model = window.standards
    assert model.doc.chosen == "curl-for-the-tour"
    assert "Curl for the tour · upper arm locked · yours" in window.standards_place.name.text()
    window.do("standards.rename")
    dialog = dialog_of(window, QInputDialog)
    dialog.setTextValue("x")
    dialog.accept()
    assert "at least 3 characters" in window.said
    assert model.rename("Curl on tour")
    assert model.doc.plan.name == "Curl on tour"
    window.standards_place.revert.click()
    assert "curl-for-the-tour" not in window.program.library.catalogue()
    window.undo()
    assert model.doc.plan.name == "Curl on tour"
    settle(window)


@slow
def test_a_standard_goes_out_as_a_file_and_comes_in_again(window, tmp_path):
    target = tmp_path / "curl.toml"
    window.standards_place.files.export(target)
    window.settle()
    assert parse_toml(target.read_text(), "x")["id"] == CURL
    target.write_text(target.read_text().replace("limit_deg = 9", "limit_deg = 7"))
    window.standards_place.files.take_in(target)
    window.settle()
    box = dialog_of(window, QMessageBox)
    assert "the shipped standard" in box.text()
    next(b for b in box.buttons() if b.text() == "Replace it").click()
    assert window.standards.doc.plan.check("torso-swing").limit == 7
    target.write_text(target.read_text().replace(f'id = "{CURL}"', 'id = "another-curl"'))
    window.standards_place.files.take_in(target)
    window.settle()
    assert window.standards.doc.chosen == "another-curl"
    settle(window)


def test_a_file_that_is_no_standard_is_refused_with_key_and_remedy(window, tmp_path):
    bad = tmp_path / "bad.toml"
    bad.write_text('schema_version = 2\nid = "bad"\n')
    window.standards_place.files.take_in(bad)
    window.settle()
    box = dialog_of(window, QMessageBox)
    assert "bad.toml" in box.informativeText()
    assert "missing" in box.informativeText()
    box.close()
    window.standards_place.files.export(tmp_path / "no" / "where.toml")
    window.settle()
    assert "can't be written" in window.said


def test_the_standard_of_an_open_set_is_one_key_away(open_window, qtbot):
    window = open_window()
    press(qtbot, window, Key.Key_Return)
    window.settle()
    press(qtbot, window, Key.Key_E, Qt.KeyboardModifier.ControlModifier)
    assert window.place == "standards"
    assert window.standards.doc.chosen == CURL
    press(qtbot, window, Key.Key_Escape)
    assert window.place == "queue"
    window.settle()


@slow
def test_a_model_set_becomes_a_standard_of_ones_own(open_window, qtbot, library):
    window = open_window()
    window.open_set(library.queue()[-1].id)
    window.settle()
    window.do("set.model")
    asked = dialog_of(window, QInputDialog)
    assert asked.textValue() == "Standing barbell curl, Cleo"
    asked.setTextValue("Cleo’s model curl")
    asked.accept()
    window.settle()
    dialog = dialog_of(window, ProposalDialog)
    said = words_on(dialog)
    expected = ("4 whole reps", "upper arm stays", "elbow, ", "everything that can be judged is ok")
    for words in expected:
        assert words in said
    assert [b.isChecked() for b in dialog.rep_buttons.values()] == [True] * 4
    dialog.rep_buttons["both", 4].click()
    window.settle()
    dialog = dialog_of(window, ProposalDialog)
    assert [b.isChecked() for b in dialog.rep_buttons.values()] == [True] * 3 + [False]
    assert "3 whole reps" in words_on(dialog)
    dialog.field.setText("x")
    dialog.try_accept()
    assert "3 to 60" in dialog.wrong.text()
    dialog.field.setText("Model curl")
    dialog.try_accept()
    assert window.place == "standards"
    assert window.standards.doc.plan.name == "Model curl"
    assert window.standards.doc.is_own
    settle(window)
    assert "all " in window.standards_place.results.text()


def test_a_file_without_a_name_comes_in_as_what_it_looks_like(open_window, tmp_path, library):
    window = open_window()
    track = filmed("rope-pushdown", reps=3, noise=0.004).track
    write_track(replace(track, facts=replace(track.facts, standard=None)), tmp_path / "cleo.csv")
    drop(window, tmp_path / "cleo.csv")
    dialog = dialog_of(window, IncomingDialog)
    ((_item, form),) = dialog.forms
    assert form.standard.currentData() == "rope-pushdown"
    assert "looks like Rope pushdown" in words_on(dialog)
    dialog.try_accept()
    window.settle()
    assert "rope-pushdown" in [r.standard for r in library.queue()]


@slow
def test_dark_and_light_repaint_the_place(window):
    place = window.standards_place
    window.shell.set_mode("dark")
    dark = place.stage.figure.grab().toImage().pixelColor(3, 3)
    window.shell.set_mode("light")
    light = place.stage.figure.grab().toImage().pixelColor(3, 3)
    assert dark.lightness() < 90 < light.lightness()
    assert not place.grab().isNull()
