"""Opening the window."""

from __future__ import annotations

import signal
import sys
import threading
from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import Final, NamedTuple

from PyQt6.QtCore import QSettings, QTimer
from PyQt6.QtWidgets import QApplication

from guide_arc.app.contract.job import Job
from guide_arc.app.contract.place import OpensFor
from guide_arc.app.entries import ENTRIES
from guide_arc.app.look.theme import icon, load_fonts
from guide_arc.app.services.program import Program
from guide_arc.app.shell.window import Shell
from guide_arc.lazily import lazily
from guide_arc.library.place import log_file

with lazily():
    from guide_arc.app.shell.trouble import keep_log
    from guide_arc.library.server import team_place

Entries = Sequence[OpensFor[Program]]

# How often the queue is read again while sets are added in the background.
_SHOWN_EVERY_MS: Final = 500


def application() -> QApplication:
    """The one application object, with the shipped type."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        # The style by its argument: asking for it in words makes Qt list all that a style can draw.
        app = QApplication([*sys.argv[:1], "-style", "fusion"])
        app.setApplicationName("guide-arc")
        app.setOrganizationName("guide-arc")
        app.setApplicationDisplayName("Guide Arc")
        app.setDesktopFileName("guide-arc")
        load_fonts()
    return app


def settings_at(folder: Path) -> QSettings:
    """Window settings are stored next to the library they belong to."""
    return QSettings(str(folder / "window.ini"), QSettings.Format.IniFormat)


class Opened(NamedTuple):
    """A window, and the program behind it."""

    shell: Shell
    program: Program


def open_shell(
    where: Path | str, settings: QSettings | None = None, entries: Entries = ENTRIES
) -> Opened:
    """A window on the library in a folder, or on a server. The library opens once the first picture
    is there."""
    if isinstance(where, str):
        folder = team_place(where).recordings
        # What one person's window remembers is nothing for the team's folder.
        program = Program(where, folder, settings or settings_at(log_file().parent))
    else:
        program = Program(where, where, settings or settings_at(where))
    program.sets.read_at_once()
    doors = tuple(entry.door(program) for entry in entries)
    shell = Shell(program, doors)
    loads = tuple(one for door in doors for one in door.about.loads)
    program.library.opened.connect(program.garbage.begin)
    shell.after_first_picture(lambda: program.library.open(loads))
    shell.after_first_picture(lambda: shell.setWindowIcon(icon()))
    return Opened(shell, program)


def catch_everything(program: Program) -> Callable[[], None]:
    """Report uncaught errors of any thread and go on; returns a function that undoes this."""

    before, before_thread = sys.excepthook, threading.excepthook
    sys.excepthook, threading.excepthook = program.heard, program.heard_in_thread

    def back() -> None:
        sys.excepthook, threading.excepthook = before, before_thread

    return back


def open_window(
    where: Path | str, screenshot: Path | None = None, beside: Sequence[Job[object]] = ()
) -> int:
    """Show the library in a folder, or on a server, until its window closes; the exit code.

    beside : work that fills the library once the window is there, one after the other
    screenshot : do the first of that work alone, review what waits without a review, save a picture
        of the worst set there, and stop
    """
    app = application()
    shell, program = open_shell(where)
    shell.after_first_picture(keep_log)
    go_back = catch_everything(program)
    shell.show()
    signal.signal(signal.SIGINT, lambda *_: shell.close())
    # Python sees a signal only while it runs: give it a moment now and then.
    awake = QTimer()
    awake.start(300)
    awake.timeout.connect(lambda: None)
    if screenshot is None:
        program.library.when_ready(lambda: _fill(program, beside, lambda: None))
    else:
        shoot = partial(_review_and_shoot, shell, program, screenshot)
        program.library.when_ready(lambda: _fill(program, beside[:1], shoot))
    try:
        return app.exec()
    finally:
        go_back()


def _fill(program: Program, jobs: Sequence[Job[object]], then: Callable[[], None]) -> None:
    """Do some work one after the other; what it adds is shown as it comes."""
    if not jobs:
        then()
        return
    showing = QTimer(program)
    showing.timeout.connect(lambda: program.library.changed.emit(frozenset()))
    showing.start(_SHOWN_EVERY_MS)

    def done(_made: object) -> None:
        program.library.changed.emit(frozenset())
        _fill(program, jobs[1:], then)

    program.start(jobs[0], done, showing.stop)


def _review_and_shoot(shell: Shell, program: Program, target: Path) -> None:
    """Review what waits without a review, open the set most in need, and take its picture."""
    shell.resize(1280, 800)
    shell.wait_until_quiet()
    waiting = [row for row in program.sets.doc.rows if row.has_track]
    program.measuring.review_again(tuple(row.id for row in waiting if row.summary is None))
    shell.wait_until_quiet()
    if program.sets.doc.chosen is not None:
        program.measuring.open(program.sets.doc.chosen)
    shell.wait_until_quiet()
    target.parent.mkdir(parents=True, exist_ok=True)
    shell.grab().save(str(target))
    sys.stdout.write(f"{len(waiting)} sets reviewed; a picture of the first is in {target}\n")
    sys.stdout.flush()
    shell.close()
