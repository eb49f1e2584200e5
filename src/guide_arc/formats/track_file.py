"""Landmark tracks from and to a file, whichever form it has."""

from __future__ import annotations

from pathlib import Path

from guide_arc.core.model.track import LandmarkTrack
from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.errors import BadFile
from guide_arc.formats.track_csv import csv_text, parse_csv
from guide_arc.formats.track_json import json_text, parse_json

_LARGEST_BYTES = 2_000_000_000


def read_track(path: Path | str) -> LandmarkTrack:
    """A track from a CSV or JSON file. Raises BadFile with one sentence."""
    path = Path(path)
    try:
        if path.is_dir():
            raise BadFile("this is a folder", path=path, right="give a landmark track file")
        if path.stat().st_size > _LARGEST_BYTES:
            raise BadFile(
                "the file is larger than 2 GB", path=path, right="cut the recording into sets"
            )
        data = path.read_bytes()
    except FileNotFoundError:
        raise BadFile("there is no such file", path=path) from None
    except OSError as error:
        raise BadFile(f"the file can't be read ({error.strerror})", path=path) from None
    return parse_track(data, path)


def parse_track(data: bytes, path: Path | str) -> LandmarkTrack:
    """A track from the bytes of a file; `path` is only for its name and ending."""
    path = Path(path)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = data[: error.start].count(b"\n") + 1
        raise BadFile(
            "the file is not UTF-8 text", path=path, line=line, right="save it as UTF-8"
        ) from None
    if path.suffix.lower() == ".json" or text.lstrip().startswith("{"):
        return parse_json(text, path)
    return parse_csv(text, path)


def track_text(track: LandmarkTrack, path: Path | str) -> str:
    """The track in the form that the file's ending names: JSON for `.json`, else CSV."""
    return json_text(track) if Path(path).suffix.lower() == ".json" else csv_text(track)


def write_track(track: LandmarkTrack, path: Path | str) -> None:
    """Write a track whole or not at all."""
    write_atomic(Path(path), track_text(track, path).encode())
