"""Copies of a library's file that hold all that was written, whatever still lies in its log."""

from __future__ import annotations

import contextlib
import os
import sqlite3
from pathlib import Path

from guide_arc.library.errors import BadLibrary


def copy_of(library: Path, target: Path) -> None:
    """Copy a library's file through SQLite's own backup, look it over, and only then give it its name.

    Raises BadLibrary where the copy is not whole or can't be written; nothing is left of it then.
    """
    part = target.with_suffix(".part")
    part.unlink(missing_ok=True)
    try:
        os.close(os.open(part, os.O_CREAT | os.O_WRONLY, 0o600))
        with (
            contextlib.closing(sqlite3.connect(library)) as source,
            contextlib.closing(sqlite3.connect(part)) as copy,
        ):
            source.backup(copy)
            # One file by itself: a log of its own would be left behind by the rename.
            copy.execute("pragma journal_mode = delete")
            (said,) = copy.execute("pragma integrity_check").fetchone()
        if said != "ok":
            raise BadLibrary(
                f"a copy of the library could not be made ({said}); nothing was changed"
            )
        part.replace(target)
    except (OSError, sqlite3.Error) as error:
        raise BadLibrary(f"a copy of the library could not be made ({error}); nothing was changed") from None  # fmt: skip
    finally:
        for left in (part, *(Path(f"{part}{end}") for end in ("-wal", "-shm", "-journal"))):
            left.unlink(missing_ok=True)
