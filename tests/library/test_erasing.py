"""What was taken out comes back as long as its window is open; then nothing of it is left, in
copies neither."""

from __future__ import annotations

import sqlite3
from datetime import date
from pathlib import Path

from builders import filmed
from clips import numbered_clip
from guide_arc.core.model.client import Client
from guide_arc.library.backups import backups, daily
from guide_arc.library.changes import changes_text
from guide_arc.library.clients import Clients
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.listing_anew import unlisted
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.store import Library
from guide_arc.library.taking_out import (
    forget_own,
    forget_taken_out,
    remove_set,
    take_client_out,
    take_out,
)
from guide_arc.library.undoing import take_back
from guide_arc.standards.schools import Preference


def left_in(folder: Path, words: bytes) -> list[str]:
    return sorted(p.name for p in folder.rglob("*") if p.is_file() and words in p.read_bytes())


def test_a_second_window_does_not_sweep_what_the_first_can_still_undo(library: Library, add_set):
    set_id = add_set("Cleo Marsh", reps=1)
    before = library.track(set_id)
    removed = take_out(library, [set_id])
    second = Library.open(library.folder)
    forget_taken_out(second)
    forget_own(second)
    second.close()
    take_back(library, removed)
    assert library.track(set_id).frames == before.frames
    assert library.record(set_id).client == "Cleo Marsh"


def test_the_name_goes_with_the_last_set(library: Library, add_set):
    first, second = add_set("Cleo Marsh", reps=1), add_set("Cleo Marsh", reps=2)
    remove_set(library, first)
    assert library.clients() == ["Cleo Marsh"]
    remove_set(library, second)
    assert library.clients() == []
    library.close()
    assert left_in(library.folder, b"Cleo") == []


def test_a_client_of_whom_more_is_known_stays_without_sets(library: Library, add_set):
    set_id = add_set("Cleo Marsh", reps=1)
    Clients(library).keep(Client("Cleo Marsh", goals="strength"))
    remove_set(library, set_id)
    assert library.clients() == ["Cleo Marsh"]


def test_backups_lose_what_was_erased_and_nothing_else(library: Library, add_set):
    add_set("Ada Quill", reps=1)
    set_id = add_set("Cleo Marsh", reps=2)
    Clients(library).keep(Client("Cleo Marsh", goals="opera stage"))
    OwnStandards(library).keep_preferences((Preference("locked", client="Cleo Marsh"),))
    daily(library.folder, date(2031, 5, 1))
    track = library.record(set_id).track_hash
    take_client_out(library, "Cleo Marsh")
    forget_own(library)
    library.close()
    assert left_in(library.folder, b"Cleo") == []
    assert left_in(library.folder, b"opera stage") == []
    assert not list(library.folder.rglob(f"{track}*"))
    (copy,) = backups(library.folder)
    with sqlite3.connect(copy.path) as db:
        assert db.execute("select name from client").fetchall() == [("Ada Quill",)]
        assert db.execute("select count(*) from recorded_set").fetchone() == (1,)


def test_a_kill_between_noting_and_taking_out_erases_nothing(library: Library, add_set):
    set_id = add_set("Cleo Marsh", reps=1)
    daily(library.folder, date(2031, 5, 1))
    # Noted, and then killed: the set is still there at the next start.
    erased = take_out(library, [set_id])
    take_back(library, erased)
    library.aside.note(changes_text(erased))
    forget_own(library)
    assert library.track(set_id).frames
    (copy,) = backups(library.folder)
    assert copy.what.startswith("1 set of 1 client")


def test_what_a_killed_window_erased_goes_at_the_next_start(library: Library, add_set):
    set_id = add_set("Cleo Marsh", reps=1)
    key = library.record(set_id).track_hash
    take_out(library, [set_id])
    assert unlisted(library) == []
    library.aside.let_go()  # the lock of a process that is gone
    other = Library.open(library.folder)
    forget_taken_out(other)
    other.close()
    assert not list(library.folder.rglob(f"{key}*"))


def test_a_set_whose_landmarks_came_after_the_copy_leaves_the_copy_too(
    library: Library, add_set, tmp_path: Path
):
    kept = add_set("Ada Quill", reps=1)
    clip = numbered_clip(tmp_path / "a.mp4")
    sets = ClipSets(library)
    erased, _ = sets.add(clip, ClipDetails("Ada Quill", "rope-pushdown", "locked", "left"))
    copy = daily(library.folder, date(2031, 5, 1))
    assert copy is not None
    sets.keep_track(erased, filmed("rope-pushdown", reps=1, rate=10.0).track, "simulated")
    take_out(library, [erased])
    forget_own(library)
    with sqlite3.connect(copy) as db:
        assert db.execute("select id from recorded_set").fetchall() == [(kept,)]
    assert not list((library.folder / "clips").glob("*.mp4"))
    assert unlisted(library) == []
