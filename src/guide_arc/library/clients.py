"""The clients of a library: each one's profile, sets over the years, and saved things."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from itertools import count
from statistics import median
from typing import Any, Final

from sqlalchemy import Integer, and_, cast, func, select
from sqlalchemy.orm import Session

from guide_arc.core.model.client import Client
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.settings import ENTRY
from guide_arc.core.planning.kept_set import KeptSet, Said
from guide_arc.core.review.rank import MOST_CUES
from guide_arc.formats.client_json import client_of, client_text
from guide_arc.library.kept_things import KeptThings, client_row
from guide_arc.library.merging import merged_fields
from guide_arc.library.notes_rows import EYE
from guide_arc.library.plain_values import name_of
from guide_arc.library.set_changes import client_named
from guide_arc.library.stored_json import stored
from guide_arc.library.tables import ClientRow, DecisionRow, KeptRow, ReviewRow, SetRow
from guide_arc.library.traces import is_current, trace_from

# The room of clients without a named one.
ANY_ROOM: Final = "room"
# The parts of a profile with their own columns.
# What is usual is the middle of so many of the last sets.
_USUAL_SETS: Final = 10
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


class Clients(KeptThings):
    """Reads and saves the profiles of clients. Use from the thread that opened the library."""

    # Profiles

    def client(self, name: str) -> Client:
        """What is known of a client. Raises BadLibrary if there is none of that name."""
        with self._library.reading() as session:
            return _client(client_row(session, name))

    def equipped(self, client: Client) -> Client:
        """A client with the weights of the room they train in, where they have none of a kind of
        their own."""
        rooms = {name: document for _id, name, document in self.kept("room")}
        document = rooms.get(client.room or ANY_ROOM) or rooms.get(ANY_ROOM) or {}
        there = {kind: tuple(weights) for kind, weights in document.get("rack", {}).items()}
        return replace(client, rack_kg={**there, **client.rack_kg}) if there else client

    def keep(self, client: Client, since: Client | None = None) -> str:
        """Save a client's profile; one of a new name is made. What another window noted
        otherwise meanwhile, as sentences; it stays.

        since : as they were known when this was written; None keeps it whole, whatever is there.
            Under another name they are renamed
        """
        with self._library.writing() as session:
            return keep_client(session, client, since)

    def rename(self, old: str, new: str) -> None:
        """Give a client another name. Raises BadInput if somebody has it already."""
        with self._library.writing() as session:
            _rename(session, old, new)

    def join(self, name: str, into: str) -> None:
        """Make two clients one: all sets and stored documents of the first go to the second."""
        with self._library.writing() as session:
            join_clients(session, name, into)

    # Lists and histories

    def all(self) -> list[ClientSummary]:
        """Every client, those in need first: pain, then sets that wait, then by name."""
        own = SetRow.other_view_of.is_(None)
        waiting = func.sum(cast(and_(SetRow.state == "waiting", own), Integer))
        ask = (
            select(
                ClientRow,
                func.count(SetRow.id),
                waiting,
                func.min(SetRow.recorded),
                func.max(SetRow.recorded),
                func.max(cast(and_(SetRow.pain, SetRow.state == "waiting"), Integer)),
            )
            .outerjoin(SetRow, SetRow.client_id == ClientRow.id)
            .group_by(ClientRow.id)
        )
        today = date.today()
        with self._library.reading() as session:
            out = [
                ClientSummary(
                    name=row.name,
                    sets=sets,
                    waiting=wait or 0,
                    first=first or "",
                    last=last or "",
                    pain=bool(pain),
                    sore=tuple(s.place for s in _client(row).sore_on(today)),
                )
                for row, sets, wait, first, last, pain in session.execute(ask)
            ]
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

    def sets(self, name: str, standard: str | None = None, day: str = "") -> list[KeptSet]:
        """A client's sets, oldest first; of one exercise and one day where they are named. Sets
        whose review was computed by an older program, or never, are not among them: see
        `untold`."""
        ask = (
            select(
                SetRow.id,
                SetRow.standard,
                SetRow.school,
                SetRow.recorded,
                SetRow.load_kg,
                SetRow.pain,
                SetRow.felt,
                SetRow.state,
                ReviewRow.trace,
            )
            .join(ClientRow, ClientRow.id == SetRow.client_id)
            .join(ReviewRow, ReviewRow.set_id == SetRow.id)
            .where(ClientRow.name == name, SetRow.other_view_of.is_(None))
            .order_by(SetRow.recorded, SetRow.id)
        )
        decided = (
            select(DecisionRow.set_id, DecisionRow.finding, DecisionRow.choice, DecisionRow.words)
            .join(SetRow, SetRow.id == DecisionRow.set_id)
            .join(ClientRow, ClientRow.id == SetRow.client_id)
            .where(ClientRow.name == name)
        )
        if standard is not None:
            ask = ask.where(SetRow.standard == standard)
            decided = decided.where(SetRow.standard == standard)
        if day:
            ask = ask.where(SetRow.recorded.startswith(day, autoescape=True))
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
                        id=id,
                        standard=plan,
                        school=school,
                        at=at,
                        load_kg=load,
                        trace=trace,
                        pain=pain,
                        felt=_words_in(felt),
                        reviewed=done,
                        said=_said(trace.checks, choices.get(id, {})) if done else (),
                        entry_is_right=f"{EYE}{ENTRY}" in choices.get(id, {}),
                    )
                )
        return out

    def usual_loads(self) -> dict[tuple[str, str], float]:
        """The usual load by client and standard: the middle of the last ten."""
        ask = (
            select(ClientRow.name, SetRow.standard, SetRow.load_kg)
            .join(ClientRow, ClientRow.id == SetRow.client_id)
            .where(SetRow.load_kg > 0, SetRow.other_view_of.is_(None))
            .order_by(SetRow.recorded.desc(), SetRow.id.desc())
        )
        loads: dict[tuple[str, str], list[float]] = {}
        with self._library.reading() as session:
            for client, standard, load in session.execute(ask):
                known = loads.setdefault((client, standard), [])
                if load and len(known) < _USUAL_SETS:
                    known.append(load)
        return {whose: median(known) for whose, known in loads.items()}

    def untold(self, name: str | None = None) -> list[int]:
        """Sets with landmarks whose review is to be computed again before they take part over the
        years, or take part with all that they show."""
        ask = (
            select(SetRow.id, ReviewRow.trace)
            .join(ClientRow, ClientRow.id == SetRow.client_id)
            .outerjoin(ReviewRow, ReviewRow.set_id == SetRow.id)
            .where(SetRow.track_hash.is_not(None))
        )
        if name is not None:
            ask = ask.where(ClientRow.name == name)
        with self._library.reading() as session:
            return [id for id, text in session.execute(ask) if not is_current(text or "")]


def keep_client(session: Session, client: Client, since: Client | None = None) -> str:
    """Store a client's profile within a transaction; see `Clients.keep`."""
    client = replace(client, name=name_of(client.name, "a client"))
    if since is not None and since.name != client.name:
        _rename(session, since.name, client.name)
    row = client_named(session, client.name)
    told = ""
    if since is not None:
        both = merged_fields(replace(since, name=client.name), client, _client(row), {})
        client, told = both.value, both.words
    row.stature_m = client.stature_m
    row.profile = client_text(client, without=_OWN_COLUMNS)
    session.flush()
    return told


