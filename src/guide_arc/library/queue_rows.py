"""The queue's rows, read by one statement: by an open library, or straight from the file at the
start.

The library proper takes a second to load; the first picture of the window does not wait for it.
"""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Callable, Iterable, Mapping, Sequence
from functools import lru_cache
from pathlib import Path
from types import MappingProxyType
from typing import Any, Final, Literal, NamedTuple

from guide_arc.library.full_text import asked_for
from guide_arc.library.pace import LAST, Pace, Took, pace_of
from guide_arc.library.stored_json import stored

State = Literal["waiting", "done"]

# The form of the library that this statement reads.
FORM: Final = "0008"


class QueueRow(NamedTuple):
    """What the queue shows of a set.

    glance : its review in short as it is kept, see `summary.py`; None before a review
    search : what a search for landmarks asks or says of it, see `searches.py`; clip : its clip's
        hash
    """

    id: int
    client: str
    standard: str
    load_kg: float | None
    recorded: str
    pain: bool
    state: State
    view: str
    glance: str | None
    has_clip: bool = False
    has_track: bool = True
    search: str = ""
    clip: str = ""

    @property
    def summary(self) -> Mapping[str, object] | None:
        """Its review in short, as plain data; read only for the rows that are looked at."""
        return summary_in(self.glance) if self.glance else None


@lru_cache(maxsize=2048)
def summary_in(glance: str) -> Mapping[str, object] | None:
    """What is shown of a review; none where that can't be read: one row hides no other."""
    try:
        found = json.loads(glance)
    except (ValueError, RecursionError):
        return None
    return MappingProxyType(found) if isinstance(found, dict) else None


# Rows that are read at a time.
PAGE: Final = 200


class QueuePage(NamedTuple):
    """The rows that match, most in need first, how many sets wait in all, and about how long they
    will take.

    coaches : the coaches to whom clients are assigned, by name
    """

    rows: tuple[QueueRow, ...]
    waiting: int
    takes_s: float = 0.0
    coaches: tuple[str, ...] = ()


class QueueFilter(NamedTuple):
    """Which sets are asked for.

    words : all of them are in the set (client, exercise, date, note, cue, finding)
    coach : only sets of this coach's clients; empty for all
    limit : how many rows; after : how many are left out at the beginning
    """

    words: str = ""
    state: str | None = "waiting"
    coach: str = ""
    limit: int = PAGE
    after: int = 0


_COLUMNS: Final = (
    "s.id, c.name, s.standard, s.load_kg, s.recorded, s.pain, s.state,"
    " coalesce(s.view, t.view), r.glance, s.clip_hash is not null, s.track_hash is not null,"
    " s.search, coalesce(s.clip_hash, '')"
)
_FROM: Final = (
    " from recorded_set s join client c on c.id = s.client_id"
    " left join track t on t.hash = s.track_hash left join review r on r.set_id = s.id"
)
# Pain first, then how much is off, then the oldest.
_ORDER: Final = " order by s.pain desc, s.urgency desc, s.recorded, s.id"
_COUNT_WAITING: Final = (
    "select count(*), coalesce(sum(s.clean and not s.pain), 0)"
    " from recorded_set s where s.state = 'waiting' and s.other_view_of is null"
)
_WITH_COACH: Final = "select id, profile from client where profile like '%\"coach\":%'"
_TOOK: Final = "select document from kept where kind = 'reviewed' order by id desc limit ?"


def statement(wanted: QueueFilter, of_clients: str = "") -> tuple[str, tuple[Any, ...]]:
    """The statement for the sets that are wanted, with its values. of_clients : a condition on
    their clients"""
    # Another view of a set is shown with it.
    where: list[str] = ["s.other_view_of is null"]
    values: list[Any] = []
    if wanted.state:
        where.append("s.state = ?")
        values.append(wanted.state)
    if of_clients:
        where.append(of_clients)
    asked = asked_for(wanted.words)
    if asked:
        where.append("s.id in (select rowid from words where words match ?)")
        values.append(asked)
    elif wanted.words.strip():
        where.append("false")
    # Only the few that are shown are read whole.
    by = "set_by_need" if wanted.state else "set_by_all_need"
    few = (
        f"select s.id from recorded_set s indexed by {by} where {' and '.join(where)}{_ORDER} limit"
        " ? offset ?"
    )
    values += [wanted.limit, wanted.after]
    return f"select {_COLUMNS}{_FROM} where s.id in ({few}){_ORDER}", tuple(values)


def rows_of(found: Iterable[Sequence[Any]]) -> tuple[QueueRow, ...]:
    """Rows as the database gives them."""
    rows = []
    for one in found:
        id, client, standard, load_kg, recorded, pain, state, view, *rest = one
        glance, has_clip, has_track, search, clip = rest
        rows.append(
            QueueRow(
                id=id,
                client=client,
                standard=standard,
                load_kg=load_kg,
                recorded=recorded,
                pain=bool(pain),
                state=state,
                view=view or "none",
                glance=glance,
                has_clip=bool(has_clip),
                has_track=bool(has_track),
                search=search,
                clip=clip,
            )
        )
    return tuple(rows)


def read_page(folder: Path, wanted: QueueFilter) -> QueuePage | None:
    """The queue straight from a library's file; None if it does not exist yet, or has another
    form."""
    file = folder / "library.sqlite"
    if not file.exists():
        return None
    try:
        connection = sqlite3.connect(f"{file.absolute().as_uri()}?mode=ro", uri=True, timeout=0.5)
    except sqlite3.Error:
        return None
    try:
        (form,) = connection.execute("select version_num from alembic_version").fetchone()
        if form != FORM:
            return None
        return page_of(connection.execute, wanted)
    except (sqlite3.Error, TypeError, ValueError):
        return None  # opening the library says what is wrong with it
    finally:
        connection.close()


def page_of(execute: Callable[..., Any], wanted: QueueFilter) -> QueuePage:
    """A page of rows by what executes a statement on a library's file."""
    coaches = clients_by_coach(execute(_WITH_COACH))
    only = ""
    if wanted.coach:
        ids = ", ".join(map(str, coaches.get(wanted.coach, ())))
        only = f"s.client_id in ({ids})"
    waiting, clean = execute(f"{_COUNT_WAITING}{f' and {only}' if only else ''}").fetchone()
    pace = pace_in(text for (text,) in execute(_TOOK, (LAST,)))
    sql, values = statement(wanted, only)
    takes_s = pace.for_sets(clean, waiting - clean)
    return QueuePage(rows_of(execute(sql, values)), waiting, takes_s, tuple(sorted(coaches)))


def clients_by_coach(profiles: Iterable[Sequence[Any]]) -> dict[str, list[int]]:
    """The numbers of clients by their coach. profiles : (number, profile as text)"""
    out: dict[str, list[int]] = {}
    for id, profile in profiles:
        coach = stored(profile).get("coach")
        if isinstance(coach, str) and coach:
            out.setdefault(coach, []).append(int(id))
    return out


def pace_in(documents: Iterable[str]) -> Pace:
    """How fast the coach is, by what was kept of the last reviews."""
    found = [stored(text) for text in documents]
    return pace_of(Took(d["seconds"], d["clean"]) for d in found if "seconds" in d and "clean" in d)
