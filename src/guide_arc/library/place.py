"""Where libraries live on this machine."""

from __future__ import annotations

import os
from pathlib import Path

import platformdirs


def own_library_folder() -> Path:
    """The person's own library; GUIDE_ARC_LIBRARY names another folder."""
    named = os.environ.get("GUIDE_ARC_LIBRARY")
    return Path(named) if named else Path(platformdirs.user_data_dir("guide-arc")) / "library"


def demo_library_folder() -> Path:
    """The demo library, apart from the person's own; GUIDE_ARC_DEMO_LIBRARY names another folder."""
    named = os.environ.get("GUIDE_ARC_DEMO_LIBRARY")
    return Path(named) if named else Path(platformdirs.user_data_dir("guide-arc")) / "demo-library"


def log_file() -> Path:
    """Where the details of the program's own errors are kept; GUIDE_ARC_STATE names another folder."""
    named = os.environ.get("GUIDE_ARC_STATE")
    folder = Path(named) if named else Path(platformdirs.user_state_dir("guide-arc"))
    return folder / "guide-arc.log"
