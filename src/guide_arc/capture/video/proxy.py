"""The small copy of a clip for scrubbing: every frame of it, small, and a key frame every few."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Final

from guide_arc.capture.video.clip import Clip, Progress, inspect_video, opened, told
from guide_arc.capture.video.tone import usual_frame
from guide_arc.capture.video.writing import writing_clip

# As wide as the stage shows a clip next to others.
WIDTH: Final = 640
# A key frame so often: stepping to and fro decodes few frames.
_KEY_EVERY: Final = 8
# Constant rate factor: no difference is seen at that width.
_QUALITY: Final = 26
# Frames between two words about how far it is.
_TELL_EVERY: Final = 15


def make_proxy(clip: Clip, target: Path, progress: Progress = lambda _share: None) -> None:
    """Write the proxy of a clip. Frame by frame the same stamps, so that the same number is the
    same frame.

    progress : may raise to stop; nothing is left behind then
    """
    share = min(1.0, WIDTH / max(clip.width, clip.height))
    wide, high = (2 * max(8, round(0.5 * share * n)) for n in (clip.width, clip.height))
    if clip.quarter_turns % 2:
        wide, high = high, wide
    number_of = {int(p): i for i, p in enumerate(clip.pts)}
    ticks = 90_000 * clip.time_base_s
    with (
        writing_clip(
            target,
            wide,
            high,
            rate_hz=clip.shown_hz,
            quality=_QUALITY,
            preset="ultrafast",
            key_every=_KEY_EVERY,
            mode=0o600,
        ) as writer,
        opened(clip.path) as (container, stream),
        told(clip.path),
    ):
        stream.thread_type = "AUTO"
        # What no other frame needs as it is may be decoded with less care: nobody sees it at this
        # size.
        stream.codec_context.options = {"skip_loop_filter": "noref"}
        for frame in container.decode(stream):
            number = number_of.get(frame.pts) if frame.pts is not None else None
            if number is None:
                continue
            if number % _TELL_EVERY == 0:
                progress(number / clip.frames)
            small = usual_frame(frame).reformat(
                width=wide, height=high, format="yuv420p", interpolation="FAST_BILINEAR"
            )
            stamp = round((int(clip.pts[number]) - int(clip.pts[0])) * ticks)
            writer.add_frame(small, stamp)


def proxy_clip(clip: Clip, path: Path) -> Clip | None:
    """The proxy as a clip that replaces `clip` frame by frame; None if it does not fit (yet)."""
    if not path.exists():
        return None
    found = inspect_video(path)
    if found.frames != clip.frames:
        return None
    wide, high = found.width, found.height
    if clip.quarter_turns % 2:
        wide, high = high, wide
    return replace(
        found,
        quarter_turns=clip.quarter_turns,
        flipped=clip.flipped,
        width=wide,
        height=high,
        capture_hz=None,
        mirrored=clip.mirrored,
    )
