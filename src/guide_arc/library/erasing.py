"""Deleting sets and clients with everything that belongs to them, within a transaction of the
caller's."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final

from sqlalchemy import select
from sqlalchemy.orm import Session

from guide_arc.library.records import ANSWER, PAGE, QUARANTINE, REVIEWED
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
# So many sets are asked about in one statement; a database takes only so many values in one.
_AT_ONCE: Final = 500


def delete_sets(session: Session, set_ids: Iterable[int]) -> None:
    """Delete sets with their reviews, decisions and notes, and the rows of recordings that no other
    set names.

    A set that showed one of them from another side becomes a separate set again. Sets that are gone
    are passed over.
    """
    ids = list(dict.fromkeys(set_ids))
    for some in (ids[i : i + _AT_ONCE] for i in range(0, len(ids), _AT_ONCE)):
        _delete_some(session, some)


def _delete_some(session: Session, ids: list[int]) -> None:
    rows = session.scalars(select(SetRow).where(SetRow.id.in_(ids))).all()
    for other in session.scalars(select(SetRow).where(SetRow.other_view_of.in_(ids))):
        other.other_view_of = None
    session.flush()
    files = [file for row in rows for file in _files_of(row)]
    for one in _about(session, ids):
        session.delete(one)
    session.flush()
    for row in rows:
        session.delete(row)
    session.flush()
    delete_unnamed(session, files)


def delete_client(session: Session, client: ClientRow) -> list[int]:
    """Delete a client with every set and everything stored for them. Returns the ids of the
    sets."""
    ids = list(session.scalars(select(SetRow.id).where(SetRow.client_id == client.id)))
    delete_sets(session, ids)
    for kept in session.scalars(select(KeptRow).where(KeptRow.client_id == client.id)):
        session.delete(kept)
    session.flush()
    session.delete(client)
    session.flush()
    return ids


def is_bare(session: Session, client: ClientRow) -> bool:
    """Whether a client is only a name, maybe with the height from a recording: no set, no profile,
    nothing stored."""
    if client.profile not in ("", "{}"):
        return False
    return not any(
        session.scalar(select(table.id).where(table.client_id == client.id).limit(1))
        for table in (SetRow, KeptRow)
    )


def delete_unnamed(session: Session, files: Iterable[File]) -> None:
    """Delete the rows of those recordings that no set names any more. Their files stay where they
    are."""
    tables: tuple[type[TrackRow] | type[ClipRow], ...] = (TrackRow, ClipRow)
    given = list(dict.fromkeys(files))
    for table in tables:
        column = SetRow.track_hash if table is TrackRow else SetRow.clip_hash
        keys = [key for kind, key in given if kind is table]
        for some in (keys[i : i + _AT_ONCE] for i in range(0, len(keys), _AT_ONCE)):
            named = select(column).where(column.in_(some))
            unnamed = select(table).where(table.hash.in_(some), table.hash.not_in(named))
            for row in session.scalars(unnamed).all():
                session.delete(row)
    session.flush()


def _about(session: Session, ids: list[int]) -> list[ReviewRow | DecisionRow | KeptRow]:
    """What is stored about some sets and has no meaning without them."""
    decisions = session.scalars(select(DecisionRow).where(DecisionRow.set_id.in_(ids)))
    reviews = session.scalars(select(ReviewRow).where(ReviewRow.set_id.in_(ids)))
    notes = session.scalars(
        select(KeptRow).where(
            ((KeptRow.kind == REVIEWED) & KeptRow.name.in_([str(id) for id in ids]))
            | ((KeptRow.kind == QUARANTINE) & KeptRow.name.in_([f"set-{id}" for id in ids]))
            | (KeptRow.kind.in_((PAGE, ANSWER)) & KeptRow.about.in_([str(id) for id in ids]))
        )
    )
    return [*decisions, *notes, *reviews]


def _files_of(row: SetRow) -> list[File]:
    files: list[File] = []
    if row.track_hash:
        files.append((TrackRow, row.track_hash))
    if row.clip_hash:
        files.append((ClipRow, row.clip_hash))
    return files
