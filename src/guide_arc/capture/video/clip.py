"""What a clip is: its size as it is seen, and the true time of each of its frames."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, replace
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any, Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.formats.errors import BadFile

if TYPE_CHECKING:
    from av.container import InputContainer
    from av.video.frame import VideoFrame
    from av.video.stream import VideoStream

# PyAV takes a moment to load: it is loaded when the first clip is looked at.

SUFFIXES: Final = (".mp4", ".mov", ".m4v", ".mkv", ".webm")
# Clips of other kinds: recognised and reported with advice, not ignored.
OTHER_SUFFIXES: Final = (
    ".avi",
    ".wmv",
    ".flv",
    ".mpg",
    ".mpeg",
    ".3gp",
    ".3g2",
    ".mts",
    ".m2ts",
    ".ts",
    ".ogv",
    ".vob",
    ".gif",
    ".hevc",
)
RIGHT: Final = "send an MP4, MOV, MKV or WebM clip as the phone recorded it"
# What no phone films, and what is no picture: such a file is refused.
_LARGEST_SIDE: Final = 8192
_SMALLEST_SIDE: Final = 64
# Four hours; and faster than any camera that clients have.
_LONGEST_S: Final = 4 * 3600.0
_FASTEST_HZ: Final = 1000.0
# Packets between two words about how far it is.
_TELL_EVERY: Final = 500
# A file that holds so much less than it says was cut off on its way.
_CUT_S: Final = 0.5
_CUT_SHARE: Final = 0.03
_FIRST_YEAR: Final = 2000
# Where phones note the rate at which they filmed a slow-motion clip.
_NOTED_RATE: Final = "com.android.capture.fps"

Progress = Callable[[float], None]


@dataclass(frozen=True, eq=False)
class Clip:
    """One clip, whole and readable.

    width, height : of the picture as it is seen, after its rotation and pixel shape
    quarter_turns : how often the stored picture is turned by 90 degrees, anticlockwise, to be seen
    flipped : the stored picture is flipped left to right first, before it is turned: the file says
        so
    pts : (F,) int64 stamps of the frames in the order in which they are shown, in time_base_s
    key : (F,) whether a frame can be decoded alone (key frame)
    made_by : what the file says of its making filmed_hz : the rate noted by the phone, if it filmed
        faster than the file plays
    capture_hz : the filming rate given by the coach, if it plays slower than it was filmed; else
        None
    mirrored : it was filmed as in a mirror: its pictures are turned back, left to right
    filmed_at : when, as the phone noted it, in local time (ISO 8601); empty if it did not
    stated_s : how long the file says it is, as it shows it; 0 if unknown"""

    path: Path
    width: int
    height: int
    quarter_turns: int
    codec: str
    pts: NDArray[np.int64]
    key: NDArray[np.bool_]
    time_base_s: float
    made_by: str = ""
    filmed_hz: float | None = None
    capture_hz: float | None = None
    mirrored: bool = False
    stated_s: float = 0.0
    filmed_at: str = ""
    flipped: bool = False

    @property
    def frames(self) -> int:
        return len(self.pts)

    @property
    def shown_hz(self) -> float:
        """The usual rate at which the file shows its frames."""
        return 1.0 / (self.time_base_s * float(np.median(np.diff(self.pts))))

    @property
    def slowdown(self) -> float:
        """How many times slower than it was filmed the file shows it: 1 for most clips."""
        return self.capture_hz / self.shown_hz if self.capture_hz else 1.0

    @property
    def time_s(self) -> NDArray[np.float64]:
        """(F,) when each frame was filmed, from the first one on. True stamps, uneven where they
        are."""
        out: NDArray[np.float64] = (self.pts - self.pts[0]) * (self.time_base_s / self.slowdown)
        return out

    @property
    def rate_hz(self) -> float:
        """The usual rate at which it was filmed."""
        return self.capture_hz or self.shown_hz

    @property
    def duration_s(self) -> float:
        return float(self.time_s[-1] + 1.0 / self.rate_hz)

    @property
    def missing_s(self) -> float:
        """How much of it is cut off in the file, as it would show it: 0 for a whole clip."""
        there = float(self.pts[-1] - self.pts[0]) * self.time_base_s + 1.0 / self.shown_hz
        missing = self.stated_s - there
        return missing if missing > max(_CUT_S, _CUT_SHARE * self.stated_s) else 0.0

    def index(self, at_s: float) -> int:
        """The frame that is on at a time."""
        i = int(np.searchsorted(self.time_s, at_s + 1e-6, side="right")) - 1
        return min(max(i, 0), self.frames - 1)


@contextmanager
def opened(path: Path) -> Iterator[tuple[InputContainer, VideoStream]]:
    """A clip's container and its first moving picture. Raises BadFile, a sentence, where there is
    none."""
    import av  # noqa: PLC0415

    try:
        if path.stat().st_size == 0:
            raise BadFile("the file is empty", path=path, right=RIGHT)
        container = av.open(str(path))
    except (av.FFmpegError, OSError, ValueError, UnicodeError) as error:
        raise BadFile(
            f"it is no clip that can be read ({_why(error)})", path=path, right=RIGHT
        ) from None
    try:
        pictures = [
            s for s in container.streams.video if not s.disposition & s.disposition.attached_pic
        ]
        if not pictures:
            raise BadFile(
                "it holds no moving picture, only sound or nothing", path=path, right=RIGHT
            )
        yield container, pictures[0]
    finally:
        container.close()


def _why(error: Exception) -> str:
    return (getattr(error, "strerror", None) or str(error) or type(error).__name__).lower()


@contextmanager
def told(path: Path) -> Iterator[None]:
    """What the decoder can't do with a clip, as a sentence."""
    import av  # noqa: PLC0415

    try:
        yield
    except BadFile:
        raise  # it is a sentence already
    except (av.FFmpegError, ValueError, MemoryError, EOFError) as error:
        raise BadFile(
            f"the clip breaks off or is damaged ({_why(error)})", path=path, right=RIGHT
        ) from None


