"""What the database says of its disk, as what is wrong and what to do."""

from __future__ import annotations

from pathlib import Path
from sqlite3 import OperationalError as FromDriver

import pytest
from sqlalchemy.exc import OperationalError

from guide_arc.library.database import in_words
from guide_arc.library.errors import LostLibrary
from guide_arc.library.store import Library


@pytest.mark.parametrize(
    ("said", "told"),
    [
        ("database or disk is full", "make room"),
        ("attempt to write a readonly database", "allow writing"),
        ("database is locked", "try again in a moment"),
        ("unable to open database file", "see that its disk is there"),
        ("disk I/O error", "see that its disk is there"),
        ("database disk image is malformed", "brings a backup back"),
    ],
)
def test_each_says_what_to_do(said: str, told: str):
    error = in_words(OperationalError("", {}, FromDriver(said)), Path("/home/marit/library"))
    assert told in str(error)
    assert "/home/marit/library" in str(error)
    assert isinstance(error, LostLibrary) == ("malformed" in said)


def test_a_library_that_can_not_be_written_is_read_and_says_so(library: Library, add_set):
    set_id = add_set(reps=1)
    with library.writing() as session:
        session.connection().exec_driver_sql("pragma query_only = on")
    with pytest.raises(Exception, match="read-only"):
        library.keep_setting("coach", "Marit Engel")
    assert library.record(set_id).id == set_id
