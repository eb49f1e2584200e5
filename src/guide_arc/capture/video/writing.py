"""Writing a clip: H.264 in MP4, written atomically."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager
from fractions import Fraction
from pathlib import Path
from typing import Any, Final

import numpy as np

from guide_arc.capture.video.frames import Picture
from guide_arc.formats.atomic import part_of
from guide_arc.formats.errors import BadFile

# The clock of MPEG: it holds all usual frame rates exactly.
_TICKS: Final = 90_000
# As many as there are cores.
_THREADS: Final = 0


class ClipWriter:
    """Takes pictures (H, W, 3) of one size, each with its time."""

    def __init__(self, container: Any, stream: Any) -> None:
        self._container, self._stream = container, stream
        self._last = -1

    def add(self, picture: Picture, at_s: float) -> None:
        """The next picture, at a time later than the one before."""
        import av  # noqa: PLC0415

        stamp = max(round(at_s * _TICKS), self._last + 1)
        self._last = stamp
        frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(picture), format="rgb24")
        self.add_frame(frame, stamp)

    def add_frame(self, frame: Any, stamp: int) -> None:
        frame.pts, frame.time_base = stamp, Fraction(1, _TICKS)
        frame.pict_type = 0  # the encoder chooses, whatever the frame was before
        self._container.mux(self._stream.encode(frame))

    def end(self) -> None:
        self._container.mux(self._stream.encode())


@contextmanager
def writing_clip(
    path: Path,
    width: int,
    height: int,
    *,
    rate_hz: float = 30.0,
    quality: int = 20,
    preset: str = "veryfast",
    key_every: int | None = None,
    comment: str = "",
    mode: int = 0o644,
) -> Iterator[ClipWriter]:
    """Write a clip of this size (even numbers). It takes its name once it is whole; an error leaves
    nothing behind.

    Raises BadFile if the folder can't be written.
    """
    import av  # noqa: PLC0415

    part = part_of(path)
    try:
        container = av.open(str(part), "w", format="mp4", options={"movflags": "+faststart"})
    except (OSError, av.FFmpegError) as error:
        raise BadFile(
            f"can't be written ({getattr(error, 'strerror', error)})", path=path
        ) from None
    try:
        options = {"crf": str(quality), "preset": preset}
        if key_every:
            options |= {"g": str(key_every), "bf": "0"}
        rate = Fraction(rate_hz).limit_denominator(1001)
        stream = container.add_stream("libx264", rate=rate, options=options)
        stream.width, stream.height, stream.pix_fmt = width, height, "yuv420p"
        stream.codec_context.time_base = Fraction(1, _TICKS)
        stream.thread_count = _THREADS
        if comment:
            container.metadata["comment"] = comment
        writer = ClipWriter(container, stream)
        yield writer
        _whole(path, part, container, writer, mode)
    finally:
        container.close()
        part.unlink(missing_ok=True)


def _whole(path: Path, part: Path, container: Any, writer: ClipWriter, mode: int) -> None:
    """Write what is still to be written, and let the file take its name."""
    import av  # noqa: PLC0415

    try:
        writer.end()
        container.close()
        with part.open("rb") as written:
            os.fsync(written.fileno())
        part.chmod(mode)
        part.replace(path)
    except (OSError, av.FFmpegError) as error:
        why = getattr(error, "strerror", None) or str(error)
        raise BadFile(f"can't be written ({why})", path=path) from None
