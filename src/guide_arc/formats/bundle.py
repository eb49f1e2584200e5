"""A set as one file: a ZIP with its clip, its landmark track, and its details.

Reading trusts nothing: names that point outside, links, entries that are doubled, encrypted or too
many, and data that swells beyond what it says are refused before anything is kept.
"""

from __future__ import annotations

import json
import lzma
import os
import shutil
import stat
import struct
import tempfile
import zipfile
import zlib
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Final

from guide_arc.core.model.track import LandmarkTrack
from guide_arc.formats.atomic import part_of
from guide_arc.formats.errors import BadFile
from guide_arc.formats.track_file import LARGEST_TRACK_BYTES, parse_track

SUFFIX: Final = ".zip"
_META, _TRACKS, _CLIP = "set.json", ("track.csv", "track.json"), "clip"
_MOST_ENTRIES: Final = 3
_MOST_META: Final = 1_000_000
_MOST_TRACK: Final = LARGEST_TRACK_BYTES
_MOST_CLIP: Final = 60_000_000_000
# How many times larger than packed an entry may be. Tracks that this program wrote pack to an
# eighth at the best; a clip is stored as it is.
_MOST_PACKED: Final = 30
_MOST_PACKED_CLIP: Final = 3
_CHUNK: Final = 1 << 20
_RIGHT: Final = "export the set again"
# What unpacking a damaged file raises; one packed in a way that is not known is a RuntimeError too.
_BROKEN: Final = (
    zipfile.BadZipFile,
    zlib.error,
    lzma.LZMAError,
    EOFError,
    RuntimeError,
    ValueError,
    OverflowError,
    struct.error,
)


@dataclass(frozen=True, eq=False)
class Bundle:
    """What a bundle holds. clip : a file in a folder that lasts as long as the reading"""

    meta: Mapping[str, Any]
    track: LandmarkTrack | None
    track_bytes: bytes
    clip: Path | None


def write_bundle(
    path: Path, meta: Mapping[str, Any], track: tuple[bytes, str] | None, clip: Path | None
) -> None:
    """Write a bundle atomically. Raises BadFile if it can't be written.

    track : its file's bytes as they came, and ".csv" or ".json"
    """
    part = part_of(path)
    try:
        part.unlink(missing_ok=True)
        with (
            os.fdopen(os.open(part, os.O_CREAT | os.O_EXCL | os.O_RDWR, 0o600), "w+b") as out,
            zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed,
        ):
            packed.writestr(_META, json.dumps({"set_bundle": 1, **meta}, indent=1))
            if track is not None:
                packed.writestr(f"track{track[1]}", track[0])
            if clip is not None:
                packed.write(clip, f"{_CLIP}{clip.suffix.lower()}", zipfile.ZIP_STORED)
        with part.open("rb") as written:
            os.fsync(written.fileno())
        part.replace(path)
    except OSError as error:
        raise BadFile(f"can't be written ({error.strerror})", path=path) from None
    finally:
        part.unlink(missing_ok=True)


@contextmanager
def reading_bundle(path: Path, into: Path | None = None) -> Iterator[Bundle]:
    """What a bundle holds, for as long as the block lasts. Raises BadFile for anything that is not
    one.

    into : the folder in which it is unpacked; the system's temporary folder, if leftovers of a kill
        are in the way"""
    with tempfile.TemporaryDirectory(prefix="set-", dir=into) as folder:
        try:
            with zipfile.ZipFile(path) as packed:
                bundle = _read(packed, path, Path(folder))
        except _BROKEN as error:
            if isinstance(error, BadFile):
                raise
            raise BadFile("it is no whole ZIP file", path=path, right=_RIGHT) from None
        except OSError as error:
            raise BadFile(f"it can't be read ({error.strerror or error})", path=path) from None
        yield bundle


