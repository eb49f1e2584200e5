"""The speeds we hold ourselves to, as ratios in one run: `./run dev python bench/speed.py`.

Prints a table for the README. Nothing here is a test.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
from PyQt6.QtGui import QImage
from scipy import signal

from guide_arc.app.look import theme
from guide_arc.app.main import application
from guide_arc.app.places.review import ReviewPlace
from guide_arc.app.places.review.model import ReviewModel
from guide_arc.core.model.landmarks import BODY, KIT
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.review.assess import review_set, review_with_body
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.library.demo import ensure_demo_library
from guide_arc.library.records import SetNotes, SetRecord
from guide_arc.standards.loader import standard
from timing import paired, seconds

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
        mine, pass_s, ratio = paired(
            lambda t=track: review_set(t, PLAN),
            lambda f=(b, a), c=cells: signal.filtfilt(*f, c, axis=0),
            9 if length < 1000 else 3,
        )
        print(
            f"| core review of {length:.0f} s at 60 fps, 33 landmarks | {1000 * mine:.0f} ms "
            f"| one zero-phase filter pass, {1000 * pass_s:.1f} ms | {ratio:.1f} |"
        )


def repaint() -> None:
    """What playing costs (the stage anew, dial and ribbon kept), and a new choice (all anew)."""
    app = application()  # held: Qt goes with its last reference
    track = recording(60.0)
    measured = ShownSet(*review_with_body(track, PLAN, also=BODY))
    model = ReviewModel(lambda _id, _notes: None, "")
    record = SetRecord(
        1, "", PLAN.id, "", None, None, "2031-01-01", "", "", 1, 1.0, "none", SetNotes()
    )
    place = ReviewPlace(model, theme.apply(app, "light"))
    place.resize(1144, 690)
    place.show()
    model.open(record, measured)
    app.processEvents()
    views = (place.stage, place.dial, place.ribbon)
    sheets = [QImage(v.size(), QImage.Format.Format_ARGB32_Premultiplied) for v in views]

    def show(anew: bool) -> None:
        for view in views if anew else views[:1]:
            view.redraw()
        for view, sheet in zip(views, sheets, strict=True):
            view.render(sheet)

    for anew, words in (
        (False, "a frame of playing: stage anew, dial and ribbon"),
        (True, "a new choice: stage, dial and ribbon anew"),
    ):
        show(anew)
        took = sorted(seconds(lambda a=anew: show(a)) for _ in range(25))
        print(f"| {words} | {1000 * took[12]:.1f} ms | asked: 8 ms | {1000 * took[12] / 8:.2f} |")


BARE = """
import sys
from PyQt6.QtWidgets import QApplication, QMainWindow
app = QApplication(sys.argv)
window = QMainWindow()
window.shell.resize(1280, 800)
window.show()
app.processEvents()
window.close()
"""
OURS = """
import sys
from pathlib import Path
from guide_arc.app.main import application, settings_at
from guide_arc.library.store import Library
app = application()
folder = Path(sys.argv[1])
window = Window(Library.open(folder), settings_at(folder))
window.show()
app.processEvents()
"""


def start() -> None:
    with tempfile.TemporaryDirectory() as place:
        folder = Path(place) / "library"
        build_s = seconds(lambda: ensure_demo_library(folder))
        ours, bare, ratio = paired(
            lambda: subprocess.run([sys.executable, "-c", OURS, str(folder)], check=True),
            lambda: subprocess.run([sys.executable, "-c", BARE], check=True),
            repeats=7,
        )
    print(
        f"| start to a usable window, demo library | {1000 * ours:.0f} ms | a bare PyQt6 window, {1000 * bare:.0f} ms | {ratio:.1f} |"
    )
    print(
        f"| building the demo library, once | {build_s:.1f} s | asked: under 10 s | {build_s / 10:.2f} |"
    )


if __name__ == "__main__":
    print("| what | took | against | ratio |\n| --- | --- | --- | --- |")
    core() if "--no-core" not in sys.argv else None
    repaint()
    start()
