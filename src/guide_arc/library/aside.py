"""Where the files of what was taken out wait, as long as the window that did it can still take it back.

Each window has a folder of its own there and holds a lock on it; what a kill leaves has no holder any more, and the
next one that opens the library deletes it.
"""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
import shutil
import uuid
from collections.abc import Mapping
from pathlib import Path
from typing import IO, Any, Final

from guide_arc.formats.atomic import make_folder, shared_by, write_atomic

_PLACE: Final = "erased"
_LIST: Final = "rows.json"


class Aside:
    """One window's folder for what it took out of a library."""

    def __init__(self, library: Path) -> None:
        self._place = library / _PLACE
        self._name = uuid.uuid4().hex
        self._held: IO[bytes] | None = None

    @property
    def folder(self) -> Path:
        return self._place / self._name

    def note(self, rows: Mapping[str, Any]) -> Path:
        """Remember what is taken out, before it is: copies of the library are to lose it as well. A folder for the
        files, one for each thing that is taken out."""
        if self._held is None:
            make_folder(self._place)
            held = (self._place / f"{self._name}.lock").open("ab")
            os.chmod(held.name, 0o600 | shared_by(self._place))
            fcntl.flock(held, fcntl.LOCK_EX)
            self._held = held
        own = self.folder / uuid.uuid4().hex
        make_folder(own)
        write_atomic(own / _LIST, json.dumps(rows).encode(), like_folder=True)
        return own

    def is_back(self, own: Path) -> None:
        """It is back where it belongs, and nothing of it is to be forgotten."""
        shutil.rmtree(own, ignore_errors=True)

    def let_go(self) -> None:
        """There is no way back from here; `forgotten` finds it."""
        if self._held is not None:
            self._held.close()
            self._held = None


def forgotten(library: Path) -> list[dict[str, Any]]:
    """Delete the files to which there is no way back any more, and give what was noted of them."""
    out: list[dict[str, Any]] = []
    place = library / _PLACE
    if not place.is_dir():
        return out
    for folder in sorted(p for p in place.iterdir() if p.is_dir()):
        lock = place / f"{folder.name}.lock"
        with contextlib.ExitStack() as stack:
            if lock.exists():
                try:
                    held = stack.enter_context(lock.open("rb"))
                    fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
                except OSError:
                    continue  # its window is open
            for noted in sorted(folder.glob(f"*/{_LIST}")):
                with contextlib.suppress(OSError, ValueError):
                    out.append(json.loads(noted.read_text(encoding="utf-8")))
            shutil.rmtree(folder, ignore_errors=True)
            lock.unlink(missing_ok=True)
    for lock in place.glob("*.lock"):
        if not (place / lock.stem).exists():
            with contextlib.suppress(OSError), lock.open("rb") as held:
                fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
                lock.unlink(missing_ok=True)
    with contextlib.suppress(OSError):
        place.rmdir()
    return out
