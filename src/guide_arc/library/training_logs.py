"""What clients did without being filmed, as it is kept: a document for each client and day."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import date
from typing import Final

from sqlalchemy import select
from sqlalchemy.orm import Session

from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.core.planning.training_log import LoggedSet, Named, noted_of
from guide_arc.formats.log_json import log_document, log_from
from guide_arc.library.changes import Changes
from guide_arc.library.clients import Clients, keep_client
from guide_arc.library.kept_things import client_row, put_document
from guide_arc.library.store import Library
from guide_arc.library.stored_json import stored
from guide_arc.library.tables import KeptRow
from guide_arc.library.undoing import do
from guide_arc.standards.catalogue import Catalogue

KIND: Final = "done"
_NAME: Final = "log"


def logged_sets(
    clients: Clients, client: str, standard: str | None = None
) -> tuple[LoggedSet, ...]:
    """All that is logged of a client, the first day first; of one exercise, if named."""
    days: dict[str, list[LoggedSet]] = {}
    for day, document in clients.kept_about(KIND, client):
        days.setdefault(day, []).extend(log_from(document))
    every = (s for day in sorted(days) for s in days[day])
    return tuple(s for s in every if standard in (None, s.standard))


def with_logged(
    sets: Sequence[KeptSet], logged: Iterable[LoggedSet], schools: dict[str, str]
) -> tuple[KeptSet, ...]:
    """A client's recorded sets with those that were only logged among them, by day; a set that was
    filmed as well counts once, with what was noted of how it felt. schools : of each exercise, for
    those that were not filmed"""
    every = tuple(logged)
    noted = noted_of([(s.standard, s.done) for s in sets], every)
    shown = [
        s if one is None else _felt_as_noted(s, one) for s, one in zip(sets, noted, strict=True)
    ]
    unseen = Counter(every) - Counter(one for one in noted if one is not None)
    more = [
        KeptSet.of_log(n, one, schools.get(one.standard, ""))
        for n, one in enumerate(unseen.elements(), 1)
    ]
    return tuple(sorted((*more, *shown), key=lambda s: s.on))


def _felt_as_noted(filmed: KeptSet, noted: LoggedSet) -> KeptSet:
    """Pain counts, in whichever record it was noted."""
    felt = dict.fromkeys((*filmed.felt, *noted.felt))
    return replace(filmed, pain=filmed.pain or noted.pain, felt=tuple(felt))


def note_sets(session: Session, client: str, sets: Iterable[LoggedSet]) -> int:
    """Add sets to what is logged of a client; how many there were."""
    count = 0
    for day, own in _by_day(sets).items():
        put_day(session, client, day, (*_stored(session, client, day), *own))
        count += len(own)
    return count


def note_new_sets(session: Session, client: str, sets: Iterable[LoggedSet]) -> int:
    """As `note_sets`, but of sets that are all the same as ones that are there already only as many
    as there are more: a file that is taken in again adds nothing. How many were added."""
    count = 0
    for day, own in _by_day(sets).items():
        there = _stored(session, client, day)
        new = list((Counter(own) - Counter(there)).elements())
        if new:
            put_day(session, client, day, (*there, *new))
        count += len(new)
    return count


def note_at_once(
    library: Library, client: str, typed: Iterable[LoggedSet], taken: Iterable[LoggedSet]
) -> int:
    """Add typed sets, and the new ones of a file, in one transaction; how
    many were added."""

    def note(session: Session) -> int:
        return note_sets(session, client, typed) + note_new_sets(session, client, taken)

    return do(library, note).result


def change_day(
    session: Session,
    client: str,
    day: date,
    sets: Sequence[LoggedSet],
    since: Sequence[LoggedSet],
) -> None:
    """Put other sets in place of those of a day. since : as they were known when it was written;
    what another window added meanwhile stays"""
    there = Counter(_stored(session, client, day))
    others = list((there - Counter(since)).elements())
    put_day(session, client, day, (*sets, *others))


def change_log(
    library: Library,
    client: str,
    day: date,
    *,
    sets: Sequence[LoggedSet],
    since: Sequence[LoggedSet],
    tired: bool | None,
) -> Changes:
    """Other sets in place of those that a day had, and whether the client was tired on it (None
    leaves that as it is), in one transaction. since : as for `change_day`"""
    known = Clients(library).client(client)

    def change(session: Session) -> None:
        change_day(session, client, day, sets, since)
        if tired is not None:
            days = {*known.tired} - {day} | ({day} if tired else set())
            keep_client(session, replace(known, tired=tuple(sorted(days))), known)

    return do(library, change).changes


def put_day(session: Session, client: str, day: date, sets: Sequence[LoggedSet]) -> None:
    """Keep the sets of a day, in place of all that was there."""
    rows = _rows(session, client_row(session, client).id, day)
    # After two clients were joined a day may have several: the first takes all.
    if rows and sets:
        rows.pop(0).document = json.dumps(log_document(sets), ensure_ascii=False)
    elif sets:
        document = log_document(sets)
        put_document(session, KIND, document, client=client, about=day.isoformat(), name=_NAME)
    for row in rows:
        session.delete(row)
    session.flush()


def _by_day(sets: Iterable[LoggedSet]) -> dict[date, list[LoggedSet]]:
    out: dict[date, list[LoggedSet]] = {}
    for s in sets:
        out.setdefault(s.on, []).append(s)
    return out


def _rows(session: Session, owner: int, day: date) -> list[KeptRow]:
    ask = (
        select(KeptRow)
        .where(KeptRow.kind == KIND, KeptRow.client_id == owner, KeptRow.about == day.isoformat())
        .order_by(KeptRow.id)
    )
    return list(session.scalars(ask))


def _stored(session: Session, client: str, day: date) -> tuple[LoggedSet, ...]:
    rows = _rows(session, client_row(session, client).id, day)
    return tuple(s for row in rows for s in log_from(stored(row.document)))


def named_exercises(catalogue: Catalogue) -> tuple[Named, ...]:
    """All exercises, by the words that they can be named by."""
    return tuple(_named(catalogue.standard(id)) for id in catalogue.ids())


def _named(plan: Standard) -> Named:
    words = f"{plan.name} {plan.id.replace('-', ' ')} {plan.muscle} {plan.pull} {plan.held}"
    return Named(plan.id, plan.name, words.lower(), plan.pull == "assisted")
