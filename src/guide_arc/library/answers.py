"""Pages that clients can answer, and what comes back.

A page has a token that nobody can guess. An answer with the token belongs to the page's set, client
and day, however it came and whatever its file is called. Pain stops the next load at once.
"""

from __future__ import annotations

import secrets
from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Final, NamedTuple

from sqlalchemy import Select, select
from sqlalchemy.orm import Session

from guide_arc.core.model.errors import BadInput
from guide_arc.core.planning.pain import speaks_of_pain
from guide_arc.core.planning.training_log import LoggedSet
from guide_arc.drawings.days import day_words
from guide_arc.formats.answer_json import Answer, answer_text, read_answer
from guide_arc.library.changes import Changes
from guide_arc.library.clients import Clients, keep_client
from guide_arc.library.kept_things import put_document
from guide_arc.library.notes_rows import notes_of, put_notes
from guide_arc.library.records import ANSWER, PAGE, SetNotes
from guide_arc.library.set_changes import set_row
from guide_arc.library.store import Library
from guide_arc.library.stored_json import stored
from guide_arc.library.tables import ClientRow, KeptRow
from guide_arc.library.training_logs import note_new_sets
from guide_arc.library.undoing import do

# An answer that was written this long after its page is old news: the coach decides.
_OLD_DAYS: Final = 30
# A phone's clock may be in another time zone.
_AHEAD_DAYS: Final = 1
# Sleep below this counts as a tired day, hours.
_SHORT_SLEEP_H: Final = 6.0


class PageKey(NamedTuple):
    """token : names the page in its answers; key : stays in the page, for the check sum"""

    token: str
    key: str


def page_key(library: Library, set_id: int, made: date) -> PageKey:
    """The key of a set's page; made once, so that a page that is written again has the same."""

    def work(session: Session) -> PageKey:
        row = set_row(session, set_id)
        there = session.scalar(_of_set(PAGE, set_id))
        if there is not None:
            return PageKey(there.name, str(stored(there.document)["key"]))
        out = PageKey(secrets.token_hex(16), secrets.token_hex(16))
        client = session.get_one(ClientRow, row.client_id).name
        document = {"set": set_id, "key": out.key, "made": made.isoformat()}
        put_document(session, PAGE, document, client=client, about=str(set_id), name=out.token)
        return out

    with library.writing() as session:
        return work(session)


@dataclass(frozen=True)
class Matched:
    """An answer and the set that it belongs to. doubt : why the coach should decide whether it is
    taken in; empty if there is no doubt. known : it was taken in before"""

    answer: Answer
    set_id: int
    client: str
    exercise: str
    filmed: str
    doubt: str = ""
    known: bool = False

    @property
    def about(self) -> str:
        """`Ada Quill, standing barbell curl, 3 Feb 2031`"""
        return f"{self.client}, {self.exercise}, {day_words(self.filmed)}"


def match(library: Library, text: str, today: date) -> Matched:
    """The set that an answer belongs to. Raises BadInput for a damaged answer, and for one
    that belongs to no page of this library or was changed after it was written."""
    answer = read_answer(text)
    with library.reading() as session:
        page = session.scalar(
            select(KeptRow).where(KeptRow.kind == PAGE, KeptRow.name == answer.page)
        )
        if page is None:
            raise BadInput(
                "the answer belongs to no page of this library; open the library in which the page"
                " was made, or ask the client which page it was"
            )
        document = stored(page.document)
        if not answer.is_intact(str(document["key"])):
            raise BadInput(
                "the answer was changed after it was written; ask the client to send it again"
                " from the page"
            )
        set_id = int(page.about)
        row = set_row(session, set_id)
        client = session.get_one(ClientRow, row.client_id).name
        known = any(
            stored(one.document)["sum"] == answer.sum
            for one in session.scalars(_of_set(ANSWER, set_id))
        )
        return Matched(
            answer=answer,
            set_id=set_id,
            client=client,
            exercise=row.standard.replace("-", " "),
            filmed=row.recorded,
            doubt=_doubt(answer, date.fromisoformat(str(document["made"])), today),
            known=known,
        )


def _doubt(answer: Answer, page_made: date, today: date) -> str:
    on = answer.made.date()
    if on > today + timedelta(days=_AHEAD_DAYS):
        return f"its date is in the future: {day_words(answer.made.isoformat())}"
    late = (on - page_made).days
    if late > _OLD_DAYS:
        return f"it was written {late} days after the page was made"
    if (page_made - on).days > _AHEAD_DAYS:
        return "it was written before its page was made: the phone's clock is wrong"
    return ""


