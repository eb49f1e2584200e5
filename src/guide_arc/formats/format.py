"""What a form of a landmark track is: one declaration a form, in its own file, as FORMAT."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import Literal

from guide_arc.core.model.track import LandmarkTrack, StatedView
from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.errors import BadFile
from guide_arc.formats.marker_names import Names


@dataclass(frozen=True)
class Asked:
    """What a file may leave open: its view, and its frame rate."""

    view: StatedView | None = None
    rate_hz: float | None = None


@dataclass(frozen=True)
class Source:
    """A file to be read. names : landmark by marker, where its markers are named otherwise"""

    path: Path
    data: bytes
    names: Names | None = None
    asked: Asked = Asked()

    @cached_property
    def text(self) -> str:
        """Raises BadFile if it is not UTF-8."""
        try:
            return self.data.decode("utf-8-sig")
        except UnicodeDecodeError as error:
            line = self.data[: error.start].count(b"\n") + 1
            raise BadFile(
                "the file is not UTF-8 text", path=self.path, line=line, right="save it as UTF-8"
            ) from None


def never(_text: str) -> bool:
    return False


@dataclass(frozen=True)
class Format:
    """One form of a landmark track.

    suffixes : of its files, the usual one first
    read, write : None if that can't be done; write gives the bytes of a file of a name. Both
        raise BadInput (BadFile) with one sentence
    holds : what its tracks must be: "" for both, "world" or "image"
    binary : its files are no text
    claims : whether a text is of this form whatever its file is called
    own : the library keeps such files as they came; others become CSV
    order : its position in lists; among formats that share a file extension, the highest number is
        tried first"""

    id: str
    words: str
    help: str
    suffixes: tuple[str, ...]
    read: Callable[[Source], LandmarkTrack] | None
    write: Callable[[LandmarkTrack, str], bytes] | None
    holds: Literal["", "world", "image"] = ""
    binary: bool = False
    claims: Callable[[str], bool] = never
    own: bool = False
    order: int = 50

    def save(self, track: LandmarkTrack, path: Path) -> None:
        """Write a track atomically. Raises BadInput if this form can't hold it."""
        assert self.write is not None
        write_atomic(path, self.write(track, path.name))
