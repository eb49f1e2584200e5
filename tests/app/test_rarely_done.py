"""What a coach does once a year, by the real window: every job runs at least once in the tests."""

from __future__ import annotations

import shutil
import sqlite3
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QSettings

from builders import slow
from clips import SmallFilm
from guide_arc.app.places.marking.document import placed
from guide_arc.app.services.destinations import ToClients, ToMarking, ToStandards
from guide_arc.app.shell.lost_library import LostLibraryBox
from guide_arc.core.model.marks import Mark, Marks
from guide_arc.library import quarantine
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library
from guide_arc.reports.client_folder import write_client_folder
from hands import Hands, dialog_of, take_apart

CURL = "standing-barbell-curl"


def of_an_older_program(library: Library) -> None:
    with sqlite3.connect(library.folder / "library.sqlite") as db:
        db.execute("update review set trace = ''")
    db.close()


def test_sets_of_an_older_program_take_part_again(
    library: Library, add_set: Callable[..., int], window: Hands
):
    review_and_keep(library, add_set("Cleo Marsh", CURL, reps=4))
    of_an_older_program(library)
    window.program.go(ToClients("Cleo Marsh", CURL))
    window.settle()
    sheet = window.of("clients").model.doc.sheet
    assert sheet.untold == 1
    window.do("clients.measure")
    assert window.of("clients").model.doc.sheet.untold == 0
    assert not window.can("clients.measure")


def test_sets_are_reviewed_again_when_it_is_asked_for(
    library: Library, add_set: Callable[..., int], window: Hands
):
    set_id = add_set("Cleo Marsh", CURL, reps=4)
    review_and_keep(library, set_id)
    of_an_older_program(library)
    window.program.measuring.review_again((set_id,))
    window.settle()
    with sqlite3.connect(library.folder / "library.sqlite") as db:
        (trace,) = db.execute("select trace from review where set_id = ?", (set_id,)).fetchone()
    db.close()
    assert trace


def test_a_quarantined_set_is_reviewed_again(
    library: Library, add_set: Callable[..., int], window: Hands
):
    set_id = add_set("Cleo Marsh", CURL, reps=4)
    quarantine.quarantine_set(library, set_id, "It broke off.")
    window.program.intake.read_quarantine(
        lambda found: window.program.intake.try_again(tuple(found))
    )
    window.settle()
    assert quarantine.all_quarantined(library) == []
    assert library.record(set_id)


@slow
def test_a_whole_record_comes_in_as_it_was_exported(
    library: Library, add_set: Callable[..., int], window: Hands, tmp_path: Path
):
    add_set("Cleo Marsh", CURL, reps=4, load_kg=30.0)
    write_client_folder(library, "Cleo Marsh", tmp_path, lambda _share: None)
    window.program.set_changes.erase(1, "Cleo Marsh")
    window.settle()
    assert library.count() == 0
    window.program.intake.take_in([tmp_path / "Cleo Marsh"])
    window.settle()
    assert library.count() == 1
    (row,) = library.ids()
    assert library.record(row).client == "Cleo Marsh"
    assert library.record(row).load_kg == 30.0
    window.undo()
    assert library.count() == 0


@slow
def test_how_to_film_an_exercise_is_written_from_its_standard(window: Hands, tmp_path: Path):
    window.program.go(ToStandards("rope-pushdown"))
    window.settle()
    window.of("standards").files.write_filming(tmp_path / "how.pdf")
    window.settle()
    assert (tmp_path / "how.pdf").read_bytes().startswith(b"%PDF")
    assert "how.pdf" in window.said


def test_a_new_library_is_made_where_one_is_gone_for_good(
    library: Library, open_window: Callable[..., Hands], settings: QSettings
):
    open_window().close()
    library.close()
    shutil.rmtree(library.folder)
    window = Hands(library.folder, settings)
    dialog_of(window, LostLibraryBox).ways["new"].click()
    window.shell.questions.could_not_be_opened = False
    window.settle()
    assert window.program.library.ready
    assert window.sets.doc.rows == ()
    take_apart(window)


@slow
def test_a_mark_is_taken_back_after_another_clip_was_opened(
    library: Library,
    open_window: Callable[..., Hands],
    pushdown_film: SmallFilm,
    tmp_path: Path,
):
    clips = ClipSets(library)
    data = pushdown_film.clip.path.read_bytes()
    for i, client in enumerate(("Cleo Marsh", "Finn Adair")):
        details = ClipDetails(client, "rope-pushdown", "split-at-end", "left")
        # A free box at the end makes it another file with the same pictures.
        source = tmp_path / f"{i}.mp4"
        source.write_bytes(data + (8 + i).to_bytes(4, "big") + b"free" + bytes(i))
        clips.add(source, details)
    first, second = sorted(library.ids())
    window = open_window()
    window.program.go(ToMarking(set_id=first))
    window.settle()
    window.marking.change(placed(window.marking.doc, 300.0, 100.0))
    window.settle()
    assert clips.marks(first).points
    window.program.go(ToMarking(set_id=second))
    window.settle()
    assert window.marking.doc.record.id == second
    window.undo()
    assert clips.marks(first) == Marks(clips.marks(first).view)
    window.redo()
    ((mark,),) = clips.marks(first).points.values()
    assert mark == Mark(0, 300.0, 100.0)
