"""Landmark tracks from and to a file, whichever form it has."""

from __future__ import annotations

from pathlib import Path
from typing import Final

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.formats.errors import BadFile
from guide_arc.formats.format import Asked, Source
from guide_arc.formats.marker_names import Names
from guide_arc.formats.registry import (
    format_named,
    format_of_text,
    format_to_write,
    formats,
    suffixes,
)

# The largest track file that is read: an hour at 60 frames a second with 33 landmarks takes 230 MB
# as text. Reading takes about eight times as much memory.
LARGEST_TRACK_BYTES: Final = 400_000_000


def read_track(
    path: Path | str, names: Names | None = None, asked: Asked = Asked()
) -> LandmarkTrack:
    """A track from a file of any form. Raises BadFile with one sentence.

    names : landmark by marker, for files whose markers are named otherwise
    asked : what keypoint JSON leaves open
    """
    path = Path(path)
    suffix = path.suffix.lower()
    binary = next((f for f in formats() if f.binary and suffix in f.suffixes), None)
    if binary is not None and binary.read is not None and path.is_file():
        return binary.read(Source(path, b"", names, asked))
    return parse_track(read_bytes(path), path, names, asked)


def read_bytes(path: Path) -> bytes:
    """The bytes of a track's file. Raises BadFile if it does not exist or is too large."""
    try:
        if path.is_dir():
            raise BadFile("this is a folder", path=path, right="give a landmark track file")
        size = path.stat().st_size
        if size > LARGEST_TRACK_BYTES:
            raise BadFile(
                f"the file has {size / 1e6:.0f} MB",
                path=path,
                right=(
                    f"a track may have up to {LARGEST_TRACK_BYTES / 1e6:.0f} MB; cut the recording"
                    " into sets"
                ),
            )
        return path.read_bytes()
    except FileNotFoundError:
        raise BadFile("there is no such file", path=path) from None
    except OSError as error:
        raise BadFile(f"the file can't be read ({error.strerror})", path=path) from None


def parse_track(
    data: bytes, path: Path | str, names: Names | None = None, asked: Asked = Asked()
) -> LandmarkTrack:
    """A track from the bytes of a text file; `path` is only for its name and ending."""
    source = Source(Path(path), data, names, asked)
    form = format_of_text(source.text, source.path.suffix.lower())
    assert form.read is not None
    try:
        return form.read(source)
    except OverflowError:
        raise BadFile("it holds a number that is too large", path=source.path) from None


def write_track(track: LandmarkTrack, path: Path | str, form: str | None = None) -> None:
    """Write a track atomically, in the format of an id, or else of the file's extension.

    Raises BadInput if that form can't hold the track, and for an ending that none has.
    """
    path = Path(path)
    chosen = format_named(form) if form else format_to_write(path.suffix.lower())
    if chosen is None or chosen.write is None:
        raise BadInput(f"{path.name}: its ending must be one of {', '.join(suffixes())}")
    if path.suffix.lower() not in chosen.suffixes:
        raise BadInput(
            f"{path.name}: {chosen.words} are written as {chosen.suffixes[0]}; end the name so"
        )
    chosen.save(track, path)


def track_text(track: LandmarkTrack, path: Path | str) -> str:
    """The track as the text that a file's ending asks for; CSV for any other ending."""
    form = format_to_write(Path(path).suffix.lower()) or format_named("csv")
    assert form.write is not None
    return form.write(track, Path(path).name).decode()


def as_kept(path: Path, track: LandmarkTrack) -> bytes:
    """The bytes that a library keeps of a file: our own forms as they came, others as CSV."""
    suffix = path.suffix.lower()
    if any(f.own and suffix in f.suffixes for f in formats()):
        data = path.read_bytes()
        if format_of_text(Source(path, data).text, suffix).own:
            return data
    csv = format_named("csv").write
    assert csv is not None
    return csv(track, path.name)
