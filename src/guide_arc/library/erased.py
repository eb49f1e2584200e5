"""The notes of what was erased: which recordings undo can still ask for, and what can be deleted
for good."""

from __future__ import annotations

import contextlib
import fcntl
import json
import shutil
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from guide_arc.library.aside import ERASED, PLACE, WANTED
from guide_arc.library.changes import Changes, RowChange, Values, changes_from


@dataclass(frozen=True)
class Note:
    """What one step erased. folder: the file"""

    folder: Path
    changes: Changes

    @property
    def sets(self) -> list[Values]:
        """The rows of the erased sets."""
        return self.changes.erased()

    @property
    def clients(self) -> list[tuple[int, str]]:
        """The clients to whom they belonged: (number, name)."""
        return [
            (int(str(row.before["id"])), str(row.before["name"]))
            for row in self.changes.rows
            if row.table == "client" and row.before is not None
        ]

    @property
    def owners(self) -> dict[int, str]:
        """By the number of each erased set the name of its client."""
        names = dict(self.clients)
        return {
            int(str(row["id"])): names.get(int(str(row["client_id"])), "")
            for row in self.sets
            if row.get("client_id") is not None
        }

    @property
    def recordings(self) -> set[tuple[str, str]]:
        """The files that the sets named: (folder within the library, hash)."""
        return {
            (place, str(row[column]))
            for row in self.sets
            for place, column in (("tracks", "track_hash"), ("clips", "clip_hash"))
            if row[column]
        }


def wanted(library: Path) -> list[Note]:
    """What an undo asked for and did not get, in windows that are closed."""
    closed = [folder for folder in _folders(library / PLACE) if _is_closed(folder)]
    return [note for folder in closed for note in _notes(folder, WANTED)]


def held_recordings(library: Path) -> set[tuple[str, str]]:
    """The recordings that some step's undo, of any window, can still ask for: (folder, hash)."""
    return {recording for note in _all_notes(library) for recording in note.recordings}


def _all_notes(library: Path) -> list[Note]:
    return [
        note
        for folder in _folders(library / PLACE)
        for name in (ERASED, WANTED)
        for note in _notes(folder, name)
    ]


@contextlib.contextmanager
def out_of_reach(library: Path) -> Iterator[tuple[list[Note], list[Note]]]:
    """The notes of what no undo can bring back any more, and those of what one still can.

    The notes are deleted at the end of the block. If the block raises, they stay for the next time.
    """
    place = library / PLACE
    with contextlib.ExitStack() as stack:
        closed = [f for f in _folders(place) if stack.enter_context(_closed(f))]
        notes = [note for folder in closed for note in _notes(folder, ERASED)]
        of_closed = {note.folder for note in notes}
        held = [note for note in _all_notes(library) if note.folder not in of_closed]
        yield notes, held
        for folder in closed:
            _sweep(folder)
    for lock in place.glob("*.lock"):
        if not (place / lock.stem).exists():
            with contextlib.suppress(OSError), lock.open("rb") as free:
                fcntl.flock(free, fcntl.LOCK_EX | fcntl.LOCK_NB)
                lock.unlink(missing_ok=True)
    with contextlib.suppress(OSError):
        place.rmdir()


def _sweep(folder: Path) -> None:
    """Delete a closed window's notes; what an undo asked for stays."""
    for own in list(folder.iterdir()):
        if not (own / WANTED).exists():
            shutil.rmtree(own, ignore_errors=True)
    with contextlib.suppress(OSError):
        folder.rmdir()
        _lock_of(folder).unlink(missing_ok=True)


@contextlib.contextmanager
def _closed(folder: Path) -> Iterator[bool]:
    """Whether a folder's window is closed, held so that it stays so within the block."""
    lock = _lock_of(folder)
    if not lock.exists():
        yield True
        return
    with lock.open("rb") as held:
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            yield False
        else:
            yield True


def _is_closed(folder: Path) -> bool:
    with _closed(folder) as closed:
        return closed


def _lock_of(folder: Path) -> Path:
    return folder.with_name(f"{folder.name}.lock")


def _folders(place: Path) -> list[Path]:
    return sorted(p for p in place.iterdir() if p.is_dir()) if place.is_dir() else []


def _notes(folder: Path, name: str) -> list[Note]:
    out = []
    for file in sorted(folder.glob(f"*/{name}")):
        with contextlib.suppress(OSError, ValueError):
            text = file.read_text(encoding="utf-8")
            out.append(Note(file.parent, _older_form(text) or changes_from(text)))
    return out


def _older_form(text: str) -> Changes | None:
    """A list as programs before form 0008 wrote it: {"sets": [[id, track, clip]], "clients":
    [name]}."""
    found = json.loads(text)
    if not isinstance(found, dict):
        return None
    rows = [
        RowChange("recorded_set", {"id": id, "track_hash": track, "clip_hash": clip}, None)
        for id, track, clip in found.get("sets", [])
    ]
    # Numbers of clients were not written down; no client has the number 0.
    rows += [
        RowChange("client", {"id": 0, "name": name}, None) for name in found.get("clients", [])
    ]
    return Changes(tuple(rows))
