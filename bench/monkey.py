"""A day of a monkey at the window: random commands, keys and clicks, one every three seconds of a
simulated day.

    ./run dev python bench/monkey.py [HOURS] [SEED]        24 and 1 when left out

It works as fast as the machine lets it. Prints memory, open files, threads and widgets after each
simulated hour, and ends with 1 where the window broke, an error box came up, or they grew from the
middle fifth of the day to the last: by then what the window remembers (500 steps of undo, drawings,
proofs of standards) has reached its limits.
"""

from __future__ import annotations

import gc
import random
import sys
import tempfile
import threading
import time
from pathlib import Path
from statistics import median
from typing import NamedTuple

from PyQt6.QtCore import QEvent, QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QDialog, QFileDialog, QInputDialog, QWidget

import harness
from builders import filmed
from guide_arc.app.main import application, catch_everything, settings_at
from guide_arc.app.shell.trouble import where
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.batch import review_all
from guide_arc.library.store import Library
from hands import Hands, take_apart

ACTIONS_AN_HOUR = 1200
CLIENTS = ("Ada Quill", "Benno Hartz", "Cleo Marsh", "Dario Venn")
STANDARDS = ("standing-barbell-curl", "rope-pushdown", "lateral-raise-dumbbell")
# What ends the window, or hands over to another program.
LEFT_ALONE = ("file.quit", "help.log", "file.restore")
KEYS = (
    *range(Qt.Key.Key_A, Qt.Key.Key_Z + 1),
    Qt.Key.Key_Left,
    Qt.Key.Key_Right,
    Qt.Key.Key_Up,
    Qt.Key.Key_Down,
    Qt.Key.Key_Return,
    Qt.Key.Key_Tab,
    Qt.Key.Key_Space,
    Qt.Key.Key_Escape,
    Qt.Key.Key_Delete,
    Qt.Key.Key_1,
    Qt.Key.Key_2,
)
# Growth from the middle fifth of a day to its last that is allowed.
MOST_MB, MOST_FILES, MOST_THREADS, MOST_WIDGETS = 15.0, 8, 2, 400


class Held(NamedTuple):
    """What the process holds."""

    mb: float
    files: int
    threads: int
    widgets: int


def held(window: Hands) -> Held:
    window.settle()
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    window.program.garbage.everything()
    gc.collect()
    status = Path("/proc/self/status").read_text()
    mb = float(next(x for x in status.splitlines() if x.startswith("VmRSS:")).split()[1]) / 1024
    files = len(list(Path("/proc/self/fd").iterdir()))
    return Held(mb, files, threading.active_count(), len(QApplication.allWidgets()))


def filled(folder: Path) -> None:
    library = Library.open(folder)
    for n in range(24):
        standard = STANDARDS[n % len(STANDARDS)]
        text = csv_text(filmed(standard, reps=4, noise=0.003, seed=n).track)
        school = "locked-upper-arm" if n % 3 == 0 else "locked" if n % 3 == 1 else "to-level"
        library.add_set(
            text.encode(),
            f"{n}.csv",
            client=CLIENTS[n % 4],
            standard=standard,
            school=school,
            recorded=f"2031-03-{1 + n:02d}",
            load_kg=20.0 + n,
        )
    review_all(library)
    library.close()


class Monkey:
    def __init__(self, window: Hands, rng: random.Random) -> None:
        self.window, self.rng = window, rng

    def act(self) -> None:
        dialog = QApplication.activeModalWidget() or self._dialog()
        if isinstance(dialog, QDialog):
            if self.rng.random() < 0.5:
                dialog.reject()
            elif self.rng.random() < 0.3:
                dialog.accept()
            else:
                self._key(dialog)
        elif self.rng.random() < 0.5:
            self._command()
        elif self.rng.random() < 0.6:
            self._key(self.window.shell)
        else:
            self._click(self.window.shell)

    def _dialog(self) -> QWidget | None:
        return next((d for d in self.window.shell.findChildren(QDialog) if d.isVisible()), None)

    def _command(self) -> None:
        actions = self.window.shell.actions_by_id
        can = [a for id, a in actions.items() if a.isEnabled() and id not in LEFT_ALONE]
        self.rng.choice(can).trigger()

    def _key(self, widget: QWidget) -> None:
        target = QApplication.focusWidget() or widget
        QTest.keyClick(target, Qt.Key(self.rng.choice(KEYS)))  # type: ignore[call-overload]

    def _click(self, widget: QWidget) -> None:
        at = QPoint(self.rng.randrange(widget.width()), self.rng.randrange(60, widget.height()))
        target = widget.childAt(at) or widget
        place = target.mapFrom(widget, at)
        QTest.mouseClick(target, Qt.MouseButton.LeftButton, pos=place)  # type: ignore[call-overload]


def without_questions_to_the_system() -> None:
    """Dialogs that wait for a person's answer are answered with none."""
    for name in ("getSaveFileName", "getOpenFileName"):
        setattr(QFileDialog, name, staticmethod(lambda *_a, **_k: ("", "")))
    QFileDialog.getOpenFileNames = staticmethod(lambda *_a, **_k: ([], ""))  # type: ignore[method-assign]
    QFileDialog.getExistingDirectory = staticmethod(lambda *_a, **_k: "")  # type: ignore[method-assign]
    for name in ("getText", "getMultiLineText", "getItem", "getInt"):
        setattr(QInputDialog, name, staticmethod(lambda *_a, **_k: ("", False)))


def main(hours: int, seed: int) -> int:
    app = application()
    without_questions_to_the_system()
    folder = Path(tempfile.mkdtemp(prefix="monkey-")) / "library"
    filled(folder)
    window = Hands(folder, settings_at(folder))
    back = catch_everything(window.program)
    broke: list[str] = []
    window.program.broke.connect(lambda error: broke.append(where(error)))
    monkey = Monkey(window, random.Random(seed))
    hourly: list[Held] = []
    began = time.perf_counter()
    for hour in range(hours):
        for _ in range(ACTIONS_AN_HOUR):
            monkey.act()
            app.processEvents()
        hourly.append(held(window))
        now = hourly[-1]
        print(
            f"hour {hour + 1}: {now.mb:.0f} MB, {now.files} open files, {now.threads} threads,"
            f" {now.widgets} widgets",
            flush=True,
        )
    took = time.perf_counter() - began
    back()
    take_apart(window)
    print(
        f"{hours * ACTIONS_AN_HOUR} actions in {took:.0f} s, {len(broke)} errors of the"
        " program's own"
    )
    for words in sorted(set(broke)):
        print(f"  {words} ({broke.count(words)} times)")
    fifth = max(1, hours // 5)
    early = [median(x) for x in zip(*hourly[2 * fifth : 3 * fifth], strict=True)]
    late = [median(x) for x in zip(*hourly[-fifth:], strict=True)]
    grew = [b - a for a, b in zip(early, late, strict=True)]
    print(
        "grew: "
        + ", ".join(
            f"{g:+.0f} {w}"
            for g, w in zip(grew, ("MB", "files", "threads", "widgets"), strict=True)
        )
    )
    over = any(
        g > most
        for g, most in zip(grew, (MOST_MB, MOST_FILES, MOST_THREADS, MOST_WIDGETS), strict=True)
    )
    return 1 if over or broke else 0


if __name__ == "__main__":
    sys.exit(
        main(
            harness.number(1, 24),
            harness.number(2, 1),
        )
    )
