"""What the window remembers between two starts, as text by key."""

from __future__ import annotations

from PyQt6.QtCore import QSettings


class Remembered:
    """The settings of one window, for the places: folders, and which set was open."""

    def __init__(self, settings: QSettings) -> None:
        self._settings = settings

    def text(self, key: str, default: str = "") -> str:
        return str(self._settings.value(key, default))

    def keep(self, key: str, value: str) -> None:
        self._settings.setValue(key, value)
