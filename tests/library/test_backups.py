"""A copy of the library's file holds all that was written, also what still lies in the log."""

from __future__ import annotations

import sqlite3
from pathlib import Path

import pytest

from guide_arc.library.backups import copy_of
from guide_arc.library.errors import BadLibrary
from guide_arc.library.store import Library


def clients_in(file: Path) -> list[str]:
    with sqlite3.connect(file) as db:
        names = [name for (name,) in db.execute("select name from client order by name")]
    db.close()
    return names


def test_what_lies_in_the_log_is_in_the_copy(library: Library, add_set, tmp_path: Path):
    add_set("Ada Quill", reps=2)
    # Never moved over into the file while this connection reads.
    reader = sqlite3.connect(library.folder / "library.sqlite")
    reader.execute("begin")
    reader.execute("select count(*) from client").fetchone()
    add_set("Cleo Marsh", reps=2, seed=9)
    assert (library.folder / "library.sqlite-wal").stat().st_size > 0
    copy_of(library.folder / "library.sqlite", tmp_path / "copy.sqlite")
    reader.close()
    assert clients_in(tmp_path / "copy.sqlite") == ["Ada Quill", "Cleo Marsh"]
    assert (tmp_path / "copy.sqlite").stat().st_mode & 0o777 == 0o600
    assert sorted(p.name for p in tmp_path.iterdir()) == ["copy.sqlite", "library"]


def test_a_copy_that_can_not_be_made_leaves_nothing(library: Library, tmp_path: Path):
    with pytest.raises(BadLibrary, match="nothing was changed"):
        copy_of(library.folder / "library.sqlite", tmp_path / "none" / "copy.sqlite")
    broken = tmp_path / "broken.sqlite"
    broken.write_bytes(b"SQLite format 3\0" + bytes(5000))
    with pytest.raises(BadLibrary, match="could not be made"):
        copy_of(broken, tmp_path / "copy.sqlite")
    assert not (tmp_path / "copy.sqlite").exists()
    assert not list(tmp_path.glob("*.part*"))
