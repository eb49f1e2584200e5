"""The pose model's process: a picture in, the landmarks of one person out."""

from __future__ import annotations

import contextlib
import importlib.util
import os
import shutil
import struct
import subprocess
import sys
from pathlib import Path
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.video.frames import Picture
from guide_arc.core.model.errors import BadInput

COMMAND: Final = "./run add-pose"
# The Python that has the model, if it is not this one.
_PYTHON: Final = "GUIDE_ARC_POSE_PYTHON"
_HEAD: Final = struct.Struct("<III")
POINTS: Final = 33
_ANSWER: Final = POINTS * 3 * 4

# "on": the person of the picture before; "new": whoever is found; "alone": the same, next to those
# that are followed
How = Literal["on", "new", "alone"]
_HOW: Final[dict[How, int]] = {"on": 0, "new": 1, "alone": 2}

Landmarks = NDArray[np.float64]


def pose_python() -> str | None:
    """The Python that has the model: this one, or the one named by GUIDE_ARC_POSE_PYTHON; else
    None."""
    named = os.environ.get(_PYTHON)
    if named and shutil.which(named):
        return named
    return sys.executable if importlib.util.find_spec("mediapipe") else None


class PoseProcess:
    """Started by `with`; asked for one picture after the other."""

    def __init__(self, python: str) -> None:
        self._python = python

    def __enter__(self) -> PoseProcess:
        self._worker = subprocess.Popen(
            [self._python, "-P", str(Path(__file__).with_name("pose_worker.py"))],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            env={k: v for k, v in os.environ.items() if k != "PYTHONPATH"},
        )
        self._ready = False
        return self

    def __exit__(self, *_error: object) -> None:
        self._worker.kill()
        for pipe in (self._worker.stdin, self._worker.stdout):
            assert pipe is not None
            with contextlib.suppress(OSError):  # what was not written yet is for nobody
                pipe.close()
        self._worker.wait()

    def landmarks(self, picture: Picture, how: How) -> Landmarks:
        """(33, 3) x and y in pixels of the picture and visibility from 0 to 1; NaN where nobody is
        seen.

        Raises BadInput if the process does not start or breaks off.
        """
        given, answers = self._worker.stdin, self._worker.stdout
        assert given is not None
        assert answers is not None
        if not self._ready:
            if answers.read(1) != b"R":
                raise BadInput(f"the pose model does not start; install it again with {COMMAND}")
            self._ready = True
        high, wide = picture.shape[:2]
        try:
            given.write(_HEAD.pack(wide, high, _HOW[how]))
            given.write(np.ascontiguousarray(picture).data)
            given.flush()
            data = answers.read(_ANSWER)
        except BrokenPipeError:
            data = b""
        if len(data) < _ANSWER:
            raise BadInput(f"the pose model stopped; try again, or install it again with {COMMAND}")
        found = np.frombuffer(data, dtype=np.float32).reshape(POINTS, 3).astype(np.float64)
        found[:, :2] *= (wide, high)
        return found
