"""The window about the places: trouble, the one history, stopping, and places that are only
listed."""

from __future__ import annotations

import logging
import os
import shutil
import sys
import threading
from functools import partial
from pathlib import Path
from types import ModuleType

import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QApplication, QLabel, QMessageBox, QPushButton

from builders import slow
from conftest import adder
from guide_arc.app.contract.command import Action
from guide_arc.app.contract.job import Alone, Job
from guide_arc.app.contract.registry import Registry
from guide_arc.app.entries import ENTRIES
from guide_arc.app.main import catch_everything
from guide_arc.app.places.review.by_hand import corrected, felt_there, loosened
from guide_arc.app.places.review.document import pain_noted
from guide_arc.app.services.destinations import ToQueue
from guide_arc.app.shell.keys_page import KeysPage
from guide_arc.app.shell.trouble import keep_log, where
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.settings import Correction
from guide_arc.library.store import Library
from guide_arc.library.tables import ClientRow
from hands import dialog_of, press

Key, Control = Qt.Key, Qt.KeyboardModifier.ControlModifier


@pytest.fixture(scope="session")
def two_of_cleo(tmp_path_factory) -> Path:
    folder = tmp_path_factory.mktemp("cleo") / "library"
    library = Library.open(folder)
    add = adder(library)
    add("Cleo Marsh", reps=5, noise=0.003, faults={"torso-swing": 22.0})
    add("Finn Adair", "rope-pushdown", reps=4, noise=0.003)
    library.close()
    return folder


@pytest.fixture
def library(two_of_cleo, tmp_path):
    shutil.copytree(two_of_cleo, tmp_path / "library")
    opened = Library.open(tmp_path / "library")
    yield opened
    opened.close()


# Trouble


@pytest.fixture
def caught(window):
    """The hooks of the real program, and its log."""
    keep_log()
    back = catch_everything(window.program)
    yield window
    back()
    log = logging.getLogger("guide_arc")
    for handler in list(log.handlers):
        handler.close()
        log.removeHandler(handler)
    log.propagate = True


def log_text(tmp_path: Path) -> str:
    return (Path(os.environ["GUIDE_ARC_STATE"]) / "guide-arc.log").read_text()


def test_an_exception_in_a_slot_is_told_kept_without_words_and_the_program_goes_on(
    qtbot, caught, tmp_path
):
    def slot() -> None:
        raise KeyError("Ada Quill's knee")

    QTimer.singleShot(0, slot)
    qtbot.waitUntil(lambda: bool(caught.shell.findChildren(QMessageBox)), timeout=3000)
    box = dialog_of(caught, QMessageBox)
    assert "KeyError" in box.text()
    assert "guide-arc.log" in box.informativeText()
    assert "go on" in box.informativeText()
    kept = log_text(tmp_path)
    assert "KeyError" in kept
    assert "in slot" in kept
    assert "Ada" not in kept
    box.accept()
    press(qtbot, caught, Key.Key_Return)
    assert caught.place == "review"


def test_a_fault_of_the_database_keeps_its_cause_in_the_box_and_in_the_report(
    qtbot, caught, tmp_path
):
    def twice() -> None:
        with caught.program.library.library.writing() as session:
            session.add_all([ClientRow(name="Ada Quill"), ClientRow(name="Ada Quill")])

    QTimer.singleShot(0, twice)
    qtbot.waitUntil(lambda: bool(caught.shell.findChildren(QMessageBox)), timeout=3000)
    box = dialog_of(caught, QMessageBox)
    assert "IntegrityError" in box.text()
    assert "saved" in box.informativeText()
    assert "UNIQUE constraint failed: client.name" in box.detailedText()
    assert "because of" in box.detailedText()
    assert "RecursionError" not in log_text(tmp_path)
    next(b for b in box.buttons() if "Copy" in b.text()).click()
    report = QApplication.clipboard().text()
    assert "Python" in report
    assert "client.name" in report
    assert "Ada" not in report
    assert caught.program.library.library.clients() == ["Cleo Marsh", "Finn Adair"]


