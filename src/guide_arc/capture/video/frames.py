"""Reading any frame of a clip, and all of them in order."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING, Any, Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.video.clip import Clip, opened, told
from guide_arc.capture.video.tone import tone_curve
from guide_arc.formats.errors import BadFile

if TYPE_CHECKING:
    from av.video.frame import VideoFrame

Picture = NDArray[np.uint8]

# A frame this far on is reached by decoding on rather than by seeking again.
_NEAR_FRAMES: Final = 24


class FrameReader:
    """Exact frames of one clip, by number. Use from one thread; close it when done.

    `at` gives what the file shows: rotated upright, pixels square, scaled to fit a width.
    """

    def __init__(self, clip: Clip) -> None:
        self.clip = clip
        self._holding = opened(clip.path)
        self._container, self._stream = self._holding.__enter__()
        self._stream.thread_type = "AUTO"
        self._coming: Iterator[VideoFrame] | None = None
        self._ahead: VideoFrame | None = None
        self._next = 0

    def close(self) -> None:
        self._coming = self._ahead = None
        self._holding.__exit__(None, None, None)

    def __enter__(self) -> FrameReader:
        return self

    def __exit__(self, *_error: object) -> None:
        self.close()

    def at(self, number: int, width: int | None = None, *, raw: bool = False) -> Picture:
        """(H, W, 3) of frame `number`, red first; scaled down to `width` where that is less.

        raw : brightness and two colours as they are stored, instead; faster

        Raises IndexError outside the clip and BadFile where the clip is damaged there.
        """
        if not 0 <= number < self.clip.frames:
            raise IndexError(f"the clip has {self.clip.frames} frames, and no frame {number}")
        with told(self.clip.path):
            return upright(self._found(number), self.clip, width, raw=raw)

    def _found(self, number: int) -> VideoFrame:
        wanted = int(self.clip.pts[number])
        near = self._next <= number <= self._next + _NEAR_FRAMES
        start = self._key_before(number)
        if self._coming is None or not (near or (self._next <= number and start <= self._next)):
            self._seek(start)
        found = self._until(wanted)
        if found is None and start:  # a key frame that was none: from the start then
            self._seek(0)
            found = self._until(wanted)
        if found is None:
            raise BadFile(f"frame {number + 1} is missing or damaged", path=self.clip.path)
        self._next = number + 1
        return found

    def _key_before(self, number: int) -> int:
        keys = np.flatnonzero(self.clip.key[: number + 1])
        return int(keys[-1]) if len(keys) else 0

    def _seek(self, start: int) -> None:
        self._ahead = None
        self._container.seek(
            int(self.clip.pts[start]), stream=self._stream, backward=True, any_frame=False
        )
        self._coming = self._container.decode(self._stream)
        self._next = start

    def _until(self, wanted: int) -> VideoFrame | None:
        """The frame with a stamp; if it is missing in the file, the last one before it."""
        last: VideoFrame | None = None
        while True:
            frame, self._ahead = self._ahead, None
            if frame is None:
                assert self._coming is not None
                frame = next(self._coming, None)
            if frame is None:
                self._coming = None
                return last
            if frame.pts is None or frame.pts < wanted:
                last = frame if frame.pts is not None else last
                continue
            if frame.pts > wanted and last is not None:
                self._ahead = frame
                return last
            return frame if frame.pts == wanted or last is None else last


def upright(
    frame: VideoFrame, clip: Clip, width: int | None = None, *, raw: bool = False
) -> Picture:
    """(H, W, 3) of a decoded frame as it is seen, no wider than `width`; `raw`: see
    `FrameReader.at`."""
    share = 1.0 if width is None else min(1.0, width / clip.width)
    wide, high = max(2, round(share * clip.width)), max(2, round(share * clip.height))
    if clip.quarter_turns % 2:
        wide, high = high, wide
    out: Any = _as_stored(frame, wide, high) if raw else _as_shown(frame, wide, high)
    if clip.flipped:
        out = out[:, ::-1]
    if clip.quarter_turns:
        out = np.rot90(out, clip.quarter_turns)
    if clip.mirrored:
        out = out[:, ::-1]
    return np.ascontiguousarray(out)


def _as_shown(frame: VideoFrame, wide: int, high: int) -> Picture:
    """(high, wide, 3) of a frame as a usual screen shows it, red first."""
    plain: Any = frame.reformat(width=wide, height=high, format="rgb24").to_ndarray()
    out: Picture = plain
    curve = tone_curve(frame)
    return out if curve is None else curve.shown(out)


def _as_stored(frame: VideoFrame, wide: int, high: int) -> Picture:
    """(high, wide, 3) brightness and two colours, each scaled from the plane it is stored in."""
    import cv2  # noqa: PLC0415

    stored = (
        frame if frame.format.name in ("yuv420p", "yuvj420p") else frame.reformat(format="yuv420p")
    )
    planes = []
    for plane in stored.planes:
        lines = np.frombuffer(memoryview(plane), dtype=np.uint8).reshape(-1, plane.line_size)
        own = lines[: plane.height, : plane.width]
        # By a whole number first, which is fast and takes the mean of all pixels; then the rest of
        # the way.
        whole = max(1, plane.width // wide)
        if whole > 1:
            own = cv2.resize(
                own, (plane.width // whole, plane.height // whole), interpolation=cv2.INTER_AREA
            )
        planes.append(cv2.resize(own, (wide, high), interpolation=cv2.INTER_LINEAR))
    out: Picture = cv2.merge(planes)
    return out


def every_frame(
    clip: Clip,
    *,
    width: int | None = None,
    raw: bool = False,
    start: int = 0,
    stop: int | None = None,
) -> Iterator[tuple[int, Picture]]:
    """(number, picture) of the frames from `start` up to before `stop`, in order, each decoded
    once.

    raw : see `FrameReader.at`
    Frames that are lost in the file are passed over. Raises BadFile if the clip is damaged.
    """
    stop = clip.frames if stop is None else min(stop, clip.frames)
    number_of = {int(p): i for i, p in enumerate(clip.pts)}
    with opened(clip.path) as (container, stream), told(clip.path):
        stream.thread_type = "AUTO"
        if start:
            keys = np.flatnonzero(clip.key[: start + 1])
            container.seek(int(clip.pts[keys[-1] if len(keys) else 0]), stream=stream)
        for frame in container.decode(stream):
            number = number_of.get(frame.pts) if frame.pts is not None else None
            if number is None or number < start:
                continue
            if number >= stop:
                return
            yield number, upright(frame, clip, width, raw=raw)
