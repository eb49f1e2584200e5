"""An error of the program's own: kept in a log without a client's words, and told in a box."""

from __future__ import annotations

import logging
import traceback
from logging.handlers import RotatingFileHandler
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QMessageBox, QWidget

from guide_arc.library.place import log_file

_LOG = logging.getLogger("guide_arc")
_LARGEST = 400_000


def keep_log() -> None:
    """From now on the details of errors are kept in the library's state folder."""
    log_to(log_file())


def log_to(file: Path) -> RotatingFileHandler | None:
    """Keep the log in a file that this person alone can read; None where that can't be."""
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

    def formatException(self, ei: object) -> str:  # noqa: N802
        error = ei[1] if isinstance(ei, tuple) else None
        return where(error) if isinstance(error, BaseException) else ""


def where(error: BaseException) -> str:
    """The kind of an error and the places it came through, innermost last."""
    lines = [type(error).__name__]
    for frame in traceback.extract_tb(error.__traceback__):
        lines.append(f"  {Path(frame.filename).name}:{frame.lineno} in {frame.name}")
    if error.__cause__ is not None:
        lines.append(f"  because of {where(error.__cause__)}")
    return "\n".join(lines)


class Trouble:
    """Tells of errors, one box at a time."""

    def __init__(self, parent: QWidget) -> None:
        self._parent, self._log_file = parent, log_file()
        self._box: QMessageBox | None = None
        self.count = 0

    def tell(self, error: BaseException) -> None:
        self.count += 1
        details = where(error)
        _LOG.error("%s", details)
        if self._box is not None:
            return  # what stands there already says what to do
        box = QMessageBox(
            QMessageBox.Icon.Warning, "Guide Arc",
            f"Something went wrong in the program itself ({type(error).__name__}).",
            parent=self._parent,
        )  # fmt: skip
        box.setInformativeText(
            "You can go on: what you decided is kept. If the screen looks wrong, open the set again. "
            f"If it comes back, close the program and open it anew, and pass on the log in {self._log_file}; "
            "it holds no client's words."
        )
        box.setDetailedText(details)
        box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        box.finished.connect(self._closed)
        self._box = box
        box.open()

    def _closed(self, _result: int) -> None:
        self._box = None
