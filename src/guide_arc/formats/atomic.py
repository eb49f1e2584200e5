"""Writing a file atomically."""

from __future__ import annotations

import hashlib
import os
import tempfile
from pathlib import Path

from guide_arc.formats.errors import BadFile


def write_atomic(path: Path, data: bytes, mode: int = 0o600, *, like_folder: bool = False) -> None:
    """Write next to the target, flush to the disk, then take its place in one step that the disk
    keeps too.

    like_folder : a folder that a team's group shares has files that it shares

    Raises BadFile if the folder is missing or can't be written.
    """
    try:
        handle, name = tempfile.mkstemp(dir=path.parent, prefix=".writing-", suffix=".part")
    except OSError as error:
        raise BadFile(f"can't be written ({error.strerror})", path=path) from None
    try:
        with os.fdopen(handle, "wb") as out:
            out.write(data)
            out.flush()
            os.fsync(out.fileno())
        os.chmod(name, mode | shared_by(path.parent) if like_folder else mode)
        os.replace(name, path)
        _flush_folder(path.parent)
    except OSError as error:
        Path(name).unlink(missing_ok=True)
        raise BadFile(f"can't be written ({error.strerror})", path=path) from None


def part_of(path: Path) -> Path:
    """The temporary file that becomes the real one when complete; its name is never longer than a
    disk takes."""
    key = hashlib.sha256(path.name.encode("utf-8", "surrogateescape")).hexdigest()[:16]
    return path.with_name(f".{key}.part")


def shared_by(folder: Path) -> int:
    """The rights that a folder gives its group, as a file in it gives them; none in a person's own
    library."""
    return folder.stat().st_mode & 0o060


def make_folder(path: Path) -> None:
    """A folder for its owner alone, or shared as the one it is in."""
    if not path.exists():
        make_folder(path.parent)
        path.mkdir(exist_ok=True, mode=0o700)
        os.chmod(path, 0o700 | path.parent.stat().st_mode & 0o2070)


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
