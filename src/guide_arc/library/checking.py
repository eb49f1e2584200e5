"""Is the library whole? Every referenced file by its bytes, every row by its form; and mending what
can be mended."""

from __future__ import annotations

import hashlib
import json
import os
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from datetime import date
from pathlib import Path
from typing import Any, Final

from sqlalchemy import select, text, update

from guide_arc.core.model.errors import BadInput
from guide_arc.library.backups import move
from guide_arc.library.clip_folder import ClipFolder
from guide_arc.library.database import recordings_in
from guide_arc.library.erased import wanted
from guide_arc.library.errors import BadLibrary, LostLibrary
from guide_arc.library.listing_anew import list_recordings_again, unlisted
from guide_arc.library.place import is_team
from guide_arc.library.set_changes import set_row
from guide_arc.library.store import Library
from guide_arc.library.tables import ClientRow, ClipRow, KeptRow, SetRow, TrackRow
from guide_arc.library.undoing import finish_wanted

Progress = Callable[[float], None]
# The JSON columns of a set's row, and their empty values.
_JSON: Final = {"felt": "[]", "corrections": "[]", "search": "", "marks": ""}
_CHUNK: Final = 4 << 20
# The kind of a stored document that could not be read.
DAMAGED: Final = "damaged"


@dataclass
class Checked:
    """What was found wrong, and what of it was mended; a sentence each.

    sets, files : how many were looked at
    """

    sets: int = 0
    files: int = 0
    wrong: list[str] = field(default_factory=list)
    mended: list[str] = field(default_factory=list)


def check(
    where: Path | str, progress: Progress = lambda _share: None, *, mend: bool = False
) -> Checked:
    """Look through a library.

    where : its folder, or the address of a team's; mend : and mend what can be

    Raises BadLibrary if there is no library, or its file is lost and it is not to be mended.
    """
    out = Checked()
    library = _opened(where, out, mend=mend)
    if mend and library.read_only:
        out.wrong.append("the library can only be read where it is: nothing was mended")
        mend = False
    try:
        if not library.on_server:
            _database(library, out)
        _unfinished_undo(library, out, mend=mend)
        _rows(library, out, mend=mend)
        _documents(library, out, mend=mend)
        _files(library, out, progress, mend=mend)
        if not library.on_server:
            _modes(library.folder, out, mend=mend)
        if mend and unlisted(library):
            listed = list_recordings_again(library, lambda s: progress(0.9 + 0.1 * s))
            out.mended += (
                [f"{len(listed.sets)} recordings that no set named are listed as new sets"]
                if listed.sets
                else []
            )
            out.wrong += listed.refused
        else:
            out.wrong += [
                f"{path.parent.name}/{path.name}: no set names it; mending lists it as a set"
                for path in unlisted(library)
            ]
    finally:
        library.close()
    return out


def _opened(where: Path | str, out: Checked, *, mend: bool) -> Library:
    if is_team(where):
        return Library.open(where)
    folder = Path(where)
    if not (folder / "library.sqlite").exists() and not recordings_in(folder):
        raise BadLibrary(f"there is no library in {folder}; name its folder with --library")
    try:
        return Library.open(folder)
    except LostLibrary as error:
        if not mend or error.lost == "folder":
            raise
        library = replaced_library(folder)
        out.mended.append(
            "the library's file was lost; the recordings next to it were listed again, with what"
            " they contain"
        )
        return library


def replaced_library(folder: Path) -> Library:
    """Create an empty library file in place of a lost one; the remains of the lost file are moved
    to the backups."""
    place = folder / "backups"
    place.mkdir(exist_ok=True, mode=0o700)
    number = len(list(place.glob("damaged-*.bytes"))) + 1
    move(folder / "library.sqlite", place / f"damaged-{date.today().isoformat()}-{number}.bytes")
    return Library.open(folder, replaces_lost=True)


def _database(library: Library, out: Checked) -> None:
    with library.reading() as session:
        said = [row[0] for row in session.execute(text("pragma integrity_check"))]
        broken = {row[0] for row in session.execute(text("pragma foreign_key_check"))}
    out.wrong += [f"the library's file: {words}" for words in said if words != "ok"][:20]
    out.wrong += [f"rows of {table!r} refer to something that is gone" for table in sorted(broken)]


def _unfinished_undo(library: Library, out: Checked, *, mend: bool) -> None:
    """Erased sets that an undo was to bring back, and could not."""
    for note in wanted(library.folder):
        names = ", ".join(name for _id, name in note.clients)
        count = len(note.sets)
        what = f"{'1 erased set' if count == 1 else f'{count} erased sets'} of {names}"
        if not mend:
            out.wrong.append(f"{what}: an undo failed; mending brings them back")
    if mend:
        back = finish_wanted(library)
        out.mended += [f"{', '.join(back)}: an undo that had failed is finished"] if back else []


