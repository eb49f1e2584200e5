"""Landmark tracks as tab-separated marker trajectories (TRC).

TRC holds points in space at their times, each with its marker's name; no confidence and no facts of
the set.
"""

from __future__ import annotations

import io
import math
from pathlib import Path
from typing import Final

import numpy as np

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.formats.errors import BadFile
from guide_arc.formats.format import Format
from guide_arc.formats.lab_axes import METRES, to_our_axes
from guide_arc.formats.marker_names import Names, named

_FEWEST_LINES: Final = 6
_MOST_MARKERS: Final = 500
_KEYS: Final = (
    "DataRate",
    "CameraRate",
    "NumFrames",
    "NumMarkers",
    "Units",
    "OrigDataRate",
    "OrigDataStartFrame",
    "OrigNumFrames",
)


def parse_trc(text: str, path: Path, names: Names | None = None) -> LandmarkTrack:
    """A track in space from TRC text. names : landmark by marker, for those whose names do not say
    it.

    Raises BadFile with line and column for anything malformed, and UnknownMarkers where the markers
    have to be named first.
    """
    lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    if len(lines) < _FEWEST_LINES or not lines[0].startswith("PathFileType"):
        raise BadFile(
            "it is no marker trajectory file",
            path=path,
            line=1,
            right="it starts with PathFileType",
        )
    given = dict(zip(lines[1].split("\t"), lines[2].split("\t"), strict=False))
    unit = given.get("Units", "").strip().lower()
    if unit not in METRES:
        raise BadFile(
            f"Units is {given.get('Units')!r}", path=path, line=3, right="it must be m, cm or mm"
        )
    heads = lines[3].rstrip("\t\n ").split("\t")
    if len(heads) < 3 or heads[1].strip().lower() != "time":
        raise BadFile(
            "the row of markers is not there",
            path=path,
            line=4,
            right="it starts with Frame# and Time",
        )
    markers = [m.strip() for m in heads[2::3]]
    if not all(markers) or len(set(markers)) != len(markers) or len(markers) > _MOST_MARKERS:
        raise BadFile(
            "markers have no name of their own each", path=path, line=4, right="name each once"
        )
    own = named(path, markers, names)
    rows = [(i, line) for i, line in enumerate(lines[5:], 6) if line.strip()]
    table = np.full((len(rows), 1 + 3 * len(markers)), np.nan)
    for r, (number, line) in enumerate(rows):
        cells = line.rstrip("\n").split("\t")[1:]
        if not len(cells) >= 1 or len("".join(cells[1 + 3 * len(markers) :]).strip()):
            raise BadFile(
                "the row has more cells than markers",
                path=path,
                line=number,
                right="three for each",
            )
        for c, cell in enumerate(cells[: 1 + 3 * len(markers)]):
            if cell.strip():
                table[r, c] = _number(cell, path, number, c)
    return _track(table, markers, own, METRES[unit], path)


def _number(cell: str, path: Path, line: int, column: int) -> float:
    try:
        value = float(cell)
    except ValueError:
        value = math.inf
    if math.isinf(value):
        raise BadFile(
            f"{cell.strip()[:40]!r} is not a number", path=path, line=line, column=str(column + 2)
        )
    return value


def _track(
    table: np.ndarray, markers: list[str], own: dict[str, str], metres: float, path: Path
) -> LandmarkTrack:
    time_s = table[:, 0]
    if len(time_s) < 1 or not np.isfinite(time_s).all() or (np.diff(time_s) <= 0).any():
        raise BadFile(
            "its times do not rise", path=path, column="Time", right="one rising time for each row"
        )
    position = metres * table[:, 1:].reshape(len(table), len(markers), 3)
    position = position[:, [markers.index(m) for m in own]]
    position[np.isnan(position).any(axis=-1)] = np.nan
    if np.isnan(position).all():
        raise BadFile("no marker was seen in it", path=path)
    landmarks = tuple(own.values())
    try:
        return LandmarkTrack(
            time_s=time_s - min(float(time_s[0]), 0.0),
            names=landmarks,
            position=to_our_axes(position, landmarks),
            confidence=np.ones(position.shape[:2]),
        )
    except BadInput as error:
        raise BadFile(str(error), path=path) from None


def trc_text(track: LandmarkTrack, name: str) -> str:
    """A track in space as TRC, in metres. Raises BadInput for a picture's track."""
    if track.space != "world":
        raise BadInput("TRC holds points in space; a picture's track goes into CSV or JSON")
    rate = f"{track.frame_rate_hz:.6g}"
    out = io.StringIO()
    out.write(f"PathFileType\t4\t(X/Y/Z)\t{name}\n")
    out.write("\t".join(_KEYS) + "\n")
    values = (
        rate,
        rate,
        str(track.frames),
        str(len(track.names)),
        "m",
        rate,
        "1",
        str(track.frames),
    )
    out.write("\t".join(values) + "\n")
    out.write("Frame#\tTime\t" + "\t\t\t".join(track.names) + "\t\t\n")
    axes = "\t".join(f"X{i}\tY{i}\tZ{i}" for i in range(1, len(track.names) + 1))
    out.write(f"\t\t{axes}\n\n")
    flat = track.position.reshape(track.frames, -1).tolist()
    for i, (at_s, row) in enumerate(zip(track.time_s.tolist(), flat, strict=True), 1):
        cells = "\t".join("" if v != v else repr(v) for v in row)
        out.write(f"{i}\t{at_s!r}\t{cells}\n")
    return out.getvalue()


FORMAT: Final = Format(
    id="trc",
    words="Marker table, TRC",
    help="text, as movement laboratories exchange it; in space",
    suffixes=(".trc",),
    read=lambda source: parse_trc(source.text, source.path, source.names),
    write=lambda track, name: trc_text(track, name).encode(),
    holds="world",
    claims=lambda text: text.startswith("PathFileType"),
    order=40,
)
