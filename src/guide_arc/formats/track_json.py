"""Landmark tracks as JSON, read and written."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import Any, Final

import numpy as np

from guide_arc.core.model.landmarks import KNOWN
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.formats.errors import BadFile
from guide_arc.formats.format import Format
from guide_arc.formats.json_object import parsed_json
from guide_arc.formats.track_csv import build_track
from guide_arc.formats.track_facts import Head, as_texts, head_lines

_NUMBERS = (
    "load_kg",
    "subject_height_m",
    "px_per_m",
    "px_per_m_u",
    "vertical_deg",
    "vertical_deg_u",
)
_AXES = {"world": ("x", "y", "z"), "image": ("x", "y")}


def parse_json(text: str, path: Path) -> LandmarkTrack:
    """A track from JSON text. Raises BadFile with the place for anything malformed."""

    def no_constant(word: str) -> float:
        raise BadFile(
            f"{word} is not a finite number", path=path, right="write null for a missing sample"
        )

    def once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
        out: dict[str, Any] = {}
        for key, value in pairs:
            if key in out:
                raise BadFile(f"the key {key!r} stands twice", path=path, right="keep one of them")
            out[key] = value
        return out

    document = parsed_json(text, path, parse_constant=no_constant, object_pairs_hook=once)
    if not isinstance(document, dict):
        raise BadFile("the file holds no JSON object", path=path, right="a track starts with {")
    return _from_document(document, path)


def _from_document(document: dict[str, Any], path: Path) -> LandmarkTrack:
    meta = document.get("meta") or {}
    if not isinstance(meta, dict):
        raise BadFile("meta is no object", path=path, column="meta", right="it must be {…}")
    texts = as_texts(meta)
    for key in ("space", "units", "view"):
        if document.get(key) is not None:
            texts[key] = str(document[key])
    if document.get("landmark_track") is not None:
        texts["landmark-track"] = str(document["landmark_track"])

    def fail(key: str, what: str, right: str | None) -> BadFile:
        return BadFile(
            what.replace("landmark-track", "landmark_track"), path=path, column=key, right=right
        )

    head = Head(texts, fail)
    time_s = _numbers(document.get("time_s"), "time_s", path, None, empty=False)
    _check_times(time_s, path)
    points = document.get("points")
    if not isinstance(points, dict):
        raise BadFile(
            "points is missing or no object", path=path, column="points", right="it must be {…}"
        )
    axes = _AXES[head.space]
    names = [n for n in points if n in KNOWN]
    position = np.full((len(time_s), len(names), len(axes)), np.nan)
    confidence = np.ones((len(time_s), len(names)))
    for k, name in enumerate(names):
        arrays = points[name]
        if not isinstance(arrays, dict):
            raise BadFile(
                f"the point {name} is no object",
                path=path,
                column=name,
                right=f"it needs {', '.join(axes)}",
            )
        for a, axis in enumerate(axes):
            if axis not in arrays:
                raise BadFile(
                    f"the landmark {name} has no {axis}",
                    path=path,
                    column=name,
                    right=f"each landmark needs {', '.join(axes)}",
                )
            position[:, k, a] = _numbers(arrays[axis], f"{name}.{axis}", path, len(time_s))
        if "c" in arrays:
            given = _numbers(arrays["c"], f"{name}.c", path, len(time_s))
            if (given < 0).any() or (given > 1).any():
                raise BadFile(
                    "a confidence is outside 0 to 1",
                    path=path,
                    column=f"{name}.c",
                    right="confidences run from 0 to 1",
                )
            confidence[:, k] = np.where(np.isnan(given), 1.0, given)
    extra = _extra(points, len(time_s))
    return build_track(
        head, time_s, tuple(names), position=position, confidence=confidence, extra=extra, path=path
    )


def _numbers(
    values: Any, where: str, path: Path, length: int | None, *, empty: bool = True
) -> np.ndarray:
    if not isinstance(values, list):
        raise BadFile(
            f"{where} is missing or no array", path=path, column=where, right="it must be [...]"
        )
    if length is not None and len(values) != length:
        raise BadFile(
            f"{where} has {len(values)} samples and time_s {length}",
            path=path,
            column=where,
            right="all arrays need the same length",
        )
    out = np.empty(len(values))
    for i, value in enumerate(values):
        if value is None and empty:
            out[i] = math.nan
        elif (
            isinstance(value, (int, float)) and not isinstance(value, bool) and math.isfinite(value)
        ):
            out[i] = value
        else:
            right = "write a number, or null for a missing sample" if empty else "write seconds"
            raise BadFile(
                f"sample {i + 1} of {where} is {str(value)[:40]!r}",
                path=path,
                column=where,
                right=right,
            )
    return out


def _check_times(time_s: np.ndarray, path: Path) -> None:
    if len(time_s) and (time_s < 0).any():
        raise BadFile("a time is negative", path=path, column="time_s", right="times are 0 or more")
    falling = np.flatnonzero(np.diff(time_s) <= 0)
    if len(falling):
        i = int(falling[0]) + 2
        raise BadFile(
            f"sample {i} of time_s does not rise",
            path=path,
            column="time_s",
            right="times must rise",
        )


def _extra(points: dict[str, Any], frames: int) -> dict[str, tuple[str, ...]]:
    out: dict[str, tuple[str, ...]] = {}
    for name, arrays in points.items():
        if name in KNOWN or not isinstance(arrays, dict):
            continue
        for axis, values in arrays.items():
            if isinstance(values, list) and len(values) == frames:
                out[f"{name}_{axis}"] = tuple("" if v is None else str(v) for v in values)
    return out


def json_text(track: LandmarkTrack) -> str:
    """A track as JSON. Reading it again gives the same track."""
    keys = dict(head_lines(track))
    document: dict[str, Any] = {"landmark_track": 1}
    for key in ("space", "units", "view"):
        document[key] = keys.pop(key)
    meta: dict[str, Any] = dict(keys)
    for key in _NUMBERS:
        if key in meta:
            meta[key] = float(meta[key])
    document["meta"] = meta
    document["time_s"] = track.time_s.tolist()
    points: dict[str, dict[str, list[float | str | None]]] = {}
    for k, name in enumerate(track.names):
        points[name] = {
            axis: _nulls(track.position[:, k, a]) for a, axis in enumerate(_AXES[track.space])
        }
        points[name]["c"] = _nulls(track.confidence[:, k])
    for column, cells in track.extra.items():
        name, _, axis = column.rpartition("_")
        points.setdefault(name or column, {})[axis] = [cell or None for cell in cells]
    document["points"] = points
    return json.dumps(document, allow_nan=False)


def _nulls(values: np.ndarray) -> list[float | str | None]:
    return [None if v != v else v for v in values.tolist()]


FORMAT: Final = Format(
    "json",
    "Landmark track, JSON",
    "the same as JSON; our own form",
    (".json",),
    lambda source: parse_json(source.text, source.path),
    lambda track, _name: json_text(track).encode(),
    claims=lambda text: text.lstrip().startswith("{"),
    own=True,
    order=20,
)
