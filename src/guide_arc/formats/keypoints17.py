"""Keypoints of a body in pictures as JSON, in the common ordering of 17 points.

One entry for each person in each picture, `keypoints` being 17 times x, y, confidence: nose, eyes,
ears, shoulders, elbows, wrists, hips, knees, ankles, left before right. It holds no hands, feet or
kit.
"""

from __future__ import annotations

import json
import math
import re
from collections import Counter
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Final

import numpy as np

from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.core.model.track import (
    STATED_VIEWS,
    CameraPlace,
    LandmarkTrack,
    SetFacts,
    StatedView,
    side_of,
)
from guide_arc.formats.errors import BadFile
from guide_arc.formats.format import Asked, Format
from guide_arc.formats.json_object import parsed_json

ORDER: Final = (
    "nose",
    None,
    None,
    "left_ear",
    "right_ear",
    "left_shoulder",
    "right_shoulder",
    "left_elbow",
    "right_elbow",
    "left_wrist",
    "right_wrist",
    "left_hip",
    "right_hip",
    "left_knee",
    "right_knee",
    "left_ankle",
    "right_ankle",
)
_NAMES: Final = tuple(n for n in ORDER if n)
_COLUMNS: Final = tuple(i for i, n in enumerate(ORDER) if n)
_LARGEST_PX: Final = 20_000
_MOST_FRAMES: Final = 1_000_000


def looks_like_keypoints(text: str) -> bool:
    """Whether JSON text is of this form rather than a landmark track."""
    json_like = text.lstrip().startswith(("{", "["))
    return json_like and '"keypoints"' in text and '"landmark_track"' not in text


def parse_keypoints(text: str, path: Path, asked: Asked = Asked()) -> LandmarkTrack:
    """A picture's track of the person who is seen most. Raises BadFile for anything malformed."""
    document = parsed_json(text, path)
    info: dict[str, Any] = {}
    entries = document
    if isinstance(document, dict):
        info = document.get("info") if isinstance(document.get("info"), dict) else {}  # type: ignore[assignment]
        entries = document.get("annotations")
        images = document.get("images")
        if isinstance(images, list) and images and isinstance(images[0], dict):
            info = {**{k: images[0][k] for k in ("width", "height") if k in images[0]}, **info}
    if not isinstance(entries, list) or not entries:
        raise BadFile(
            "it holds no list of keypoints",
            path=path,
            right="a list with one entry a person and picture",
        )
    view = asked.view or info.get("view")
    if view not in STATED_VIEWS:
        guess = did_you_mean(str(view), STATED_VIEWS) if view else ""
        raise BadFile(
            f"it does not say which side of the body the camera sees{guess}",
            path=path,
            right=f"say {', '.join(STATED_VIEWS[:-1])} or {STATED_VIEWS[-1]}",
        )
    rows = [_entry(entry, i, path) for i, entry in enumerate(entries, 1)]
    chosen = _most_seen(rows)
    frames = sorted(chosen)
    if frames[-1] - frames[0] > _MOST_FRAMES:
        raise BadFile(
            "its pictures are numbered too far apart", path=path, right="number them from 1 on"
        )
    rate = asked.rate_hz or _positive(info.get("fps")) or 30.0
    return _track(chosen, frames, rate, view, info, path)


@dataclass(frozen=True, eq=False)
class _Row:
    frame: int
    person: str
    points: np.ndarray
    time_s: float | None


def _entry(entry: Any, number: int, path: Path) -> _Row:
    where = f"entry {number}"
    if not isinstance(entry, dict):
        raise BadFile("it is no object", path=path, column=where)
    flat = entry.get("keypoints")
    if not isinstance(flat, list) or len(flat) != 51:
        raise BadFile("its keypoints are not 17 times x, y, confidence", path=path, column=where)
    if not all(
        isinstance(v, int | float) and not isinstance(v, bool) and math.isfinite(v) for v in flat
    ):
        raise BadFile("a keypoint is no finite number", path=path, column=where)
    points = np.array(flat, dtype=float).reshape(17, 3)
    if np.abs(points[:, :2]).max() > _LARGEST_PX:
        raise BadFile(
            "a keypoint is outside any picture", path=path, column=where, right="give pixels"
        )
    frame = entry.get("image_id", entry.get("frame", number))
    if isinstance(frame, str):
        digits = re.findall(r"\d+", frame)
        frame = int(digits[-1][-9:]) if digits else number
    if not isinstance(frame, int) or not -1 <= frame <= 10**9:
        raise BadFile("its image_id is no number", path=path, column=where)
    time_s = entry.get("time_s")
    known = (
        isinstance(time_s, int | float) and not isinstance(time_s, bool) and math.isfinite(time_s)
    )
    person = str(entry.get("track_id", entry.get("person_id", "")))
    return _Row(frame, person, points, float(time_s) if known and time_s is not None else None)


