"""Erasing sets and clients: undo brings them back while the window is open; afterwards nothing of
them is left."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Final

from sqlalchemy import select
from sqlalchemy.orm import Session

from guide_arc.library.backups import Erased, lose_in_backups, recordings_in_backups
from guide_arc.library.changes import Changes
from guide_arc.library.clip_sets import ClipSets
from guide_arc.library.erased import Note, out_of_reach
from guide_arc.library.erasing import delete_client, delete_sets, is_bare
from guide_arc.library.kept_things import client_row
from guide_arc.library.store import Library
from guide_arc.library.tables import ClientRow, ClipRow, SetRow, TrackRow
from guide_arc.library.undoing import do

_TABLES: Final[Mapping[str, type[TrackRow] | type[ClipRow]]] = {
    "tracks": TrackRow,
    "clips": ClipRow,
}


def remove_set(library: Library, set_id: int) -> None:
    """Erase a set for good, with its review, decisions, and its track and clip where no other set
    has them."""
    take_out(library, [set_id])
    forget_own(library)


def take_out(library: Library, set_ids: Sequence[int]) -> Changes:
    """Erase sets in one transaction. A client without any other data is deleted with the last
    set."""

    def work(session: Session) -> None:
        rows = [row for i in set_ids if (row := session.get(SetRow, i)) is not None]
        clients = {row.client_id for row in rows}
        delete_sets(session, [row.id for row in rows])
        for client in [session.get_one(ClientRow, id) for id in sorted(clients)]:
            if is_bare(session, client):
                session.delete(client)

    return do(library, work).changes


def take_client_out(library: Library, name: str) -> Changes:
    """Erase a client with every set and everything stored for them, in one transaction.

    Raises BadLibrary if there is no client of that name.
    """

    def work(session: Session) -> None:
        delete_client(session, client_row(session, name))

    return do(library, work).changes


def forget_own(library: Library) -> list[str]:
    """Undo can't ask any more for what was erased through this library: delete it for good. Returns
    the clients' names."""
    library.aside.let_go()
    return forget_taken_out(library)


def forget_taken_out(library: Library) -> list[str]:
    """Delete for good what no undo can bring back: recordings, and what copies of the library still
    hold.

    Each thing is deleted only after the library was asked whether it is really gone. What another
    open window erased stays, and so does what an undo asked for and did not get. Returns the names
    of the clients who are gone.
    """
    if library.read_only:
        return []
    with out_of_reach(library.folder) as (notes, held):
        if not notes:
            return []
        with library.reading() as session:
            gone = [_really_gone(session, note, held) for note in notes]
            named = session.execute(select(SetRow.id, ClientRow.name).join(ClientRow))
            owners: dict[int, str] = {row.id: row.name for row in named}
        for note in held:  # undo may bring these back, and copies keep them as long
            owners = {**note.owners, **owners}
        names = [name for one in gone for name in one.clients]
        lose_in_backups(library.folder, gone, owners)
        ClipSets(library).abandon_of(names)
        # A copy may list a set of the same recording that was not erased: brought back, it needs
        # it.
        wanted = recordings_in_backups(library.folder)
        for place, key in {file for one in gone for file in one.recordings} - wanted:
            for file in (library.folder / place).glob(f"{key}.*"):
                file.unlink(missing_ok=True)
        library.lose_traces(names)
        return names


def _really_gone(session: Session, note: Note, held: Sequence[Note]) -> Erased:
    """The files of a note that are in neither the library nor reach of an undo: it may have come
    back, or a kill came before it was erased."""
    names_held = {name for other in held for _id, name in other.clients}
    recordings_held = {recording for other in held for recording in other.recordings}
    names = set(session.scalars(select(ClientRow.name)))
    return Erased(
        sets=tuple(
            (int(str(row["id"])), str(row["track_hash"] or ""), str(row["clip_hash"] or ""))
            for row in note.sets
            if session.get(SetRow, row["id"]) is None
        ),
        recordings=tuple(
            (place, key)
            for place, key in sorted(note.recordings)
            if (place, key) not in recordings_held and session.get(_TABLES[place], key) is None
        ),
        clients=tuple(
            name
            for id, name in note.clients
            if session.get(ClientRow, id) is None and name not in names | names_held
        ),
    )
