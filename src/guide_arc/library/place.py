"""Where libraries live on this machine."""

from __future__ import annotations

import json
import os
from pathlib import Path
from typing import Final

import platformdirs

from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.errors import BadFile

# The database in a library's folder.
FILE: Final = "library.sqlite"
_MOST: Final = 20


def is_team(where: Path | str) -> bool:
    """Whether a library is on a server, by how it is named."""
    return isinstance(where, str) and where.startswith(("postgresql://", "postgres://"))


def own_library_folder() -> Path:
    """The person's own library; GUIDE_ARC_LIBRARY names another folder."""
    named = os.environ.get("GUIDE_ARC_LIBRARY")
    return Path(named) if named else Path(platformdirs.user_data_dir("guide-arc")) / "library"


def demo_library_folder() -> Path:
    """The demo library, apart from the person's own; GUIDE_ARC_DEMO_LIBRARY names another
    folder."""
    named = os.environ.get("GUIDE_ARC_DEMO_LIBRARY")
    return Path(named) if named else Path(platformdirs.user_data_dir("guide-arc")) / "demo-library"


def was_here(folder: Path) -> bool:
    """Whether a library was opened in a folder before: if it is not there now, it is lost and not
    new."""
    return str(folder.absolute()) in _known()


def remember(folder: Path) -> None:
    """Note that a library is in a folder."""
    known = _known()
    own = str(folder.absolute())
    if own in known:
        return
    try:
        _list().parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        write_atomic(_list(), json.dumps([*known[-_MOST:], own]).encode())
    except (OSError, BadFile):
        return  # a library is not worth less where this can't be noted


def _known() -> list[str]:
    try:
        found = json.loads(_list().read_text(encoding="utf-8"))
    except (OSError, ValueError):
        return []
    return [p for p in found if isinstance(p, str)] if isinstance(found, list) else []


def _list() -> Path:
    return log_file().parent / "libraries.json"


def log_file() -> Path:
    """Where the details of the program's own errors are kept; GUIDE_ARC_STATE names another
    folder."""
    named = os.environ.get("GUIDE_ARC_STATE")
    folder = Path(named) if named else Path(platformdirs.user_state_dir("guide-arc"))
    return folder / "guide-arc.log"
