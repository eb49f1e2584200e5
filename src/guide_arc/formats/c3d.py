"""Landmark tracks as C3D, the binary form that movement laboratories exchange.

C3D holds points in space at an even rate, as 32-bit numbers; no confidence. The set's details are
in a separate parameter group."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Final

import numpy as np

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.track import LandmarkTrack, SetFacts
from guide_arc.formats.errors import BadFile
from guide_arc.formats.format import Format
from guide_arc.formats.lab_axes import METRES, to_our_axes
from guide_arc.formats.marker_names import Names, named

_MAGIC: Final = 0x50
_BLOCK: Final = 512
# A whole file is read at about 100 MB a second; a damaged one may send its reader round and round.
# Of the processor, so that a busy machine cuts none short.
_LONGEST_S: Final = 2
_BYTES_PER_S: Final = 10_000_000
_LARGEST: Final = 500_000_000
_RIGHT: Final = "export it again from the program that recorded it"
_FACTS: Final = ("standard", "load_kg", "subject_height_m", "recorded")
# Times that lie this far off an even rate are made even by drawing straight lines between samples.
_EVEN_S: Final = 5e-4


def read_c3d(path: Path, names: Names | None = None) -> LandmarkTrack:
    """A track in space from a C3D file. names : landmark by marker, for those whose names do not
    say it.

    Raises BadFile for a damaged file, and UnknownMarkers where the markers have to be named first.
    """
    _check_head(path)
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "points.npz"
        size = path.stat().st_size
        most, longest_s = 3_000_000_000 + 24 * size, _LONGEST_S + size // _BYTES_PER_S
        worker = Path(__file__).parent / "workers" / "c3d_worker.py"
        try:
            done = subprocess.run(
                [sys.executable, "-P", str(worker), str(path), str(out), str(most), str(longest_s)],
                capture_output=True,
                timeout=4 * longest_s,
                check=False,
                env={**os.environ, "OPENBLAS_NUM_THREADS": "1"},
            )
        except subprocess.TimeoutExpired:
            raise BadFile("it takes too long to read", path=path, right=_RIGHT) from None
        if done.returncode or not out.exists():
            raise BadFile("it is no whole C3D file", path=path, right=_RIGHT)
        with np.load(out, allow_pickle=False) as found:
            return _track(path, dict(found), names)


def _check_head(path: Path) -> None:
    """What the head alone shows: that it is C3D, and no larger than its file."""
    try:
        size = path.stat().st_size
        with path.open("rb") as given:
            head = given.read(_BLOCK)
    except OSError as error:
        raise BadFile(f"the file can't be read ({error.strerror})", path=path) from None
    if size > _LARGEST:
        raise BadFile(
            "the file is larger than 500 MB", path=path, right="cut the recording into sets"
        )
    if len(head) < _BLOCK or head[1] != _MAGIC or not head[0]:
        raise BadFile("it is no C3D file", path=path, right=_RIGHT)


def _track(path: Path, found: dict[str, np.ndarray], names: Names | None) -> LandmarkTrack:
    points, rate = found["points"], float(found["rate"])
    labels = [str(label).strip() for label in found["labels"]]
    if points.ndim != 3 or points.shape[0] < 3 or not points.shape[2] or not labels:
        raise BadFile("it holds no points", path=path, right=_RIGHT)
    if not np.isfinite(rate) or not 1.0 <= rate <= 5000.0:
        raise BadFile(
            f"its rate is {rate:g} a second", path=path, right="it must be from 1 to 5000"
        )
    metres = METRES.get(str(found["units"]).strip().lower())
    if metres is None:
        raise BadFile(
            f"its unit is {str(found['units'])!r}", path=path, right="it must be m, cm or mm"
        )
    labels = labels[: points.shape[1]]
    own = named(path, labels, names)
    columns = [labels.index(marker) for marker in own]
    position = np.moveaxis(points[:3, columns], 0, -1).swapaxes(0, 1) * metres
    lost = (found["residuals"][0, columns].T < 0) | ~np.isfinite(position).all(axis=-1)
    position = np.where(lost[..., None], np.nan, position)
    said = dict(zip(found["keys"].tolist(), found["texts"].tolist(), strict=True))
    landmarks = tuple(own.values())
    if said.get("AXES") != "LEFT UP AHEAD":
        position = to_our_axes(position, landmarks)
    return _whole(path, position, landmarks, rate, said)


def _whole(
    path: Path, position: np.ndarray, names: tuple[str, ...], rate: float, said: dict[str, str]
) -> LandmarkTrack:
    start_s = _number(said.get("START")) or 0.0
    time_s = max(start_s, 0.0) + np.arange(len(position)) / float(f"{rate:.6g}")
    if np.isnan(position).all():
        raise BadFile("no marker was seen in it", path=path, right=_RIGHT)
    try:
        return LandmarkTrack(
            time_s=np.round(time_s, 6),
            names=names,
            position=position,
            confidence=np.ones(position.shape[:2]),
            facts=SetFacts(
                said.get("STANDARD") or None,
                _number(said.get("LOAD_KG")),
                _number(said.get("SUBJECT_HEIGHT_M")),
                said.get("RECORDED") or None,
            ),
        )
    except BadInput as error:
        raise BadFile(str(error), path=path) from None


def _number(text: str | None) -> float | None:
    try:
        value = float(text or "")
    except ValueError:
        return None
    return value if np.isfinite(value) else None


def c3d_bytes(track: LandmarkTrack) -> bytes:
    """A track in space as C3D. Raises BadInput for a picture's track."""
    import ezc3d  # noqa: PLC0415

    if track.space != "world":
        raise BadInput("C3D holds points in space; a picture's track goes into CSV or JSON")
    if track.frames < 2:
        raise BadInput("C3D needs at least 2 frames")
    span_s = float(track.time_s[-1] - track.time_s[0])
    rate = float(f"{(track.frames - 1) / span_s:.5g}")
    position = track.position
    even_s = track.time_s[0] + np.arange(track.frames) / rate
    if np.abs(even_s - track.time_s).max() > _EVEN_S:
        rate = track.frame_rate_hz
        even_s = track.time_s[0] + np.arange(round(span_s * rate) + 1) / rate
        position = _evened(track, even_s)
    missing = np.isnan(position).any(axis=-1)
    document = ezc3d.c3d()
    parameters = document["parameters"]
    parameters["POINT"]["LABELS"]["value"] = list(track.names)
    parameters["POINT"]["UNITS"]["value"] = ["m"]
    parameters["POINT"]["RATE"]["value"] = [rate]
    points = np.ones((4, len(track.names), len(position)))
    points[:3] = np.moveaxis(np.nan_to_num(position), -1, 0).swapaxes(1, 2)
    points[:3, missing.T] = np.nan
    document["data"]["points"] = points
    document["data"]["meta_points"]["residuals"] = np.where(missing, -1.0, 0.0).T[None]
    document["data"]["meta_points"]["camera_masks"] = np.zeros((7, *missing.T.shape), dtype=bool)
    notes = {"AXES": "LEFT UP AHEAD", "START": repr(float(track.time_s[0]))}
    for key in _FACTS:
        value = getattr(track.facts, key)
        if value is not None:
            notes[key.upper()] = str(value)
    for key, text in notes.items():
        document.add_parameter("TRACK", key, [text])
    with tempfile.TemporaryDirectory() as folder:
        made = Path(folder) / "track.c3d"
        document.write(str(made))
        return made.read_bytes()


def _evened(track: LandmarkTrack, even_s: np.ndarray) -> np.ndarray:
    """(T, L, 3) at even times; what was missing about a time stays so."""
    out = np.full((len(even_s), *track.position.shape[1:]), np.nan)
    before = np.clip(np.searchsorted(track.time_s, even_s, side="right") - 1, 0, track.frames - 2)
    share = (even_s - track.time_s[before]) / (track.time_s[before + 1] - track.time_s[before])
    share = np.clip(share, 0.0, 1.0)[:, None, None]
    out = (1 - share) * track.position[before] + share * track.position[before + 1]
    exact = np.clip(np.round(share), 0, 1)
    on_sample = np.abs(share - exact) < 1e-6
    sample = np.where(exact > 0.5, track.position[before + 1], track.position[before])
    return np.where(on_sample, sample, out)


FORMAT: Final = Format(
    id="c3d",
    words="Markers, C3D",
    help="the binary form that movement laboratories exchange; in space",
    suffixes=(".c3d",),
    read=lambda source: read_c3d(source.path, source.names),
    write=lambda track, _name: c3d_bytes(track),
    holds="world",
    binary=True,
    order=30,
)
