"""Names of markers in other programs' files, and the landmarks that they are."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from pathlib import Path
from typing import Final

from guide_arc.core.model.landmarks import KNOWN
from guide_arc.formats.errors import BadFile

Names = Mapping[str, str]
# A marker that is no landmark of ours.
NOT_USED: Final = "-"

_PARTS: Final = {
    "shoulder": "shoulder",
    "sho": "shoulder",
    "acromion": "shoulder",
    "shldr": "shoulder",
    "elbow": "elbow",
    "elb": "elbow",
    "wrist": "wrist",
    "wri": "wrist",
    "wrs": "wrist",
    "thumb": "thumb",
    "index": "index",
    "pinky": "pinky",
    "little": "pinky",
    "hip": "hip",
    "knee": "knee",
    "kne": "knee",
    "ankle": "ankle",
    "ank": "ankle",
    "heel": "heel",
    "hee": "heel",
    "foot": "foot",
    "toe": "foot",
    "bigtoe": "foot",
    "ear": "ear",
    "handle": "handle",
    "pulley": "pulley",
}
_WHOLE: Final = {
    "nose": "nose",
    "neck": "neck",
    "midspine": "mid_spine",
    "barleft": "bar_left",
    "barright": "bar_right",
    "anchor": "anchor",
    "benchhead": "bench_head",
    "benchfoot": "bench_foot",
}
_SIDES: Final = {"l": "left", "left": "left", "r": "right", "right": "right"}


class UnknownMarkers(BadFile):
    """A file whose markers have to be named first. `markers`: all of them; `guessed`: those that
    are clear."""

    def __init__(self, path: Path, markers: tuple[str, ...], guessed: Names) -> None:
        self.markers, self.guessed = markers, dict(guessed)
        shown = ", ".join(markers[:6]) + (", …" if len(markers) > 6 else "")
        super().__init__(
            f"it is not clear which landmarks its markers are ({shown})",
            path=path,
            right="say which marker is which landmark",
        )


def guess_landmark(marker: str) -> str | None:
    """The landmark that a marker's name plainly says; None if it does not."""
    if marker in KNOWN:
        return marker
    words = re.findall(r"[A-Z]+(?![a-z])|[A-Z]?[a-z]+", marker.rpartition(":")[2])
    low = [w.lower() for w in words]
    joined = "".join(low)
    if joined in _WHOLE:
        return _WHOLE[joined]
    sides = [_SIDES[w] for w in low if w in _SIDES]
    rest = "".join(w for w in low if w not in _SIDES)
    if not sides and rest[:1] in ("l", "r") and rest[1:] in _PARTS:
        sides, rest = [_SIDES[rest[0]]], rest[1:]
    part = _PARTS.get(rest)
    name = f"{sides[0]}_{part}" if len(sides) == 1 and part else None
    return name if name in KNOWN else None


def named(path: Path, markers: Iterable[str], given: Names | None) -> dict[str, str]:
    """Landmark by marker, for the markers that are used.

    given : what was said before; a marker it does not name is guessed
    Raises UnknownMarkers if no shoulder or hip would be among them, and BadFile for a landmark
    that is given twice.
    """
    every = tuple(markers)
    out: dict[str, str] = {}
    for marker in every:
        name = (given or {}).get(marker) or guess_landmark(marker)
        if name and name != NOT_USED:
            out[marker] = name
    found = list(out.values())
    twice = next((n for n in found if found.count(n) > 1), None)
    if twice:
        both = " and ".join(m for m, n in out.items() if n == twice)
        raise BadFile(f"{both} both stand for {twice}", path=path, right="name one of them")
    if not any(n.endswith("shoulder") for n in found) or not any(n.endswith("hip") for n in found):
        raise UnknownMarkers(path, every, out)
    return out
