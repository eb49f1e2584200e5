"""A set's clip with the drawing burnt in, slow at the faults, for the client to look at."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Final

import numpy as np

from guide_arc.capture.video.clip import Clip
from guide_arc.capture.video.frames import FrameReader, Picture, every_frame
from guide_arc.capture.video.paint_over import cover, paint_over
from guide_arc.capture.video.writing import writing_clip
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import SIDES
from guide_arc.drawings.on_picture import Placed
from guide_arc.drawings.palette import PICTURE
from guide_arc.drawings.shapes import Area, Drawing, Words
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.drawings.stage import StageState, stage
from guide_arc.reports.cues import SaidCue

# The drawing is made for a sheet this high and placed over the picture larger or smaller.
_SHEET_HIGH: Final = 640.0
_WIDEST: Final = 1920
_AROUND_S: Final = 0.7
_BEFORE_SET_S, _AFTER_SET_S = 1.0, 1.0
_SLOW: Final = 3.0
_HELD_S: Final = 1.2
_FACE_OVER_EARS: Final = 1.9
_FACE_OF_TRUNK: Final = 0.34


@dataclass(frozen=True)
class AnnotationOptions:
    """How the clip is to be made: slow at the faults, the client's face covered."""

    slow_at_faults: bool = True
    cover_face: bool = False


def annotated_clip(
    target: Path,
    clip: Clip,
    measured: ShownSet,
    cues: Sequence[SaidCue],
    wanted: AnnotationOptions = AnnotationOptions(),
    progress: Callable[[float], None] = lambda _share: None,
) -> None:
    """Write the set's part of its clip with the drawing over it, atomically.

    progress : may raise to stop
    Raises BadInput for a set whose landmarks are not of its clip.
    """
    if measured.can_turn or measured.body.cleaned.track.image_size != (clip.width, clip.height):
        raise BadInput(
            "the landmarks of this set are not of its clip, so nothing can be drawn on it"
        )
    first, last = _part(clip, measured)
    slow = _slow_frames(clip, cues) if wanted.slow_at_faults else {}
    share = min(1.0, _WIDEST / clip.width)
    wide, high = (2 * round(0.5 * share * n) for n in (clip.width, clip.height))
    times = clip.time_s
    at_s = 0.0
    with writing_clip(target, wide, high, rate_hz=min(clip.rate_hz, 60.0), mode=0o600) as writer:
        for number, picture in every_frame(clip, width=wide, start=first, stop=last + 1):
            if number % 10 == 0:
                progress((number - first) / max(last - first, 1))
            cue = slow.get(number)
            drawn = annotated_frame(
                picture[:high, :wide],
                clip,
                measured,
                float(times[number]),
                cue[0] if cue else None,
                wanted.cover_face,
            )
            writer.add(drawn, at_s)
            after = (
                times[number + 1] if number + 1 < clip.frames else times[number] + 1 / clip.rate_hz
            )
            lasts = float(after - times[number]) * (_SLOW if cue else 1.0)
            at_s += lasts + (_HELD_S if cue and cue[1] else 0.0)


def annotated_frame(
    picture: Picture,
    clip: Clip,
    measured: ShownSet,
    at_s: float,
    cue: SaidCue | None,
    cover_face: bool,
) -> Picture:
    """One frame with the drawing over it. picture : (H, W, 3) of the frame, scaled"""
    out = np.ascontiguousarray(picture)
    high, wide = out.shape[:2]
    if cover_face:
        hide_face(out, clip, measured, at_s)
    scale = high / _SHEET_HIGH
    drawing = sheet(clip, measured, at_s, cue, wide / scale)
    paint_over(out, drawing, PICTURE, scale)
    return out


def sheet(
    clip: Clip, measured: ShownSet, at_s: float, cue: SaidCue | None, width: float
) -> Drawing:
    """The drawing for one frame, on a sheet of the usual height."""
    placed = Placed(0.0, 0.0, _SHEET_HIGH / clip.height)
    finding = cue.finding if cue else None
    state = StageState(measured, at_s, measured.looking, finding, None, placed)
    drawing = stage(state, width, _SHEET_HIGH)
    if cue is not None:
        band = np.array([[0, 40], [width, 40], [width, 78], [0, 78]], dtype=float)
        drawing.add(Area(band, "panel", 0.82))
        drawing.add(Words(width / 2, 65, cue.words, "ink", 19, bold=True, anchor="middle"))
    return drawing


def frame_of(clip: Clip, number: int) -> Picture:
    """One frame of a clip as it is."""
    with FrameReader(clip) as reader:
        return reader.at(number, _WIDEST)


def _part(clip: Clip, measured: ShownSet) -> tuple[int, int]:
    """The frames from a moment before the first rep to a moment after the last."""
    reps = measured.review.reps
    if not reps:
        return 0, clip.frames - 1
    return clip.index(reps[0].start_s - _BEFORE_SET_S), clip.index(reps[-1].end_s + _AFTER_SET_S)


def _slow_frames(clip: Clip, cues: Sequence[SaidCue]) -> dict[int, tuple[SaidCue, bool]]:
    """For each frame shown slowly, its cue, and whether the picture is frozen there."""
    out: dict[int, tuple[SaidCue, bool]] = {}
    for cue in reversed(cues):  # where two meet, the more harmful one is shown
        if not cue.moments:
            continue
        worst = cue.moments[0]
        for number in range(clip.index(worst - _AROUND_S), clip.index(worst + _AROUND_S) + 1):
            out[number] = (cue, False)
        out[clip.index(worst)] = (cue, True)
    return out


def hide_face(picture: Picture, clip: Clip, measured: ShownSet, at_s: float) -> None:
    """Cover the head, if any part of it was found near this time."""
    track = measured.body.cleaned.track
    i = measured.index(at_s)
    near = slice(max(i - 3, 0), i + 4)
    spots = [track.point(n)[near] for n in ("nose", "left_ear", "right_ear") if track.has(n)]
    seen = np.concatenate(spots) if spots else np.empty((0, 2))
    seen = seen[np.isfinite(seen).all(axis=1)]
    trunk = _trunk_px(track.position[i], track.names)
    share = picture.shape[1] / clip.width
    if not len(seen):
        shoulders = [track.point(f"{s}_shoulder")[i] for s in SIDES]
        known = np.array([s for s in shoulders if np.isfinite(s).all()])
        if not len(known):
            cover(picture, 0.5 * picture.shape[1], 0.0, picture.shape[1])  # better all than none
            return
        seen = known - np.array([[0.0, 0.45 * trunk]])
    x, y = seen.mean(axis=0)
    reach = float(np.hypot(*(seen - (x, y)).T).max())
    cover(
        picture, share * x, share * y, share * max(_FACE_OVER_EARS * reach, _FACE_OF_TRUNK * trunk)
    )


def _trunk_px(spots: np.ndarray, names: tuple[str, ...]) -> float:
    """The trunk's length in the picture; a usual value if it is not seen."""
    long = []
    for side in SIDES:
        if f"{side}_shoulder" in names and f"{side}_hip" in names:
            line = spots[names.index(f"{side}_shoulder")] - spots[names.index(f"{side}_hip")]
            if np.isfinite(line).all():
                long.append(float(np.hypot(*line)))
    return max(long, default=150.0)
