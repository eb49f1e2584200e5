"""`guide-arc` without a command: the window with the person's own library."""

from __future__ import annotations

import os

from guide_arc.core.model.errors import BadInput


def need_display() -> None:
    """Raises BadInput where no window could open: Qt itself would abort."""
    if not any(os.environ.get(v) for v in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")):
        raise BadInput(
            "there is no display to open a window on; './run demo' starts a virtual one, "
            "and 'guide-arc review' works without"
        )


def open_own_library() -> int:
    """Open the application and return its exit code."""
    need_display()
    from guide_arc.app.main import open_window  # noqa: PLC0415 - Qt loads only when a window opens
    from guide_arc.library.place import own_library_folder  # noqa: PLC0415

    return open_window(own_library_folder())
