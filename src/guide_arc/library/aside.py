"""What was erased, as long as the window that did it can still bring it back.

The recordings stay where they are. For each step that erased something there is a note, a folder
with a list of the erased rows (`erased.py` reads it). Each window has a folder for its notes and
holds a lock on it. After the window has closed, or was killed, nobody holds the lock: the next one
to open the library deletes the recordings for good, unless an undo asked for them and failed.
"""

from __future__ import annotations

import contextlib
import fcntl
import os
import shutil
import uuid
from pathlib import Path
from typing import IO, Final

from guide_arc.formats.atomic import make_folder, shared_by, write_atomic

PLACE: Final = "erased"
ERASED: Final = "rows.json"
# The name of the same list once an undo asked for it: it is not deleted then.
WANTED: Final = "wanted.json"


class Aside:
    """One window's notes of what it erased from a library."""

    def __init__(self, library: Path) -> None:
        self._place = library / PLACE
        self._name = uuid.uuid4().hex
        self._held: IO[bytes] | None = None

    @property
    def folder(self) -> Path:
        return self._place / self._name

    def note(self, erased: str) -> str:
        """Write down what is being erased, before that counts: copies of the library lose it too.
        Returns the folder.

        erased: the changes as text, see `changes_text`
        """
        if self._held is None:
            self._held = self._locked()
        own = self.folder / uuid.uuid4().hex
        make_folder(own)
        write_atomic(own / ERASED, erased.encode(), like_folder=True)
        return str(own)

    def _locked(self) -> IO[bytes]:
        """Hold this window's lock. Another program may sweep the file before it is locked: then
        make it again."""
        make_folder(self._place)
        file = self._place / f"{self._name}.lock"
        while True:
            held = file.open("ab")
            os.chmod(file, 0o600 | shared_by(self._place))
            fcntl.flock(held, fcntl.LOCK_EX)
            with contextlib.suppress(FileNotFoundError):
                if file.stat().st_ino == os.fstat(held.fileno()).st_ino:
                    return held
            held.close()

    def want_back(self, note: str) -> None:
        """An undo asks for what was erased: from now on it is not deleted. Renaming needs no room
        on a full disk."""
        with contextlib.suppress(FileNotFoundError):
            (Path(note) / ERASED).rename(Path(note) / WANTED)

    def is_back(self, note: str) -> None:
        """Everything is back in the library, so nothing of it is to be deleted."""
        shutil.rmtree(note, ignore_errors=True)

    def let_go(self) -> None:
        """This window can't undo anything any more."""
        if self._held is not None:
            self._held.close()
            self._held = None
