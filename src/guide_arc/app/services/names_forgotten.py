"""What the window remembers outside the library, without the clients who were erased."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QSettings

from guide_arc.lazily import lazily

with lazily():
    from guide_arc.library.attribution import names_in


# Where Qt's own file dialogs remember folders.
_DIALOGS = ("history", "lastVisited")


def forget_names(settings: QSettings, names: Sequence[str]) -> None:
    """Remove folders and files named after these clients from the window's settings and the file
    dialogs' history."""
    if not names:
        return
    for key in settings.allKeys():
        value = settings.value(key)
        if isinstance(value, str) and names_in(value, names):
            settings.remove(key)
    settings.sync()
    dialogs = QSettings(QSettings.Scope.UserScope, "QtProject")
    dialogs.beginGroup("FileDialog")
    for key in _DIALOGS:
        value = dialogs.value(key)
        if isinstance(value, str):
            if names_in(value, names):
                dialogs.remove(key)
        elif isinstance(value, list):
            kept = [one for one in value if not names_in(str(one), names)]
            if kept != value:
                dialogs.setValue(key, kept)
    dialogs.endGroup()
    dialogs.sync()
