"""Two windows on one library; a library that is lost while a window is open; copies brought back
from the menu."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from pathlib import Path

import pytest
from PyQt6.QtCore import QSettings, Qt
from PyQt6.QtWidgets import QFileDialog

from builders import slow
from guide_arc.app.places.review.document import pain_noted
from guide_arc.app.services.destinations import ToSetup
from guide_arc.app.shell.lost_library import LostLibraryBox
from guide_arc.app.shell.restore_dialog import RestoreDialog
from guide_arc.core.mechanics.band_table import MeasuredBand
from guide_arc.core.mechanics.room import HungChain
from guide_arc.core.model.client import Client
from guide_arc.library.backups import backups, daily
from guide_arc.library.clients import Clients
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.store import Library
from hands import Hands, dialog_of, press, take_apart

Key = Qt.Key


@pytest.fixture
def two(library: Library, add_set, open_window):
    """Two windows that show the same set."""
    set_id = add_set("Cleo Marsh", reps=3, faults={"torso-swing": 16.0})
    windows = (open_window(), open_window())
    for window in windows:
        window.open_set(set_id)
    return set_id, *windows


@slow
def test_what_each_of_two_windows_says_of_a_set_is_kept(qtbot, library: Library, two):
    set_id, one, other = two
    one.review.note(pain_noted(one.review.doc, True))
    one.settle()
    other.review.write_note("steady")
    other.settle()
    kept = library.record(set_id).notes
    assert kept.pain
    assert kept.note == "steady"
    assert other.review.doc.notes == kept  # and the second window shows what the first one said


def test_two_notes_are_both_shown_and_taking_one_back_leaves_the_rest(library: Library, two):
    set_id, one, other = two
    one.review.write_note("left arm late")
    one.settle()
    finding = other.review.doc.findings[0]
    other.review.decide(finding, "keep")
    other.review.write_note("right arm late")
    other.settle()
    note = library.record(set_id).notes.note
    assert "left arm late" in note
    assert "right arm late" in note
    assert other.review.doc.notes.note == note
    assert "Another window" in other.said
    one.undo()
    assert library.record(set_id).notes.decisions[finding.key].choice == "keep"


@pytest.fixture
def two_setups(library: Library, open_window):
    """Two windows that show the same client's setup of the same exercise."""
    Clients(library).keep(Client("Esme Rook", 1.66))
    windows = (open_window(), open_window())
    for window in windows:
        window.do("go.setup")
        window.of("setup").model.ask_for(ToSetup("standing-cable-curl", "Esme Rook"))
        window.settle()
    return windows


def keep_setup(window: Hands, name: str) -> None:
    window.of("setup").model.keep(name)
    window.settle()


@slow
def test_two_setups_of_one_name_are_both_kept_and_undo_brings_the_one_before_back(
    library: Library, two_setups
):
    one, other = two_setups

    def kept() -> dict[str, str]:
        found = Clients(library).kept("setup", "Esme Rook", "standing-cable-curl")
        return {name: document["words"] for _id, name, document in found}

    keep_setup(one, "usual")
    first = kept()["usual"]
    other.do("setup.up")
    keep_setup(other, "usual")
    assert "both are there, yours as usual 2" in other.said
    assert list(kept()) == ["usual", "usual 2"]
    assert kept()["usual"] == first != kept()["usual 2"]
    other.undo()
    assert kept() == {"usual": first}
    one.do("setup.up")
    one.do("setup.up")
    keep_setup(one, "usual")  # in place of its own
    assert f"It was: {first}" in one.said
    assert kept()["usual"] != first
    one.undo()
    assert kept() == {"usual": first}


def test_what_another_window_kept_since_is_not_taken_back_with_ones_own(
    library: Library, two_setups
):
    one, other = two_setups
    keep_setup(one, "usual")
    other.of("setup").model.refresh()
    other.settle()
    other.do("setup.up")
    keep_setup(other, "usual")
    ((_id, _name, theirs),) = Clients(library).kept("setup", "Esme Rook", "standing-cable-curl")
    one.undo()
    assert "Another window changed the setup usual since" in one.said
    ((_id, _name, stands),) = Clients(library).kept("setup", "Esme Rook", "standing-cable-curl")
    assert stands == theirs


@slow
def test_two_measured_bands_of_one_name_are_both_kept(library: Library, two_setups):
    tables = (((0.0, 0.0), (0.5, 60.0)), ((0.0, 0.0), (0.5, 95.0)))
    for window, table in zip(two_setups, tables, strict=True):
        window.of("setup").asking.keep_band("green", MeasuredBand(1.0, table))
        window.settle()
    kept = {name: document["table"][-1][1] for _id, name, document in Clients(library).kept("band")}
    assert kept == {"green": 60.0, "green 2": 95.0}
    assert "Another window measured another green; both are there" in two_setups[1].said


@slow
def test_a_room_that_two_windows_change_keeps_what_both_did(library: Library, two_setups):
    models = [window.of("setup").model for window in two_setups]
    models[0].keep_room(replace(models[0].doc.training_room, bench_deg=(0.0, 30.0)))
    two_setups[0].settle()
    models[1].keep_room(replace(models[1].doc.training_room, chains=(HungChain("long", 8.0, 1.6),)))
    two_setups[1].settle()
    assert models[1].doc.training_room.bench_deg == (0.0, 30.0)
    assert models[1].doc.training_room.chains
    models[0].keep_room(replace(models[0].doc.training_room, bench_deg=(0.0, 45.0)))
    two_setups[0].settle()
    models[1].keep_room(replace(models[1].doc.training_room, bench_deg=(15.0,)))
    two_setups[1].settle()
    assert models[1].doc.training_room.bench_deg == (0.0, 45.0)
    assert "changed the bench's angles too: 0.0, 45.0 stays, yours was 15.0" in two_setups[1].said


