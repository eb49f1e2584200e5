"""Landmark tracks as CSV, read and written."""

from __future__ import annotations

import csv
import io
import math
import re
from pathlib import Path
from typing import Final

import numpy as np

from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.core.model.landmarks import KNOWN
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.formats.errors import BadFile
from guide_arc.formats.format import Format
from guide_arc.formats.track_facts import KNOWN_KEYS, Head, head_lines

_AXES: Final = {"world": ("x", "y", "z"), "image": ("x", "y")}
# Four hours at 60 frames a second with 33 landmarks in space have 114 million cells; an hour has 29
# million.
_MOST_CELLS: Final = 60_000_000
_NUMBER: Final = re.compile(r"[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?")
_NOT_NUMERIC: Final = re.compile(r"[^0-9eE+\-., \n]")


def parse_csv(text: str, path: Path) -> LandmarkTrack:
    """A track from CSV text. Raises BadFile with line and column for anything malformed."""
    lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    values, where, first = _leading(lines, path)

    def fail(key: str, what: str, right: str | None) -> BadFile:
        return BadFile(what, path=path, line=where.get(key, 1), right=right)

    head = Head(values, fail)
    while first < len(lines) and not lines[first].strip():
        first += 1
    if first >= len(lines):
        raise BadFile(
            "there is no header row",
            path=path,
            line=len(lines),
            right="a row that starts with time_s",
        )
    header = _cells(lines[first], path, first + 1)
    columns = _columns(header, head.space, path, first + 1)
    rows = [(i + 1, line) for i, line in enumerate(lines[first + 1 :], first + 1) if line.strip()]
    table = _table(rows, header, columns, path)
    time_s = _times(table[0], [n for n, _ in rows], path)
    names = tuple(dict.fromkeys(c.rsplit("_", 1)[0] for c in columns if c != "time_s"))
    return _track(
        head,
        time_s,
        names,
        columns=columns,
        numbers=table[0],
        extra=table[1],
        path=path,
        line=first + 1,
    )


def _leading(lines: list[str], path: Path) -> tuple[dict[str, str], dict[str, int], int]:
    values: dict[str, str] = {}
    where: dict[str, int] = {}
    i = 0
    while i < len(lines) and lines[i].lstrip().startswith("#"):
        key, colon, value = lines[i].lstrip()[1:].partition(":")
        key = key.strip()
        if colon:
            if key in values:
                raise BadFile(
                    f"the key {key} stands twice", path=path, line=i + 1, right="keep one of them"
                )
            values[key], where[key] = value.strip(), i + 1
        i += 1
    unknown = [k for k in values if k not in KNOWN_KEYS]
    for key in unknown:
        guess = did_you_mean(key, [k for k in KNOWN_KEYS if k not in values])
        if guess and key.lower().replace("-", "_") in {k.replace("-", "_") for k in KNOWN_KEYS}:
            raise BadFile(f"the key is written {key!r}{guess}", path=path, line=where[key])
    return values, where, i


def _cells(line: str, path: Path, number: int) -> list[str]:
    try:
        return next(csv.reader([line], strict=True), [])
    except csv.Error as error:
        raise BadFile(
            f"the row can't be split into cells ({error})",
            path=path,
            line=number,
            right="quotes must be closed",
        ) from None


def _columns(header: list[str], space: str, path: Path, line: int) -> dict[str, int]:
    """Numeric columns by name, with their place. Raises for doubles and missing axes."""
    names = [h.strip() for h in header]
    if "time_s" not in names:
        raise BadFile(
            f"the header has no time_s{did_you_mean('time_s', names)}",
            path=path,
            line=line,
            right="one column must be named time_s, in seconds",
        )
    seen: set[str] = set()
    for name in names:
        if name in seen:
            raise BadFile(
                f"the column {name} stands twice",
                path=path,
                line=line,
                column=name,
                right="keep one of them",
            )
        seen.add(name)
    axes = _AXES[space]
    out = {"time_s": names.index("time_s")}
    for i, name in enumerate(names):
        landmark, _, axis = name.rpartition("_")
        if landmark in KNOWN and axis in (*axes, "c"):
            out[name] = i
    for landmark in dict.fromkeys(n.rsplit("_", 1)[0] for n in out if n != "time_s"):
        for axis in axes:
            if f"{landmark}_{axis}" not in out:
                raise BadFile(
                    f"the landmark {landmark} has no {landmark}_{axis}",
                    path=path,
                    line=line,
                    column=landmark,
                    right=f"in {space} space each landmark needs {', '.join(axes)}",
                )
    return out


