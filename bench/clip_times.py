"""Clips: how fast they come in, how soon a frame is there, how much memory they take.

    ./run dev python bench/clip_times.py               all of it, on a clip of 1920 by 1080
    ./run dev python bench/clip_times.py import|scrub|memory|pose|CLIP

Import is set against bare decoding of the same clip in the same run, the pose model against the
bare model fed with frames that are decoded already.
"""

from __future__ import annotations

import os
import resource
import subprocess
import sys
import tempfile
import threading
import time
from functools import partial
from pathlib import Path

import av
import cv2
import numpy as np

HERE = Path(__file__).resolve()

from clips import small_film
from guide_arc.capture.tracking.pose import PoseModel
from guide_arc.capture.tracking.pose_process import pose_python
from guide_arc.capture.video.clip import inspect_video
from guide_arc.capture.video.frames import every_frame
from guide_arc.capture.video.proxy import make_proxy, proxy_clip
from guide_arc.capture.video.server import FrameServer, FrameWish, Shown
from guide_arc.core.model.marks import Marks
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.store import Library

SIZE = (1920, 1080)
RATE = 30
MINUTE = 60
DETAILS = ClipDetails("Esme Rook", "rope-pushdown", "locked", "left")


def _tell(told: list[float], _share: float) -> None:
    told.append(time.perf_counter())


def minute_of_film(path: Path) -> None:
    """A minute of 1080p H.264 as a phone makes it: a key frame a second, grain, something
    moving."""
    rng = np.random.default_rng(1)
    room = cv2.resize(
        rng.integers(60, 200, (68, 120, 3), dtype=np.uint8), SIZE, interpolation=cv2.INTER_CUBIC
    )
    grain = [rng.normal(0, 3, (*SIZE[::-1], 1)).astype(np.int16) for _ in range(4)]
    with av.open(str(path), "w") as out:
        stream = out.add_stream(
            "libx264", rate=RATE, options={"crf": "23", "preset": "veryfast", "g": str(RATE)}
        )
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
        for i in range(MINUTE * RATE):
            picture = room.copy()
            x, y = 960 + int(500 * np.sin(i / 20)), 540 + int(300 * np.cos(i / 27))
            cv2.circle(picture, (x, y), 90, (40, 60, 190), -1)
            picture = np.clip(picture + grain[i % 4], 0, 255).astype(np.uint8)
            out.mux(stream.encode(av.VideoFrame.from_ndarray(picture, format="rgb24")))
        out.mux(stream.encode())


def repeated(source: Path, target: Path, times: int) -> None:
    """The same clip so many times on end, packets copied."""
    with av.open(str(target), "w") as out:
        added = None
        offset = 0
        for _ in range(times):
            with av.open(str(source)) as given:
                stream = given.streams.video[0]
                added = added or out.add_stream_from_template(stream)
                last = 0
                for packet in given.demux(stream):
                    if packet.dts is None or packet.pts is None:
                        continue
                    last = max(last, packet.pts + (packet.duration or 0))
                    packet.pts += offset
                    packet.dts += offset
                    packet.stream = added
                    out.mux(packet)
                offset += last


def decoded(path: Path) -> float:
    """Seconds for decoding a clip and nothing else."""
    begun = time.perf_counter()
    with av.open(str(path)) as given:
        given.streams.video[0].thread_type = "AUTO"
        for _frame in given.decode(given.streams.video[0]):
            pass
    return time.perf_counter() - begun


def importing(path: Path) -> None:
    """Copying, hashing and looking at it; and with the small copy, which is made in the
    background."""
    rows = []
    for _ in range(3):
        with tempfile.TemporaryDirectory() as folder:
            library = Library.open(Path(folder) / "library")
            bare = decoded(path)
            begun = time.perf_counter()
            set_id, _ = ClipSets(library).add(path, DETAILS)
            taken = time.perf_counter() - begun
            clip = ClipSets(library).clip(set_id)
            assert clip is not None
            begun = time.perf_counter()
            ClipSets(library).folder.make_proxy(clip)
            small = time.perf_counter() - begun
            frames = clip.frames
            library.close()
        rows.append((frames / bare, frames / taken, frames / small))
    bare, taken, small = np.median(rows, axis=0)
    print(f"bare decoding       {bare:8.0f} frames a second")
    print(
        f"import              {taken:8.0f} frames a second, {taken / bare:.1f} of bare decoding"
        " (0.8 is asked)"
    )
    print(
        f"small copy          {small:8.0f} frames a second, {small / bare:.2f} of bare decoding, in"
        " the background"
    )


