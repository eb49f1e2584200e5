"""The pose model: finds 33 landmarks of one person in every frame. An optional extra, in its own
process."""

from __future__ import annotations

import queue
import threading
from collections.abc import Iterator
from typing import Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.people import Person, people_in
from guide_arc.capture.tracking.person import Box, FollowedPerson
from guide_arc.capture.tracking.pose_process import COMMAND, POINTS, PoseProcess, pose_python
from guide_arc.capture.tracking.sides import sides_by_view
from guide_arc.capture.tracking.tracker import Progress, Tracked
from guide_arc.capture.video.clip import Clip
from guide_arc.capture.video.frames import FrameReader, Picture, every_frame
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.marks import Marks

WHAT_IT_ADDS: Final = (
    "The pose model finds the joints by itself, so that nothing needs to be clicked. "
    f"It is an extra of about 1 GB that works without a network once it is added by:\n{COMMAND}"
)
# The model looks at a cut-out of 256 pixels: larger pictures only take longer.
_WORK_WIDTH: Final = 720
# Its scores of joints that are hidden lie below this.
_DOUBT_BELOW: Final = 0.35
# Frames decoded while the model is at work, so that neither waits for the other.
_DECODED_AHEAD: Final = 8
# Frames held at once where a clip is gone through backward.
_HELD: Final = 60
# The frames used to find who is in view, as shares of the clip.
_LOOKED_AT: Final = (0.12, 0.31, 0.5, 0.69, 0.88)
# Somebody is seen in fewer of the frames: nobody is.
_NOBODY: Final = 0.02

_PAIRS: Final = {
    "ear": 7,
    "shoulder": 11,
    "elbow": 13,
    "wrist": 15,
    "pinky": 17,
    "index": 19,
    "thumb": 21,
    "hip": 23,
    "knee": 25,
    "ankle": 27,
    "heel": 29,
    "foot": 31,
}
# Our landmarks by their place among the model's: left ones are odd, the right one follows each.
PLACES: Final[dict[str, int]] = {"nose": 0} | {
    f"{side}_{part}": place + (side == "right") for part, place in _PAIRS.items() for side in SIDES
}


class NobodyInView(BadInput):
    """The model saw nobody in a clip."""


class PoseModel:
    """The tracker that needs no marks. Where several people are in view, the marks' box says who is
    meant."""

    name = "pose model"

    def why_not(self, clip: Clip, marks: Marks) -> str | None:
        return None if pose_python() else WHAT_IT_ADDS

    def track(self, clip: Clip, marks: Marks, progress: Progress) -> Tracked:
        """Every frame through the model, while the next ones are decoded; from the frame of the box
        outward.

        Raises BadInput if the extra is not there or its process breaks down, NobodyInView where
        it sees nobody.
        """
        scale = _scale(clip)
        first, box = _meant(marks, clip, scale)
        found = np.full((clip.frames, POINTS, 3), np.nan)
        done = 0
        with _started() as model:
            for frames in _ways(clip, first, round(scale * clip.width)):
                person = FollowedPerson(model, box)
                for number, picture in frames:
                    found[number] = person.see(picture)
                    done += 1
                    if done % 5 == 0:
                        progress(min(done / clip.frames, 1.0))
        if np.isfinite(found[:, 0, 0]).mean() < _NOBODY:
            who = "nobody" if box is None else "nobody of whom the box could be"
            raise NobodyInView(f"{who} is in view; mark the joints by hand, or send another clip")
        return sides_by_view(_ours(found, clip, scale), marks.view)

    def people(self, clip: Clip) -> tuple[Person, ...]:
        """Who is in view for most of a clip, the largest first; boxes in pixels of the upright
        picture."""
        scale = _scale(clip)
        numbers = sorted({round(share * (clip.frames - 1)) for share in _LOOKED_AT})
        with _started() as model, FrameReader(clip) as reader:
            pictures = ((n, reader.at(n, round(scale * clip.width))) for n in numbers)
            return tuple(
                Person(p.frame, tuple(v / scale for v in p.box))  # type: ignore[arg-type]
                for p in people_in(pictures, model)
            )

    def some(self, clip: Clip, numbers: NDArray[np.int_], progress: Progress) -> Tracked:
        """A few frames, each alone, to see what a clip shows."""
        scale = _scale(clip)
        found = np.full((len(numbers), POINTS, 3), np.nan)
        with _started() as model, FrameReader(clip) as reader:
            for i, number in enumerate(numbers):
                progress(i / len(numbers))
                found[i] = model.landmarks(reader.at(int(number), round(scale * clip.width)), "on")
        return _ours(found, clip, scale)


def _started() -> PoseProcess:
    python = pose_python()
    if python is None:
        raise BadInput(WHAT_IT_ADDS)
    return PoseProcess(python)


def _scale(clip: Clip) -> float:
    return min(1.0, _WORK_WIDTH / max(clip.width, clip.height))


def _meant(marks: Marks, clip: Clip, scale: float) -> tuple[int, Box | None]:
    """The frame on which a box says who is meant, and the box in the scaled picture."""
    if marks.person is None:
        return 0, None
    frame, ax, ay, bx, by = marks.person
    (x0, x1), (y0, y1) = sorted((scale * ax, scale * bx)), sorted((scale * ay, scale * by))
    return min(frame, clip.frames - 1), (x0, y0, x1, y1)


def _ways(clip: Clip, first: int, width: int) -> Iterator[Iterator[tuple[int, Picture]]]:
    """The frames from `first` to the end, then from there back to the start."""
    yield _decoded_ahead(every_frame(clip, width=width, start=first))
    if first:
        yield _decoded_ahead(_backward(clip, first, width))


def _backward(clip: Clip, before: int, width: int) -> Iterator[tuple[int, Picture]]:
    """The frames before one, the last first; decoded a few at a time."""
    keys = np.flatnonzero(clip.key[:before])
    starts = sorted({0, *keys.tolist(), *range(0, before, _HELD)})
    for start, stop in zip(reversed(starts), [before, *reversed(starts[1:])], strict=True):
        yield from reversed(list(every_frame(clip, width=width, start=start, stop=stop)))


def _decoded_ahead(frames: Iterator[tuple[int, Picture]]) -> Iterator[tuple[int, Picture]]:
    """The same frames, decoded by a thread while the model works on those before."""
    coming: queue.Queue[tuple[int, Picture] | Exception | None] = queue.Queue(_DECODED_AHEAD)
    left = threading.Event()

    def put(what: tuple[int, Picture] | Exception | None) -> bool:
        while not left.is_set():
            try:
                coming.put(what, timeout=0.1)
            except queue.Full:
                continue
            return True
        return False

    def decode() -> None:
        try:
            for frame in frames:
                if not put(frame):
                    return
        except Exception as error:
            put(error)
        else:
            put(None)

    thread = threading.Thread(target=decode, daemon=True)
    thread.start()
    try:
        while (given := coming.get()) is not None:
            if isinstance(given, Exception):
                raise given
            yield given
    finally:
        left.set()
        thread.join()


def _ours(found: NDArray[np.float64], clip: Clip, scale: float) -> Tracked:
    """The model's landmarks as ours. What it puts outside the picture it did not see."""
    own = found[:, list(PLACES.values())]
    position = own[..., :2] / scale
    outside = ((position < 0.0) | (position >= (clip.width, clip.height))).any(axis=-1)
    position[outside] = np.nan
    confidence = np.where(outside, 0.0, np.clip(np.nan_to_num(own[..., 2]), 0.0, 1.0))
    return Tracked(tuple(PLACES), position, confidence, confidence < _DOUBT_BELOW)
