"""The speeds we hold ourselves to, as ratios in one run: `./run dev python bench/speed.py`.

Prints a table for the README. Nothing here is a test.
"""

from __future__ import annotations

import itertools
import os
import subprocess
import sys
import tempfile
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
from PyQt6.QtCore import QEventLoop, QTimer
from PyQt6.QtGui import QImage
from scipy import signal

import harness
from guide_arc.app.contract.job import Alone, Job, Progress
from guide_arc.app.main import Opened, application, open_shell
from guide_arc.app.services.program import Program
from guide_arc.core.model.landmarks import BODY, KIT
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.library.demo import ensure_demo_library, fill_waiting, prepare
from guide_arc.library.store import Library
from guide_arc.standards.loader import standard

PLAN = standard("standing-barbell-curl")


def recording(seconds_long: float) -> LandmarkTrack:
    """A noisy set at 60 fps with 33 landmarks, cut to length."""
    reps = max(2, round(seconds_long / 3.9) + 2)
    done = perform(PLAN, Script(reps=reps), Camera(rate_hz=60.0, noise=0.0058, drift=0.002), seed=1)
    frames = round(seconds_long * 60)
    extra = (BODY + KIT)[len(done.track.names) : 33]
    pad = np.repeat(done.track.position[:frames, :1], len(extra), axis=1)
    return LandmarkTrack(
        time_s=done.track.time_s[:frames],
        names=(*done.track.names, *extra),
        position=np.concatenate((done.track.position[:frames], pad), axis=1),
        confidence=np.ones((frames, len(done.track.names) + len(extra))),
    )


def hour() -> LandmarkTrack:
    """An hour: a set of four minutes, fifteen times over."""
    part = recording(240.0)
    times = np.concatenate([part.time_s + 240.0 * i for i in range(15)])
    position = np.tile(part.position, (15, 1, 1))
    return LandmarkTrack(
        time_s=times, names=part.names, position=position, confidence=np.ones(position.shape[:2])
    )


def core() -> None:
    for length in (60.0, 240.0, 3600.0):
        track = recording(length) if length < 1000 else hour()
        b, a = signal.butter(2, 6.0, fs=60.0)
        cells = np.ascontiguousarray(track.position)
        mine, pass_s, ratio = harness.paired(
            partial(review_set, track, PLAN),
            partial(signal.filtfilt, b, a, cells, axis=0),
            9 if length < 1000 else 3,
        )
        print(
            f"| core review of {length:.0f} s at 60 fps, 33 landmarks | {1000 * mine:.0f} ms "
            f"| one zero-phase filter pass, {1000 * pass_s:.1f} ms | {ratio:.1f} |"
        )


def opened_on(folder: Path) -> Opened:
    opened = open_shell(folder)
    shell = opened.shell
    shell.resize(1280, 800)
    shell.show()
    shell.wait_until_quiet()
    return opened


def most_in_need(program: Program) -> int:
    """The set that the queue opens first."""
    first: int = next(row.id for row in program.sets.doc.rows if row.has_track)
    return first


def repaint(opened: Opened) -> None:
    """What playing costs (the stage again, dial and ribbon kept), and a new choice (all again)."""
    shell, program = opened
    program.measuring.open(most_in_need(program))
    shell.wait_until_quiet()
    review: Any = shell.shown.made["review"]
    sheet = review.sheet
    views = (sheet.stage, sheet.dial, sheet.ribbon)
    pictures = [QImage(v.size(), QImage.Format.Format_ARGB32_Premultiplied) for v in views]

    def show(again: bool) -> None:
        sheet.model.playback.playing = not again
        for view in views if again else views[:1]:
            view.redraw()
        for view, picture in zip(views, pictures, strict=True):
            view.render(picture)

    for again, words in (
        (False, "a frame of playing: stage again, dial and ribbon"),
        (True, "a new choice: stage, dial and ribbon again"),
    ):
        show(again)
        took = sorted(harness.seconds(partial(show, again)) for _ in range(25))
        print(f"| {words} | {1000 * took[12]:.1f} ms | asked: 8 ms | {1000 * took[12] / 8:.2f} |")


