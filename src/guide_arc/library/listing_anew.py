"""Recordings in the library's folder that no set names, as sets again: after a lost file, or an old
copy brought back."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from pathlib import Path
from typing import Final

from sqlalchemy import select

from guide_arc.capture.video.clip import SUFFIXES
from guide_arc.core.model.errors import BadInput
from guide_arc.formats.track_file import parse_track
from guide_arc.library.clip_folder import ClipFolder
from guide_arc.library.erased import held_recordings
from guide_arc.library.intake import fits_of
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.set_changes import client_named
from guide_arc.library.store import Library
from guide_arc.library.tables import ClipRow, SetRow, TrackRow
from guide_arc.standards.catalogue import Catalogue

# Whose they are is in none of the files.
CLIENT: Final = "Whose? (listed again)"
_NOTE: Final = (
    "Listed again from its recording: choose the client, and check exercise, load and date."
)


@dataclass
class Listed:
    """The sets that were made, and a sentence for each file that could not become one."""

    sets: list[int] = field(default_factory=list)
    refused: list[str] = field(default_factory=list)


def unlisted(library: Library) -> list[Path]:
    """The recordings that no set names."""
    with library.reading() as session:
        tracks = set(session.scalars(select(TrackRow.hash)))
        clips = set(session.scalars(select(ClipRow.hash)))
    folder = library.folder
    # What was just erased is not lost: undo can still ask for it.
    held = held_recordings(folder)
    tracks |= {key for place, key in held if place == "tracks"}
    clips |= {key for place, key in held if place == "clips"}
    found = [p for p in _files(folder / "tracks", (".csv", ".json")) if p.stem not in tracks]
    found += [
        p
        for p in _files(folder / "clips", SUFFIXES)
        if p.stem not in clips and not p.name.endswith(".proxy.mp4")
    ]
    return found


def list_recordings_again(library: Library, progress: Callable[[float], None]) -> Listed:
    """Make a set of each such recording, with the details in its file. One that can't be read stops
    no other."""
    out = Listed()
    catalogue = OwnStandards(library).catalogue()
    paths = unlisted(library)
    for i, path in enumerate(paths):
        progress(i / len(paths))
        try:
            make = _track if path.parent.name == "tracks" else _clip
            out.sets.append(make(library, path, catalogue))
        except BadInput as error:
            out.refused.append(f"{path.parent.name}/{path.name} can't become a set: {error}")
        except OSError as error:
            out.refused.append(f"{path.parent.name}/{path.name} can't be read ({error.strerror})")
    return out


def _files(place: Path, endings: Sequence[str]) -> list[Path]:
    return sorted(p for p in place.iterdir() if p.suffix in endings and not p.name.startswith("."))


def _track(library: Library, path: Path, catalogue: Catalogue) -> int:
    track = parse_track(path.read_bytes(), path.name)
    facts = track.facts
    standard = facts.standard if facts.standard in catalogue else None
    if standard is None:
        fits = fits_of(track, catalogue)
        standard = fits.ids[0] if fits else catalogue.ids()[0]
    school = catalogue.standard(standard).schools[0].id
    with library.writing() as session:
        row = SetRow(
            client_id=client_named(session, CLIENT).id,
            track_hash=path.stem,
            source_name=path.name,
            standard=standard,
            school=school,
            load_kg=facts.load_kg,
            note=_NOTE,
            recorded=facts.recorded or _written(path),
        )
        session.merge(
            TrackRow(
                hash=path.stem,
                file=path.name,
                frames=track.frames,
                duration_s=track.duration_s,
                view=track.stated_view,
            )
        )
        session.flush()
        session.add(row)
        session.flush()
        return row.id


def _clip(library: Library, path: Path, catalogue: Catalogue) -> int:
    clip = ClipFolder(library.folder).find(path.stem)
    assert clip is not None, "it was found in its folder"
    standard = catalogue.ids()[0]
    with library.writing() as session:
        session.merge(
            ClipRow(
                hash=path.stem,
                file=path.name,
                frames=clip.frames,
                shown_hz=clip.shown_hz,
                duration_s=clip.duration_s,
                width=clip.width,
                height=clip.height,
            )
        )
        session.flush()
        row = SetRow(
            client_id=client_named(session, CLIENT).id,
            clip_hash=path.stem,
            source_name=path.name,
            standard=standard,
            school=catalogue.standard(standard).schools[0].id,
            view="left",
            note=_NOTE,
            recorded=_written(path),
        )
        session.add(row)
        session.flush()
        return row.id


def _written(path: Path) -> str:
    return datetime.fromtimestamp(path.stat().st_mtime).isoformat(timespec="minutes")
