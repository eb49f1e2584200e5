"""`guide-arc` without a command: the window with the person's own library."""

from __future__ import annotations


def open_own_library() -> int:
    """Open the application and return its exit code."""
    from guide_arc.app.main import open_window  # noqa: PLC0415 - Qt loads only when a window opens
    from guide_arc.library.place import own_library_folder  # noqa: PLC0415

    return open_window(own_library_folder())
