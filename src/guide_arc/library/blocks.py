"""Blocks: weeks of sessions that are kept under a name and put into the plans of several clients,
each with their own weights."""

from __future__ import annotations

import json
from collections.abc import Collection, Iterable, Mapping
from datetime import date
from typing import Any, Final, NamedTuple

from pydantic import TypeAdapter, ValidationError
from pydantic_core import to_json
from sqlalchemy import select
from sqlalchemy.orm import Session

from guide_arc.core.planning.copying import CopiedSessions, pasted
from guide_arc.core.planning.plan import Plan
from guide_arc.formats.plan_json import plan_document, plan_from
from guide_arc.library.clients import Clients
from guide_arc.library.kept_things import client_row, put_document
from guide_arc.library.planning import KIND as PLAN_KIND
from guide_arc.library.stored_json import stored
from guide_arc.library.tables import KeptRow

_KIND: Final = "block"
_BLOCK: Final = TypeAdapter(CopiedSessions)


class Block(NamedTuple):
    name: str
    sessions: CopiedSessions


class Applied(NamedTuple):
    """sessions : how many were planned; clients : for how many"""

    sessions: int
    clients: int


def blocks(clients: Clients) -> list[Block]:
    """All that are kept, by name; one that can't be read is passed over."""
    out = []
    for _id, name, document in clients.kept(_KIND):
        sessions = _from(document)
        if sessions is not None:
            out.append(Block(name, sessions))
    return sorted(out, key=lambda b: b.name.casefold())


def keep_block(session: Session, name: str, sessions: CopiedSessions) -> None:
    """Keep weeks under a name; a block of that name is replaced."""
    document = json.loads(to_json(sessions))
    put_document(session, _KIND, document, client=None, about="", name=name)


def apply_block(
    session: Session,
    sessions: CopiedSessions,
    clients: Iterable[str],
    monday: date,
    done: Mapping[str, Collection[date]],
    known: Collection[str],
) -> Applied:
    """Put a block into the plans of clients from a Monday on.

    done : each client's days on which something was done, which stay; known : the exercises that
    there are
    """
    count, planned = 0, 0
    for name in clients:
        plan, days = pasted(_plan_of(session, name), sessions, monday, done.get(name, ()), known)
        if days:
            document = plan_document(plan)
            put_document(session, PLAN_KIND, document, client=name, about="", name="")
            count, planned = count + len(days), planned + 1
    return Applied(count, planned)


def _plan_of(session: Session, client: str) -> Plan:
    owner = client_row(session, client).id
    row = session.scalar(
        select(KeptRow).where(KeptRow.kind == PLAN_KIND, KeptRow.client_id == owner)
    )
    return (plan_from(stored(row.document)) if row is not None else None) or Plan()


def _from(document: Any) -> CopiedSessions | None:
    try:
        return _BLOCK.validate_python(document)
    except ValidationError:
        return None
