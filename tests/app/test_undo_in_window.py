"""Undo in the real window: what was erased comes back whole, to the right person, and is there
after closing."""

from __future__ import annotations

from datetime import date
from pathlib import Path

import pytest
from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QApplication, QMessageBox

from builders import filmed, slow
from guide_arc.app.services.destinations import ToQueue
from guide_arc.core.model.client import Client
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.checking import check
from guide_arc.library.clients import Clients
from guide_arc.library.store import Library
from guide_arc.library.taking_out import remove_set
from hands import Hands, dialog_of, take_apart
from undo_world import rows_in


def erase_client(window: Hands, name: str) -> None:
    window.do("go.clients")
    window.of("clients").model.choose(name)
    window.settle()
    window.shell.actions_by_id["clients.erase"].trigger()
    box = dialog_of(window, QMessageBox)
    next(b for b in box.buttons() if "Erase" in b.text()).click()
    window.settle()


@pytest.fixture
def two_of_ada(library: Library, add_set) -> list[int]:
    return [add_set("Ada Quill", reps=2, seed=n) for n in (1, 2)]


@slow
def test_a_reviewed_client_is_erased_and_back_and_there_after_closing(
    window: Hands, library: Library, two_of_ada: list[int], settings: QSettings
):
    window.program.evening.mark_reviewed(tuple(two_of_ada))
    window.settle()
    before = rows_in(library.folder)
    erase_client(window, "Ada Quill")
    assert "erased with 2 sets" in window.said
    assert library.ids() == frozenset()
    window.undo()
    assert rows_in(library.folder) == before
    assert window.place == "clients"
    assert window.of("clients").model.doc.chosen == "Ada Quill"
    window.undo()  # the one before it as well
    assert [library.record(i).notes.state for i in two_of_ada] == ["waiting", "waiting"]
    window.redo()
    window.redo()
    window.undo()
    window.close()
    QApplication.processEvents()
    assert rows_in(library.folder) == before
    assert all(library.track(i).frames for i in two_of_ada)
    assert check(library.folder).wrong == []
    again = Hands(library.folder, settings)
    again.open_set(two_of_ada[0])
    assert again.review.doc.record.client == "Ada Quill"
    take_apart(again)


def test_undo_never_gives_a_recording_to_somebody_else(window: Hands, library: Library, add_set):
    ada, benno = add_set("Ada Quill", reps=1), add_set("Benno Hartz", reps=2)
    tracks = {i: library.record(i).track_hash for i in (ada, benno)}
    opened = window.program.set_changes
    opened.erase(ada, "Ada Quill")
    window.settle()
    # Another program takes a set in meanwhile.
    data = csv_text(filmed("rope-pushdown", reps=1, seed=5).track).encode()
    other = Library.open(library.folder)
    new, _ = other.add_set(
        data, "a.csv", client="Finn Adair", standard="rope-pushdown", school="locked"
    )
    other.close()
    record = library.record(benno)
    fields = {
        "client": record.client,
        "standard": record.standard,
        "school": record.school,
        "tempo": record.tempo,
        "load_kg": record.load_kg,
    }
    opened.change(benno, fields, {**fields, "client": "Cleo Marsh"})
    window.settle()
    window.undo()
    window.undo()
    assert {i: (library.record(i).client, library.record(i).track_hash) for i in (ada, benno)} == {
        ada: ("Ada Quill", tracks[ada]),
        benno: ("Benno Hartz", tracks[benno]),
    }
    assert library.record(new).client == "Finn Adair"
    assert library.clients() == ["Ada Quill", "Benno Hartz", "Finn Adair"]


def test_a_step_about_an_erased_set_does_not_bar_the_way_to_those_before(
    window: Hands, library: Library, two_of_ada: list[int]
):
    first, second = two_of_ada
    window.program.follow_ups.add(
        "Ada Quill", "look at the elbow", date(2031, 4, 1), None, ToQueue()
    )
    window.settle()
    window.open_set(first)
    window.review.write_note("slept badly")
    window.settle()
    window.do("go.queue")
    elsewhere = Library.open(library.folder)
    remove_set(elsewhere, first)
    elsewhere.close()
    window.open_set(second)
    window.undo()
    assert "no longer in the library" in window.said
    assert window.undo_words == "Follow up on Ada Quill"
    window.undo()
    assert window.undo_words is None


@slow
def test_joined_clients_are_parted_with_their_own_words(window: Hands, library: Library, add_set):
    add_set("Cleo", reps=1)
    add_set("Cleo Marsh", reps=2)
    clients = Clients(library)
    clients.keep(Client("Cleo Marsh", goals="stage"))
    clients.keep_words("Cleo", "torso-swing", "Ribs down.")
    before = rows_in(library.folder)
    window.do("go.clients")
    model = window.of("clients").model
    model.choose("Cleo")
    window.settle()
    model.changes.join("Cleo", "Cleo Marsh")
    window.settle()
    assert library.clients() == ["Cleo Marsh"]
    window.undo()
    assert rows_in(library.folder) == before
    assert model.doc.chosen == "Cleo"


def test_closing_with_an_erased_set_leaves_other_recordings_of_the_same_file(
    window: Hands, library: Library, two_of_ada: list[int], tmp_path: Path
):
    data, _name = library.track_bytes(two_of_ada[0])
    twin, _ = library.add_set(
        data,
        "b.csv",
        client="Benno Hartz",
        standard="standing-barbell-curl",
        school="locked-upper-arm",
        again=True,
    )
    window.program.set_changes.erase(two_of_ada[0], "Ada Quill")
    window.settle()
    window.close()
    QApplication.processEvents()
    assert library.track(twin).frames
    assert check(library.folder).wrong == []


def test_a_step_that_is_stopped_is_whole_and_can_be_undone(
    window: Hands, library: Library, two_of_ada: list[int]
):
    """Stop on the work bar comes after the change was stored: the step is there all the same."""
    record = library.record(two_of_ada[0])
    before = rows_in(library.folder)
    fields = {
        "client": record.client,
        "standard": record.standard,
        "school": record.school,
        "tempo": record.tempo,
        "load_kg": record.load_kg,
    }
    window.program.set_changes.change(two_of_ada[0], fields, {**fields, "load_kg": 42.5})
    for running in window.program.jobs.shown:
        running.stop()
    window.settle()
    changed = library.record(two_of_ada[0]).load_kg == 42.5
    assert (window.undo_words == "Set details") is changed
    if changed:
        window.undo()
    assert rows_in(library.folder) == before
