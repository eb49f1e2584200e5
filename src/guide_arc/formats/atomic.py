"""Writing a file whole or not at all."""

from __future__ import annotations

import os
import tempfile
from pathlib import Path

from guide_arc.formats.errors import BadFile


def write_atomic(path: Path, data: bytes, mode: int = 0o600) -> None:
    """Write beside the target, flush to the disk, then take its place in one step that the disk keeps too.

    Raises BadFile where the folder is missing or can't be written.
    """
    try:
        handle, name = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.", suffix=".part")
    except OSError as error:
        raise BadFile(f"can't be written ({error.strerror})", path=path) from None
    try:
        with os.fdopen(handle, "wb") as out:
            out.write(data)
            out.flush()
            os.fsync(out.fileno())
        os.chmod(name, mode)
        os.replace(name, path)
        _flush_folder(path.parent)
    except OSError as error:
        Path(name).unlink(missing_ok=True)
        raise BadFile(f"can't be written ({error.strerror})", path=path) from None


def _flush_folder(folder: Path) -> None:
    """A name is kept by its folder: without this, a power cut could take back the step."""
    try:
        opened = os.open(folder, os.O_RDONLY)
    except OSError:  # a disk that lets no folder be opened
        return
    try:
        os.fsync(opened)
    except OSError:
        pass
    finally:
        os.close(opened)
