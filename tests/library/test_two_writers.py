"""Several windows and commands write into one library: each waits for the others, and nothing is
lost."""

from __future__ import annotations

import sqlite3
import threading
from dataclasses import replace
from pathlib import Path

import pytest

from builders import slow
from guide_arc.library import database
from guide_arc.library.clients import Clients
from guide_arc.library.errors import BadLibrary
from guide_arc.library.store import Library

WRITERS, WRITES = 4, 40


@pytest.fixture
def four_sets(library: Library, add_set) -> list[int]:
    return [add_set("Ada Quill", reps=1, seed=seed) for seed in range(WRITERS)]


@slow
def test_no_write_of_several_at_once_is_refused_or_lost(library: Library, four_sets: list[int]):
    errors: list[Exception] = []
    begun = threading.Barrier(WRITERS)

    def writer(set_id: int) -> None:
        own = Library.open(library.folder)
        try:
            begun.wait()
            for i in range(WRITES):
                notes = own.record(set_id).notes  # reads, then writes
                own.keep_notes(set_id, replace(notes, note=f"{notes.note}{i} "))
                Clients(own).keep_thing("count", {"i": i}, name=str(set_id))
        except Exception as error:
            errors.append(error)
        finally:
            own.close()

    threads = [threading.Thread(target=writer, args=(set_id,)) for set_id in four_sets]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert errors == []
    for set_id in four_sets:
        assert library.record(set_id).notes.note == "".join(f"{i} " for i in range(WRITES))
    assert len(Clients(library).kept("count")) == WRITERS


def test_one_who_reads_is_not_held_up_by_one_who_writes(library: Library, four_sets: list[int]):
    with library.writing() as session:
        session.connection()
        other = Library.open(library.folder)
        assert other.record(four_sets[0]).client == "Ada Quill"
        other.close()


def test_a_lock_that_is_held_on_and_on_is_said_in_words(
    library: Library, four_sets: list[int], monkeypatch: pytest.MonkeyPatch
):
    monkeypatch.setattr(database, "_WAITS_MS", 50)
    waits = Library.open(library.folder)
    holder = sqlite3.connect(Path(library.folder) / "library.sqlite", isolation_level=None)
    holder.execute("BEGIN IMMEDIATE")
    with pytest.raises(BadLibrary, match="being written by another window"):
        waits.keep_setting("coach", "Marit Engel")
    holder.execute("ROLLBACK")
    waits.keep_setting("coach", "Marit Engel")
    assert waits.setting("coach") == "Marit Engel"
    holder.close()
    waits.close()


def test_what_belongs_together_is_read_of_one_moment(library: Library, four_sets: list[int]):
    other = Library.open(library.folder)
    with library.at_one_moment():
        before = library.record(four_sets[0])
        other.change_set(four_sets[0], load_kg=99.0)
        other.change_set(four_sets[1], load_kg=77.0)
        assert library.record(four_sets[0]) == before
        assert (
            library.record(four_sets[1]).load_kg != 77.0
        )  # not read before, and yet of the same moment
        with pytest.raises(AssertionError):
            library.keep_setting("coach", "Marit")
    assert library.record(four_sets[0]).load_kg == 99.0
    library.keep_setting("coach", "Marit")
    other.close()