def inspect_video(path: Path, progress: Progress = lambda _share: None) -> Clip:
    """What a clip is, from its packets; two of its frames are decoded to see that they can be.

    progress : called with a share from 0 to 1 now and then; may raise to stop
    Raises BadFile with a sentence for anything that can't be played.
    """
    if path.suffix.lower() in OTHER_SUFFIXES:
        raise BadFile(
            f"clips that end in {path.suffix.lower()} keep no trustworthy times of their frames",
            path=path,
            right="save it as MP4 with any video program, or send the file that the phone recorded",
        )
    with opened(path) as (container, stream), told(path):
        if stream.codec_context is None:
            raise BadFile(
                "its pictures are packed in a way that can't be read", path=path, right=RIGHT
            )
        width, height = stream.codec_context.width, stream.codec_context.height
        codec = stream.codec_context.codec.canonical_name
        _check_size(path, width, height)
        base = stream.time_base
        if base is None or base <= 0:
            raise BadFile("it does not say when its frames are shown", path=path, right=RIGHT)
        size = max(path.stat().st_size, 1)
        stamps: list[int] = []
        keys: list[bool] = []
        hidden_key = False
        for n, packet in enumerate(container.demux(stream)):
            if n % _TELL_EVERY == 0 and packet.pos is not None:
                progress(min(max(packet.pos, 0) / size, 1.0))
            if packet.pts is None or packet.is_discard or not packet.size:
                hidden_key = hidden_key or packet.is_keyframe
                continue
            stamps.append(packet.pts)
            keys.append(packet.is_keyframe)
        order = np.argsort(np.array(stamps, dtype=np.int64), kind="stable")
        pts = np.array(stamps, dtype=np.int64)[order]
        key = np.array(keys, dtype=bool)[order]
        fresh = np.concatenate(([True], np.diff(pts) > 0)) if len(pts) else np.zeros(0, dtype=bool)
        pts, key = pts[fresh], key[fresh]
        if hidden_key and len(key):
            # An edit list hides the frame that the first shown one is decoded from.
            key[0] = True
        _check_times(path, pts, key, float(base))
        made_by = container.metadata.get("comment", "")
        stated_s = _stated_s(container, stream)
        filmed_at = _filmed_at(container.metadata, stream.metadata)
        noted = _number(container.metadata.get(_NOTED_RATE, ""))
    with opened(path) as (container, stream), told(path):
        first = next(container.decode(stream), None)
        if first is None:
            raise BadFile("none of its frames can be decoded", path=path, right=RIGHT)
        turns, flipped = orientation(_display_matrix(first))
        # What a decoder cuts off at the edges does not count.
        wide, height = _seen_width(stream, first.width), first.height
    if turns % 2:
        wide, height = height, wide
    clip = Clip(
        path=path,
        width=wide,
        height=height,
        quarter_turns=turns,
        codec=codec,
        pts=pts,
        key=key,
        time_base_s=float(base),
        made_by=made_by,
        stated_s=stated_s,
        filmed_at=filmed_at,
        flipped=flipped,
    )
    slowed = noted is not None and _FASTEST_HZ >= noted > 1.5 * clip.shown_hz
    return replace(clip, filmed_hz=noted) if slowed else clip


def orientation(matrix: NDArray[np.float64]) -> tuple[int, bool]:
    """How a stored picture is to be turned to be seen: (quarter turns anticlockwise, whether it is
    flipped left to right before).

    matrix : (2, 2) from stored to shown positions, x to the right and y down. Turns between the
        quarters are rounded.
    """
    flipped = bool(np.linalg.det(matrix) < 0)
    turn = matrix @ np.diag([-1.0, 1.0]) if flipped else matrix
    return round(float(np.degrees(np.arctan2(turn[0, 1], turn[0, 0]))) / 90.0) % 4, flipped