def test_an_error_that_is_its_own_cause_is_told_once():
    error = ValueError("Ada")
    error.__cause__ = error
    assert where(error).splitlines() == ["ValueError"]


def test_a_long_sentence_at_the_foot_is_shown_to_its_end(window):
    window.shell.resize(1280, 800)
    window.do("go.setup")
    words = (
        "Another window kept another setup as by the door of the hall; both are there, yours as by"
        " the door of the hall 2."
    )
    window.program.say(words)
    window.settle()
    said = window.shell.foot.said
    assert said.text() == words
    assert said.width() >= said.fontMetrics().horizontalAdvance(words)
    assert said.geometry().right() < window.shell.centralWidget().width()
    every = window.shell.registry.doors["setup"].about.hints
    fewer = window.shell.foot.hints.text()
    parts = every.split("    ")
    assert fewer != every
    left = fewer.split("    ")
    assert left == [*parts[: len(left) - 2], *parts[-2:]]  # each key is whole
    window.program.say("")
    window.settle()
    hints = window.shell.foot.hints
    assert hints.width() >= hints.fontMetrics().horizontalAdvance(hints.text())
    assert hints.text() == every


def test_an_exception_on_another_thread_is_told_as_well(qtbot, caught):
    thread = threading.Thread(target=lambda: 1 / 0)
    thread.start()
    thread.join()
    qtbot.waitUntil(lambda: bool(caught.shell.findChildren(QMessageBox)), timeout=3000)
    assert "ZeroDivisionError" in dialog_of(caught, QMessageBox).text()


def test_a_job_that_breaks_is_told_and_one_of_bad_input_is_said(qtbot, caught):
    def break_(_progress):
        raise RuntimeError("x")

    def refuse(_progress):
        raise BadInput("That can't be.")

    caught.program.start(Job("Breaking", Alone(break_)), pytest.fail)
    caught.settle()
    assert "RuntimeError" in dialog_of(caught, QMessageBox).text()
    dialog_of(caught, QMessageBox).accept()
    caught.program.start(Job("Refusing", Alone(refuse)), pytest.fail)
    caught.settle()
    assert caught.said == "That can't be."


def test_what_is_typed_while_the_disk_is_full_stays_and_is_kept_later(
    qtbot, window, library, monkeypatch
):
    window.open_set(1)
    full = threading.Event()
    full.set()
    keep = Library.keep_notes

    def keep_notes(self, set_id, notes, since=None):
        if full.is_set():
            raise OSError(28, "No space left on device")
        return keep(self, set_id, notes, since)

    monkeypatch.setattr(Library, "keep_notes", keep_notes)
    window.program.keeper.try_again_s = 0.02
    press(qtbot, window, Key.Key_T)
    qtbot.keyClicks(window.review_place.note, "keep it up")
    qtbot.waitUntil(lambda: window.shell.foot.not_kept.isVisible(), timeout=3000)
    assert "No space left on device" in window.shell.foot.not_kept.text()
    assert window.review_place.note.text() == "keep it up"
    full.clear()
    qtbot.waitUntil(lambda: not window.shell.foot.not_kept.isVisible(), timeout=3000)
    assert library.record(1).notes.note == "keep it up"


def test_closing_with_something_unkept_asks_first(qtbot, window, monkeypatch):
    def full(self, set_id, notes, since=None):
        raise OSError(28, "No space left on device")

    window.open_set(1)
    window.program.keeper.try_again_s = 0.02
    keep = Library.keep_notes
    monkeypatch.setattr(Library, "keep_notes", full)
    window.review.note(pain_noted(window.review.doc, True))
    asked: list[str] = []

    def answer(box: QMessageBox) -> int:
        asked.append(box.text())
        box.setProperty("answered", True)
        return 0

    monkeypatch.setattr(QMessageBox, "exec", answer)
    monkeypatch.setattr(QMessageBox, "clickedButton", lambda box: box.buttons()[0])
    window.shell.close()
    assert "what you decided" in asked[0]
    assert window.shell.isVisible()
    monkeypatch.setattr(Library, "keep_notes", keep)
    qtbot.waitUntil(lambda: window.program.keeper.idle, timeout=5000)


