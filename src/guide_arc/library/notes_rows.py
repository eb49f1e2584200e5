"""A coach's document of a set, as the rows that it is kept in."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any, Final

from sqlalchemy import select
from sqlalchemy.orm import Session

from guide_arc.core.model.settings import Correction, EyeAnswer, Settings
from guide_arc.library.errors import BadLibrary
from guide_arc.library.plain_values import NOTE, WORDS, text_of
from guide_arc.library.records import Decision, SetNotes
from guide_arc.library.tables import DecisionRow, SetRow

# Before the key of a finding: what the coach saw of it, stored next to what they decided.
EYE: Final = "eye/"


def put_notes(session: Session, row: SetRow, notes: SetNotes) -> None:
    """Make a document that of a set."""
    row.note, row.state, row.pain = text_of(notes.note, "the note", NOTE), notes.state, notes.pain
    row.felt = json.dumps(notes.settings.felt)
    row.loose_last = notes.settings.loose_last
    row.corrections = json.dumps([without_nothing(c) for c in notes.settings.corrections])
    old = {
        d.finding: d
        for d in session.scalars(select(DecisionRow).where(DecisionRow.set_id == row.id))
    }
    seen = {f"{EYE}{a.finding}": Decision(a.saw, None, a.by, a.at) for a in notes.settings.eye}
    decided = {**notes.decisions, **seen}
    for finding in set(old) - set(decided):
        session.delete(old[finding])
    for finding, decision in decided.items():
        kept = old.get(finding) or DecisionRow(set_id=row.id, finding=finding)
        kept.choice = decision.choice
        kept.words = None if decision.words is None else text_of(decision.words, "a cue", WORDS)
        kept.decided_by, kept.decided_at = decision.decided_by, decision.decided_at
        session.add(kept)


def notes_of(session: Session, row: SetRow) -> SetNotes:
    """The coach's document of a set."""
    decisions = {
        d.finding: Decision(d.choice, d.words, d.decided_by, d.decided_at)  # type: ignore[arg-type]
        for d in session.scalars(select(DecisionRow).where(DecisionRow.set_id == row.id))
    }
    eye = tuple(
        EyeAnswer(key.removeprefix(EYE), d.choice, d.decided_by, d.decided_at)  # type: ignore[arg-type]
        for key, d in decisions.items()
        if key.startswith(EYE)
    )
    decisions = {key: d for key, d in decisions.items() if not key.startswith(EYE)}
    try:
        settings = Settings(
            corrections=tuple(Correction(**c) for c in json.loads(row.corrections)),
            loose_last=row.loose_last,
            felt=tuple(json.loads(row.felt)),
            eye=eye,
        )
    except (ValueError, TypeError, RecursionError):
        raise BadLibrary(
            f"set {row.id} can't be read: what was noted of it is damaged; 'guide-arc check --mend'"
            " mends it"
        ) from None
    return SetNotes(decisions, row.note, row.state, row.pain, settings)  # type: ignore[arg-type]


def without_nothing(correction: Correction) -> dict[str, Any]:
    """A correction without what it does not say."""
    return {k: v for k, v in asdict(correction).items() if v is not None}
