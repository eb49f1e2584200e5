"""What is read for a week of all clients: days and no sets, so that sixty are read at once."""

from __future__ import annotations

from collections import defaultdict
from datetime import date

from sqlalchemy import func, select

from guide_arc.core.planning.practice import ClientFacts
from guide_arc.formats.plan_json import plan_from
from guide_arc.library.clients import Clients
from guide_arc.library.planning import KIND as PLAN_KIND
from guide_arc.library.store import Library
from guide_arc.library.stored_json import stored
from guide_arc.library.tables import ClientRow, KeptRow, SetRow
from guide_arc.library.training_logs import KIND as LOG_KIND


def facts_of_clients(library: Library) -> tuple[ClientFacts, ...]:
    """The days of every client on which something was done or is planned."""
    trained: dict[str, set[date]] = defaultdict(set)
    planned: dict[str, set[date]] = defaultdict(set)
    day = func.substr(SetRow.recorded, 1, 10)
    filmed = (
        select(ClientRow.name, day)
        .join(ClientRow, ClientRow.id == SetRow.client_id)
        .group_by(ClientRow.name, day)
    )
    kept = (
        select(ClientRow.name, KeptRow.kind, KeptRow.about, KeptRow.document)
        .join(ClientRow, ClientRow.id == KeptRow.client_id)
        .where(KeptRow.kind.in_((LOG_KIND, PLAN_KIND)))
    )
    with library.reading() as session:
        for name, text in session.execute(filmed):
            trained[name] |= _days(text)
        for name, kind, about, document in session.execute(kept):
            if kind == LOG_KIND:
                trained[name] |= _days(about)
            else:
                plan = plan_from(stored(document))
                planned[name] |= {s.on for s in plan.sessions if s.lines} if plan else set()
    return tuple(
        ClientFacts(
            name=one.name,
            trained=frozenset(trained[one.name]),
            planned=frozenset(planned[one.name]),
            waiting=one.waiting,
            pain=one.pain,
            sore=one.sore,
        )
        for one in Clients(library).all()
    )


def _days(text: str) -> set[date]:
    try:
        return {date.fromisoformat(text)}
    except ValueError:
        return set()