# What a set's steps leave as it was


def test_undo_of_mark_reviewed_keeps_all_that_was_done_by_hand(qtbot, window, library):
    window.open_set(1)
    rep = window.review.doc.measured.review.reps[1]
    window.review.set_up(
        partial(corrected, words="Not a rep", correction=Correction("delete", rep.turn_s))
    )
    window.review.set_up(partial(felt_there, spot="biceps"))
    window.review.set_up(partial(loosened, last=2))
    window.settle()
    before = window.review.doc.notes
    press(qtbot, window, Key.Key_Return, Control)
    assert library.record(1).notes.state == "done"
    assert window.review.doc.record.id == 2
    press(qtbot, window, Key.Key_Z, Control)
    assert library.record(1).notes == before
    assert before.settings.felt == ("biceps",)
    assert window.review.doc.record.id == 1
    assert len(window.review.doc.measured.review.reps) == 4


def test_erasing_the_set_that_is_open_closes_it(qtbot, window, library):
    window.open_set(1)
    press(qtbot, window, Key.Key_Escape)
    window.sets.choose(1)
    press(qtbot, window, Key.Key_Delete)
    next(b for b in dialog_of(window, QMessageBox).buttons() if b.text() == "Erase").click()
    window.settle()
    assert library.count() == 1
    assert window.review.doc.record is None
    press(qtbot, window, Key.Key_F3)
    assert window.review.doc.record.id == 2  # type: ignore[attr-defined]
    press(qtbot, window, Key.Key_K)
    assert library.record(2).notes.decisions or window.review.doc.finding is None


@slow
def test_erasing_from_another_place_while_it_is_shown_leads_to_the_queue(window):
    window.open_set(1)
    window.program.set_changes.erase(1, "Cleo Marsh")
    window.settle()
    assert window.place == "queue"
    assert not window.can("queue.mark")


# One history


@slow
def test_steps_of_all_places_are_taken_back_in_order_and_where_they_were_made(
    qtbot, window, library
):
    window.open_set(1)
    press(qtbot, window, Key.Key_K)
    kept = window.review.doc.finding.key
    press(qtbot, window, Key.Key_F4)
    window.standards.show(window.standards.doc.choosing("rope-pushdown"))
    window.standards.set_value("dose.rest_s", 75, "Rest 75")
    window.settle()
    window.open_set(2)
    press(qtbot, window, Key.Key_U)
    press(qtbot, window, Key.Key_Escape)
    window.sets.choose(2)
    window.program.set_changes.erase(2, "Finn Adair")
    window.settle()
    assert window.undo_words == "Erase Finn Adair's set"
    window.undo()
    assert window.place == "queue"
    assert library.count() == 2
    window.undo()
    assert (window.place, window.review.doc.record.id) == ("review", 2)
    assert not library.record(2).notes.pain
    window.undo()
    assert (window.place, window.standards.doc.chosen) == ("standards", "rope-pushdown")
    assert not window.standards.doc.is_own
    window.undo()
    assert (window.place, window.review.doc.record.id) == ("review", 1)
    assert library.record(1).notes.decisions == {}
    assert window.undo_words is None
    for _ in range(4):
        window.redo()
    assert library.count() == 1
    assert kept in library.record(1).notes.decisions
    assert window.redo_words is None


def test_a_step_that_can_not_be_taken_back_stays_and_is_said(qtbot, window, library):
    press(qtbot, window, Key.Key_F4)
    window.standards.show(window.standards.doc.choosing("rope-pushdown"))
    id = window.standards.copy_as_own("Tour pushdown")
    window.settle()
    library.change_set(2, standard=id)
    window.undo()
    assert "follows this standard" in window.said
    assert window.undo_words == "Copy as Tour pushdown"
    assert id in window.program.library.catalogue()


# Places and keys