def _table(
    rows: list[tuple[int, str]], header: list[str], columns: dict[str, int], path: Path
) -> tuple[np.ndarray, dict[str, tuple[str, ...]]]:
    """Numbers (rows, columns) with NaN for empty cells, and the unknown columns as text."""
    width = len(header)
    used = list(columns.values())
    if len(rows) * max(width, 1) > _MOST_CELLS:
        raise BadFile(
            f"it has {len(rows)} rows of {width} cells",
            path=path,
            right=(
                f"a track may have up to {_MOST_CELLS / 1e6:.0f} million cells; cut the recording"
                " into sets"
            ),
        )
    all_numeric = len(used) == width
    text = "\n".join(line for _, line in rows)
    out = np.full((len(rows), len(used)), np.nan)
    extra: dict[str, list[str]] = {
        h.strip(): [] for i, h in enumerate(header) if i not in set(used) and h.strip()
    }
    places = {h.strip(): i for i, h in enumerate(header)}
    whole = None if not all_numeric or _NOT_NUMERIC.search(text) else _numbers_of(text, rows, width)
    if whole is not None:
        out[:] = whole[:, used]
    for r, (number, line) in enumerate(rows if whole is None else ()):
        cells = _cells(line, path, number)
        if len(cells) != width:
            raise BadFile(
                f"the row has {len(cells)} cells and the header {width}",
                path=path,
                line=number,
                right="every row needs one cell per column",
            )
        out[r] = [_number(cells[i], header[i].strip(), path, number) for i in used]
        for name, kept in extra.items():
            kept.append(cells[places[name]])
    if not np.isfinite(np.where(np.isnan(out), 0.0, out)).all():
        r, c = np.argwhere(np.isinf(out))[0]
        raise BadFile(
            "the number is too large",
            path=path,
            line=rows[r][0],
            column=header[used[c]].strip(),
            right="write a finite number",
        )
    return out, {name: tuple(kept) for name, kept in extra.items()}


def _numbers_of(text: str, rows: list[tuple[int, str]], width: int) -> np.ndarray | None:
    """(rows, width) all cells at once, NaN for empty ones; None if a cell or a row is not as it
    should be."""
    if any(line.count(",") != width - 1 for _, line in rows):
        return None
    cells = "," + text.replace("\n", ",") + ","
    while ",," in cells:
        cells = cells.replace(",,", ",nan,")
    try:
        flat = np.fromstring(cells[1:-1], sep=",")
    except (ValueError, DeprecationWarning):
        return None
    return flat.reshape(len(rows), width) if flat.size == len(rows) * width else None


def _number(cell: str, column: str, path: Path, line: int) -> float:
    text = cell.strip()
    if not text:
        return math.nan
    if not _NUMBER.fullmatch(text):
        raise BadFile(
            f"{text[:40]!r} is not a finite number",
            path=path,
            line=line,
            column=column,
            right="write a number with . as decimal mark, or leave the cell empty",
        )
    return float(text)


def _times(numbers: np.ndarray, lines: list[int], path: Path) -> np.ndarray:
    time_s = numbers[:, 0]
    if not len(time_s):
        return time_s
    for bad, what in (
        (np.isnan(time_s), "the time is empty"),
        (time_s < 0, "the time is negative"),
    ):
        if bad.any():
            i = int(np.argmax(bad))
            raise BadFile(
                what,
                path=path,
                line=lines[i],
                column="time_s",
                right="times are seconds from the start, 0 or more",
            )
    step = np.diff(time_s)
    if (step <= 0).any():
        i = int(np.argmax(step <= 0)) + 1
        how = "equals" if time_s[i] == time_s[i - 1] else "falls below"
        raise BadFile(
            f"the time {time_s[i]:g} {how} the one before it",
            path=path,
            line=lines[i],
            column="time_s",
            right="times must rise from row to row",
        )
    return time_s