def opening_under_load(opened: Opened) -> None:
    """Opening a set that was not looked at lately, while two long jobs keep both long lanes busy,
    and idle."""
    shell, program = opened
    track = recording(60.0)
    review: Any = shell.shown.made["review"]
    # From the last to the first: the set after the open one, measured beforehand, is not what is
    # opened next.
    ids = itertools.cycle([row.id for row in program.sets.doc.rows if row.has_track][::-1])

    def open_next() -> None:
        wanted, loop, poll = next(ids), QEventLoop(), QTimer()
        program.measuring.open(wanted)
        record = review.model
        poll.timeout.connect(
            lambda: loop.quit() if record.record and record.record.id == wanted else None
        )
        poll.start(1)
        loop.exec()

    def busy(progress: Progress) -> None:
        """What a long job is made of: reviews one after the other, telling how far it is."""
        while True:
            progress(0.5)
            review_set(track, PLAN)

    idle = sorted(harness.seconds(open_next) for _ in range(12))[6]
    for i in range(2):
        program.start(Job(f"Working {i}", Alone(busy), f"busy/{i}"), lambda _none: None)
    wait(400)
    under = sorted(harness.seconds(open_next) for _ in range(12))[6]
    for key in ("busy/0", "busy/1"):
        program.jobs.stop(key)
    shell.wait_until_quiet()
    print(
        f"| opening a set while two long jobs run | {1000 * under:.0f} ms | the same when idle, "
        f"{1000 * idle:.0f} ms | {under / idle:.2f} |"
    )


def wait(ms: int) -> None:
    loop = QEventLoop()
    QTimer.singleShot(ms, loop.quit)
    loop.exec()


BARE = """
import os, sys
from PyQt6.QtWidgets import QApplication, QMainWindow
app = QApplication(sys.argv)
window = QMainWindow()
window.resize(1280, 800)
window.show()
app.processEvents()
os._exit(0)
"""
# As `guide_arc.start` opens it, until the first picture with the queue's rows, or until any command
# can be given.
OURS = """
import gc, os, sys
gc.disable()
from pathlib import Path
from guide_arc.app.main import application, open_shell
app = application()
shell, program = open_shell(Path(sys.argv[1]))
shell.show()
app.processEvents()
assert len(program.sets.doc.rows) > 3
if sys.argv[2] == "answers":
    while "queue.details" not in shell.actions_by_id:
        app.processEvents()
if sys.argv[2] == "usable":
    program.library.when_ready(lambda: os._exit(0))
    app.exec()
os._exit(0)
"""


def start(folder: Path) -> None:
    # Compiled once, as an installed program is, whatever this shell says of bytecode.
    env = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
    env["PYTHONPYCACHEPREFIX"] = str(folder.parent / "compiled")
    bare = [sys.executable, "-c", BARE]
    for until, words in (
        ("picture", "start to the first picture with the queue's rows"),
        ("answers", "start until keys and menus are answered"),
        ("usable", "start until a set can be opened"),
    ):
        ours = [sys.executable, "-c", OURS, str(folder), until]
        took, bare_s, ratio = harness.paired(
            partial(subprocess.run, ours, check=True, env=env),
            partial(subprocess.run, bare, check=True, env=env),
            repeats=10,
        )
        print(
            f"| {words} | {1000 * took:.0f} ms | a bare PyQt6 window, {1000 * bare_s:.0f} ms |"
            f" {ratio:.1f} |"
        )


def first_sets(folder: Path) -> None:
    prepare(folder)
    library = Library.open(folder)
    fill_waiting(library, lambda _share: None)
    library.close()


if __name__ == "__main__":
    print("| what | took | against | ratio |\n| --- | --- | --- | --- |")
    core() if "--no-core" not in sys.argv else None
    with tempfile.TemporaryDirectory() as place:
        demo = Path(place) / "library"
        first_s = harness.seconds(lambda: first_sets(demo))
        print(
            f"| the demo's sets that wait, filmed and reviewed beside the window | {first_s:.1f} s"
            f" | asked of all of `./run demo`: 10 s | {first_s / 10:.2f} |"
        )
        ensure_demo_library(demo)
        start(demo)
        app = application()  # held: Qt goes with its last reference
        window = opened_on(demo)
        repaint(window)
        opening_under_load(window)
        window.shell.close()