@dataclass(frozen=True)
class TakenAnswer:
    """What an answer changed. hurts : whether it reports pain"""

    matched: Matched
    changes: Changes
    hurts: bool
    logged: int

    @property
    def words(self) -> str:
        """One line for the foot of the window."""
        parts = []
        if self.hurts:
            parts.append("pain was reported: no load is proposed until a clinician was consulted")
        if self.logged:
            parts.append(f"{self.logged} set{'' if self.logged == 1 else 's'} logged")
        told = f": {'; '.join(parts)}" if parts else ""
        return f"{self.matched.client} answered ({self.matched.exercise}){told}."


def take_answer(library: Library, matched: Matched) -> TakenAnswer:
    """Take an answer in, in one transaction: pain and felt places go to the set, sets done since to
    the log, short sleep to the client's tired days, and all of it is stored as it was said.

    Raises BadInput if it was taken in before.
    """
    answer, set_id = matched.answer, matched.set_id
    hurts = bool(answer.hurt) or speaks_of_pain((*answer.felt, answer.words))
    day = answer.made.date()
    known = Clients(library).client(matched.client)

    def work(session: Session) -> int:
        row = set_row(session, set_id)
        for one in session.scalars(_of_set(ANSWER, set_id)):
            if stored(one.document)["sum"] == answer.sum:
                raise BadInput("this answer was taken in before")
        put_notes(session, row, _with_felt(notes_of(session, row), answer, hurts))
        logged = note_new_sets(
            session,
            matched.client,
            [
                LoggedSet(row.standard, day, one.load_kg, one.reps, one.reps)
                for one in answer.sets
                if one.reps
            ],
        )
        if answer.sleep_h is not None and answer.sleep_h < _SHORT_SLEEP_H:
            tired = tuple(sorted({*known.tired, day}))
            keep_client(session, replace(known, tired=tired), known)
        document = {"set": set_id, "file": answer_text(answer), "sum": answer.sum}
        put_document(
            session,
            ANSWER,
            document,
            client=matched.client,
            about=str(set_id),
            name=answer.sum[:16],
        )
        return logged

    done = do(library, work)
    return TakenAnswer(matched, done.changes, hurts, done.result)


def _with_felt(notes: SetNotes, answer: Answer, hurts: bool) -> SetNotes:
    said = [*answer.felt, *(f"{place}, pain" for place in answer.hurt)]
    felt = tuple(dict.fromkeys((*notes.settings.felt, *said)))
    settings = replace(notes.settings, felt=felt)
    return replace(notes, settings=settings, pain=notes.pain or hurts)


def answers_of(library: Library, set_id: int) -> tuple[str, ...]:
    """What a client answered about a set, each answer as a line, the first one first."""
    with library.reading() as session:
        found = [stored(one.document) for one in session.scalars(_of_set(ANSWER, set_id))]
    return tuple(answer_words(read_answer(str(one["file"]))) for one in found)


def answer_words(answer: Answer) -> str:
    """`4 Feb 2031: felt in the biceps; 2 reps left; slept 7 h; “a bit heavy”`"""
    parts: list[str] = []
    if answer.hurt:
        parts.append(f"pain in {_listed(answer.hurt)}")
    if answer.felt:
        parts.append(f"felt in {_listed(answer.felt)}")
    if answer.in_reserve is not None:
        parts.append(f"{answer.in_reserve} rep{'' if answer.in_reserve == 1 else 's'} left")
    if answer.sets:
        done = ", ".join(
            f"{'' if s.load_kg is None else f'{s.load_kg:g} kg × '}{s.reps}" for s in answer.sets
        )
        parts.append(f"done since: {done}")
    if answer.sleep_h is not None:
        parts.append(f"slept {answer.sleep_h:g} h")
    if answer.words:
        parts.append(f"“{answer.words}”")
    return f"{day_words(answer.made.isoformat())}: {'; '.join(parts) or 'no remarks'}"


def _listed(places: Iterable[str]) -> str:
    return ", ".join(places)


def _of_set(kind: str, set_id: int) -> Select[KeptRow]:
    return (
        select(KeptRow)
        .where(KeptRow.kind == kind, KeptRow.about == str(set_id))
        .order_by(KeptRow.id)
    )


def unanswered(library: Library, today: datetime, after_days: int = 3) -> tuple[str, ...]:
    """Clients who have had a page for at least some days and have not answered any of it, in the
    order of their pages."""
    with library.reading() as session:
        answered = set(session.scalars(select(KeptRow.about).where(KeptRow.kind == ANSWER)))
        rows = session.execute(
            select(KeptRow, ClientRow.name)
            .join(ClientRow, KeptRow.client_id == ClientRow.id)
            .where(KeptRow.kind == PAGE)
            .order_by(KeptRow.id)
        ).all()
        last = today.date() - timedelta(days=after_days)
        return tuple(
            dict.fromkeys(
                name
                for page, name in rows
                if page.about not in answered
                and date.fromisoformat(str(stored(page.document)["made"])) <= last
            )
        )