def agree_on_words(session: Session, words: Iterable[tuple[str, str]]) -> None:
    """Within a transaction: (client, word), files with this word in their name are this client's
    from now on."""
    for name, word in words:
        known = _client(client_named(session, name))
        if word not in known.file_words:
            keep_client(session, replace(known, file_words=(*known.file_words, word)))


def _rename(session: Session, old: str, new: str) -> None:
    new = name_of(new, "a client")
    row = client_row(session, old)
    if session.scalar(select(ClientRow.id).where(ClientRow.name == new, ClientRow.id != row.id)):
        raise BadInput(f"there is a client {new!r} already; join the two instead")
    row.name = new
    session.flush()


def _free_name(kept: KeptRow, taken: set[tuple[str, str, str]]) -> str:
    """The name of a stored document, with a number after it where somebody else's has that name."""
    for number in count(1):
        name = kept.name if number == 1 else f"{kept.name} {number}"
        if (kept.kind, kept.about, name) not in taken:
            break
    return name


def join_clients(session: Session, name: str, into: str) -> list[int]:
    """Make two clients one within a transaction: all sets and stored documents of the first go to
    the second.

    Of named documents, such as setups, both stay: the first's gets another name if need be. Where
    each has one without a name, such as a plan, the second's stays and the first's is deleted.
    Returns the numbers of the sets that moved.
    """
    if name == into:
        raise BadInput("a client can't be joined with itself")
    gone, stays = client_row(session, name), client_row(session, into)
    was, both = _client(gone), _client(stays)
    moved = list(session.scalars(select(SetRow).where(SetRow.client_id == gone.id)))
    for row in moved:
        row.client_id = stays.id
    taken = {
        (kept.kind, kept.about, kept.name)
        for kept in session.scalars(select(KeptRow).where(KeptRow.client_id == stays.id))
    }
    for kept in session.scalars(select(KeptRow).where(KeptRow.client_id == gone.id)).all():
        if kept.name:
            kept.name = _free_name(kept, taken)
        elif (kept.kind, kept.about, "") in taken:
            session.delete(kept)
            continue
        kept.client_id = stays.id
    session.flush()
    merged = replace(
        both,
        stature_m=both.stature_m or was.stature_m,
        goals=both.goals or was.goals,
        weak=both.weak or was.weak,
        sore=(*both.sore, *was.sore),
        tired=tuple(sorted({*both.tired, *was.tired})),
        cleared=(*both.cleared, *was.cleared),
        kit=both.kit or was.kit,
        rack_kg=both.rack_kg or was.rack_kg,
        room=both.room or was.room,
        dominant=both.dominant or was.dominant,
        covers_face=both.covers_face or was.covers_face,
        words=both.words or was.words,
        coach=both.coach or was.coach,
        file_words=tuple(dict.fromkeys((*both.file_words, *was.file_words))),
    )
    stays.stature_m = merged.stature_m
    stays.profile = client_text(merged, without=_OWN_COLUMNS)
    session.delete(gone)
    session.flush()
    return [row.id for row in moved]


def _words_in(text: str) -> tuple[str, ...]:
    """A stored list of words; empty if it is damaged. One damaged set must not stop the review
    of the others: the damage is reported when it is opened or checked."""
    return tuple(word for word in stored(text, list) if isinstance(word, str))


def _client(row: ClientRow) -> Client:
    own = stored(row.profile)
    # Written by hand or by a newer program: what can't be read stays in the file, and the name is
    # known.
    found = client_of({**own, "name": row.name, "stature_m": row.stature_m})
    return found or Client(row.name, row.stature_m)


def _said(checks: Sequence[Any], choices: Mapping[str, tuple[str, str | None]]) -> tuple[Said, ...]:
    """The cues of a reviewed set: what was kept or put in other words; where nothing was decided,
    the first proposals as they stood on the page."""
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
