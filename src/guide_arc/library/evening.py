"""A coach's evening: how long sets take this coach, which ones can go in one go, and what was said
to whom."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from guide_arc.core.planning.loaded import places_loaded
from guide_arc.core.review.rank import MOST_CUES
from guide_arc.library.clients import Clients
from guide_arc.library.kept_things import put_document
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.pace import Took
from guide_arc.library.queue_rows import QueueRow
from guide_arc.library.records import REVIEWED, SetRecord
from guide_arc.library.set_changes import set_row
from guide_arc.library.store import Library
from guide_arc.library.stored_json import stored
from guide_arc.library.tables import ClientRow, KeptRow
from guide_arc.standards.loader import shipped

TEMPLATE = "template"


@dataclass(frozen=True)
class ToldSet:
    """One reviewed set of an evening. cues : the words that the client reads; then : what was
    prescribed"""

    client: str
    what: str
    cues: tuple[str, ...]
    note: str
    then: str


def note_reviewed(library: Library, set_id: int, seconds: float, at: datetime) -> None:
    """Keep that a set was reviewed, and how long it was open: what the coach's pace is learned
    from."""
    record = library.record(set_id)
    off = (library.kept_review(set_id) or {}).get("findings", [])
    took = Took(seconds, clean=not any(f["verdict"] == "off" for f in off))
    Clients(library).keep_thing(
        REVIEWED,
        {"set": set_id, "at": at.isoformat(timespec="seconds"), **took.as_dict()},
        client=record.client,
        about=at.date().isoformat(),
        name=str(set_id),
    )


def clean_rows(library: Library) -> list[QueueRow]:
    """The waiting sets in which nothing is off or near its limit and nobody spoke of pain; oldest
    first.

    What a recording could not show is in each row's line: the coach sees it before they say
    yes.
    """
    rows = library.queue(state="waiting", limit=-1)
    return sorted(
        (
            row
            for row in rows
            if row.summary
            and not row.pain
            and row.summary["verdict"] == "ok"
            and row.summary["full"]
        ),
        key=lambda row: (row.recorded, row.id),
    )


def mark_reviewed(session: Session, ids: Iterable[int], at: datetime) -> None:
    """Mark sets reviewed, within a transaction. Raises BadLibrary if one of them is gone."""
    for set_id in ids:
        row = set_row(session, set_id)
        row.state = "done"
        put_document(
            session,
            REVIEWED,
            {"set": set_id, "at": at.isoformat(timespec="seconds")},
            client=session.get_one(ClientRow, row.client_id).name,
            about=at.date().isoformat(),
            name=str(set_id),
        )
    session.flush()


def told_on(library: Library, day: date) -> list[ToldSet]:
    """The cues given to each client on a day, in the order in which the sets were reviewed; sets
    that went back into the queue are left out."""
    clients, catalogue = Clients(library), OwnStandards(library).catalogue()
    out = []
    for record in reviewed_on(library, day):
        # What has become sore after the review was made stops what it loads, too.
        loaded = (
            places_loaded(catalogue.standard(record.standard))
            if record.standard in catalogue
            else frozenset()
        )
        sore = any(s.joint in loaded for s in clients.client(record.client).sore_on(day))
        out.append(_told(record, library.kept_review(record.id) or {}, sore=sore))
    return out


def reviewed_on(library: Library, day: date) -> list[SetRecord]:
    """The sets reviewed on a day, in that order, without those that went back into the queue."""
    with library.reading() as session:
        ask = select(KeptRow.document).where(
            KeptRow.kind == REVIEWED, KeptRow.about == day.isoformat()
        )
        found = [d for text in session.scalars(ask) if "at" in (d := stored(text)) and "set" in d]
    found.sort(key=lambda d: d["at"])
    records = [library.record(document["set"]) for document in found]
    return [record for record in records if record.notes.state == "done"]


def _told(record: SetRecord, review: Mapping[str, Any], *, sore: bool) -> ToldSet:
    name = shipped().get(record.standard, {}).get("name", record.standard)
    reps = sum(bool(r["full"]) for r in review.get("reps", []))
    load = f"{record.load_kg:g} kg × " if record.load_kg is not None else ""
    usual = {f"{f['check']}/{f['side']}": f["cue"] for f in review.get("findings", [])}
    decided = record.notes.decisions.items()
    cues = [d.words or usual.get(key, "") for key, d in decided if d.choice != "drop"]
    if not decided:
        # Where nothing was decided the first proposals stood on the page.
        off = (f["cue"] for f in review.get("findings", []) if f["verdict"] == "off")
        cues = list(dict.fromkeys(off))[:MOST_CUES]
    plan = review.get("next") or {}
    if sore or record.notes.pain or plan.get("ask_first"):
        then = "ask a licensed clinician first"
    elif plan:
        weight = f"{plan['load_kg']:g} kg, " if plan.get("load_kg") is not None else ""
        then = f"{weight}{plan['reps'][0]}–{plan['reps'][1]} reps"
    else:
        then = ""
    return ToldSet(
        record.client,
        f"{name}, {load}{reps} reps",
        tuple(c for c in cues if c),
        record.notes.note,
        then,
    )


def evening_text(told: Sequence[ToldSet], day: date) -> str:
    """The summary as plain text, client by client in the order of the alphabet."""
    if not told:
        return f"No set was reviewed on {day.isoformat()}."
    sets = f"{len(told)} set{'' if len(told) == 1 else 's'}"
    clients = sorted({t.client for t in told})
    people = f"{len(clients)} client{'' if len(clients) == 1 else 's'}"
    lines = [f"{day.isoformat()}: {sets} of {people} reviewed"]
    for client in clients:
        lines += ["", client]
        for t in (t for t in told if t.client == client):
            lines.append(f"  {t.what}")
            lines += [f"    said: {cue}" for cue in t.cues] or ["    nothing had to be said"]
            lines += [f"    note: {t.note}"] if t.note else []
            lines += [f"    next: {t.then}"] if t.then else []
    return "\n".join(lines) + "\n"


# Answers in the coach's words


def templates(library: Library) -> list[str]:
    """The answers that the coach keeps, the first kept first."""
    return [document["text"] for _id, _name, document in Clients(library).kept(TEMPLATE)]


def keep_templates(library: Library, texts: Sequence[str]) -> None:
    """Keep these answers in place of the ones before."""
    with library.writing() as session:
        for row in session.scalars(select(KeptRow).where(KeptRow.kind == TEMPLATE)).all():
            session.delete(row)
        session.flush()
        for i, text in enumerate(dict.fromkeys(texts)):
            put_document(session, TEMPLATE, {"text": text}, client=None, about="", name=f"{i:03d}")
