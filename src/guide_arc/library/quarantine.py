"""Files that could not be imported and sets that could not be reviewed, with the reason and the
time, until the coach has seen them."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Any, Final

from guide_arc.core.model.plain_text import visible
from guide_arc.library.clients import Clients
from guide_arc.library.records import QUARANTINE
from guide_arc.library.set_changes import set_row
from guide_arc.library.store import Library
from guide_arc.library.tables import ClientRow

_MOST_WORDS: Final = 600


@dataclass(frozen=True)
class Quarantined:
    """A quarantined file or set. path : of a file; set_id : of a set whose review can't be
    computed"""

    id: int
    name: str
    why: str
    at: str
    path: Path | None = None
    set_id: int | None = None


def quarantine_file(library: Library, path: Path, why: str) -> None:
    """Quarantine a file; one that is quarantined already gets the new reason."""
    key = hashlib.sha256(str(path.absolute()).encode("utf-8", "surrogateescape")).hexdigest()[:32]
    # A path may contain bytes that are not text; stored as bytes, it still names the file.
    _keep(
        library,
        key,
        {
            "path": list(str(path.absolute()).encode("utf-8", "surrogateescape")),
            "name": visible(path.name),
            "why": visible(why)[:_MOST_WORDS],
        },
    )


def quarantine_set(library: Library, set_id: int, why: str) -> None:
    """Quarantine a set whose review can't be computed."""
    with library.reading() as session:
        row = set_row(session, set_id)  # not the whole record: a damaged one can't be read
        client = session.get_one(ClientRow, row.client_id).name
        name = f"{client}, {row.standard.replace('-', ' ')}"
    _keep(
        library, f"set-{set_id}", {"set": set_id, "name": name, "why": visible(why)[:_MOST_WORDS]}
    )


def all_quarantined(library: Library) -> list[Quarantined]:
    """All quarantined files and sets, the latest first."""
    out = []
    for id, _name, document in Clients(library).kept(QUARANTINE):
        path = document.get("path")
        out.append(
            Quarantined(
                id,
                document["name"],
                document["why"],
                document["at"],
                Path(bytes(path).decode("utf-8", "surrogateescape")) if path else None,
                document.get("set"),
            )
        )
    return sorted(out, key=lambda one: one.at, reverse=True)


def release(library: Library, ids: tuple[int, ...]) -> None:
    """Remove entries from the quarantine."""
    for id in ids:
        Clients(library).forget_thing(id)


def release_file(library: Library, path: Path) -> None:
    """Remove a file that was imported after all."""
    release(
        library, tuple(one.id for one in all_quarantined(library) if one.path == path.absolute())
    )


def release_set(library: Library, set_id: int) -> None:
    """Remove a set that was reviewed after all."""
    release(library, tuple(one.id for one in all_quarantined(library) if one.set_id == set_id))


def _keep(library: Library, name: str, document: dict[str, Any]) -> None:
    at = datetime.now().isoformat(timespec="seconds")
    Clients(library).keep_thing(QUARANTINE, {**document, "at": at}, name=name)
