"""The library's folder of clips: copied in by the hash of their bytes, each with its index and a
proxy.

Copying can be stopped or killed at any moment and continues from there: an unfinished copy is in
`coming`, with a slip that holds its source and details."""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import json
import os
import shutil
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from pathlib import Path
from typing import IO, Any, Final

from guide_arc.capture.video.clip import SUFFIXES, Clip, index_bytes, inspect_video, with_index
from guide_arc.capture.video.glimpse import glimpses, jpeg_bytes
from guide_arc.capture.video.proxy import make_proxy, proxy_clip
from guide_arc.formats.atomic import make_folder, shared_by, write_atomic
from guide_arc.formats.errors import BadFile

Progress = Callable[[float], None]

# The small picture of a clip, next to it.
PICTURE: Final = ".jpg"
PICTURE_WIDTH: Final = 220
_CHUNK: Final = 4 << 20
_ROOM_LEFT: Final = 500_000_000
# Of the whole work of taking a clip in, this share is copying; the rest is looking at it.
_COPYING: Final = 0.9


@dataclass(frozen=True)
class PendingClip:
    """A clip on its way in: its slip, its source, and the details of the set.

    name : its hash, once it is among the clips
    """

    slip: Path
    source: Path
    details: Mapping[str, Any]
    name: str = ""


class BusyClip(BadFile):
    """Another process copies this clip already."""


