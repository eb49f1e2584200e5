"""What a hand does to the window: keys, drops, and the dialog that opened."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QApplication


def dialog_of(window, kind):
    """The open dialog of a kind, once it is there."""
    QApplication.processEvents()
    found = [d for d in window.findChildren(kind) if d.isVisible()]
    assert found, f"no {kind.__name__} is open"
    return found[-1]


def press(qtbot, window, key, modifier=Qt.KeyboardModifier.NoModifier):
    window.activateWindow()  # a dialog that closed may have left the focus nowhere
    QApplication.processEvents()
    target = QApplication.focusWidget() or window
    qtbot.keyClick(target, key, modifier)
    QApplication.processEvents()


def drop(window, *paths: Path) -> None:
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(p)) for p in paths])
    window.dropEvent(
        QDropEvent(
            QPointF(100, 100), Qt.DropAction.CopyAction, mime, Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
        )
    )  # fmt: skip
    QApplication.processEvents()
    window.wait_until_quiet()
