"""Doing once what many ask for."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject, QTimer


def soon(parent: QObject, act: Callable[[], None]) -> Callable[[], None]:
    """Calls `act` once from the event loop, however often it was requested until then."""
    timer = QTimer(parent)
    timer.setSingleShot(True)
    timer.timeout.connect(act)
    return lambda: timer.start(0)
