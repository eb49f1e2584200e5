"""The queue's rows from a team's server: the same as `queue_rows` reads from a file."""

from __future__ import annotations

from typing import Any

from sqlalchemy import ColumnElement, and_, func, or_, select
from sqlalchemy.orm import Session

from guide_arc.library.pace import LAST
from guide_arc.library.queue_rows import QueueFilter, QueuePage, clients_by_coach, pace_in, rows_of
from guide_arc.library.records import REVIEWED
from guide_arc.library.tables import ClientRow, DecisionRow, KeptRow, ReviewRow, SetRow, TrackRow


def server_page(session: Session, wanted: QueueFilter) -> QueuePage:
    """The sets that are wanted, most in need first."""
    words, state, limit = wanted.words, wanted.state, wanted.limit
    profiles = select(ClientRow.id, ClientRow.profile).where(ClientRow.profile.contains('"coach":'))
    coaches = clients_by_coach(tuple(row) for row in session.execute(profiles))
    own: ColumnElement[bool] = SetRow.other_view_of.is_(None)
    if wanted.coach:
        own = and_(own, SetRow.client_id.in_(coaches.get(wanted.coach, ())))
    ask = (
        select(
            SetRow.id,
            ClientRow.name,
            SetRow.standard,
            SetRow.load_kg,
            SetRow.recorded,
            SetRow.pain,
            SetRow.state,
            func.coalesce(SetRow.view, TrackRow.view),
            ReviewRow.summary,
            SetRow.clip_hash.is_not(None),
            SetRow.track_hash.is_not(None),
            SetRow.search,
            func.coalesce(SetRow.clip_hash, ""),
        )
        .join(ClientRow, ClientRow.id == SetRow.client_id)
        .outerjoin(TrackRow, TrackRow.hash == SetRow.track_hash)
        .outerjoin(ReviewRow, ReviewRow.set_id == SetRow.id)
        .where(own, *([SetRow.state == state] if state else []), *map(_says, words.split()))
        .order_by(SetRow.pain.desc(), SetRow.urgency.desc(), SetRow.recorded, SetRow.id)
        .offset(wanted.after)
    )
    rows = rows_of(tuple(row) for row in session.execute(ask.limit(limit) if limit >= 0 else ask))
    waits = and_(SetRow.state == "waiting", own)
    count = select(func.count()).select_from(SetRow).where(waits)
    waiting = session.scalar(count) or 0
    clean = session.scalar(count.where(SetRow.clean, ~SetRow.pain)) or 0
    took = select(KeptRow.document).where(KeptRow.kind == REVIEWED).order_by(KeptRow.id.desc())
    pace = pace_in(session.scalars(took.limit(LAST)))
    takes_s = pace.for_sets(clean, waiting - clean)
    return QueuePage(rows, waiting, takes_s, tuple(sorted(coaches)))


def _says(word: str) -> Any:
    """A row that holds a word: the beginning of one of its words."""
    pattern = f"(^|[^[:alnum:]]){_plain(word)}"
    cue = select(DecisionRow.id).where(
        DecisionRow.set_id == SetRow.id, DecisionRow.words.regexp_match(pattern, "i")
    )
    columns = (
        ClientRow.name,
        SetRow.standard,
        SetRow.recorded,
        SetRow.source_name,
        SetRow.note,
        ReviewRow.said,
    )
    return or_(*(column.regexp_match(pattern, "i") for column in columns), cue.exists())


def _plain(word: str) -> str:
    """A word as a pattern that matches itself."""
    return "".join(c if c.isalnum() else f"\\{c}" for c in word)