def scrubbing(path: Path) -> None:
    """From asking for a frame anywhere in the clip until there is a picture of it, and until its
    own is there."""
    with tempfile.TemporaryDirectory() as folder:
        clip = inspect_video(path)
        make_proxy(clip, Path(folder) / "small.mp4")
        proxy = proxy_clip(clip, Path(folder) / "small.mp4")
        there = threading.Condition()
        came: dict[bool, float] = {}

        def give(shown: Shown) -> None:
            with there:
                came[shown.rough] = time.perf_counter()
                there.notify_all()

        server = FrameServer(clip, proxy, give)
        first, own = [], []
        for number in np.random.default_rng(2).integers(0, clip.frames, 300):
            with there:
                came.clear()
                asked = time.perf_counter()
                server.want(FrameWish(int(number), 960))
                there.wait_for(lambda: False in came, timeout=10)
            first.append(1000 * (min(came.values()) - asked))
            own.append(1000 * (came[False] - asked))
        server.close()
    for words, values in (("a picture is there", first), ("the clip's own frame", own)):
        shares = np.percentile(values, (50, 90, 95, 99, 100))
        print(
            f"{words:22s}"
            + "  ".join(
                f"{n}: {v:5.0f} ms"
                for n, v in zip(("median", "90 %", "95 %", "99 %", "most"), shares, strict=True)
            )
        )


def peak_mb(path: Path) -> None:
    """What one process takes to import a clip, make its copy, and scrub in it; asked in a process
    of its own."""
    with tempfile.TemporaryDirectory() as folder:
        library = Library.open(Path(folder) / "library")
        sets = ClipSets(library)
        set_id, _ = sets.add(path, DETAILS)
        clip = sets.clip(set_id)
        assert clip is not None
        sets.folder.make_proxy(clip)
        came = threading.Semaphore(0)
        server = FrameServer(
            clip, sets.folder.proxy(clip), lambda shown: came.release() if not shown.rough else None
        )
        for number in np.random.default_rng(3).integers(0, clip.frames, 60):
            server.want(FrameWish(int(number), 960))
            came.acquire(timeout=10)
        server.close()
        library.close()
    print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024)


def memory(minute: Path, folder: Path) -> None:
    for minutes in (1, 5, 20):
        path = folder / f"{minutes}.mp4"
        repeated(minute, path, minutes)
        done = subprocess.run(
            [sys.executable, str(HERE), "--peak", str(path)],
            capture_output=True,
            text=True,
            check=True,
        )
        print(f"{minutes:2d} minutes of 1080p: at most {int(done.stdout):4d} MB")
        path.unlink()


_BARE = """
import sys, time, numpy as np
from mediapipe.python.solutions.pose import Pose
frames = np.load(sys.argv[1])
with Pose(model_complexity=1, smooth_landmarks=True) as pose:
    for f in frames[:10]: pose.process(f)
    begun = time.perf_counter()
    for f in frames: pose.process(f)
    print(len(frames) / (time.perf_counter() - begun))
"""


def pose(path: Path) -> None:
    """The pose extra against the bare model on frames that are decoded already."""
    python = pose_python()
    if python is None:
        print("the pose extra is not there: ./run add-pose")
        return
    clip = inspect_video(path)
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "frames.npy"
        stop = min(clip.frames, 600)
        np.save(file, np.stack([p for _, p in every_frame(clip, width=720, stop=stop)]))
        rates = []
        for _ in range(3):
            env = {k: v for k, v in os.environ.items() if k != "PYTHONPATH"}
            bare = float(
                subprocess.run(
                    [python, "-P", "-c", _BARE, str(file)],
                    capture_output=True,
                    text=True,
                    check=True,
                    env=env,
                ).stdout
            )
            told: list[float] = []
            PoseModel().track(clip, Marks("left"), partial(_tell, told))
            # Without the model's start, which is paid once: from the first news to the last.
            own = 5 * (len(told) - 1) / (told[-1] - told[0])
            rates.append((own, bare))
        own, bare = np.median(rates, axis=0)
    print(
        f"bare model {bare:.1f} frames a second, the extra {own:.1f}: {own / bare:.2f} (0.9 is"
        " asked)"
    )


def main(what: str) -> None:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(what)
        if what == "pose" or path.suffix:
            film = path
            if not path.suffix:
                film = Path(folder) / "film.mp4"
                small_film(film, reps=6)
            pose(film)
            return
        path = Path(folder) / "minute.mp4"
        minute_of_film(path)
        if what in ("all", "import"):
            importing(path)
        if what in ("all", "scrub"):
            scrubbing(path)
        if what in ("all", "memory"):
            memory(path, Path(folder))
        if what == "all":
            main("pose")


if __name__ == "__main__":
    if sys.argv[1:2] == ["--peak"]:
        peak_mb(Path(sys.argv[2]))
    else:
        main(sys.argv[1] if len(sys.argv) > 1 else "all")
