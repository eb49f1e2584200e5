"""The clients of a library: what is known of each, their sets over the years, and what is kept for them."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any, Final

from sqlalchemy import Integer, and_, cast, delete, func, select, update

from guide_arc.core.model.client import Client
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.history import Past
from guide_arc.core.planning.kept_set import KeptSet, Said
from guide_arc.core.planning.racks import rack_of
from guide_arc.core.review.rank import MOST_CUES
from guide_arc.formats.client_json import client_of, client_text
from guide_arc.library.kept_things import KeptThings, client_row
from guide_arc.library.merging import merged_fields
from guide_arc.library.plain_values import name_of
from guide_arc.library.store import client_named
from guide_arc.library.tables import ClientRow, DecisionRow, KeptRow, ReviewRow, SetRow
from guide_arc.library.taking_out import Removed, note_client, take_out
from guide_arc.library.taking_out import put_back as put_set_back
from guide_arc.library.traces import trace_from

# The room of clients for whom none is named.
ANY_ROOM: Final = "room"
# What of a profile stands in columns of its own.
_OWN_COLUMNS: Final = ("name", "stature_m")


@dataclass(frozen=True)
class ClientSummary:
    """One line of the list of clients. exercises : ids of standards, the latest first"""

    name: str
    sets: int
    waiting: int
    first: str
    last: str
    pain: bool
    sore: tuple[str, ...]


@dataclass(frozen=True)
class RemovedClient:
    """A client that was taken out with all that was theirs, so that it can be put back."""

    row: Mapping[str, Any]
    kept: tuple[Mapping[str, Any], ...]
    sets: tuple[Removed, ...]


class Clients(KeptThings):
    """Reading and keeping what is known of clients. Use from the thread that opened the library."""

    # Profiles

    def client(self, name: str) -> Client:
        """What is known of a client. Raises BadLibrary where there is none of that name."""
        with self._library.reading() as session:
            return _client(client_row(session, name))

    def equipped(self, client: Client) -> Client:
        """A client with the weights of the room they train in, where they have none of a kind of their own."""
        rooms = {name: document for _id, name, document in self.kept("room")}
        document = rooms.get(client.room or ANY_ROOM) or rooms.get(ANY_ROOM) or {}
        there = {kind: tuple(weights) for kind, weights in document.get("rack", {}).items()}
        return replace(client, rack_kg={**there, **client.rack_kg}) if there else client

    def keep(self, client: Client, since: Client | None = None) -> str:
        """Keep what is known of a client; one of a new name is made. What another window noted otherwise meanwhile, as
        sentences; it stays.

        since : as they were known when this was written; None keeps it whole, whatever is there
        """
        client = replace(client, name=name_of(client.name, "a client"))
        with self._library.writing() as session:
            row = client_named(session, client.name)
            told = ""
            if since is not None:
                both = merged_fields(replace(since, name=client.name), client, _client(row), {})
                client, told = both.value, both.words
            row.stature_m = client.stature_m
            row.profile = client_text(client, without=_OWN_COLUMNS)
        return told

    def rename(self, old: str, new: str) -> None:
        """Give a client another name. Raises BadInput where somebody has it already."""
        new = name_of(new, "a client")
        with self._library.writing() as session:
            row = client_row(session, old)
            if session.scalar(
                select(ClientRow.id).where(ClientRow.name == new, ClientRow.id != row.id)
            ):
                raise BadInput(f"there is a client {new!r} already; join the two instead")
            row.name = new

    def join(self, name: str, into: str) -> tuple[list[int], Client]:
        """Make two clients one: all sets and kept things of the first go to the second.

        Returns the ids of the sets that moved and what was known of the first, which an undo needs.
        """
        if name == into:
            raise BadInput("a client can't be joined with itself")
        with self._library.writing() as session:
            gone, stays = client_row(session, name), client_row(session, into)
            was = _client(gone)
            ids = list(session.scalars(select(SetRow.id).where(SetRow.client_id == gone.id)))
            session.execute(
                update(SetRow).where(SetRow.client_id == gone.id).values(client_id=stays.id)
            )
            session.execute(
                update(KeptRow).where(KeptRow.client_id == gone.id).values(client_id=stays.id)
            )
            both = _client(stays)
            merged = replace(
                both,
                stature_m=both.stature_m or was.stature_m, goals=both.goals or was.goals,
                weak=both.weak or was.weak, sore=(*both.sore, *was.sore), kit=both.kit or was.kit,
                rack_kg=both.rack_kg or was.rack_kg, room=both.room or was.room,
                dominant=both.dominant or was.dominant, covers_face=both.covers_face or was.covers_face,
                words=both.words or was.words,
            )  # fmt: skip
            stays.stature_m = merged.stature_m
            stays.profile = client_text(merged, without=_OWN_COLUMNS)
            session.delete(gone)
        return ids, was

    def part(self, was: Client, set_ids: Sequence[int], into: Client) -> None:
        """Take a joining back: the first client with the sets it had, the second as it was."""
        self.keep(was)
        self.keep(into)
        with self._library.writing() as session:
            row = client_row(session, was.name)
            session.execute(update(SetRow).where(SetRow.id.in_(set_ids)).values(client_id=row.id))

    def take_out(self, name: str) -> RemovedClient:
        """Take a client out with every set and all that was kept, so that it can be put back until the library
        closes; then nothing of it is left."""
        with self._library.writing() as session:
            row = client_row(session, name)
            ids = list(session.scalars(select(SetRow.id).where(SetRow.client_id == row.id)))
            kept = [
                _plain(k)
                for k in session.scalars(select(KeptRow).where(KeptRow.client_id == row.id))
            ]
            whole = _plain(row)
        note_client(self._library, name)
        removed = tuple(take_out(self._library, i, with_client=False) for i in ids)
        with self._library.writing() as session:
            session.execute(delete(KeptRow).where(KeptRow.client_id == whole["id"]))
            session.execute(delete(ClientRow).where(ClientRow.id == whole["id"]))
        return RemovedClient(whole, tuple(kept), removed)

    def put_back(self, removed: RemovedClient) -> None:
        with self._library.writing() as session:
            session.add(ClientRow(**removed.row))
            session.flush()
            session.add_all(KeptRow(**values) for values in removed.kept)
        for one in removed.sets:
            put_set_back(self._library, one)

    # Lists and histories

    def all(self) -> list[ClientSummary]:
        """Every client, those in need first: pain, then sets that wait, then by name."""
        own = SetRow.other_view_of.is_(None)
        waiting = func.sum(cast(and_(SetRow.state == "waiting", own), Integer))
        ask = (
            select(
                ClientRow, func.count(SetRow.id), waiting, func.min(SetRow.recorded),
                func.max(SetRow.recorded), func.max(cast(and_(SetRow.pain, SetRow.state == "waiting"), Integer)),
            )
            .outerjoin(SetRow, SetRow.client_id == ClientRow.id)
            .group_by(ClientRow.id)
        )  # fmt: skip
        today = date.today()
        with self._library.reading() as session:
            out = [
                ClientSummary(
                    row.name, sets, wait or 0, first or "", last or "", bool(pain),
                    tuple(s.place for s in _client(row).sore_on(today)),
                )
                for row, sets, wait, first, last, pain in session.execute(ask)
            ]  # fmt: skip
        return sorted(out, key=lambda c: (not c.pain, not c.sore, c.waiting == 0, c.name.lower()))

    def exercises(self, name: str) -> list[tuple[str, int]]:
        """The standards that a client has sets of, the latest first, with how many."""
        ask = (
            select(SetRow.standard, func.count(SetRow.id))
            .join(ClientRow)
            .where(ClientRow.name == name)
            .group_by(SetRow.standard)
            .order_by(func.max(SetRow.recorded).desc(), SetRow.standard)
        )
        with self._library.reading() as session:
            return [(standard, count) for standard, count in session.execute(ask)]

    def sets(self, name: str, standard: str | None = None) -> list[KeptSet]:
        """A client's sets, oldest first; of one exercise where it is named. Sets whose review was computed by an
        older program, or never, are not among them: see `untold`."""
        ask = (
            select(
                SetRow.id, SetRow.standard, SetRow.school, SetRow.recorded, SetRow.load_kg, SetRow.pain,
                SetRow.felt, SetRow.state, ReviewRow.trace,
            )
            .join(ClientRow, ClientRow.id == SetRow.client_id)
            .join(ReviewRow, ReviewRow.set_id == SetRow.id)
            .where(ClientRow.name == name, SetRow.other_view_of.is_(None))
            .order_by(SetRow.recorded, SetRow.id)
        )  # fmt: skip
        decided = (
            select(DecisionRow.set_id, DecisionRow.finding, DecisionRow.choice, DecisionRow.words)
            .join(SetRow, SetRow.id == DecisionRow.set_id)
            .join(ClientRow, ClientRow.id == SetRow.client_id)
            .where(ClientRow.name == name)
        )
        if standard is not None:
            ask = ask.where(SetRow.standard == standard)
            decided = decided.where(SetRow.standard == standard)
        out = []
        with self._library.reading() as session:
            choices: dict[int, dict[str, tuple[str, str | None]]] = {}
            for set_id, finding, choice, words in session.execute(decided):
                choices.setdefault(set_id, {})[finding] = (choice, words)
            for id, plan, school, at, load, pain, felt, state, text in session.execute(ask):
                trace = trace_from(text)
                if trace is None:
                    continue
                done = state == "done"
                out.append(
                    KeptSet(
                        id,
                        plan,
                        school,
                        at,
                        load,
                        trace,
                        pain,
                        tuple(json.loads(felt)),
                        done,
                        _said(trace.checks, choices.get(id, {})) if done else (),
                    )
                )
        return out

    def untold(self, name: str | None = None) -> list[int]:
        """Sets with landmarks whose review is to be computed anew before they take part over the years."""
        ask = (
            select(SetRow.id, ReviewRow.trace)
            .join(ClientRow, ClientRow.id == SetRow.client_id)
            .outerjoin(ReviewRow, ReviewRow.set_id == SetRow.id)
            .where(SetRow.track_hash.is_not(None))
        )
        if name is not None:
            ask = ask.where(ClientRow.name == name)
        with self._library.reading() as session:
            return [id for id, text in session.execute(ask) if trace_from(text or "") is None]

    def past_of(self, set_id: int, standard: Standard) -> Past:
        """What is known of the client when a set is reviewed: the sets before it, the rack, what is sore."""
        with self._library.reading() as session:
            row = session.get_one(SetRow, set_id)
            client = _client(session.get_one(ClientRow, row.client_id))
            at = row.recorded
        client = self.equipped(client)
        sets = [
            s
            for s in self.sets(client.name, standard.id)
            if s.id != set_id and (s.at, s.id) < (at, set_id)
        ]
        try:
            on = date.fromisoformat(at[:10])
        except ValueError:
            on = date.min
        before = tuple(s.done for s in sets if s.on <= on)
        return Past(
            before, rack_of(client, standard), client.sore, on, tired=client.tired, feel=client.feel
        )


def _client(row: ClientRow) -> Client:
    own = json.loads(row.profile or "{}")
    # Written by hand or by a newer program: what can't be read stays in the file, and the name is known.
    found = client_of({**own, "name": row.name, "stature_m": row.stature_m})
    return found or Client(row.name, row.stature_m)


def _said(checks: Sequence[Any], choices: Mapping[str, tuple[str, str | None]]) -> tuple[Said, ...]:
    """The cues of a reviewed set: what was kept or put in other words; where nothing was decided, the first
    proposals as they stood on the page."""
    out = []
    for key, (choice, words) in choices.items():
        own = next((c for c in checks if c.key == key), None)
        if own is not None and choice in ("keep", "reword"):
            out.append(Said(key, words or own.cue))
    if choices:
        return tuple(out)
    off = [c for c in checks if c.verdict == "off" and not c.allowed]
    first = {c.check: c for c in reversed(off)}
    return tuple(Said(c.key, c.cue) for c in off if first[c.check] is c)[:MOST_CUES]


def _plain(row: Any) -> dict[str, Any]:
    return {column.key: getattr(row, column.key) for column in type(row).__mapper__.column_attrs}