def _display_matrix(frame: VideoFrame) -> NDArray[np.float64]:
    """(2, 2) the display matrix that came with a frame, without its shift; the identity if there is
    none.

    Stored as nine numbers by rows, a b u c d v x y w: (x, y) is shown at (a x + c y, b x + d y).
    """
    found: Any = frame.side_data.get("DISPLAYMATRIX")
    if found is None:
        return np.eye(2)
    nine = np.frombuffer(memoryview(found), dtype=np.int32).astype(float)
    matrix = np.array([[nine[0], nine[3]], [nine[1], nine[4]]])
    return matrix if abs(float(np.linalg.det(matrix))) > 0 else np.eye(2)


def _stated_s(container: InputContainer, stream: VideoStream) -> float:
    """How long a file says its picture is; 0 if unknown."""
    if stream.duration and stream.time_base:
        return float(stream.duration * stream.time_base)
    return container.duration / 1e6 if container.duration and container.duration > 0 else 0.0


def _filmed_at(*noted: Mapping[str, str]) -> str:
    """When a clip was filmed, as its file notes it in universal time. Clocks that were never set
    are no answer."""
    for own in noted:
        try:
            at = datetime.fromisoformat(own.get("creation_time", ""))
        except ValueError:
            continue
        if at.year >= _FIRST_YEAR:
            return at.astimezone().replace(tzinfo=None).isoformat(timespec="minutes")
    return ""


def _number(text: str) -> float | None:
    try:
        return float(text)
    except ValueError:
        return None


def _seen_width(stream: VideoStream, width: int) -> int:
    """The width with pixels made square."""
    shape = stream.sample_aspect_ratio
    return max(1, round(width * float(shape))) if shape and 0.1 < shape < 10 else width


def _check_size(path: Path, width: int, height: int) -> None:
    if min(width, height) < _SMALLEST_SIDE:
        raise BadFile(
            f"its picture is {width} by {height}, too small to see a person in",
            path=path,
            right=RIGHT,
        )
    if max(width, height) > _LARGEST_SIDE:
        raise BadFile(
            f"its picture is {width} by {height}",
            path=path,
            right=f"a clip may be up to {_LARGEST_SIDE} pixels wide and high",
        )


def _check_times(path: Path, pts: NDArray[np.int64], key: NDArray[np.bool_], base_s: float) -> None:
    if len(pts) < 2:
        raise BadFile(
            "it has no moving picture that is whole" if not len(pts) else "it has one frame",
            path=path,
            right=RIGHT,
        )
    if not key.any():
        raise BadFile("it holds no frame to start from", path=path, right=RIGHT)
    long_s = float(pts[-1] - pts[0]) * base_s
    if long_s > _LONGEST_S:
        raise BadFile(
            f"it is {long_s / 3600:.0f} hours long",
            path=path,
            right=f"a recording may last up to {_LONGEST_S / 3600:.0f} hours",
        )
    if float(np.median(np.diff(pts))) * base_s < 1.0 / _FASTEST_HZ:
        raise BadFile(
            f"its frames follow each other faster than {_FASTEST_HZ:.0f} a second",
            path=path,
            right=RIGHT,
        )


def index_bytes(clip: Clip) -> bytes:
    """What `inspect_video` found, to be kept next to the clip."""
    out = io.BytesIO()
    facts: dict[str, Any] = {
        "size": np.array([clip.width, clip.height, clip.quarter_turns]),
        "codec": np.array(clip.codec),
        "made_by": np.array(clip.made_by),
        "filmed_hz": np.array(clip.filmed_hz or 0.0),
        "time_base_s": np.array(clip.time_base_s),
        "flipped": np.array(clip.flipped),
        "stated_s": np.array(clip.stated_s),
        "filmed_at": np.array(clip.filmed_at),
        "pts": clip.pts,
        "key": clip.key,
    }
    np.savez_compressed(out, **facts)
    return out.getvalue()


def with_index(path: Path, index: Path, capture_hz: float | None = None) -> Clip:
    """A clip by its kept index. Raises OSError or ValueError where that is gone or damaged."""
    with np.load(index, allow_pickle=False) as kept:
        width, height, turns = (int(n) for n in kept["size"])
        return Clip(
            path=path,
            width=width,
            height=height,
            quarter_turns=turns,
            codec=str(kept["codec"]),
            pts=kept["pts"],
            key=kept["key"],
            time_base_s=float(kept["time_base_s"]),
            made_by=str(kept["made_by"]),
            filmed_hz=float(kept["filmed_hz"]) or None,
            capture_hz=capture_hz,
            stated_s=float(kept["stated_s"]) if "stated_s" in kept else 0.0,
            filmed_at=str(kept["filmed_at"]) if "filmed_at" in kept else "",
            flipped=bool(kept["flipped"]) if "flipped" in kept else False,
        )
