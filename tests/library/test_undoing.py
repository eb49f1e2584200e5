"""Undo of what changes several rows: whole or not at all, twice as once, under the same numbers,
beside others."""

from __future__ import annotations

import sqlite3
from datetime import date, datetime
from pathlib import Path

import pytest
from sqlalchemy import event

from builders import filmed
from guide_arc.formats.track_csv import csv_text
from guide_arc.library import evening
from guide_arc.library.backups import bring_back, daily
from guide_arc.library.checking import check
from guide_arc.library.errors import BadLibrary, Gone
from guide_arc.library.follow_ups import follow_ups, keep_follow_up
from guide_arc.library.records import Decision, SetNotes
from guide_arc.library.set_changes import change_set, join_views
from guide_arc.library.store import Library
from guide_arc.library.taking_out import forget_own, forget_taken_out, take_client_out, take_out
from guide_arc.library.undoing import do, finish_wanted, take_back
from undo_world import rows_in

EVENING = datetime(2031, 3, 1, 20)


def second_set_of(library: Library, set_id: int, client: str) -> int:
    """Another set of the same recording."""
    data, _name = library.track_bytes(set_id)
    record = library.record(set_id)
    return library.add_set(
        data, "again.csv", client=client, standard=record.standard, school=record.school, again=True
    )[0]


def recordings(folder: Path) -> set[str]:
    return {p.name for p in (folder / "tracks").iterdir()}


def test_an_erased_client_comes_back_with_what_was_reviewed_shared_and_joined(
    library: Library, add_set
):
    first, other = add_set("Cleo Marsh", reps=1), add_set("Cleo Marsh", reps=2)
    shared = second_set_of(library, first, "Cleo Marsh")
    library.join_views(first, other)  # the other view of a newer set
    with library.writing() as session:
        evening.mark_reviewed(session, [first, shared], EVENING)
    library.keep_notes(other, SetNotes({"torso-swing/both": Decision("drop")}, "Note"))
    before, files = rows_in(library.folder), recordings(library.folder)
    erased = take_client_out(library, "Cleo Marsh")
    assert library.clients() == []
    back = take_back(library, erased)
    assert rows_in(library.folder) == before
    # Once more changes nothing: every row is there already.
    assert take_back(library, erased).changes.set_ids() == frozenset()
    assert rows_in(library.folder) == before
    again = take_back(library, back.changes)
    assert library.clients() == []
    take_back(library, again.changes)
    forget_own(library)
    assert rows_in(library.folder) == before
    assert recordings(library.folder) == files
    assert library.track(first).frames


def test_the_main_of_two_views_comes_back_with_its_link(library: Library, add_set):
    main, view = add_set("Cleo Marsh", reps=1), add_set("Cleo Marsh", reps=2)
    library.join_views(view, main)
    erased = take_out(library, [main])
    assert library.shown_with(view) is None
    take_back(library, erased)
    assert library.shown_with(view) == main


def test_a_number_is_never_given_twice(library: Library, add_set):
    last = add_set("Ada Quill", reps=1)
    erased = take_out(library, [last])
    other = Library.open(library.folder)
    new = add_elsewhere(other, "Benno Hartz")
    other.close()
    assert new > last
    take_back(library, erased)
    assert library.record(last).client == "Ada Quill"
    assert library.record(new).client == "Benno Hartz"


def add_elsewhere(library: Library, client: str) -> int:
    data = csv_text(filmed("rope-pushdown", reps=1).track).encode()
    given = {"client": client, "standard": "rope-pushdown", "school": "locked"}
    return library.add_set(data, "cli.csv", **given)[0]  # type: ignore[arg-type]


def test_undo_of_a_corrected_client_gives_each_recording_to_its_own_person(
    library: Library, add_set
):
    ada, benno = add_set("Ada Quill", reps=1), add_set("Benno Hartz", reps=2)
    erased = take_out(library, [ada])  # her last set, so her name goes with it
    corrected = do(library, lambda s: change_set(s, benno, {"client": "Cleo Marsh"}))
    take_back(library, corrected.changes)
    assert library.clients() == ["Benno Hartz"]  # the new name goes again
    take_back(library, erased)
    assert library.record(ada).client == "Ada Quill"
    assert library.record(benno).client == "Benno Hartz"


def test_a_name_that_came_again_meanwhile_is_the_same_person(library: Library, add_set):
    ada = add_set("Ada Quill", reps=1)
    erased = take_out(library, [ada])
    again = add_elsewhere(library, "Ada Quill")
    take_back(library, erased)
    assert library.clients() == ["Ada Quill"]
    assert {library.record(i).client for i in (ada, again)} == {"Ada Quill"}