def test_one_key_means_one_thing_in_each_place(window):
    registry = window.shell.registry
    doors = tuple(registry.doors.values())
    doing = {c.place: c.words for c in registry if "Ctrl+Return" in c.keys}
    assert doing == {
        "review": "Mark reviewed and go on",
        "marking": "Follow the marks",
        "plan": "Calendar entries…",
    }
    again = Action("x", "X", "File", ("K",), "x", list, bool, "review")
    with pytest.raises(ValueError, match="K is on"):
        Registry(doors, print, (again,))
    with pytest.raises(ValueError, match="no place"):
        Registry(doors, print, (again._replace(place="nowhere", keys=()),))
    with pytest.raises(ValueError, match="one id"):
        Registry(doors, print, (again._replace(id="queue.open", keys=()),))


def test_a_door_does_not_open_for_what_leads_elsewhere(window):
    with pytest.raises(TypeError, match="does not lead to plan"):
        window.shell.registry.doors["plan"].enter(ToQueue())


def test_every_place_is_current_in_the_rail_and_has_its_keys(qtbot, window):
    for entry in ENTRIES:
        id = entry.start.place
        window.program.go(entry.start)
        window.settle()
        if window.place == id:  # marking goes back where there is no clip
            assert [k for k, b in window.shell.shown.buttons.items() if b.isChecked()] == [id]
            shown, every = (t.split("    ") for t in (window.shell.foot.hints.text(), entry.hints))
            assert shown == [*every[: len(shown) - 2], *every[-2:]]
            assert len(shown) >= min(len(every), 5)


def test_what_was_said_in_one_place_does_not_stay_at_the_foot_of_another(window):
    window.program.go(ToQueue())
    window.program.say("There is nothing to review yet: mark the joints first.")
    window.shell.shown.buttons["standards"].click()
    window.settle()
    assert window.place == "standards"
    assert window.shell.foot.said.text() == ""


TOY = """
from dataclasses import dataclass
from typing import ClassVar
from PyQt6.QtWidgets import QLabel
from guide_arc.app.contract.command import Command
from guide_arc.app.contract.place import HeaderParts, PlaceEntry


@dataclass(frozen=True)
class ToBells:
    place: ClassVar[str] = "bells"
    times: int = 0


class Bells(QLabel):
    def __init__(self, program):
        super().__init__("no bell yet")
        self.program, self.rung = program, 0

    def enter(self, to):
        self.rung += to.times

    def leave(self):
        self.program.say("Quiet again.")

    def header(self):
        return HeaderParts(title="Bells", position=f"{self.rung} rung")


def ring(place):
    place.rung += 1
    place.setText("ding")


RING = Command("bells.ring", "Ring the bell", "Bells", ("B",), "Once", ring, lambda p: p.rung < 2)
ENTRY = PlaceEntry(
    "Bells", "F11", "B ring", ToBells(), Bells, Bells.enter, (RING,), help="Bells to ring"
)
"""


@pytest.fixture
def bells(monkeypatch):
    module = ModuleType("toy_bells")
    monkeypatch.setitem(sys.modules, "toy_bells", module)
    exec(TOY, module.__dict__)
    return module.ENTRY


def test_a_new_place_is_one_package_and_one_line(qtbot, open_window, bells):
    assert len(TOY.strip().splitlines()) <= 45
    window = open_window((*ENTRIES, bells))
    button: QPushButton = window.shell.shown.buttons["bells"]
    assert button.text() == "Bells"
    assert not window.shell.acts.menus["Bells"].menuAction().isVisible()
    press(qtbot, window, Key.Key_F11)
    assert window.place == "bells"
    assert button.isChecked()
    assert window.head("title") == "Bells"
    assert window.shell.acts.menus["Bells"].menuAction().isVisible()
    press(qtbot, window, Key.Key_B)
    assert window.of("bells").text() == "ding"
    assert window.head("position") == "1 rung"
    press(qtbot, window, Key.Key_B)
    assert not window.can("bells.ring")
    window.do("help.keys")
    words = {label.text() for label in window.shell.findChildren(QLabel)}
    assert {"In Bells", "Ring the bell"} <= words
    dialog_of(window, KeysPage).reject()
    press(qtbot, window, Key.Key_Escape)
    assert window.place == "queue"
    assert window.said == "Quiet again."
