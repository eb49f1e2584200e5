"""Names of files made from names of people: no path, nothing hidden, and short enough for every
file system."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import count
from typing import Final

from guide_arc.core.model.plain_text import visible

# File systems take 255 bytes; this leaves room for what is put before and behind.
_MOST_BYTES: Final = 120
# Names that some systems keep for devices.
_KEPT: Final = frozenset(
    ("con", "prn", "aux", "nul", *(f"{d}{n}" for d in ("com", "lpt") for n in range(1, 10)))
)


def file_name_part(name: str, instead: str = "client") -> str:
    """A name as a part of a file's name. instead: the replacement for a name of which nothing is
    left"""
    kept = "".join(c if c.isalnum() or c in " .-_" else "_" for c in visible(name)).strip(" .")
    while len(kept.encode()) > _MOST_BYTES:
        kept = kept[:-1].strip(" .")
    if not kept.strip("_"):
        return instead
    return f"{kept}_" if kept.casefold().partition(".")[0] in _KEPT else kept


def free_name(name: str, taken: Iterable[str]) -> str:
    """A name that is not taken, even on a disk that ignores case."""
    used = {one.casefold() for one in taken}
    for number in count(1):
        free = name if number == 1 else f"{name} {number}"
        if free.casefold() not in used:
            break
    return free
