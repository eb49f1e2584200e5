"""Deleting sets and clients with everything that belongs to them, within a transaction of the caller's."""

from __future__ import annotations

from collections.abc import Iterable

from sqlalchemy import select
from sqlalchemy.orm import Session

from guide_arc.library.records import REVIEWED, SET_ASIDE
from guide_arc.library.tables import (
    ClientRow,
    ClipRow,
    DecisionRow,
    KeptRow,
    ReviewRow,
    SetRow,
    TrackRow,
)

# The file of a recording: the table of its row, and its hash.
File = tuple[type[TrackRow] | type[ClipRow], str]


def delete_sets(session: Session, set_ids: Iterable[int]) -> None:
    """Delete sets with their reviews, decisions and notes, and the rows of recordings that no other set names.

    A set that showed one of them from another side is a set of its own again. Sets that are gone are passed over.
    """
    rows = [row for i in set_ids if (row := session.get(SetRow, i)) is not None]
    for row in rows:
        for other in session.scalars(select(SetRow).where(SetRow.other_view_of == row.id)):
            other.other_view_of = None
    session.flush()
    files = [file for row in rows for file in _files_of(row)]
    for row in rows:
        for one in _about(session, row.id):
            session.delete(one)
    session.flush()
    for row in rows:
        session.delete(row)
    session.flush()
    delete_unnamed(session, files)


def delete_client(session: Session, client: ClientRow) -> list[int]:
    """Delete a client with every set and everything stored for them. Returns the ids of the sets."""
    ids = list(session.scalars(select(SetRow.id).where(SetRow.client_id == client.id)))
    delete_sets(session, ids)
    for kept in session.scalars(select(KeptRow).where(KeptRow.client_id == client.id)):
        session.delete(kept)
    session.flush()
    session.delete(client)
    session.flush()
    return ids


def is_bare(session: Session, client: ClientRow) -> bool:
    """Whether a client is only a name, maybe with the height from a recording: no set, no profile, nothing stored."""
    if client.profile not in ("", "{}"):
        return False
    return not any(
        session.scalar(select(table.id).where(table.client_id == client.id).limit(1))
        for table in (SetRow, KeptRow)
    )


def delete_unnamed(session: Session, files: Iterable[File]) -> None:
    """Delete the rows of those recordings that no set names any more. Their files stay where they are."""
    for table, key in dict.fromkeys(files):
        column = SetRow.track_hash if table is TrackRow else SetRow.clip_hash
        row = session.get(table, key)
        named = session.scalar(select(SetRow.id).where(column == key).limit(1))
        if row is not None and named is None:
            session.delete(row)
    session.flush()


def _about(session: Session, set_id: int) -> list[ReviewRow | DecisionRow | KeptRow]:
    """What is stored about one set and has no meaning without it."""
    decisions = session.scalars(select(DecisionRow).where(DecisionRow.set_id == set_id))
    notes = session.scalars(
        select(KeptRow).where(
            ((KeptRow.kind == REVIEWED) & (KeptRow.name == str(set_id)))
            | ((KeptRow.kind == SET_ASIDE) & (KeptRow.name == f"set-{set_id}"))
        )
    )
    review = session.get(ReviewRow, set_id)
    return [*decisions, *notes, *([review] if review is not None else [])]


def _files_of(row: SetRow) -> list[File]:
    files: list[File] = []
    if row.track_hash:
        files.append((TrackRow, row.track_hash))
    if row.clip_hash:
        files.append((ClipRow, row.clip_hash))
    return files
