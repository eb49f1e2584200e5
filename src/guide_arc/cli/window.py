"""`guide-arc` without a command: the window with the person's own library."""

from __future__ import annotations

import os
from pathlib import Path

from guide_arc.core.model.errors import BadInput
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.main import open_window
    from guide_arc.library.place import is_team, own_library_folder


def need_display() -> None:
    """Raises BadInput if no window could open: Qt itself would abort."""
    if not any(os.environ.get(v) for v in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")):
        raise BadInput(
            "there is no display to open a window on; './run demo' starts a virtual one, "
            "and 'guide-arc review' works without"
        )


def open_own_library(where: str | None = None) -> int:
    """Open the application and return its exit code. where : another library, by folder or
    address"""
    need_display()
    if where is None:
        return open_window(own_library_folder())
    return open_window(where if is_team(where) else Path(where))
