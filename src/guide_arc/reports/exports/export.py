"""What an export is, and what it is given."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Final, Literal

from guide_arc.core.model.finding import Finding
from guide_arc.drawings.figure import Looking
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.library.records import SetNotes, SetRecord
from guide_arc.library.store import Library

Progress = Callable[[float], None]
# For files that hold what a client may not want seen: this user alone reads them.
PRIVATE: Final = 0o600


@dataclass(frozen=True)
class Leaving:
    """A set on its way out, as it is on screen.

    at_s, looking, finding, over_clip : the moment on the stage, and whether the clip is under it
    slow, cover_face : what was asked of a clip
    """

    library: Library
    record: SetRecord
    shown: ShownSet
    notes: SetNotes
    at_s: float
    looking: Looking
    finding: Finding | None
    over_clip: bool
    slow: bool
    cover_face: bool


@dataclass(frozen=True)
class Export:
    """One form in which a set can leave.

    files : the endings with their words, the usual one first: `((".png", "Picture"),)`
    write : may raise BadInput with one sentence; nothing is left behind then
    needs : "clip" for what only a set with a clip has, "world" or "image" for what its track must
        be
    asks : "slow" and "face" for the options next to it, "whole clip" if the clip is exported
        unchanged
    order : its position in the list"""

    id: str
    words: str
    help: str
    files: tuple[tuple[str, str], ...]
    write: Callable[[Leaving, Path, Progress], None]
    needs: Literal["", "clip", "world", "image"] = ""
    asks: frozenset[Literal["slow", "face", "whole clip"]] = frozenset()
    order: int = 50

    @property
    def filter(self) -> str:
        """As a file dialog asks for it."""
        return ";;".join(f"{words} (*{ending})" for ending, words in self.files)

    def fits(self, *, has_clip: bool, in_space: bool) -> bool:
        """Whether a set has what this needs."""
        return {"": True, "clip": has_clip, "world": in_space, "image": not in_space}[self.needs]
