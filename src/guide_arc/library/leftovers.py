"""Files that a kill would leave without a set: named before they are written, looked after once it
is decided.

A track's file is there before a set names it, and is still there when a set has named another one.
In between its name is in the folder `coming`; whoever next opens the library alone finds it
there, and deletes what no set names.
"""

from __future__ import annotations

import contextlib
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Final

from guide_arc.formats.atomic import make_folder, write_atomic
from guide_arc.library.errors import BadLibrary, ReadOnly

_PLACE: Final = "coming"

Named = Callable[[str], bool]


class Leftovers:
    """named : whether a set of the library names a track's file, by its hash"""

    def __init__(self, folder: Path, named: Named) -> None:
        self._tracks, self._place, self._named = folder / "tracks", folder / _PLACE, named

    @contextmanager
    def watching(self, hashes: list[str]) -> Iterator[None]:
        """Within the block these tracks may come to be named or not; after it, those that are not
        are deleted."""
        make_folder(self._place)
        for key in hashes:
            write_atomic(self._place / key, b"", like_folder=True)
        try:
            yield
        except ReadOnly:
            # Refused before anything was written: nothing can be found later.
            self._settle_all(hashes)
            raise
        except BadLibrary:
            # A write that reports failure may still reach the disk: the next start checks.
            raise
        except BaseException:
            self._settle_all(hashes)
            raise
        self._settle_all(hashes)

    def _settle_all(self, hashes: list[str]) -> None:
        for key in hashes:
            self._settle(key)

    def sweep(self, older_than_s: float = 0.0) -> None:
        """Delete what a kill has left. older_than_s: where others may be writing, only what has
        been there for so long"""
        if not self._place.is_dir():
            return
        for marker in sorted(self._place.iterdir()):
            with contextlib.suppress(FileNotFoundError):
                if time.time() - marker.stat().st_mtime >= older_than_s:
                    self._settle(marker.name)

    def _settle(self, key: str) -> None:
        if not self._named(key):
            for file in self._tracks.glob(f"{key}.*"):
                file.unlink(missing_ok=True)
        (self._place / key).unlink(missing_ok=True)
