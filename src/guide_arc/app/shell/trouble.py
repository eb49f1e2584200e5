"""An error of the program's own: written to a log without client data, and shown in a box."""

from __future__ import annotations

import logging
import platform
import sys
import traceback
from functools import partial
from logging.handlers import RotatingFileHandler
from pathlib import Path

from PyQt6.QtCore import QT_VERSION_STR, Qt
from PyQt6.QtWidgets import QApplication, QMessageBox, QWidget

from guide_arc import __version__
from guide_arc.library.place import log_file

_LOG = logging.getLogger("guide_arc")
_LARGEST = 400_000


def keep_log() -> None:
    """From now on the details of errors are kept in the library's state folder."""
    log_to(log_file())


def log_to(file: Path) -> RotatingFileHandler | None:
    """Keep the log in a file that this person alone can read; None if that can't be."""
    try:
        file.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        handler = RotatingFileHandler(file, maxBytes=_LARGEST, backupCount=1, encoding="utf-8")
        file.chmod(0o600)
    except OSError:
        return None
    handler.setFormatter(_WithoutWords("%(asctime)s %(name)s %(message)s"))
    _LOG.addHandler(handler)
    _LOG.propagate = False
    return handler


class _WithoutWords(logging.Formatter):
    """What happened and where, without the error's text: it may quote a client's file or note."""

    def formatException(self, ei: object) -> str:
        error = ei[1] if isinstance(ei, tuple) else None
        return where(error) if isinstance(error, BaseException) else ""


def where(error: BaseException) -> str:
    """The kinds of an error and of what caused it, with the places they came through, innermost
    last.

    The texts of errors are left out, as they may quote a client's file or note; what a database
    says names no values.
    """
    lines: list[str] = []
    seen: list[BaseException] = []
    at: BaseException | None = error
    while at is not None and all(at is not other for other in seen):
        seen.append(at)
        said = _database_words(at)
        lines.append(
            ("because of " if lines else "") + type(at).__name__ + (f" ({said})" if said else "")
        )
        for frame in traceback.extract_tb(at.__traceback__):
            lines.append(f"  {Path(frame.filename).name}:{frame.lineno} in {frame.name}")
        at = at.__cause__ or (None if at.__suppress_context__ else at.__context__)
    return "\n".join(lines)


def _database_words(error: BaseException) -> str:
    """What SQLite says is wrong: it names tables and columns, and never what they hold."""
    own = getattr(error, "orig", error)
    of_database = type(own).__module__ == "sqlite3"
    return str(own).splitlines()[0][:200] if of_database and str(own) else ""


def report(error: BaseException) -> str:
    """All that is needed to find an error, without a word of a client's: to be passed on."""
    python = ".".join(map(str, sys.version_info[:3]))
    return (
        f"Guide Arc {__version__}, Python {python}, Qt {QT_VERSION_STR}, {platform.system()}"
        f" {platform.release()}\n{where(error)}\n"
    )


class Trouble:
    """Tells of errors, one box at a time."""

    def __init__(self, parent: QWidget) -> None:
        self._parent, self._log_file = parent, log_file()
        self._box: QMessageBox | None = None
        self.count = 0

    def tell(self, error: BaseException) -> None:
        self.count += 1
        _LOG.error("%s", where(error))
        if self._box is not None:
            return  # the box that is open already says what to do
        box = QMessageBox(
            QMessageBox.Icon.Warning,
            "Guide Arc",
            f"An error inside the program stopped this step ({type(error).__name__}).",
            parent=self._parent,
        )
        box.setInformativeText(
            "What you decided and typed before is saved, and the library was not damaged: every"
            " change is stored whole or not at all.\n\nYou can go on working. If the screen looks"
            " wrong, open the set again. If it happens again, close the program, start it, and"
            " send the report to whoever looks after it. The report says where in the program it"
            f" happened; it holds no client's data. It is also in {self._log_file}."
        )
        text = report(error)
        box.setDetailedText(text)
        box.addButton(QMessageBox.StandardButton.Close)
        copy = box.addButton("Copy the report", QMessageBox.ButtonRole.AcceptRole)
        assert copy is not None
        copy.clicked.connect(partial(_copy, text))
        box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        box.finished.connect(self._closed)
        self._box = box
        box.open()

    def _closed(self, _result: int) -> None:
        self._box = None


def _copy(text: str, _checked: bool = False) -> None:
    clipboard = QApplication.clipboard()
    if clipboard is not None:
        clipboard.setText(text)
