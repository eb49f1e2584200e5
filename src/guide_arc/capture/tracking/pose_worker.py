"""Runs the pose model in a process of its own, perhaps with a Python of its own.

Told on standard input: a line `WIDTH HEIGHT`, then pictures of that size, 3 bytes a pixel, red first. For each
it answers on standard output with 33 times (x, y, visibility) as 32-bit floats, x and y as shares of the
picture; all NaN where it sees nobody. It imports nothing of this package.
"""

from __future__ import annotations

import contextlib
import os
import sys


def main() -> None:
    answers = os.dup(1)
    os.dup2(2, 1)  # what libraries print must not get between the answers
    os.environ.setdefault("GLOG_minloglevel", "3")
    os.environ.setdefault("TF_CPP_MIN_LOG_LEVEL", "3")
    import numpy as np  # noqa: PLC0415
    from mediapipe.python.solutions.pose import Pose  # noqa: PLC0415

    width, height = (int(word) for word in sys.stdin.buffer.readline().split())
    with (
        Pose(model_complexity=1, smooth_landmarks=True) as pose,
        os.fdopen(answers, "wb", buffering=0) as out,
        contextlib.suppress(BrokenPipeError, KeyboardInterrupt),
    ):
        out.write(b"R")  # ready: the model is loaded
        while len(data := sys.stdin.buffer.read(width * height * 3)) == width * height * 3:
            picture = np.frombuffer(data, dtype=np.uint8).reshape(height, width, 3)
            found = pose.process(picture).pose_landmarks
            answer = np.full((33, 3), np.nan, dtype=np.float32)
            if found is not None:
                answer[:] = [(p.x, p.y, p.visibility) for p in found.landmark]
            out.write(answer.tobytes())


if __name__ == "__main__":
    main()
