"""A watched folder that replaces the service to which clients send their sets."""

from __future__ import annotations

import hashlib
import os
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
_ENDINGS: Final = frozenset(LOOKED_AT)


@dataclass(frozen=True)
class _Looked:
    size: int
    stamp_ns: int
    at_s: float


class DropFolder:
    """Tells which files have arrived whole. `look` is polled; it reads nothing but
    sizes.

    A file is given out once, until it changes. It is taken once that was said with `settle`: a file
    that was returned but neither stored nor quarantined (the program ended before) is returned
    again by the next `look`.

    taken : of `taken` of the one before, to be remembered
    """

    def __init__(self, folder: Path, taken: frozenset[str] = frozenset()) -> None:
        self.folder = folder
        self._taken = {key if "|" not in key else _hidden(key) for key in taken}
        self._given: dict[str, str] = {}
        self._seen: dict[str, _Looked] = {}
        # What was given out or taken, by its stamp: looked at again without a hash.
        self._settled: dict[str, tuple[int, int]] = {}

    @property
    def taken(self) -> frozenset[str]:
        """The files that were stored or quarantined, with their stamps at that time. Their names
        can't be read from it."""
        return frozenset(self._taken)

    def settle(self, paths: Iterable[Path]) -> bool:
        """These are stored or quarantined; whether any of them had been given out."""
        keys = [
            self._given[p.name] for p in paths if p.parent == self.folder and p.name in self._given
        ]
        self._taken.update(keys)
        return bool(keys)

    def give_again(self, paths: Iterable[Path]) -> None:
        """Report these files again at the next look: they could not be read this time."""
        for path in paths:
            if path.parent == self.folder:
                self._given.pop(path.name, None)
                self._settled.pop(path.name, None)

    @property
    def arriving(self) -> int:
        """How many files are still being written."""
        return len(self._seen)

    def look(self, now_s: float) -> list[Path]:
        """The files that are whole now and were not given out before.

        now_s : seconds of any clock that never goes back
        Raises OSError if the folder can't be read.
        """
        whole: list[Path] = []
        there: dict[str, _Looked] = {}
        with os.scandir(self.folder) as found:
            entries = {entry.name: entry for entry in found}
        for name in sorted(entries):
            if not _is_looked_at(name) or f"{name}.part" in entries:
                continue
            stamp = _stamp(entries[name])
            if stamp is None or self._settled.get(name) == stamp:
                continue
            size, stamp_ns = stamp
            key = _hidden(f"{name}|{size}|{stamp_ns}")
            if key in self._taken or self._given.get(name) == key:
                self._settled[name] = stamp
                continue
            before = self._seen.get(name)
            same = before is not None and (before.size, before.stamp_ns) == stamp
            looked = before if same and before else _Looked(size, stamp_ns, now_s)
            if same and now_s - looked.at_s >= QUIET_S:
                self._given[name] = key
                whole.append(self.folder / name)
            else:
                there[name] = looked
        self._seen = there
        self._given = {name: key for name, key in self._given.items() if name in entries}
        self._settled = {name: at for name, at in self._settled.items() if name in entries}
        return whole


def _is_looked_at(name: str) -> bool:
    ending = name[name.rfind(".") :].lower() if "." in name[1:] else ""
    return ending in _ENDINGS and not name.startswith(".")


def _stamp(entry: os.DirEntry[str]) -> tuple[int, int] | None:
    """Size and time of writing. None for an empty file, and for one that is gone.

    A path that cannot be resolved, such as a circular link, is returned with its own stamp, to be
    quarantined with a message: it must not stop the others."""
    try:
        found = entry.stat()
    except FileNotFoundError:
        return None
    except OSError:
        try:
            own = entry.stat(follow_symlinks=False)
        except OSError:
            return None
        return own.st_size, own.st_mtime_ns
    return (found.st_size, found.st_mtime_ns) if found.st_size else None


def _hidden(key: str) -> str:
    """A file's name often holds a client's: what is remembered of it does not."""
    return hashlib.sha256(key.encode("utf-8", "surrogateescape")).hexdigest()[:32]
