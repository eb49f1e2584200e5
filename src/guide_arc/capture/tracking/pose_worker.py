"""Runs the pose model in a separate process, perhaps with another Python.

It says `R` on standard output once the model is loaded. Told on standard input: for each picture
three numbers of 32 bits (its width, its height, how to look), then its pixels, 3 bytes each, red
first. How to look: 0 continues from the picture before, 1 forgets the tracked person, 2 handles
this picture alone and changes nothing for the others. It answers each with 33 times (x, y,
visibility) as 32-bit floats, x and y as shares of the picture; all NaN if it sees nobody. It
imports nothing of this package."""

from __future__ import annotations

import contextlib
import os
import struct
import sys
from typing import Any

_HEAD = struct.Struct("<III")
_ANEW, _ALONE = 1, 2


def main() -> None:
    answers = os.dup(1)
    os.dup2(2, 1)  # what libraries print must not get between the answers
    os.environ.setdefault("GLOG_minloglevel", "3")
    os.environ.setdefault("TF_CPP_MIN_LOG_LEVEL", "3")
    import numpy as np  # noqa: PLC0415
    from mediapipe.python.solutions.pose import Pose  # noqa: PLC0415

    pictures = sys.stdin.buffer
    with (
        Pose(model_complexity=1, smooth_landmarks=True) as following,
        os.fdopen(answers, "wb", buffering=0) as out,
        contextlib.suppress(BrokenPipeError, KeyboardInterrupt),
    ):
        alone: Any = None
        out.write(b"R")
        while len(head := pictures.read(_HEAD.size)) == _HEAD.size:
            width, height, how = _HEAD.unpack(head)
            if len(data := pictures.read(width * height * 3)) < width * height * 3:
                break
            picture = np.frombuffer(data, dtype=np.uint8).reshape(height, width, 3)
            if how == _ANEW:
                following.reset()
            if how == _ALONE and alone is None:
                alone = Pose(static_image_mode=True, model_complexity=1)
            found = (alone if how == _ALONE else following).process(picture).pose_landmarks
            answer = np.full((33, 3), np.nan, dtype=np.float32)
            if found is not None:
                answer[:] = [(p.x, p.y, p.visibility) for p in found.landmark]
            out.write(answer.tobytes())


if __name__ == "__main__":
    main()
