"""Files on their way in: what they say of themselves, and what is still to be said."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

from guide_arc.core.model.errors import BadInput
from guide_arc.formats.errors import BadFile
from guide_arc.formats.track_file import parse_track
from guide_arc.standards.loader import shipped


@dataclass(frozen=True)
class Incoming:
    """One readable file: its bytes, and the best guess of whose and what it is.

    standard : None where the file names none that ships
    """

    name: str
    data: bytes
    client: str
    standard: str | None
    load_kg: float | None
    recorded: str | None
    frames: int
    duration_s: float


@dataclass(frozen=True)
class Refused:
    """One file that can't come in, and why, as a sentence."""

    name: str
    why: str


def look_into(paths: Iterable[Path], clients: list[str]) -> tuple[list[Incoming], list[Refused]]:
    """Read files on their way in. Folders give the tracks inside them. Nothing is stored yet."""
    good: list[Incoming] = []
    bad: list[Refused] = []
    for path in _files(paths):
        try:
            data = path.read_bytes()
            track = parse_track(data, path)
            if track.frames < 2:
                raise BadFile(
                    "the track has one frame", path=path, right="a review needs at least 2"
                )
        except BadInput as error:
            bad.append(Refused(path.name, str(error)))
            continue
        except OSError as error:
            bad.append(
                Refused(path.name, f"{path.name}: the file can't be read ({error.strerror}).")
            )
            continue
        standard = track.facts.standard if track.facts.standard in shipped() else None
        good.append(
            Incoming(path.name, data, guess_client(path.name, clients), standard,
                     track.facts.load_kg, track.facts.recorded, track.frames, track.duration_s)
        )  # fmt: skip
    return good, bad


def _files(paths: Iterable[Path]) -> list[Path]:
    out: list[Path] = []
    for path in paths:
        if path.is_dir():
            out += sorted(p for p in path.iterdir() if p.suffix.lower() in (".csv", ".json"))
        else:
            out.append(path)
    return out


def guess_client(file_name: str, clients: list[str]) -> str:
    """The client whose first name starts the file's name, or the only one there is."""
    stem = file_name.lower()
    for client in clients:
        if stem.startswith(client.lower().split()[0]):
            return client
    return clients[0] if len(clients) == 1 else ""
