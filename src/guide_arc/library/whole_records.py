"""A client's whole record, and the whole library, as a folder of files; and back into a library.

A record is a folder with the client's profile, saved things, every set as a bundle, and the years
as a table. A library is a folder of such records, with what belongs to no client next to them."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, Final

from sqlalchemy import select

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.plain_text import visible
from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.bundle import SUFFIX
from guide_arc.formats.client_json import client_of, client_text
from guide_arc.formats.file_names import file_name_part, free_name
from guide_arc.library.bundles import take_bundle_with, write_set
from guide_arc.library.clients import Clients
from guide_arc.library.own_schemes import own_text, put_back
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.plain_values import name_of
from guide_arc.library.records import ANSWER, PAGE, REVIEWED
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.sets_table import sets_table
from guide_arc.library.store import Library
from guide_arc.library.stored_json import stored
from guide_arc.library.tables import ClientRow, KeptRow, SetRow, SettingRow
from guide_arc.standards.schemes import parse_schemes

Progress = Callable[[float], None]
KNOWN, KEPT, BESIDE = "known.json", "kept.json", "library.json"
# What a library remembers for its person that another machine has a use for.
_SETTINGS: Final = ("coach", "preferred-schools", "marker-names")
_MOST_BYTES: Final = 50_000_000


@dataclass
class TakenRecords:
    """The sets that came in, how many were there already, and a sentence for each thing that could
    not."""

    ids: list[int] = field(default_factory=list)
    known: int = 0
    wrong: list[str] = field(default_factory=list)


def write_client(library: Library, name: str, folder: Path, progress: Progress) -> int:
    """Write it all into a folder of the client's name; how many sets there are. Each file is whole
    or not there."""
    clients = Clients(library)
    client = clients.client(name)
    target = record_folder(folder, name)
    target.mkdir(parents=True, exist_ok=True, mode=0o700)
    write_atomic(target / KNOWN, client_text(client, indent=1).encode())
    write_atomic(target / KEPT, _json(_kept(library, name)))
    write_atomic(target / "sets.csv", sets_table(clients, name).encode())
    with library.reading() as session:
        ask = (
            select(SetRow.id, SetRow.recorded, SetRow.standard)
            .join(ClientRow)
            .where(ClientRow.name == name)
        )
        sets = list(session.execute(ask.order_by(SetRow.recorded, SetRow.id)))
    for i, (set_id, recorded, standard) in enumerate(sets):
        progress(i / len(sets))
        write_set(
            library,
            set_id,
            target / f"{file_name_part(recorded[:10])}-{file_name_part(standard)}-{set_id}{SUFFIX}",
        )
    return len(sets)


def record_folder(folder: Path, name: str) -> Path:
    """The folder for a client's record: the one that has it already, or a new one. Names that
    differ in a sign only, or in capital letters, have folders of their own."""
    part = file_name_part(name)
    others: list[str] = []
    for there in folder.iterdir() if folder.is_dir() else ():
        if not there.name.casefold().startswith(part.casefold()) or not there.is_dir():
            continue
        if _client_in(there) == name:
            return there
        others.append(there.name)
    return folder / free_name(part, others)


def _client_in(record: Path) -> str | None:
    """Whose record a folder holds; None for any other folder."""
    try:
        return str(_read(record / KNOWN).get("name"))
    except BadInput:
        return None


def write_library(library: Library, folder: Path, progress: Progress) -> int:
    """Every client's record, and what belongs to none; how many sets there are."""
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    with library.reading() as session:
        asked = select(SettingRow).where(SettingRow.key.in_(_SETTINGS))
        settings = {row.key: row.value for row in session.scalars(asked)}
    beside = {
        "guide_arc_library": 1,
        "settings": settings,
        "kept": _kept(library, None),
        "standards": OwnStandards(library).texts(),
        "schemes": own_text(library),
    }
    write_atomic(folder / BESIDE, _json(beside))
    names = library.clients()
    count = 0
    for i, name in enumerate(names):
        count += write_client(library, name, folder, _part(progress, i, len(names)))
    return count


def records_in(path: Path) -> list[Path]:
    """The records that a folder is or holds; empty for any other."""
    if not path.is_dir():
        return []
    if (path / KNOWN).is_file():
        return [path]
    return sorted(p for p in path.iterdir() if p.is_dir() and (p / KNOWN).is_file())


def take_in(library: Library, path: Path, progress: Progress) -> TakenRecords:
    """Take a record in, or a whole library. What is there already stays as it is; one bad file
    stops no other.

    progress : may raise to stop; what came before is kept, and the next call goes on
    """
    out = TakenRecords()
    if (path / BESIDE).is_file():
        _take_beside(library, path / BESIDE, out)
    records = records_in(path)
    for i, record in enumerate(records):
        _take_record(library, record, out, _part(progress, i, len(records)))
    return out


