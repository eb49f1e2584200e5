"""What one transaction changed, row by row, and how that is taken back.

A step of undo holds the rows as they were before and after it. Undo restores the earlier rows field
by field, if a field is still as the step left it. It runs in one transaction; running it twice
gives the same result as running it once. The changes that undo makes are recorded in turn: they are
the redo."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Final

from sqlalchemy import event, inspect, select
from sqlalchemy.orm import Session

from guide_arc.library.erasing import File, delete_sets, delete_unnamed
from guide_arc.library.tables import (
    Base,
    ClientRow,
    ClipRow,
    DecisionRow,
    KeptRow,
    ReviewRow,
    SetRow,
    SettingRow,
    TrackRow,
)

Value = str | int | float | bool | None
Values = Mapping[str, Value]

# In this order rows can be inserted without one naming another that is not there yet.
_TABLES: Final[tuple[type[Base], ...]] = (
    ClientRow,
    TrackRow,
    ClipRow,
    SetRow,
    ReviewRow,
    DecisionRow,
    KeptRow,
    SettingRow,
)
_BY_NAME: Final = {table.__tablename__: table for table in _TABLES}
# The columns that name a row of another table.
_NAMED: Final = {"client_id": "client", "track_hash": "track", "clip_hash": "clip"}
# Computed from the recording at any time: never a reason to leave a row as it is.
_COMPUTED: Final = frozenset({"urgency", "clean", "search"})


@dataclass(frozen=True)
class RowChange:
    """One row before and after a step. before: None for a new row; after: None for a deleted one.

    The same values in both mean that the row was not changed: it is kept because a changed row
    names it.
    """

    table: str
    before: Values | None
    after: Values | None

    def __post_init__(self) -> None:
        for name in ("before", "after"):
            values = getattr(self, name)
            if values is not None:
                object.__setattr__(self, name, MappingProxyType(dict(values)))


@dataclass(frozen=True)
class Changes:
    """All rows that one step changed.

    note: the folder that remembers what it erased, as long as it is out; empty if nothing was
    erased
    """

    rows: tuple[RowChange, ...] = ()
    note: str = ""

    def of(self, table: type[Base]) -> list[RowChange]:
        """The changes of one table."""
        return [row for row in self.rows if row.table == table.__tablename__]

    def set_ids(self) -> frozenset[int]:
        """The sets that were added, changed or erased."""
        return self._changed(SetRow, "id")

    def decided_ids(self) -> frozenset[int]:
        """The sets about which the coach decided something else, or saw something else."""
        return self._changed(DecisionRow, "set_id")

    def _changed(self, table: type[Base], column: str) -> frozenset[int]:
        """The ids in a column of the rows that differ from before."""
        found = {
            values[column]
            for row in self.of(table)
            if row.before != row.after and (values := row.after or row.before) is not None
        }
        return frozenset(id for id in found if isinstance(id, int))

    @property
    def erases(self) -> bool:
        """Whether a set was erased, or a client; a client whose sets went to somebody else was
        not."""
        moved = {
            row.before.get("client_id")
            for row in self.rows
            if row.before
            and row.after
            and row.before.get("client_id") != row.after.get("client_id")
        }
        clients = {
            row.before["id"] for row in self.of(ClientRow) if row.before and row.after is None
        }
        return bool(self.erased() or clients - moved)

    def erased(self) -> list[Values]:
        """The rows of the sets that were erased."""
        return [
            row.before for row in self.of(SetRow) if row.after is None and row.before is not None
        ]


def changes_text(changes: Changes) -> str:
    """Changes as JSON, to be stored next to the library. Reviews are left out: they are most of it,
    and computed again."""
    rows = [
        [
            row.table,
            None if row.before is None else dict(row.before),
            None if row.after is None else dict(row.after),
        ]
        for row in changes.rows
        if row.table != ReviewRow.__tablename__
    ]
    return json.dumps(rows)


def changes_from(text: str) -> Changes:
    """Changes from such JSON. Raises ValueError for any other text."""
    try:
        rows = tuple(RowChange(table, before, after) for table, before, after in json.loads(text))
    except (TypeError, AttributeError) as error:
        raise ValueError(f"these are no changes of a library ({error})") from None
    return Changes(rows)


# Recording


@dataclass
class _Recorder:
    """before, after: by table and key, the first and the last values of each row that was
    flushed"""

    before: dict[tuple[str, object], Values | None] = field(default_factory=dict)
    after: dict[tuple[str, object], Values | None] = field(default_factory=dict)

    def flushed(self, session: Session, _context: object) -> None:
        for row in session.new:
            self._note(row, None, _values(row))
        for row in session.dirty:
            if session.is_modified(row):
                self._note(row, _values_before(row), _values(row))
        for row in session.deleted:
            self._note(row, _values_before(row), None)

    def _note(self, row: Base, before: Values | None, after: Values | None) -> None:
        key = (row.__tablename__, inspect(row).mapper.primary_key_from_instance(row)[0])
        self.before.setdefault(key, before)
        self.after[key] = after


@contextmanager
def recording(session: Session) -> Iterator[_Recorder]:
    """Record what is flushed within the block. Rows must be changed as objects: bulk statements are
    not seen."""
    recorder = _Recorder()
    event.listen(session, "after_flush", recorder.flushed)
    try:
        yield recorder
        session.flush()
    finally:
        event.remove(session, "after_flush", recorder.flushed)


def recorded_by(recorder: _Recorder, session: Session) -> Changes:
    """What was recorded, with the rows that changed or erased rows name: their clients and
    recordings.

    Somebody else may erase those before undo needs them.
    """
    rows = [
        RowChange(key[0], recorder.before[key], recorder.after[key])
        for key in recorder.before
        if recorder.before[key] != recorder.after[key]
    ]
    known = set(recorder.before)
    named = {
        (table, row.before[column])
        for row in rows
        for column, table in _NAMED.items()
        if row.before is not None and row.before.get(column) is not None
    }
    for table, key in sorted(named - known, key=str):
        there = session.get(_BY_NAME[table], key)
        if there is not None:
            rows.append(RowChange(table, _values(there), _values(there)))
    rank = {table.__tablename__: i for i, table in enumerate(_TABLES)}
    return Changes(tuple(sorted(rows, key=lambda row: rank[row.table])))


def _columns(row: Base) -> list[str]:
    return [column.key for column in inspect(type(row)).column_attrs]


def _values(row: Base) -> Values:
    return {name: getattr(row, name) for name in _columns(row)}


def _values_before(row: Base) -> Values:
    attributes = inspect(row).attrs
    out: dict[str, Value] = {}
    for name in _columns(row):
        history = attributes[name].history
        out[name] = history.deleted[0] if history.deleted else getattr(row, name)
    return out


# Taking back


@dataclass
class _Revert:
    """One taking back.

    people: for a client whose name somebody else has now, the number of that one
    views: by the number of a set that comes back, the set that it shows from another side
    left: what was changed elsewhere since
    """

    session: Session
    changes: Changes
    people: dict[int, int] = field(default_factory=dict)
    views: dict[Value, Value] = field(default_factory=dict)
    left: list[str] = field(default_factory=list)

    def run(self) -> None:
        for change in self.changes.of(ClientRow):
            if change.before is not None and (
                change.after is None or self._is_needed(change.before)
            ):
                self._client_back(change.before)
        for table in (TrackRow, ClipRow, SetRow, ReviewRow, DecisionRow, KeptRow, SettingRow):
            with self.session.no_autoflush:  # one writing for all rows of a table
                for change in self.changes.of(table):
                    if change.before is not None and change.after is None:
                        self._deleted_back(table, change.before)
            self.session.flush()
            for change in self.changes.of(table):
                if change.before is not None and change.after is not None:
                    self._fields_back(table, change.before, change.after)
        self._views_back()
        for change in self.changes.of(ClientRow):
            if change.before is not None and change.after is not None:
                self._fields_back(ClientRow, change.before, change.after)
        self._take_new_rows_out()

    def _is_needed(self, client: Values) -> bool:
        """Whether a row that comes back belongs to a client who was not erased by this step
        itself."""
        return any(
            row.before is not None
            and row.before.get("client_id") == client["id"]
            and (row.after is None or row.after.get("client_id") != client["id"])
            for row in self.changes.rows
        )

    def _client_back(self, values: Values) -> None:
        id, name = values["id"], values["name"]
        assert isinstance(id, int)
        if self.session.get(ClientRow, id) is not None:
            return
        namesake = self.session.scalar(select(ClientRow).where(ClientRow.name == name))
        if namesake is not None:
            self.people[id] = namesake.id
            return
        self.session.add(ClientRow(**values))
        self.session.flush()

    def _deleted_back(self, table: type[Base], before: Values) -> None:
        values = self._with_people(before)
        if self.session.get(table, _key(table, values)) is not None:
            return
        if table in (ReviewRow, DecisionRow) and self.session.get(SetRow, values["set_id"]) is None:
            return
        if table is DecisionRow and self.session.scalar(
            select(DecisionRow.id).where(
                DecisionRow.set_id == values["set_id"], DecisionRow.finding == values["finding"]
            )
        ):
            return
        if table is KeptRow and self._kept_again(values):
            self.left.append(f"The {_ROW_WORDS['kept']}")
            return
        if table is SetRow:
            self._recordings_back(values)
            # Which set it shows from another side is said once all sets are there.
            self.views[values["id"]] = values["other_view_of"]
            values = {**values, "other_view_of": None}
        self.session.add(table(**values))

    def _recordings_back(self, values: Values) -> None:
        """The rows of a set's recordings, where somebody else erased the last other set that named
        them."""
        files: tuple[tuple[type[Base], str], ...] = (
            (TrackRow, "track_hash"),
            (ClipRow, "clip_hash"),
        )
        for table, column in files:
            key = values[column]
            if key is None or self.session.get(table, key) is not None:
                continue
            for change in self.changes.of(table):
                if change.before is not None and change.before["hash"] == key:
                    self.session.merge(table(**change.before))
                    self.session.flush()  # before the set that names it

    def _views_back(self) -> None:
        for set_id, main in self.views.items():
            if isinstance(main, int) and self._has_set(main):
                self.session.get_one(SetRow, set_id).other_view_of = main
        self.session.flush()

    def _kept_again(self, values: Values) -> bool:
        """Whether something of the same kind and name was stored since; that stays."""
        owner = values["client_id"]
        whose = KeptRow.client_id.is_(None) if owner is None else KeptRow.client_id == owner
        again = self.session.scalar(
            select(KeptRow).where(
                KeptRow.kind == values["kind"],
                whose,
                KeptRow.about == values["about"],
                KeptRow.name == values["name"],
            )
        )
        return again is not None

    def _with_people(self, values: Values) -> Values:
        client = values.get("client_id")
        if isinstance(client, int) and client in self.people:
            return {**values, "client_id": self.people[client]}
        return values

    def _fields_back(self, table: type[Base], before: Values, after: Values) -> None:
        row = self.session.get(table, _key(table, after))
        if row is None or table is ReviewRow:  # a review is computed again from what it rests on
            return
        wanted = self._with_people(before)
        for name, value in wanted.items():
            if before[name] == after[name] or name in _COMPUTED:
                continue
            now = getattr(row, name)
            if now in (value, after[name]):
                if name == "other_view_of" and value is not None and not self._has_set(value):
                    continue
                setattr(row, name, value)
            else:
                self.left.append(f"The {_FIELD_WORDS.get(name, name.replace('_', ' '))}")
        self.session.flush()

    def _has_set(self, set_id: Value) -> bool:
        return self.session.get(SetRow, set_id) is not None

    def _take_new_rows_out(self) -> None:
        session = self.session
        new = [row for row in self.changes.rows if row.before is None and row.after is not None]
        for change in new:
            table = _BY_NAME[change.table]
            if table not in (DecisionRow, KeptRow, SettingRow):
                continue
            row = session.get(table, _key(table, change.after or {}))
            if row is None:
                continue
            if _values(row) == change.after:
                session.delete(row)
            else:
                self.left.append(f"The {_ROW_WORDS[change.table]}")
        session.flush()
        sets = [row.after["id"] for row in new if row.table == SetRow.__tablename__ and row.after]
        delete_sets(session, [id for id in sets if isinstance(id, int)])
        delete_unnamed(session, _new_files(new))
        for change in new:
            if change.table == ClientRow.__tablename__ and change.after is not None:
                self._new_client_out(change.after)
        session.flush()

    def _new_client_out(self, values: Values) -> None:
        """A client who was new goes again, unless anything was stored for them since."""
        client = self.session.get(ClientRow, values["id"])
        if client is None:
            return
        used = any(
            self.session.scalar(select(table.id).where(table.client_id == client.id).limit(1))
            for table in (SetRow, KeptRow)
        )
        if not used and _values(client) == values:
            self.session.delete(client)


def _new_files(new: list[RowChange]) -> list[File]:
    """The recordings that came with a step."""
    files: tuple[type[TrackRow] | type[ClipRow], ...] = (TrackRow, ClipRow)
    return [
        (table, str(row.after["hash"]))
        for table in files
        for row in new
        if row.table == table.__tablename__ and row.after is not None
    ]


# Words for a field or a row that somebody else has changed since.
_FIELD_WORDS: Final = {
    "client_id": "client",
    "load_kg": "load",
    "recorded": "date",
    "profile": "client's profile",
    "stature_m": "client's height",
    "name": "name",
    "document": "stored document",
    "corrections": "corrections by hand",
    "other_view_of": "link to the other view",
}
_ROW_WORDS: Final = {"decision": "decision", "kept": "stored document", "setting": "setting"}


def revert(session: Session, changes: Changes) -> list[str]:
    """Take a step's changes back within a transaction. Returns what was changed elsewhere since,
    and was left alone."""
    step = _Revert(session, changes)
    step.run()
    return step.left


def _key(table: type[Base], values: Values) -> Value:
    column = inspect(table).primary_key[0].key
    return values[column or ""]
