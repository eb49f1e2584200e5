"""Opening the window."""

from __future__ import annotations

import signal
import sys
from pathlib import Path

from PyQt6.QtCore import QSettings, QTimer
from PyQt6.QtWidgets import QApplication, QMessageBox

from guide_arc.app.look.theme import load_fonts
from guide_arc.app.window import Window
from guide_arc.library.store import BadLibrary, Library


def application() -> QApplication:
    """The one application object, with the shipped type."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        app = QApplication(sys.argv[:1])
        app.setApplicationName("guide-arc")
        app.setOrganizationName("guide-arc")
        app.setApplicationDisplayName("Guide Arc")
        load_fonts()
    return app


def settings_at(folder: Path) -> QSettings:
    """What the window remembers stands beside the library it belongs to."""
    return QSettings(str(folder / "window.ini"), QSettings.Format.IniFormat)


def open_window(folder: Path, screenshot: Path | None = None) -> int:
    """Show the library in a folder until its window closes; the exit code.

    screenshot : review the worst set that waits, save a picture of it there, and stop
    """
    app = application()
    try:
        library = Library.open(folder)
    except BadLibrary as error:
        if screenshot is not None:
            raise
        QMessageBox.critical(None, "Guide Arc", str(error))
        return 2
    library.forget_taken_out()  # of the last time: there is no way back to it any more
    window = Window(library, settings_at(folder))
    window.show()
    signal.signal(signal.SIGINT, lambda *_: window.close())
    # Python sees a signal only while it runs: give it a moment now and then.
    awake = QTimer()
    awake.start(300)
    awake.timeout.connect(lambda: None)
    if screenshot is not None:
        QTimer.singleShot(0, lambda: _review_and_shoot(window, screenshot))
    code = app.exec()
    library.forget_taken_out()
    library.close()
    return code


def _review_and_shoot(window: Window, target: Path) -> None:
    """Review what waits, open the set most in need, and take its picture."""
    window.resize(1280, 800)
    reviewed = window.review_all_waiting()
    window.open_chosen()
    window.wait_until_quiet()
    target.parent.mkdir(parents=True, exist_ok=True)
    window.grab().save(str(target))
    sys.stdout.write(f"reviewed {reviewed} sets; a picture of the first is in {target}\n")
    sys.stdout.flush()
    window.close()