def _take_record(library: Library, folder: Path, out: TakenRecords, progress: Progress) -> None:
    try:
        found = _read(folder / KNOWN)
        client = client_of({**found, "name": name_of(str(found.get("name", "")), "a client")})
        if client is None:
            raise BadInput(f"{folder.name}/{KNOWN}: what is known of the client can't be read")
    except BadInput as error:
        out.wrong.append(str(error))
        return
    clients = Clients(library)
    if client.name not in library.clients():
        clients.keep(client)
    new_ids: dict[int, int] = {}
    views: dict[int, int] = {}
    files = sorted(folder.glob(f"*{SUFFIX}"))
    for i, file in enumerate(files):
        progress(i / len(files))
        try:
            set_id, new, meta = take_bundle_with(library, file)
            if new and not library.record(set_id).waits_for_landmarks:
                review_and_keep(library, set_id)
        except BadInput as error:
            out.wrong.append(str(error))
            continue
        except OSError as error:
            out.wrong.append(f"{file.name}: the file can't be read ({error.strerror}).")
            continue
        out.known += not new
        out.ids += [set_id] if new else []
        if isinstance(meta.get("id"), int):
            new_ids[meta["id"]] = set_id
            if new and isinstance(meta.get("other_view_of"), int):
                views[set_id] = meta["other_view_of"]
    for set_id, main in views.items():
        if main in new_ids:
            library.join_views(set_id, new_ids[main])
    try:
        _take_kept(library, _read(folder / KEPT).get("kept"), client.name, new_ids)
    except BadInput as error:
        out.wrong.append(str(error))


def _take_beside(library: Library, file: Path, out: TakenRecords) -> None:
    try:
        found = _read(file)
        own = OwnStandards(library)
        for id, text in _texts(found.get("standards")).items():
            if id not in own.texts():
                try:
                    own.save(id, text)
                except BadInput as error:
                    out.wrong.append(
                        f"{file.name}: the standard {visible(id)[:80]!r} is left out: {error}"
                    )
        schemes = found.get("schemes")
        if isinstance(schemes, str) and schemes and not own_text(library):
            parse_schemes(schemes, file.name)
            put_back(library, schemes)
        for key, value in _texts(found.get("settings")).items():
            if key in _SETTINGS and not library.setting(key):
                library.keep_setting(key, visible(value))
        _take_kept(library, found.get("kept"), None, {})
    except BadInput as error:
        out.wrong.append(str(error))


def _kept(library: Library, client: str | None) -> dict[str, Any]:
    """What is kept for a client, or for all."""
    with library.reading() as session:
        ask = select(KeptRow).order_by(KeptRow.id)
        if client is None:
            ask = ask.where(KeptRow.client_id.is_(None))
        else:
            ask = ask.join(ClientRow, ClientRow.id == KeptRow.client_id).where(
                ClientRow.name == client
            )
        rows = [
            {
                "kind": row.kind,
                "about": row.about,
                "name": row.name,
                "document": stored(row.document),
            }
            for row in session.scalars(ask)
        ]
    return {"kept": rows}


def _take_kept(
    library: Library, found: Any, client: str | None, new_ids: Mapping[int, int]
) -> None:
    """Keep what is not kept yet; what is about a set is about the one that came in for it."""
    rows = found.get("kept") if isinstance(found, dict) else found
    for row in rows if isinstance(rows, list) else []:
        if not isinstance(row, dict) or "document" not in row:
            continue
        kind, about, name = (visible(str(row.get(key, "")))[:most] for key, most in _LENGTHS)
        document = row["document"]
        if isinstance(document, dict) and isinstance(document.get("set"), int):
            mapped = new_ids.get(document["set"])
            if kind in (REVIEWED, PAGE, ANSWER) and mapped is None:
                continue
            document = {**document, "set": mapped}
            name = str(mapped) if kind == REVIEWED else name
            about = str(mapped) if kind in (PAGE, ANSWER) else about
        if kind and not Clients(library).has(kind, client, about, name):
            Clients(library).keep_thing(kind, document, client=client, about=about, name=name)


_LENGTHS: Final = (("kind", 20), ("about", 80), ("name", 120))


def _texts(found: Any) -> dict[str, str]:
    pairs: Iterable[tuple[Any, Any]] = found.items() if isinstance(found, dict) else ()
    return {k: v for k, v in pairs if isinstance(v, str)}


def _read(file: Path) -> dict[str, Any]:
    try:
        if file.stat().st_size > _MOST_BYTES:
            raise BadInput(
                f"{file.parent.name}/{file.name}: it is too large to be one of a record's"
            )
        found = json.loads(file.read_text(encoding="utf-8"))
    except OSError as error:
        raise BadInput(
            f"{file.parent.name}/{file.name}: it can't be read ({error.strerror})"
        ) from None
    except (ValueError, RecursionError):
        raise BadInput(f"{file.parent.name}/{file.name}: it is not JSON") from None
    if not isinstance(found, dict):
        raise BadInput(f"{file.parent.name}/{file.name}: it is not a record's")
    return found


def _json(value: Any) -> bytes:
    return json.dumps(value, indent=1, ensure_ascii=False).encode("utf-8", "replace")


def _part(progress: Progress, i: int, count: int) -> Progress:
    return lambda share: progress((i + share) / max(count, 1))
