"""Documents that are kept next to the sets: for a client, about an exercise, or for all."""

from __future__ import annotations

import json
from collections.abc import Callable
from itertools import count
from typing import Any

from sqlalchemy import Select, delete, select
from sqlalchemy.orm import Session

from guide_arc.library.errors import Gone
from guide_arc.library.store import Library
from guide_arc.library.tables import ClientRow, KeptRow


class KeptThings:
    """Reading and keeping such documents. Use from the thread that opened the library."""

    def __init__(self, library: Library) -> None:
        self._library = library

    def kept(
        self, kind: str, client: str | None = None, about: str = ""
    ) -> list[tuple[int, str, Any]]:
        """What is kept of a kind: (id, name, document), in the order in which it was first kept."""
        with self._library.reading() as session:
            ask = select(KeptRow).where(KeptRow.kind == kind).order_by(KeptRow.id)
            if client is not None:
                ask = ask.where(KeptRow.client_id == client_row(session, client).id)
            if about:
                ask = ask.where(KeptRow.about == about)
            rows = [(row.id, row.name, _document(row)) for row in session.scalars(ask)]
        return [row for row in rows if row[2] is not None]

    def kept_about(self, kind: str, client: str) -> list[tuple[str, Any]]:
        """What is kept of a kind for a client: (what it is about, document), in the order in which
        it was first kept."""
        with self._library.reading() as session:
            owner = client_row(session, client).id
            ask = (
                select(KeptRow)
                .where(KeptRow.kind == kind, KeptRow.client_id == owner)
                .order_by(KeptRow.id)
            )
            rows = [(row.about, _document(row)) for row in session.scalars(ask)]
        return [row for row in rows if row[1] is not None]

    def kept_kinds(self, client: str) -> list[str]:
        """Of which kinds something is kept for a client."""
        with self._library.reading() as session:
            owner = client_row(session, client).id
            ask = select(KeptRow.kind).where(KeptRow.client_id == owner).distinct()
            return sorted(session.scalars(ask))

    def keep_thing(
        self,
        kind: str,
        document: Any,
        *,
        client: str | None = None,
        about: str = "",
        name: str = "",
    ) -> int:
        """Keep a document; one of the same kind, client, about and name is replaced."""
        with self._library.writing() as session:
            return put_document(session, kind, document, client=client, about=about, name=name)

    def keep_beside(
        self,
        kind: str,
        document: Any,
        name: str,
        stood: Callable[[Any], bool],
        *,
        client: str | None = None,
        about: str = "",
    ) -> tuple[int, str]:
        """Keep a document under its name in place of what was known to be there; if another window
        has meanwhile saved something else under that name, both stay, and this one gets the next
        free name.

        stood : whether a document is the one that is to be replaced
        Returns its id and the name that it has now.
        """
        with self._library.writing() as session:
            owner = client_row(session, client).id if client is not None else None
            for number in count(1):
                free = name if number == 1 else f"{name} {number}"
                row = session.scalar(_one_kept(kind, owner, about, free))
                if row is None or (number == 1 and stood(_document(row))):
                    break
            return _write(session, row, document, (kind, owner, about, free)), free

    def change_kept(
        self, kind: str, change: Callable[[Any], Any], *, client: str | None = None, name: str = ""
    ) -> None:
        """Change the saved thing of a kind and name, in one transaction. change : gets None where
        nothing is kept yet, and may give None to keep nothing"""
        with self._library.writing() as session:
            owner = client_row(session, client).id if client is not None else None
            row = session.scalar(_one_kept(kind, owner, "", name))
            now = change(_document(row) if row is not None else None)
            if now is not None:
                _write(session, row, now, (kind, owner, "", name))

    def swap_thing(self, id: int, stood: Callable[[Any], bool], instead: Any | None) -> bool:
        """Put another document in place of one, None takes it out; False, without a change, if it
        is gone or no longer the expected one."""
        with self._library.writing() as session:
            row = session.get(KeptRow, id)
            if row is None or not stood(_document(row)):
                return False
            if instead is None:
                session.delete(row)
            else:
                row.document = json.dumps(instead, ensure_ascii=False)
            return True

    def has(self, kind: str, client: str | None, about: str, name: str) -> bool:
        """Whether such a thing is kept."""
        with self._library.reading() as session:
            owner = client_row(session, client).id if client is not None else None
            return session.scalar(_one_kept(kind, owner, about, name)) is not None

    def own_words(self, client: str) -> dict[str, str]:
        """The words that replace a check's cue for one client, by check."""
        return {
            document["check"]: document["words"]
            for _id, _name, document in self.kept("cue", client)
        }

    def keep_words(self, client: str, check: str, words: str | None) -> None:
        """Keep such words; None forgets them."""
        with self._library.writing() as session:
            keep_words(session, client, check, words)

    def change_thing(self, id: int, change: Callable[[Any], Any]) -> None:
        """Change a kept document in one transaction; does nothing if it is gone."""
        with self._library.writing() as session:
            row = session.get(KeptRow, id)
            if row is not None:
                row.document = json.dumps(change(json.loads(row.document)), ensure_ascii=False)

    def forget_thing(self, id: int) -> None:
        with self._library.writing() as session:
            session.execute(delete(KeptRow).where(KeptRow.id == id))


def _document(row: KeptRow) -> Any:
    """What is stored in a row; None for a damaged one, which `check` reports and mends."""
    try:
        return json.loads(row.document)
    except (ValueError, RecursionError):
        return None


def keep_words(session: Session, client: str, check: str, words: str | None) -> None:
    """Store a client's own words for a check's cue within a transaction; None deletes them."""
    owner = client_row(session, client).id
    row = session.scalar(_one_kept("cue", owner, check, ""))
    if words is not None:
        _write(session, row, {"check": check, "words": words}, ("cue", owner, check, ""))
    elif row is not None:
        session.delete(row)


def put_document(
    session: Session, kind: str, document: object, *, client: str | None, about: str, name: str
) -> int:
    """Store a document within a transaction; one of the same kind, client, about and name is
    replaced. Its number."""
    owner = client_row(session, client).id if client is not None else None
    row = session.scalar(_one_kept(kind, owner, about, name))
    return _write(session, row, document, (kind, owner, about, name))


def _write(
    session: Session, row: KeptRow | None, document: Any, named: tuple[str, int | None, str, str]
) -> int:
    """Write a document into its row, which is created if needed; its id. named : kind, owner, about
    and name of a new one"""
    if row is None:
        kind, owner, about, name = named
        row = KeptRow(kind=kind, client_id=owner, about=about, name=name, document="")
        session.add(row)
    row.document = json.dumps(document, ensure_ascii=False)
    session.flush()
    return row.id


def _one_kept(kind: str, owner: int | None, about: str, name: str) -> Select[KeptRow]:
    whose = KeptRow.client_id.is_(None) if owner is None else KeptRow.client_id == owner
    return select(KeptRow).where(
        KeptRow.kind == kind, whose, KeptRow.about == about, KeptRow.name == name
    )


def client_row(session: Session, name: str) -> ClientRow:
    row = session.scalar(select(ClientRow).where(ClientRow.name == name))
    if row is None:
        raise Gone(f"there is no client {name!r} in the library")
    return row
