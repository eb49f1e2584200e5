"""Small pictures of a clip, to know it by."""

from __future__ import annotations

import io
from typing import Final

import numpy as np
from PIL import Image

from guide_arc.capture.video.clip import Clip
from guide_arc.capture.video.frames import FrameReader, Picture

# Where the middle of a set usually is in its clip.
_MIDDLE: Final = 0.45
_QUALITY: Final = 80


def glimpses(clip: Clip, width: int, count: int, seconds: float = 3.0) -> tuple[Picture, ...]:
    """So many pictures over a few seconds of a clip's middle; (H, W, 3) each, no larger than
    `width` either way.

    Raises BadFile if the clip is damaged there.
    """
    middle = _MIDDLE * clip.duration_s
    times = (
        middle + np.linspace(-0.5, 0.5, count) * min(seconds, clip.duration_s)
        if count > 1
        else [middle]
    )
    share = min(1.0, width / max(clip.width, clip.height))
    with FrameReader(clip) as reader:
        return tuple(reader.at(clip.index(float(t)), round(share * clip.width)) for t in times)


def jpeg_bytes(picture: Picture) -> bytes:
    """A picture as JPEG, small."""
    out = io.BytesIO()
    Image.fromarray(picture).save(out, format="JPEG", quality=_QUALITY)
    return out.getvalue()
