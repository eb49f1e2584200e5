"""Changes of whole sets, within a transaction of the caller's: details corrected, recordings split,
views joined."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from typing import Any, Final

from sqlalchemy import select
from sqlalchemy.orm import Session

from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.core.model.settings import ENTRY
from guide_arc.library.errors import Gone
from guide_arc.library.notes_rows import EYE, without_nothing
from guide_arc.library.plain_values import file_name_of, load_of, name_of, tempo_of
from guide_arc.library.records import REVIEWED, SetPart
from guide_arc.library.stored_json import stored
from guide_arc.library.tables import ClientRow, DecisionRow, KeptRow, ReviewRow, SetRow

# The details of a set that can be corrected.
CHANGEABLE: Final = ("client", "standard", "school", "tempo", "load_kg", "recorded", "source_name")


def client_named(session: Session, name: str, stature_m: float | None = None) -> ClientRow:
    """The client of a name, created if needed. Raises BadInput for what is no name."""
    name = name_of(name, "a client")
    row = session.scalar(select(ClientRow).where(ClientRow.name == name))
    if row is None:
        row = ClientRow(name=name, stature_m=stature_m)
        session.add(row)
        session.flush()
    return row


def set_row(session: Session, set_id: int) -> SetRow:
    """The row of a set. Raises Gone if it no longer exists."""
    row = session.get(SetRow, set_id)
    if row is None:
        raise Gone(f"set {set_id} is no longer in the library")
    return row


def change_set(session: Session, set_id: int, changes: Mapping[str, Any]) -> None:
    """Correct the details of a set: client, standard, school, tempo, load_kg, recorded,
    source_name.

    A set that goes to another client takes with it what belongs to it: its other views, follow-ups,
    when it was reviewed. Raises BadInput for a word that names no such detail, or for a value that
    no set can have.
    """
    unknown = next((word for word in changes if word not in CHANGEABLE), None)
    if unknown is not None:
        raise BadInput(
            f"a set has no {unknown!r} that can be changed{did_you_mean(unknown, CHANGEABLE)}"
        )
    row = set_row(session, set_id)
    for name, value in changes.items():
        if name == "client":
            if value:
                _give(session, row, client_named(session, str(value)))
        elif name == "tempo":
            row.tempo = tempo_of(value)
        elif name == "load_kg":
            row.load_kg = load_of(value)
        elif name == "source_name":
            row.source_name = file_name_of(str(value))
        else:
            setattr(row, name, value)
    session.flush()


def entry_called_right(session: Session, set_id: int, coach: str, at: str) -> None:
    """The coach was asked about load, day or an idle arm of a set, and says they are right."""
    row, key = set_row(session, set_id), f"{EYE}{ENTRY}"
    asked = select(DecisionRow).where(DecisionRow.set_id == row.id, DecisionRow.finding == key)
    answer = session.scalar(asked) or DecisionRow(set_id=row.id, finding=key)
    answer.choice, answer.words = "held", None
    answer.decided_by, answer.decided_at = coach, at
    session.add(answer)
    session.flush()


def _give(session: Session, row: SetRow, client: ClientRow) -> None:
    """Make a set, and what belongs to it, that of another client."""
    if row.client_id == client.id:
        return
    main, before = row.other_view_of or row.id, row.client_id
    together = session.scalars(
        select(SetRow).where((SetRow.id == main) | (SetRow.other_view_of == main))
    ).all()
    ids = {one.id for one in together}
    for one in together:
        one.client_id = client.id
    for kept in session.scalars(select(KeptRow).where(KeptRow.client_id == before)):
        if kept.kind == REVIEWED:
            theirs = kept.name in {str(id) for id in ids}
        else:
            theirs = _set_in(kept.document) in ids
        if theirs:
            kept.client_id = client.id


def _set_in(document: str) -> object:
    """The number of the set that a stored document is about; None for any other."""
    return stored(document).get("set")


def split_set(session: Session, set_id: int, parts: Sequence[SetPart]) -> list[int]:
    """Make several sets of one recording, each with its own standard and bounds.

    The first part stays under the set's own number; the numbers of all parts are returned in order.
    What was decided about the whole is about another exercise now, and is deleted with its review.
    """
    row = set_row(session, set_id)
    for decision in session.scalars(select(DecisionRow).where(DecisionRow.set_id == set_id)):
        session.delete(decision)
    review = session.get(ReviewRow, set_id)
    if review is not None:
        session.delete(review)
    session.flush()
    ids: list[int] = []
    for i, part in enumerate(parts):
        own = row if i == 0 else _copied(row)
        own.standard, own.school = part.standard, part.school
        own.corrections = json.dumps([without_nothing(part.bounds)])
        session.add(own)
        session.flush()
        ids.append(own.id)
    return ids


def _copied(row: SetRow) -> SetRow:
    """Another set of the same recording."""
    return SetRow(
        client_id=row.client_id,
        track_hash=row.track_hash,
        clip_hash=row.clip_hash,
        capture_hz=row.capture_hz,
        view=row.view,
        marks=row.marks,
        tracked_by=row.tracked_by,
        mirrored=row.mirrored,
        source_name=row.source_name,
        recorded=row.recorded,
        pain=row.pain,
        load_kg=None,
        tempo=None,
    )


def join_views(session: Session, set_id: int, main: int | None) -> None:
    """Say that a recording shows the reps of another set from another side; `main` None parts them.

    Raises BadInput if that makes no sense.
    """
    row = set_row(session, set_id)
    if main is not None:
        of = set_row(session, main)
        if of.id == row.id or of.other_view_of is not None:
            raise BadInput("a recording can't be another view of itself, or of another view")
        if of.client_id != row.client_id:
            raise BadInput("two views of one set are of one client; correct the details first")
        if session.scalar(select(SetRow.id).where(SetRow.other_view_of == row.id).limit(1)):
            raise BadInput("this set has another view itself; part those two first")
    row.other_view_of = main
    session.flush()
