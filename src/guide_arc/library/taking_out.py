"""Taking sets out of a library: with a way back as long as the window is open, and then without a trace."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from sqlalchemy import inspect, select
from sqlalchemy.orm import Session

from guide_arc.formats.atomic import make_folder
from guide_arc.library.aside import forgotten
from guide_arc.library.backups import lose_in_backups
from guide_arc.library.clip_folder import ClipFolder
from guide_arc.library.records import REVIEWED, SET_ASIDE
from guide_arc.library.store import Library
from guide_arc.library.tables import (
    Base,
    ClientRow,
    ClipRow,
    DecisionRow,
    KeptRow,
    ReviewRow,
    SetRow,
    TrackRow,
)

_PLACES: Mapping[type[TrackRow | ClipRow], str] = {TrackRow: "tracks", ClipRow: "clips"}


@dataclass(frozen=True)
class Removed:
    """A set that was taken out: its row, its decisions, its review, when it was reviewed, and the rows of its files.

    client : the row of a client of whom nothing was left; aside : where the files wait
    """

    row: Mapping[str, Any]
    decisions: tuple[Mapping[str, Any], ...]
    review: Mapping[str, Any] | None
    files: tuple[tuple[type[TrackRow | ClipRow], Mapping[str, Any]], ...]
    when_reviewed: tuple[Mapping[str, Any], ...]
    client: Mapping[str, Any] | None
    aside: Path


def remove_set(library: Library, set_id: int) -> None:
    """Erase a set with its review, decisions, and its track and clip where no other set has them."""
    take_out(library, set_id)
    forget_own(library)


def take_out(library: Library, set_id: int, *, with_client: bool = True) -> Removed:
    """Take a set out so that it can be put back until the window closes.

    with_client : a client of whom nothing else is known goes with the last set
    """
    with library.reading() as session:
        noted = _noted(session, [set_id])
    aside = library.aside.note(noted)
    with library.writing() as session:
        row = session.get_one(SetRow, set_id)
        client = session.get_one(ClientRow, row.client_id)
        decisions = _all(session, select(DecisionRow).where(DecisionRow.set_id == set_id))
        review = session.get(ReviewRow, set_id)
        days = _all(
            session,
            select(KeptRow).where(
                ((KeptRow.kind == REVIEWED) & (KeptRow.name == str(set_id)))
                | ((KeptRow.kind == SET_ASIDE) & (KeptRow.name == f"set-{set_id}"))
            ),
        )
        whole = _columns(row)
        reviewed = _columns(review) if review is not None else None
        for one in (*decisions, review, *days, row):
            if one is not None:
                session.delete(one)
        session.flush()
        kept = [
            (table, _columns(session.get_one(table, key)))
            for table, key, column in (
                (TrackRow, whole["track_hash"], SetRow.track_hash),
                (ClipRow, whole["clip_hash"], SetRow.clip_hash),
            )
            if key is not None and not session.scalar(select(SetRow.id).where(column == key).limit(1))
        ]  # fmt: skip
        for table, values in kept:
            session.delete(session.get_one(table, values["hash"]))
        last = with_client and _nothing_left_of(session, client)
        gone_client = _columns(client) if last else None
        if last:
            session.delete(client)
    for table, values in kept:
        place = _PLACES[table]
        for file in sorted((library.folder / place).glob(f"{values['hash']}.*")):
            make_folder(aside / place)
            file.replace(aside / place / file.name)
    return Removed(
        whole, tuple(map(_columns, decisions)), reviewed, tuple(kept), tuple(map(_columns, days)),
        gone_client, aside,
    )  # fmt: skip


def put_back(library: Library, removed: Removed) -> None:
    """Put a set back as it was, under its own number."""
    for file in removed.aside.glob("*/*"):
        file.replace(library.folder / file.parent.name / file.name)
    with library.writing() as session:
        if removed.client is not None and session.get(ClientRow, removed.client["id"]) is None:
            session.add(ClientRow(**removed.client))
        for table, values in removed.files:
            session.merge(table(**values))
        session.flush()
        session.add(SetRow(**removed.row))
        session.flush()
        session.add_all(DecisionRow(**values) for values in removed.decisions)
        if removed.review is not None:
            session.add(ReviewRow(**removed.review))
        session.add_all(KeptRow(**values) for values in removed.when_reviewed)
    library.aside.is_back(removed.aside)


def note_client(library: Library, name: str) -> None:
    """Remember that a client is about to be taken out: copies of the library lose them too, in the end."""
    with library.reading() as session:
        row = session.scalar(select(ClientRow).where(ClientRow.name == name))
        ids = list(session.scalars(select(SetRow.id).where(SetRow.client_id == row.id))) if row else []  # fmt: skip
        noted = {**_noted(session, ids), "clients": [name]}
    library.aside.note(noted)


def forget_own(library: Library) -> None:
    """There is no way back any more to what was taken out through this library."""
    library.aside.let_go()
    forget_taken_out(library)


def forget_taken_out(library: Library) -> None:
    """Lose for good what there is no way back to: its files, and what copies of the library and the library's own
    file still hold of it. What another open window took out stays."""
    noted = forgotten(library.folder)
    if not noted:
        return
    with library.reading() as session:
        gone = [_still_gone(session, one) for one in noted]
    for one in gone:
        for place, key in one["hashes"]:
            for file in (library.folder / place).glob(f"{key}.*"):
                file.unlink(missing_ok=True)
    names = [name for one in gone for name in one["clients"]]
    ClipFolder(library.folder).abandon_of(names)
    lose_in_backups(library.folder, gone)
    library.lose_traces(names)


def _noted(session: Session, ids: Sequence[int]) -> dict[str, Any]:
    rows = [session.get_one(SetRow, i) for i in ids]
    names = {session.get_one(ClientRow, row.client_id).name for row in rows}
    return {
        "sets": [[row.id, row.track_hash or "", row.clip_hash or ""] for row in rows],
        "hashes": [
            [place, key]
            for row in rows
            for place, key in (("tracks", row.track_hash), ("clips", row.clip_hash))
            if key
        ],
        "clients": sorted(names),
    }


def _still_gone(session: Session, noted: Mapping[str, Any]) -> dict[str, Any]:
    """Of what was noted, what the library really does not hold any more: a kill may have come before the taking out,
    or after the putting back."""

    def there(of: Sequence[Any]) -> bool:
        row = session.get(SetRow, of[0])
        return row is not None and [row.track_hash or "", row.clip_hash or ""] == list(of[1:])

    tables = {"tracks": TrackRow, "clips": ClipRow}
    return {
        "sets": [of for of in noted["sets"] if not there(of)],
        "hashes": [[p, k] for p, k in noted["hashes"] if session.get(tables[p], k) is None],
        "clients": [
            name
            for name in noted["clients"]
            if session.scalar(select(ClientRow.id).where(ClientRow.name == name)) is None
        ],
    }


def _nothing_left_of(session: Session, client: ClientRow) -> bool:
    """Whether a client is but a name, with the height that came with a recording: no set, no profile, nothing kept."""
    if client.profile not in ("", "{}"):
        return False
    return not any(
        session.scalar(select(table.id).where(table.client_id == client.id).limit(1))
        for table in (SetRow, KeptRow)
    )


def _all(session: Session, ask: Any) -> list[Any]:
    return list(session.scalars(ask))


def _columns(row: Base) -> dict[str, Any]:
    """A row as plain values, by the names that its class gives them."""
    return {a.key: getattr(row, a.key) for a in inspect(type(row)).column_attrs}