def _track(
    head: Head,
    time_s: np.ndarray,
    names: tuple[str, ...],
    columns: dict[str, int],
    numbers: np.ndarray,
    extra: dict[str, tuple[str, ...]],
    path: Path,
    line: int,
) -> LandmarkTrack:
    order = {name: i for i, name in enumerate(columns)}
    axes = _AXES[head.space]
    position = np.empty((len(time_s), len(names), len(axes)))
    confidence = np.ones((len(time_s), len(names)))
    for k, name in enumerate(names):
        for a, axis in enumerate(axes):
            position[:, k, a] = numbers[:, order[f"{name}_{axis}"]]
        if f"{name}_c" in order:
            given = numbers[:, order[f"{name}_c"]]
            confidence[:, k] = np.where(np.isnan(given), 1.0, given)
    outside = (confidence < 0) | (confidence > 1)
    if outside.any():
        r, k = np.argwhere(outside)[0]
        raise BadFile(
            f"the confidence {confidence[r, k]:g} is outside 0 to 1",
            path=path,
            line=line + 1 + int(r),
            column=f"{names[k]}_c",
            right="confidences run from 0 to 1",
        )
    return build_track(
        head, time_s, names, position=position, confidence=confidence, extra=extra, path=path
    )


def build_track(
    head: Head,
    time_s: np.ndarray,
    names: tuple[str, ...],
    position: np.ndarray,
    confidence: np.ndarray,
    extra: dict[str, tuple[str, ...]],
    path: Path,
) -> LandmarkTrack:
    """The last checks that both forms share: a sample is whole or missing; someone is there."""
    part = np.isnan(position)
    position[part.any(axis=-1)] = np.nan
    if not names or np.isnan(position).all():
        raise BadFile(
            "no landmark has any sample",
            path=path,
            right="at least one body landmark must be seen in at least one row",
        )
    try:
        return LandmarkTrack(
            time_s=time_s,
            names=names,
            position=position,
            confidence=confidence,
            space=head.space,
            view=head.view,
            image_size=head.image_size,
            facts=head.facts,
            extra=extra,
            calibration=head.calibration,
            points_from=head.points_from,
            camera=head.camera,
        )
    except BadFile:
        raise
    except BadInput as error:
        raise BadFile(str(error), path=path) from None


def csv_text(track: LandmarkTrack) -> str:
    """A track as CSV. Reading it again gives the same track, to the last digit."""
    out = io.StringIO()
    out.write("# landmark-track: 1\n")
    for key, value in head_lines(track):
        out.write(f"# {key}: {value}\n")
    axes = _AXES[track.space]
    columns = ["time_s", *(f"{n}_{a}" for n in track.names for a in (*axes, "c")), *track.extra]
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(columns)
    cells = np.concatenate([track.time_s[:, None], _flat(track)], axis=1).tolist()
    extra = list(zip(*track.extra.values(), strict=True))
    for i, row in enumerate(cells):
        # repr is the shortest text that reads back as the same number; a missing sample is empty.
        text = ",".join(map(repr, row)).replace("nan", "")
        if extra:
            out.write(text + ",")
            writer.writerow(extra[i])
        else:
            out.write(text + "\n")
    return out.getvalue()


def _flat(track: LandmarkTrack) -> np.ndarray:
    cells = np.concatenate([track.position, track.confidence[..., None]], axis=-1)
    return cells.reshape(track.frames, -1)


FORMAT: Final = Format(
    "csv",
    "Landmark track, CSV",
    "positions over time, one row a frame; our own form",
    (".csv",),
    lambda source: parse_csv(source.text, source.path),
    lambda track, _name: csv_text(track).encode(),
    claims=lambda text: "# landmark-track:" in text[:2000],
    own=True,
    order=10,
)