@slow
def test_undo_leaves_a_standard_that_was_changed_elsewhere_since(library: Library, open_window):
    one, other = open_window(), open_window()
    for window in (one, other):
        window.do("go.standards")
        window.settle()
        window.of("standards").model.show(
            window.of("standards").model.doc.choosing("standing-barbell-curl")
        )
    models = [window.of("standards").model for window in (one, other)]
    assert models[0].set_value("tempo.lower_s", 4.5, "The tempo")
    assert models[1].rename("Curl of ours")
    own = OwnStandards(library)
    both = own.texts()["standing-barbell-curl"]
    assert "4.5" in both
    assert "Curl of ours" in both
    one.undo()
    assert own.texts()["standing-barbell-curl"] == both
    assert "changed elsewhere since" in one.said
    other.undo()
    assert "Curl of ours" not in own.texts()["standing-barbell-curl"]


@slow
def test_closing_a_second_window_leaves_the_first_its_undo(library: Library, two):
    set_id, one, other = two
    one.program.set_changes.erase(set_id, "Cleo Marsh")
    one.settle()
    take_apart_now(other)
    one.undo()
    assert library.track(set_id).frames


def take_apart_now(window: Hands) -> None:
    window.close()


def test_a_library_that_was_moved_is_said_and_what_was_typed_is_saved_elsewhere(
    qtbot, library: Library, add_set, window: Hands, tmp_path: Path, monkeypatch
):
    set_id = add_set("Cleo Marsh", reps=2)
    window.open_set(set_id)
    window.program.keeper.try_again_s = 0.02
    library.folder.rename(tmp_path / "moved")
    press(qtbot, window, Key.Key_T)
    qtbot.keyClicks(window.review_place.note, "elbows later")
    qtbot.waitUntil(window.shell.foot.not_kept.isVisible, timeout=3000)
    assert (
        "not in" in window.shell.foot.not_kept.toolTip()
        or "not in" in window.shell.foot.not_kept.text()
    )
    assert window.review_place.note.text() == "elbows later"
    assert not library.folder.exists()
    target = tmp_path / "elsewhere.txt"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    window.shell.foot.not_kept.button.click()
    assert "elbows later" in target.read_text()
    assert not library.folder.exists()
    (tmp_path / "moved").rename(library.folder)
    qtbot.waitUntil(lambda: not window.shell.foot.not_kept.isVisible(), timeout=3000)
    assert library.record(set_id).notes.note == "elbows later"


@slow
def test_a_backup_is_brought_back_from_the_menu(library: Library, add_set, window: Hands):
    first = add_set("Cleo Marsh", reps=2)
    daily(library.folder, date(2031, 5, 1))
    second = add_set("Ada Quill", reps=2, seed=9)
    window.sets.refresh()
    window.settle()
    window.open_set(second)
    window.review.write_note("before")
    window.settle()
    window.shell.actions_by_id["file.restore"].trigger()
    dialog = dialog_of(window, RestoreDialog)
    texts = [dialog.list.item(i).text() for i in range(dialog.list.count())]
    chosen = next(i for i, t in enumerate(texts) if "1 set of 1 client" in t)
    dialog.list.setCurrentRow(chosen)
    dialog.try_accept()
    window.settle()
    assert [row.id for row in window.sets.doc.rows] == [first]
    assert window.place == "queue"
    assert "Brought back" in window.said
    assert window.undo_words is None
    assert any(b.path.name.startswith("before-") for b in backups(library.folder))


def test_the_day_s_first_window_makes_a_copy(library: Library, add_set, window: Hands):
    window.settle()
    assert [p.name for p in (library.folder / "backups").iterdir()] == [
        f"library-{date.today().isoformat()}.sqlite"
    ]


@pytest.fixture
def lost(qtbot, library: Library, add_set, settings: QSettings):
    """A window on a library whose file was emptied, with a copy beside it; closed in the end."""
    add_set("Cleo Marsh", reps=2, load_kg=30.0)
    daily(library.folder, date(2031, 5, 1))
    library.close()
    for file in library.folder.glob("library.sqlite*"):
        file.write_bytes(b"")
    opened: list[Hands] = []

    def open_() -> Hands:
        window = Hands(library.folder, settings)
        opened.append(window)
        return window

    yield open_
    for window in opened:
        take_apart(window)


def test_a_lost_file_is_offered_its_backup(lost):
    window = lost()
    box = dialog_of(window, LostLibraryBox)
    assert "is empty" in box.text()
    box.ways["restore"].click()
    dialog_of(window, RestoreDialog).try_accept()
    window.shell.questions.could_not_be_opened = False
    window.settle()
    assert [row.client for row in window.sets.doc.rows] == ["Cleo Marsh"]
    assert window.program.library.ready


def test_a_lost_file_s_recordings_are_listed_anew(lost):
    window = lost()
    dialog_of(window, LostLibraryBox).ways["list"].click()
    window.shell.questions.could_not_be_opened = False
    window.settle()
    assert [row.load_kg for row in window.sets.doc.rows] == [30.0]


def test_a_folder_that_is_gone_is_not_made_again_unasked(
    qtbot, library: Library, add_set, open_window, tmp_path: Path, settings: QSettings
):
    open_window().close()
    library.close()
    library.folder.rename(tmp_path / "moved")
    window = Hands(library.folder, settings)
    box = dialog_of(window, LostLibraryBox)
    assert not library.folder.exists()
    (tmp_path / "moved").rename(library.folder)
    box.ways["again"].click()
    window.settle()
    assert window.program.library.ready
    take_apart(window)
