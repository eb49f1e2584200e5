"""Copies of the library, and what to do if it is lost; off the window's thread. Each is a
job's work."""

from __future__ import annotations

from datetime import date
from pathlib import Path

from guide_arc.app.contract.job import Progress
from guide_arc.library import backups
from guide_arc.library.checking import replaced_library
from guide_arc.library.listing_anew import list_recordings_again as list_recordings
from guide_arc.library.store import Library


def daily_copy(library: Library, progress: Progress) -> Path | None:
    """The day's copy, unless there is one. A server's copies are its keeper's."""
    progress(0.0)
    if library.on_server or library.read_only:
        return None
    return backups.daily(library.folder, date.today())


def bring_back(progress: Progress, folder: Path, backup: Path) -> tuple[str, frozenset[int]]:
    """Put a copy in the library's place, in its newest form; what to say of it, and the sets that
    are in it."""
    progress(0.0)
    what = next((b.what for b in backups.backups(folder) if b.path == backup), "")
    kept = backups.bring_back(folder, backup, date.today())
    library = Library.open(folder)
    try:
        ids = library.ids()
    finally:
        library.close()
    beside = f" What stood there is kept as {kept.name}." if kept else ""
    return f"Brought back: {what}.{beside}", ids


def list_recordings_again(progress: Progress, folder: Path) -> int:
    """A new file for the recordings in a folder; how many sets it lists."""
    library = replaced_library(folder)
    try:
        return len(list_recordings(library, progress).sets)
    finally:
        library.close()


def make_new(_progress: Progress, folder: Path) -> None:
    """An empty library."""
    Library.open(folder).close()
