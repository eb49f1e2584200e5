"""A watched folder that stands in for the service to which clients send their sets."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Final

from guide_arc.capture.video.clip import OTHER_SUFFIXES, SUFFIXES
from guide_arc.formats.registry import suffixes

# What such a folder is searched for: tracks of every form, whole sets, clips.
TAKEN: Final = (*suffixes(), ".zip", *SUFFIXES)
# And what is looked at besides, to say what to do with it.
LOOKED_AT: Final = (*TAKEN, *OTHER_SUFFIXES)
# A file that was not written to for this long, and is as large as at the last look, is whole.
QUIET_S: Final = 2.0
_UNFINISHED: Final = (".part", ".tmp", ".crdownload", ".partial")


@dataclass(frozen=True)
class _Looked:
    size: int
    stamp_ns: int
    at_s: float


class DropFolder:
    """Tells which files have arrived whole. `look` is asked now and then; it reads nothing but sizes."""

    def __init__(self, folder: Path, taken: frozenset[str] = frozenset()) -> None:
        self.folder = folder
        self._taken = set(taken)
        self._seen: dict[str, _Looked] = {}

    @property
    def taken(self) -> frozenset[str]:
        """The files that were given out, as they then were, to be remembered."""
        return frozenset(self._taken)

    @property
    def arriving(self) -> int:
        """How many files are still being written."""
        return len(self._seen)

    def look(self, now_s: float) -> list[Path]:
        """The files that are whole now and were not given out before.

        now_s : seconds of any clock that never goes back
        Raises OSError where the folder can't be read.
        """
        whole: list[Path] = []
        there: dict[str, _Looked] = {}
        for path in sorted(self.folder.iterdir()):
            if path.suffix.lower() not in LOOKED_AT or path.name.startswith("."):
                continue
            if path.with_name(path.name + ".part").exists() or path.suffix in _UNFINISHED:
                continue
            try:
                found = path.stat()
            except FileNotFoundError:
                continue
            key = f"{path.name}|{found.st_size}|{found.st_mtime_ns}"
            if key in self._taken or not found.st_size:
                continue
            before = self._seen.get(path.name)
            same = before is not None and (before.size, before.stamp_ns) == (
                found.st_size,
                found.st_mtime_ns,
            )
            looked = before if same and before else _Looked(found.st_size, found.st_mtime_ns, now_s)
            if same and now_s - looked.at_s >= QUIET_S:
                self._taken.add(key)
                whole.append(path)
            else:
                there[path.name] = looked
        self._seen = there
        return whole
