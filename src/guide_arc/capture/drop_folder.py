"""A watched folder that stands in for the service to which clients send their sets."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
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
    """Tells which files have arrived whole. `look` is asked now and then; it reads nothing but sizes.

    A file is given out once, until it changes. It is taken once that was said with `settle`: what was given out and then
    neither stored nor set aside (the program ended before) is given out again by the next one that looks.

    taken : of `taken` of the one before, to be remembered
    """

    def __init__(self, folder: Path, taken: frozenset[str] = frozenset()) -> None:
        self.folder = folder
        self._taken = {key if "|" not in key else _hidden(key) for key in taken}
        self._given: dict[str, str] = {}
        self._seen: dict[str, _Looked] = {}

    @property
    def taken(self) -> frozenset[str]:
        """The files that are stored or set aside, as they then were. Their names can't be read from it."""
        return frozenset(self._taken)

    def settle(self, paths: Iterable[Path]) -> bool:
        """These are stored or set aside; whether any of them had been given out."""
        keys = [
            self._given[p.name] for p in paths if p.parent == self.folder and p.name in self._given
        ]
        self._taken.update(keys)
        return bool(keys)

    def give_again(self, paths: Iterable[Path]) -> None:
        """These could not be had just now: they are given out once more."""
        for path in paths:
            if path.parent == self.folder:
                self._given.pop(path.name, None)

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
        everything = sorted(self.folder.iterdir())
        for path in everything:
            if path.suffix.lower() not in LOOKED_AT or path.name.startswith("."):
                continue
            if path.with_name(path.name + ".part").exists() or path.suffix in _UNFINISHED:
                continue
            try:
                found = path.stat()
            except FileNotFoundError:
                continue
            key = _hidden(f"{path.name}|{found.st_size}|{found.st_mtime_ns}")
            if key in self._taken or self._given.get(path.name) == key or not found.st_size:
                continue
            before = self._seen.get(path.name)
            same = before is not None and (before.size, before.stamp_ns) == (
                found.st_size,
                found.st_mtime_ns,
            )
            looked = before if same and before else _Looked(found.st_size, found.st_mtime_ns, now_s)
            if same and now_s - looked.at_s >= QUIET_S:
                self._given[path.name] = key
                whole.append(path)
            else:
                there[path.name] = looked
        self._seen = there
        names = {path.name for path in everything}
        self._given = {name: key for name, key in self._given.items() if name in names}
        return whole


def _hidden(key: str) -> str:
    """A file's name often holds a client's: what is remembered of it does not."""
    return hashlib.sha256(key.encode("utf-8", "surrogateescape")).hexdigest()[:32]