def _rows(library: Library, out: Checked, *, mend: bool) -> None:
    """Rows whose text is not what it should be: mended, the text goes into the note, so that
    nothing is lost."""
    with library.reading() as session:
        rows = [
            (row.id, {name: getattr(row, name) for name in _JSON})
            for row in session.scalars(select(SetRow).execution_options(yield_per=500))
        ]
        profiles = list(session.execute(select(ClientRow.id, ClientRow.name, ClientRow.profile)))
    out.sets = len(rows)
    for set_id, values in rows:
        bad = [name for name, value in values.items() if value and not _reads(value)]
        try:
            library.record(set_id)
        except BadInput:
            bad = bad or ["corrections"]
        for name in bad:
            sentence = f"set {set_id}: its {name} can't be read"
            if not mend:
                out.wrong.append(f"{sentence}; mending moves the text into its note")
                continue
            with library.writing() as session:
                row = set_row(session, set_id)
                row.note = f"{row.note}\n[{name}: {values[name]}]".strip()
                setattr(row, name, _JSON[name])
            out.mended.append(f"{sentence}; the text is in its note now")
    for client_id, name, profile in profiles:
        if not _reads(profile):
            if mend:
                with library.writing() as session:
                    session.execute(
                        update(ClientRow)
                        .where(ClientRow.id == client_id)
                        .values(profile=json.dumps({"goals": str(profile)}))
                    )
                out.mended.append(
                    f"{name}: the profile could not be read; its text is under goals now"
                )
            else:
                out.wrong.append(
                    f"{name}: the profile can't be read; mending moves its text to the goals"
                )


def _documents(library: Library, out: Checked, *, mend: bool) -> None:
    """Stored documents that can't be read: a repair stores them under a separate kind, with their
    text."""
    with library.reading() as session:
        bad = [row.id for row in session.scalars(select(KeptRow)) if not _reads(row.document)]
    for id in bad:
        if not mend:
            out.wrong.append(f"stored document {id} can't be read; mending puts it aside")
            continue
        with library.writing() as session:
            row = session.get_one(KeptRow, id)
            row.document = json.dumps({"kind": row.kind, "text": row.document})
            row.kind = DAMAGED
        out.mended.append(f"stored document {id} could not be read; its text is put aside")


def _reads(value: Any) -> bool:
    try:
        json.loads(value)
    except (ValueError, RecursionError, TypeError):
        return False
    return True


def _files(library: Library, out: Checked, progress: Progress, *, mend: bool) -> None:
    with library.reading() as session:
        tracks = list(session.execute(select(TrackRow.hash, TrackRow.file)))
        clips = list(session.execute(select(ClipRow.hash, ClipRow.file)))
        names = {
            key: f"set {set_id} of {client} ({source})"
            for set_id, client, source, *keys in session.execute(
                select(
                    SetRow.id,
                    ClientRow.name,
                    SetRow.source_name,
                    SetRow.track_hash,
                    SetRow.clip_hash,
                ).join(ClientRow, ClientRow.id == SetRow.client_id)
            )
            for key in keys
        }
    files = [("track", "tracks", *row) for row in tracks] + [
        ("clip", "clips", *row) for row in clips
    ]
    out.files = len(files)
    folder = ClipFolder(library.folder)
    for i, (what, place, key, name) in enumerate(files):
        progress(0.9 * i / len(files))
        wrong = _wrong_with(library.folder / place / name, key)
        if wrong:
            out.wrong.append(f"{names.get(key, 'no set')}: its {what} {wrong}")
        elif what == "clip" and not (library.folder / place / f"{key}.npz").exists():
            if mend and folder.find(key) is not None:
                out.mended.append(f"{names.get(key, 'a clip')}: its clip is searched again")
            elif not mend:
                out.wrong.append(
                    f"{names.get(key, 'a clip')}: its clip needs to be searched again; mending does"
                    " it"
                )


def _wrong_with(file: Path, key: str) -> str:
    digest = hashlib.sha256()
    try:
        with file.open("rb") as given:
            while data := given.read(_CHUNK):
                digest.update(data)
    except FileNotFoundError:
        return "is gone; add the recording again"
    except OSError as error:
        return f"can't be read ({error.strerror})"
    if digest.hexdigest() != key:
        return "has changed since it came in; add the recording again"
    return ""


def _modes(folder: Path, out: Checked, *, mend: bool) -> None:
    """Recordings of people's bodies are for nobody else on this machine."""
    open_ = [p for p in _all(folder) if p.lstat().st_mode & 0o077]
    if not open_:
        return
    if mend:
        for path in open_:
            os.chmod(path, 0o700 if path.is_dir() else 0o600)
        out.mended.append(
            f"{len(open_)} files or folders that others could read are closed to them"
        )
    else:
        out.wrong.append(
            f"{len(open_)} files or folders can be read by others here; mending closes them"
        )


def _all(folder: Path) -> Iterator[Path]:
    yield folder
    yield from (p for p in folder.rglob("*") if not p.is_symlink())