def test_a_restored_copy_gives_no_number_twice(library: Library, add_set):
    add_set("Ada Quill", reps=1)
    copy = daily(library.folder, date(2031, 5, 1))
    assert copy is not None
    later = add_set("Ada Quill", reps=2)
    library.close()
    bring_back(library.folder, copy, date(2031, 5, 2))
    with_copy = Library.open(library.folder)
    assert add_elsewhere(with_copy, "Benno Hartz") > later
    with_copy.close()


@pytest.fixture
def failing_undo(library: Library) -> list[bool]:
    """While the list holds something, what is written to the library fails as its last step."""
    failing: list[bool] = []
    engine = library._database._engine

    def refuse(_connection: object) -> None:
        if failing:
            raise sqlite3.OperationalError("database or disk is full")

    event.listen(engine, "commit", refuse)
    return failing


def test_an_undo_that_fails_changes_nothing_and_its_recordings_stay(
    library: Library, add_set, failing_undo: list[bool]
):
    set_id = add_set("Cleo Marsh", reps=1)
    before, files = rows_in(library.folder), recordings(library.folder)
    erased = take_out(library, [set_id])
    without = rows_in(library.folder)
    failing_undo.append(True)
    with pytest.raises((BadLibrary, sqlite3.OperationalError)):
        take_back(library, erased)
    failing_undo.clear()
    assert rows_in(library.folder) == without
    library.aside.let_go()
    forget_taken_out(library)  # the window closes: nothing is deleted that undo asked for
    assert recordings(library.folder) == files
    found = check(library.folder)
    assert any("undo" in sentence for sentence in found.wrong)
    # The next start finishes it.
    next_start = Library.open(library.folder)
    assert finish_wanted(next_start) == ["Cleo Marsh"]
    forget_own(next_start)
    assert rows_in(library.folder) == before
    assert next_start.track(set_id).frames
    next_start.close()
    assert check(library.folder).wrong == []


def test_check_mends_what_an_undo_did_not_get(library: Library, add_set):
    set_id = add_set("Cleo Marsh", reps=1)
    erased = take_out(library, [set_id])
    library.aside.want_back(erased.note)
    library.close()
    assert any("Cleo Marsh" in sentence for sentence in check(library.folder, mend=True).mended)
    again = Library.open(library.folder)
    assert again.record(set_id).client == "Cleo Marsh"
    again.close()


def test_what_another_window_can_still_bring_back_is_not_deleted(library: Library, add_set):
    """Two sets of one recording, erased in two windows: the first to close leaves the recording to
    the other."""
    first = add_set("Ada Quill", reps=1)
    second = second_set_of(library, first, "Ada Quill")
    other = Library.open(library.folder)
    take_out(other, [first])
    erased = take_out(library, [second])
    forget_own(other)
    other.close()
    take_back(library, erased)
    assert library.track(second).frames
    assert library.clients() == ["Ada Quill"]


def test_a_moved_set_takes_its_views_and_follow_ups_along_in_one_step(library: Library, add_set):
    main, view = add_set("Al Vane", reps=1), add_set("Al Vane", reps=2)
    library.join_views(view, main)
    keep_follow_up(library, "Al Vane", "look at the elbow", date(2031, 4, 1), main)
    moved = do(library, lambda s: change_set(s, view, {"client": "Alice Reed"}))
    assert {library.record(i).client for i in (main, view)} == {"Alice Reed"}
    assert [f.client for f in follow_ups(library)] == ["Alice Reed"]
    take_back(library, moved.changes)
    assert {library.record(i).client for i in (main, view)} == {"Al Vane"}
    assert [f.client for f in follow_ups(library)] == ["Al Vane"]
    assert library.clients() == ["Al Vane"]


def test_a_joining_of_two_views_of_a_set_that_is_gone_is_refused(library: Library, add_set):
    main = add_set("Ada Quill", reps=1)
    with pytest.raises(Gone, match="no longer in the library"), library.writing() as session:
        join_views(session, main, 999)


def test_a_copy_keeps_a_set_that_went_to_another_client_before_the_first_was_erased(
    library: Library, add_set
):
    set_id = add_set("Ada Quill", reps=1)
    copy = daily(library.folder, date(2031, 5, 1))
    assert copy is not None
    library.change_set(set_id, client="Cleo Marsh")
    take_client_out(library, "Ada Quill")
    forget_own(library)
    with sqlite3.connect(copy) as db:
        found = db.execute("select c.name from recorded_set s join client c on c.id = s.client_id")
        assert found.fetchall() == [("Cleo Marsh",)]
        assert b"Ada" not in copy.read_bytes()
