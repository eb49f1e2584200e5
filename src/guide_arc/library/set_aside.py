"""What could not be used, until the coach looks: which file or set, why, since when."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Any, Final

from guide_arc.core.model.plain_text import visible
from guide_arc.library.clients import Clients
from guide_arc.library.records import SET_ASIDE
from guide_arc.library.set_changes import set_row
from guide_arc.library.store import Library
from guide_arc.library.tables import ClientRow

_MOST_WORDS: Final = 600


@dataclass(frozen=True)
class Laid:
    """One thing that was set aside. path : of a file; set_id : of a set whose review can't be
    computed"""

    id: int
    name: str
    why: str
    at: str
    path: Path | None = None
    set_id: int | None = None


def lay_file(library: Library, path: Path, why: str) -> None:
    """Set a file aside; once more where it is already."""
    key = hashlib.sha256(str(path.absolute()).encode("utf-8", "surrogateescape")).hexdigest()[:32]
    # A path may hold bytes that are no text: kept so that it still names the file.
    _keep(
        library,
        key,
        {
            "path": list(str(path.absolute()).encode("utf-8", "surrogateescape")),
            "name": visible(path.name),
            "why": visible(why)[:_MOST_WORDS],
        },
    )


def lay_set(library: Library, set_id: int, why: str) -> None:
    """Set a set's review aside."""
    with library.reading() as session:
        row = set_row(session, set_id)  # not the whole record: a damaged one can't be read
        client = session.get_one(ClientRow, row.client_id).name
        name = f"{client}, {row.standard.replace('-', ' ')}"
    _keep(
        library, f"set-{set_id}", {"set": set_id, "name": name, "why": visible(why)[:_MOST_WORDS]}
    )


def all_laid(library: Library) -> list[Laid]:
    """All that is set aside, the latest first."""
    out = []
    for id, _name, document in Clients(library).kept(SET_ASIDE):
        path = document.get("path")
        out.append(
            Laid(
                id,
                document["name"],
                document["why"],
                document["at"],
                Path(bytes(path).decode("utf-8", "surrogateescape")) if path else None,
                document.get("set"),
            )
        )
    return sorted(out, key=lambda one: one.at, reverse=True)


def pick_up(library: Library, ids: tuple[int, ...]) -> None:
    """Not set aside any more."""
    for id in ids:
        Clients(library).forget_thing(id)


def pick_up_file(library: Library, path: Path) -> None:
    """It came in after all."""
    pick_up(library, tuple(one.id for one in all_laid(library) if one.path == path.absolute()))


def pick_up_set(library: Library, set_id: int) -> None:
    """It could be reviewed after all."""
    pick_up(library, tuple(one.id for one in all_laid(library) if one.set_id == set_id))


def _keep(library: Library, name: str, document: dict[str, Any]) -> None:
    at = datetime.now().isoformat(timespec="seconds")
    Clients(library).keep_thing(SET_ASIDE, {**document, "at": at}, name=name)
