"""The pose model: finds 33 landmarks of one person in every frame. An optional extra, in its own process."""

from __future__ import annotations

import importlib.util
import os
import queue
import shutil
import subprocess
import sys
import threading
from pathlib import Path
from typing import IO, Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.tracker import Progress, Tracked
from guide_arc.capture.video.clip import Clip
from guide_arc.capture.video.frames import every_frame
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.marks import Marks

COMMAND: Final = "./run add-pose"
WHAT_IT_ADDS: Final = (
    "The pose model finds the joints by itself, so that nothing needs to be clicked. "
    f"It is an extra of about 1 GB that works without a network once it is added by:\n{COMMAND}"
)
# Which Python has the model, where it is not this one.
_PYTHON: Final = "GUIDE_ARC_POSE_PYTHON"
_WORK_WIDTH: Final = 720
_ANSWER: Final = 33 * 3 * 4
_DOUBT_BELOW: Final = 0.35
_ROOM_ABOUT: Final = 0.35

_PAIRS: Final = {
    "ear": 7, "shoulder": 11, "elbow": 13, "wrist": 15, "pinky": 17, "index": 19, "thumb": 21,
    "hip": 23, "knee": 25, "ankle": 27, "heel": 29, "foot": 31,
}  # fmt: skip
# Our landmarks by their place among the model's: left ones are odd, the right one follows each.
PLACES: Final[dict[str, int]] = {"nose": 0} | {
    f"{side}_{part}": place + (side == "right") for part, place in _PAIRS.items() for side in SIDES
}


def pose_python() -> str | None:
    """The Python that has the model: this one, or the one named by GUIDE_ARC_POSE_PYTHON; else None."""
    named = os.environ.get(_PYTHON)
    if named and shutil.which(named):
        return named
    return sys.executable if importlib.util.find_spec("mediapipe") else None


class PoseModel:
    """The tracker that needs no marks. Where several people are in view, the marks' box says who is meant."""

    name = "pose model"

    def why_not(self, clip: Clip, marks: Marks) -> str | None:
        return None if pose_python() else WHAT_IT_ADDS

    def track(self, clip: Clip, marks: Marks, progress: Progress) -> Tracked:
        """Every frame through the model, which works while the next frames are decoded.

        Raises BadInput where the extra is not there or its process breaks down.
        """
        python = pose_python()
        if python is None:
            raise BadInput(WHAT_IT_ADDS)
        scale = min(1.0, _WORK_WIDTH / max(clip.width, clip.height))
        x0, y0, x1, y1 = _looked_at(clip, marks, scale)
        worker = subprocess.Popen(
            [python, "-P", str(Path(__file__).with_name("pose_worker.py"))],
            stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL,
            env={k: v for k, v in os.environ.items() if k != "PYTHONPATH"},
        )  # fmt: skip
        assert worker.stdin is not None
        assert worker.stdout is not None
        found = np.full((clip.frames, 33, 3), np.nan)
        try:
            numbers = _Feeder(clip, round(scale * clip.width), (x0, y0, x1, y1), worker.stdin)
            numbers.start()
            if worker.stdout.read(1) != b"R":
                raise BadInput(f"the pose model does not start; add it anew with {COMMAND}")
            done = 0
            while (number := numbers.given.get()) is not None:
                answer = _whole(worker.stdout, _ANSWER)
                found[number] = np.frombuffer(answer, dtype=np.float32).reshape(33, 3)
                done += 1
                if done % 5 == 0:
                    progress(done / clip.frames)
            if numbers.error is not None:
                raise numbers.error
        finally:
            worker.kill()
            worker.wait()
            worker.stdout.close()
        return _ours(found, (x0, y0, x1, y1), scale)


class _Feeder(threading.Thread):
    """Decodes frames ahead and writes them to the worker; `given` tells which, and None at the end."""

    def __init__(
        self, clip: Clip, width: int, box: tuple[int, int, int, int], pipe: IO[bytes]
    ) -> None:
        super().__init__(daemon=True)
        self.given: queue.Queue[int | None] = queue.Queue()
        self.error: Exception | None = None
        self._clip, self._width, self._box, self._pipe = clip, width, box, pipe

    def run(self) -> None:
        x0, y0, x1, y1 = self._box
        try:
            with self._pipe as pipe:
                pipe.write(f"{x1 - x0} {y1 - y0}\n".encode())
                for number, picture in every_frame(self._clip, width=self._width):
                    pipe.write(np.ascontiguousarray(picture[y0:y1, x0:x1]).data)
                    self.given.put(number)
        except (BrokenPipeError, ValueError):
            self.error = None  # the worker is gone: who reads from it notices
        except Exception as error:
            self.error = error
        self.given.put(None)


def _whole(pipe: IO[bytes], size: int) -> bytes:
    """Exactly so many bytes. Raises BadInput where the process ended before."""
    data = pipe.read(size)
    if len(data) < size:
        raise BadInput(f"the pose model broke off; try again, or add it anew with {COMMAND}")
    return data


def _looked_at(clip: Clip, marks: Marks, scale: float) -> tuple[int, int, int, int]:
    """The part of the scaled picture that the model sees: all of it, or about the person that is meant."""
    wide, high = (
        round(scale * clip.width),
        max(2, round(round(scale * clip.width) / clip.width * clip.height)),
    )
    if marks.person is None:
        return 0, 0, wide, high
    _frame, ax, ay, bx, by = marks.person
    left, right = sorted((scale * ax, scale * bx))
    top, low = sorted((scale * ay, scale * by))
    room = _ROOM_ABOUT * max(right - left, low - top)
    x0, y0 = max(0, round(left - room)), max(0, round(top - 0.4 * room))
    x1, y1 = min(wide, round(right + room)), min(high, round(low + 0.4 * room))
    return (x0, y0, x1, y1) if x1 - x0 >= 32 and y1 - y0 >= 32 else (0, 0, wide, high)


def _ours(found: NDArray[np.float64], box: tuple[int, int, int, int], scale: float) -> Tracked:
    x0, y0, x1, y1 = box
    names = tuple(PLACES)
    own = found[:, list(PLACES.values())]
    position = (own[..., :2] * (x1 - x0, y1 - y0) + (x0, y0)) / scale
    confidence = np.clip(np.nan_to_num(own[..., 2]), 0.0, 1.0)
    return Tracked(names, position, confidence, confidence < _DOUBT_BELOW)
