"""What a coach means to come back to: for whom, what, and from which day on it is due."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, Final

from sqlalchemy import select
from sqlalchemy.orm import Session

from guide_arc.library.kept_things import put_document
from guide_arc.library.store import Library
from guide_arc.library.stored_json import stored
from guide_arc.library.tables import ClientRow, KeptRow

KIND: Final = "follow-up"


@dataclass(frozen=True)
class FollowUp:
    """set_id : the set it came up with, or None; done : the day on which it was done"""

    id: int
    client: str
    words: str
    due: date
    set_id: int | None = None
    done: date | None = None

    def late_days(self, today: date) -> int:
        """How many days it has been due; negative while it is ahead."""
        return (today - self.due).days


def follow_ups(library: Library) -> list[FollowUp]:
    """All that are still to be done, the longest due first."""
    with library.reading() as session:
        ask = (
            select(KeptRow, ClientRow.name)
            .join(ClientRow, ClientRow.id == KeptRow.client_id)
            .where(KeptRow.kind == KIND)
        )
        found = [_of(row, client) for row, client in session.execute(ask)]
    return sorted((f for f in found if f and f.done is None), key=lambda f: (f.due, f.id))


def keep_follow_up(
    library: Library, client: str, words: str, due: date, set_id: int | None = None
) -> int:
    """Store one; its number."""
    with library.writing() as session:
        return put_follow_up(session, client, words, due, set_id)


def put_follow_up(
    session: Session, client: str, words: str, due: date, set_id: int | None = None
) -> int:
    """Store one within a transaction; its number."""
    document = {"words": words, "due": due.isoformat(), "set": set_id, "done": None}
    # Two of one day and client are two: the time distinguishes them.
    name = datetime.now().isoformat(timespec="microseconds")
    return put_document(session, KIND, document, client=client, about=due.isoformat(), name=name)


def settle(library: Library, states: Mapping[int, tuple[date | None, date | None]]) -> None:
    """Say that some were done, or were not after all, or put them off; in one transaction.

    states: by number the day on which it was done, or None, and the day on which it is due, or None
    where that stays
    """
    with library.writing() as session:
        for id, (done, due) in states.items():
            row = session.get(KeptRow, id)
            if row is None:
                continue
            document = {**stored(row.document), "done": done.isoformat() if done else None}
            if due is not None:
                document["due"] = due.isoformat()
            row.document = json.dumps(document, ensure_ascii=False)


def _of(row: KeptRow, client: str) -> FollowUp | None:
    """None if a newer program keeps something else under this name."""
    try:
        document: dict[str, Any] = json.loads(row.document)
        done = document.get("done")
        return FollowUp(
            row.id,
            client,
            str(document["words"]),
            date.fromisoformat(document["due"]),
            document.get("set"),
            date.fromisoformat(done) if done else None,
        )
    except (ValueError, KeyError, TypeError):
        return None
