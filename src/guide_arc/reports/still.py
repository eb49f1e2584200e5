"""One moment of a set as a picture: PNG, or SVG with the clip's frame in it."""

from __future__ import annotations

import base64
from pathlib import Path
from typing import Final

import numpy as np

from guide_arc.capture.video.clip import Clip
from guide_arc.capture.video.paint_over import paint_over, png_bytes
from guide_arc.core.model.finding import Finding
from guide_arc.drawings.figure import Looking
from guide_arc.drawings.on_picture import Placed
from guide_arc.drawings.palette import PAGE, PICTURE
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.drawings.stage import StageState, stage
from guide_arc.formats.atomic import write_atomic
from guide_arc.reports.annotated import frame_of, hide_face
from guide_arc.reports.svg import svg

_HIGH: Final = 720.0
_FIGURE_WIDE: Final = 960.0
_PNG_SCALE: Final = 2.0


def write_still(
    target: Path,
    measured: ShownSet,
    at_s: float,
    looking: Looking,
    finding: Finding | None,
    clip: Clip | None,
    *,
    face_covered: bool = False,
) -> None:
    """Write the stage at a moment, by the file's ending: `.svg`, else PNG. With a clip, over its
    frame."""
    if clip is None:
        state = StageState(measured, at_s, looking, finding)
        drawing = stage(state, _FIGURE_WIDE, _HIGH)
        if target.suffix.lower() == ".svg":
            write_atomic(target, svg(drawing, PAGE, "The figure at this moment").encode(), 0o600)
            return
        sheet = np.full(
            (round(_HIGH * _PNG_SCALE), round(_FIGURE_WIDE * _PNG_SCALE), 3), 255, np.uint8
        )
        paint_over(sheet, drawing, PAGE, _PNG_SCALE)
        write_atomic(target, png_bytes(sheet), 0o600)
        return
    picture = frame_of(clip, clip.index(at_s))
    if face_covered:
        hide_face(picture, clip, measured, at_s)
    high, wide = picture.shape[:2]
    placed = Placed(0.0, 0.0, _HIGH / clip.height)
    width = _HIGH * wide / high
    drawing = stage(StageState(measured, at_s, looking, finding, None, placed), width, _HIGH)
    if target.suffix.lower() == ".svg":
        under = base64.b64encode(png_bytes(picture)).decode()
        image = (
            f'<image width="{width:g}" height="{_HIGH:g}" href="data:image/png;base64,{under}"/>'
        )
        head, close, rest = svg(drawing, PICTURE, "The clip at this moment").partition(">")
        write_atomic(target, f"{head}{close}{image}{rest}".encode(), 0o600)
        return
    paint_over(picture, drawing, PICTURE, high / _HIGH)
    write_atomic(target, png_bytes(picture), 0o600)