def _read(packed: zipfile.ZipFile, path: Path, folder: Path) -> Bundle:
    entries = packed.infolist()
    if len(entries) > _MOST_ENTRIES:
        raise BadFile(
            f"it holds {len(entries)} files", path=path, right=f"a set is at most {_MOST_ENTRIES}"
        )
    by_name: dict[str, zipfile.ZipInfo] = {}
    for entry in entries:
        _check(entry, path)
        kind = entry.filename.partition(".")[0] if entry.filename != _META else _META
        if kind in by_name:
            raise BadFile(f"it holds {entry.filename!r} twice", path=path, right=_RIGHT)
        by_name[kind] = entry
    if _META not in by_name:
        raise BadFile(
            f"it holds no {_META}", path=path, right="give a set that this program exported"
        )
    meta = _meta(_unpacked(packed, by_name[_META], _MOST_META, path), path)
    own = by_name.get("track")
    data = _unpacked(packed, own, _MOST_TRACK, path) if own else b""
    track = parse_track(data, path.with_name(f"{path.name}, {own.filename}")) if own else None
    clip = None
    if _CLIP in by_name:
        clip = folder / f"{_CLIP}{Path(by_name[_CLIP].filename).suffix}"
        _copy_out(packed, by_name[_CLIP], clip, path)
    if track is None and clip is None:
        raise BadFile("it holds neither a track nor a clip", path=path, right=_RIGHT)
    return Bundle(meta, track, data, clip)


def _check(entry: zipfile.ZipInfo, path: Path) -> None:
    name = entry.filename
    known = name in (_META, *_TRACKS) or (
        name.startswith(f"{_CLIP}.") and name[5:].isalnum() and len(name) < 12
    )
    if not known:
        raise BadFile(
            f"it holds {name[:60]!r}", path=path, right="a set holds set.json, a track and a clip"
        )
    if stat.S_ISLNK(entry.external_attr >> 16) or entry.is_dir() or entry.flag_bits & 0x1:
        raise BadFile(f"{name!r} is no plain file", path=path, right=_RIGHT)
    most = _MOST_META if name == _META else _MOST_TRACK if name in _TRACKS else _MOST_CLIP
    times = _MOST_PACKED if name in (_META, *_TRACKS) else _MOST_PACKED_CLIP
    swollen = entry.file_size > times * max(entry.compress_size, 1) + _CHUNK
    if entry.file_size > most or swollen:
        raise BadFile(
            f"{name!r} would unpack to {entry.file_size / 1e6:.0f} MB", path=path, right=_RIGHT
        )


def _unpacked(packed: zipfile.ZipFile, entry: zipfile.ZipInfo, most: int, path: Path) -> bytes:
    with packed.open(entry) as given:
        data = given.read(min(most, entry.file_size) + 1)
    if len(data) > entry.file_size:
        raise BadFile(f"{entry.filename!r} is larger than it says", path=path, right=_RIGHT)
    return data


def _copy_out(packed: zipfile.ZipFile, entry: zipfile.ZipInfo, target: Path, path: Path) -> None:
    if entry.file_size > shutil.disk_usage(target.parent).free:
        raise BadFile("there is no room to unpack it", path=path, right="make room on the disk")
    done = 0
    with packed.open(entry) as given, target.open("wb") as out:
        while data := given.read(_CHUNK):
            done += len(data)
            if done > entry.file_size:
                raise BadFile(f"{entry.filename!r} is larger than it says", path=path, right=_RIGHT)
            out.write(data)


def _meta(data: bytes, path: Path) -> dict[str, Any]:
    try:
        meta = json.loads(data.decode("utf-8"))
    except (ValueError, RecursionError):
        raise BadFile(f"its {_META} is not JSON", path=path, right=_RIGHT) from None
    if not isinstance(meta, dict) or meta.get("set_bundle") != 1:
        raise BadFile(
            f"its {_META} is of another kind", path=path, right="this program reads set_bundle 1"
        )
    return {k: v for k, v in meta.items() if isinstance(v, str | int | float | list | dict | None)}