def _alone(taken: IO[bytes]) -> bool:
    """Hold a half-copied file; whether nobody else does. A kill lets go of it."""
    try:
        fcntl.flock(taken, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return False
    return True


def _busy(part: Path) -> bool:
    """Whether somebody copies into this file now."""
    try:
        with part.open("rb") as there:
            return not _alone(there)
    except OSError:
        return False


class ClipFolder:
    """The clips of a library at `folder`."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder / "clips"
        self.coming = self.folder / "coming"

    def take(
        self, source: Path, details: Mapping[str, Any], progress: Progress = lambda _share: None
    ) -> tuple[str, Clip, Path]:
        """Copy a clip in and look at it; (its hash, the clip, its slip). `commit` deletes the slip
        once a set names the clip.

        progress : called with a share from 0 to 1; may raise to stop. The next call for the same
            file goes on from there. Raises BadFile for what is no clip, and if there is no room
            for it.
        """
        size, stamp = self._facts(source)
        key = hashlib.sha256(f"{source.absolute()}|{size}|{stamp}".encode()).hexdigest()[:24]
        slip, part = self.coming / f"{key}.json", self.coming / f"{key}.part"
        self._need_room(source, size - (part.stat().st_size if part.exists() else 0))
        make_folder(self.coming)
        note = {"source": str(source.absolute()), "details": dict(details)}
        write_atomic(slip, json.dumps(note).encode(), like_folder=True)
        try:
            name = self._copied(source, part, size, progress)
            ending = source.suffix.lower() if source.suffix.lower() in SUFFIXES else ".mp4"
            target = self.folder / f"{name}{ending}"
            kept = self.find(name)
            if kept is not None:
                part.unlink()
                return name, kept, slip
            clip = inspect_video(part, lambda share: progress(_COPYING + (1 - _COPYING) * share))
        except BusyClip:
            raise
        except BadFile as error:
            slip.unlink(missing_ok=True)
            part.unlink(missing_ok=True)
            raise BadFile(error.what, path=source, right=error.right) from None
        write_atomic(slip, json.dumps({**note, "name": name}).encode(), like_folder=True)
        write_atomic(self.folder / f"{name}.npz", index_bytes(clip), like_folder=True)
        part.replace(target)
        self._keep_picture(with_index(target, self.folder / f"{name}.npz"))
        return name, with_index(target, self.folder / f"{name}.npz"), slip

    def commit(self, slip: Path) -> None:
        """A set names the clip now: its slip can go."""
        slip.unlink(missing_ok=True)

    def remove(self, name: str) -> None:
        """Delete a clip that no set names, with what was made of it."""
        for file in self.folder.glob(f"{name}.*"):
            file.unlink(missing_ok=True)

    def abandon(self, coming: PendingClip) -> None:
        """Forget a clip that was on its way."""
        coming.slip.with_suffix(".part").unlink(missing_ok=True)
        coming.slip.unlink(missing_ok=True)

    def pending(self) -> list[PendingClip]:
        """The clips whose copying was cut off, with what was said about them; not those that are
        being copied now. Slips that can't be read are swept."""
        out = []
        for slip in sorted(self.coming.glob("*.json")):
            if _busy(slip.with_suffix(".part")):
                continue
            try:
                note = json.loads(slip.read_text())
                out.append(
                    PendingClip(slip, Path(note["source"]), note["details"], note.get("name", ""))
                )
            except (ValueError, KeyError, TypeError):
                slip.unlink(missing_ok=True)
        named = {slip.stem for slip in self.coming.glob("*.json")}
        for part in self.coming.glob("*.part"):
            if not part.name.startswith(".") and part.stem not in named and not _busy(part):
                part.unlink(missing_ok=True)
        return out

    # Reading

    def find(
        self, name: str, capture_hz: float | None = None, *, mirrored: bool = False
    ) -> Clip | None:
        """A kept clip by its hash; None if it is not (complete) here. A lost index is made
        again."""
        file = next((f for s in SUFFIXES if (f := self.folder / f"{name}{s}").exists()), None)
        if file is None:
            return None
        index = self.folder / f"{name}.npz"
        try:
            found = with_index(file, index, capture_hz)
        except (OSError, ValueError, KeyError, EOFError):
            write_atomic(index, index_bytes(inspect_video(file)), like_folder=True)
            found = with_index(file, index, capture_hz)
        return replace(found, mirrored=True) if mirrored else found

    def proxy(self, clip: Clip) -> Clip | None:
        """The small copy for scrubbing, if already made."""
        return proxy_clip(clip, self._proxy_file(clip))

    def make_proxy(self, clip: Clip, progress: Progress = lambda _share: None) -> None:
        """Make the small copy, unless it is there."""
        target = self._proxy_file(clip)
        if not target.with_name(target.name.partition(".")[0] + PICTURE).exists():
            self._keep_picture(clip)
        if target.exists():
            return
        make_folder(self.coming)
        making = self.coming / f"{target.stem}-{os.getpid()}.mp4"
        make_proxy(clip, making, progress)
        making.replace(target)

    def _keep_picture(self, clip: Clip) -> None:
        """A small picture to know a clip by; none where its frames can't be decoded there."""
        with contextlib.suppress(BadFile):
            picture = jpeg_bytes(glimpses(clip, PICTURE_WIDTH, 1)[0])
            name = f"{clip.path.name.partition('.')[0]}{PICTURE}"
            write_atomic(self.folder / name, picture, like_folder=True)

    def without_proxy(self) -> list[str]:
        """The hashes of the clips that have no small copy yet."""
        files = [f for f in self.folder.iterdir() if f.suffix in SUFFIXES]
        small = {f.name.partition(".")[0] for f in files if f.name.endswith(".proxy.mp4")}
        return sorted({f.stem for f in files if not f.name.endswith(".proxy.mp4")} - small)

    def _proxy_file(self, clip: Clip) -> Path:
        return self.folder / f"{clip.path.name.partition('.')[0]}.proxy.mp4"

    # Copying

    def _facts(self, source: Path) -> tuple[int, int]:
        try:
            if source.is_dir():
                raise BadFile("this is a folder", path=source, right="give a clip")
            found = source.stat()
        except OSError as error:
            raise BadFile(f"the file can't be read ({error.strerror})", path=source) from None
        if not found.st_size:
            raise BadFile("the file is empty", path=source, right="send the clip again")
        return found.st_size, found.st_mtime_ns

    def _need_room(self, source: Path, size: int) -> None:
        make_folder(self.folder)
        free = shutil.disk_usage(self.folder).free
        if size + _ROOM_LEFT > free:
            raise BadFile(
                f"it takes {size / 1e9:.1f} GB, and {free / 1e9:.1f} GB are free on the library's"
                " disk",
                path=source,
                right="make room there, or cut the clip to the set",
            )

    def _copied(self, source: Path, part: Path, size: int, progress: Progress) -> str:
        """Copy what is not copied yet; the hash of the whole. What is there already is compared."""
        digest = hashlib.sha256()
        try:
            with source.open("rb") as given, part.open("a+b") as taken:
                if not _alone(taken):
                    raise BusyClip(
                        "it is being copied already", path=source, right="wait until it is"
                    )
                os.chmod(part, 0o600 | shared_by(self.folder))
                done = self._same_so_far(given, taken, digest)
                # Not to its end: one that is still being written might have none.
                while done < size and (data := given.read(min(_CHUNK, size - done))):
                    taken.write(data)
                    digest.update(data)
                    done += len(data)
                    progress(_COPYING * min(done / size, 1.0))
                taken.flush()
                os.fsync(taken.fileno())
        except OSError as error:
            raise BadFile(f"copying it broke off ({error.strerror})", path=source) from None
        if done != size or source.stat().st_size != size:
            raise BadFile(
                "it changed while it was copied", path=source, right="add it again once it is whole"
            )
        return digest.hexdigest()

    @staticmethod
    def _same_so_far(given: IO[bytes], taken: IO[bytes], digest: Any) -> int:
        """How many bytes are copied already, as they should be; both files exist then."""
        taken.seek(0)
        done = 0
        while there := taken.read(_CHUNK):
            data = given.read(len(there))
            if data != there:
                break
            digest.update(data)
            done += len(data)
        taken.seek(done)
        taken.truncate()
        given.seek(done)
        return done
