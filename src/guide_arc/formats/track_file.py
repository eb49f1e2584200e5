"""Landmark tracks from and to a file, whichever form it has."""

from __future__ import annotations

from pathlib import Path

from guide_arc.core.model.track import LandmarkTrack
from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.c3d import read_c3d, write_c3d
from guide_arc.formats.errors import BadFile
from guide_arc.formats.keypoints17 import (
    Asked,
    keypoints_text,
    looks_like_keypoints,
    parse_keypoints,
)
from guide_arc.formats.marker_names import Names
from guide_arc.formats.track_csv import csv_text, parse_csv
from guide_arc.formats.track_json import json_text, parse_json
from guide_arc.formats.trc import parse_trc, trc_text

_LARGEST_BYTES = 2_000_000_000


# What can be read as a track, and written as one.
SUFFIXES = (".csv", ".json", ".c3d", ".trc")


def read_track(
    path: Path | str, names: Names | None = None, asked: Asked = Asked()
) -> LandmarkTrack:
    """A track from a CSV, JSON, C3D or TRC file, or from keypoint JSON. Raises BadFile with one sentence.

    names : landmark by marker, for files whose markers are named otherwise
    asked : what keypoint JSON leaves open
    """
    path = Path(path)
    if path.suffix.lower() == ".c3d" and path.is_file():
        return read_c3d(path, names)
    return parse_track(read_bytes(path), path, names, asked)


def read_bytes(path: Path) -> bytes:
    """The bytes of a track's file. Raises BadFile where there is none or it is too large."""
    try:
        if path.is_dir():
            raise BadFile("this is a folder", path=path, right="give a landmark track file")
        if path.stat().st_size > _LARGEST_BYTES:
            raise BadFile(
                "the file is larger than 2 GB", path=path, right="cut the recording into sets"
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
    path = Path(path)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = data[: error.start].count(b"\n") + 1
        raise BadFile(
            "the file is not UTF-8 text", path=path, line=line, right="save it as UTF-8"
        ) from None
    if path.suffix.lower() == ".trc" or text.startswith("PathFileType"):
        return parse_trc(text, path, names)
    if path.suffix.lower() == ".json" or text.lstrip().startswith("{"):
        if looks_like_keypoints(text):
            return parse_keypoints(text, path, asked)
        return parse_json(text, path)
    return parse_csv(text, path)


def track_text(track: LandmarkTrack, path: Path | str) -> str:
    """The track in the form that the file's ending names: JSON for `.json`, else CSV."""
    return json_text(track) if Path(path).suffix.lower() == ".json" else csv_text(track)


def write_track(track: LandmarkTrack, path: Path | str, *, keypoints: bool = False) -> None:
    """Write a track whole or not at all, in the form that the file's ending names.

    keypoints : JSON in the ordering of 17 points rather than our own
    Raises BadInput where that form can't hold the track.
    """
    path = Path(path)
    ending = path.suffix.lower()
    if ending == ".c3d":
        write_c3d(track, path)
    elif ending == ".trc":
        write_atomic(path, trc_text(track, path.name).encode())
    elif keypoints:
        write_atomic(path, keypoints_text(track).encode())
    else:
        write_atomic(path, track_text(track, path).encode())