def _most_seen(rows: list[_Row]) -> dict[int, _Row]:
    """By picture, the entry of the person who is in most pictures; the surest one where nobody is
    named."""
    person = Counter(row.person for row in rows).most_common(1)[0][0]
    out: dict[int, _Row] = {}
    for row in rows:
        if row.person != person:
            continue
        there = out.get(row.frame)
        if there is None or row.points[:, 2].sum() > there.points[:, 2].sum():
            out[row.frame] = row
    return out


def _positive(value: Any) -> float | None:
    usable = isinstance(value, int | float) and not isinstance(value, bool)
    return float(value) if usable and 1.0 <= value <= 1000.0 else None


def _track(
    chosen: dict[int, _Row],
    frames: list[int],
    rate: float,
    view: StatedView,
    info: dict[str, Any],
    path: Path,
) -> LandmarkTrack:
    span = range(frames[0], frames[-1] + 1)
    timed = all(chosen[f].time_s is not None for f in frames)
    numbers = frames if timed else list(span)
    points = np.full((len(numbers), len(_NAMES), 3), np.nan)
    for i, frame in enumerate(numbers):
        if frame in chosen:
            points[i] = chosen[frame].points[list(_COLUMNS)]
    # Zeros all through say that a point was not found.
    points[(points == 0).all(axis=-1)] = np.nan
    confidence = np.nan_to_num(points[..., 2])
    if confidence.max(initial=0.0) > 1.0:
        confidence = confidence / confidence.max()  # visibility flags 0, 1, 2
    if np.isnan(points[..., 0]).all():
        raise BadFile("no keypoint was found in it", path=path)
    width, height = (_side(info.get(k)) for k in ("width", "height"))
    far = np.nanmax(points[..., :2], axis=(0, 1)) * 1.02 + 1
    size = (width or max(int(far[0]), 1), height or max(int(far[1]), 1))
    time_s = (
        np.array([chosen[f].time_s for f in numbers]) if timed else np.arange(len(numbers)) / rate
    )
    facts = SetFacts(
        **{k: info[k] for k in ("standard", "recorded") if isinstance(info.get(k), str)}
    )
    try:
        return LandmarkTrack(
            time_s=np.round(time_s.astype(float), 6),
            names=_NAMES,
            position=points[..., :2],
            confidence=np.clip(np.nan_to_num(confidence), 0, 1),
            space="image",
            view=side_of(view),
            image_size=size,
            facts=facts,
            camera=CameraPlace.stated(view),
        )
    except BadInput as error:
        raise BadFile(str(error), path=path) from None


def _side(value: Any) -> int | None:
    return (
        value
        if isinstance(value, int) and not isinstance(value, bool) and 0 < value <= _LARGEST_PX
        else None
    )


def keypoints_text(track: LandmarkTrack) -> str:
    """A picture's track in this form. Raises BadInput for a track in space."""
    if track.space != "image" or track.image_size is None:
        raise BadInput(
            "keypoints of pictures need a picture's track; one in space goes into C3D or TRC"
        )
    flat = np.zeros((track.frames, 17, 3))
    for i, name in enumerate(ORDER):
        if name is not None and name in track.names:
            k = track.names.index(name)
            seen = np.isfinite(track.position[:, k, 0])
            flat[seen, i, :2] = track.position[seen, k]
            flat[seen, i, 2] = track.confidence[seen, k]
    info: dict[str, Any] = {
        "fps": track.frame_rate_hz,
        "view": track.stated_view,
        "width": track.image_size[0],
        "height": track.image_size[1],
    }
    info |= {k: v for k in ("standard", "recorded") if (v := getattr(track.facts, k))}
    entries = [
        {"image_id": i, "category_id": 1, "time_s": at_s, "keypoints": row}
        for i, (at_s, row) in enumerate(
            zip(track.time_s.tolist(), flat.reshape(track.frames, -1).tolist(), strict=True), 1
        )
    ]
    return json.dumps({"info": info, "annotations": entries})


FORMAT: Final = Format(
    id="keypoints",
    words="Keypoints",
    help="JSON in the common ordering of 17 points; of a picture",
    suffixes=(".json",),
    read=lambda source: parse_keypoints(source.text, source.path, source.asked),
    write=lambda track, _name: keypoints_text(track).encode(),
    holds="image",
    claims=looks_like_keypoints,
    order=50,
)
