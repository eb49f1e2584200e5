"""Finding sets by words: client, exercise, date, note, cue and finding, through SQLite's full-text
index.

Triggers keep the index current, whoever writes the rows. A migration that creates one of these
tables has to call `make_index` again.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any, Final, Protocol

# The shadow tables that SQLite keeps an index in.
TABLE: Final = "words"
_SETS: Final = (
    "select s.id, c.name, replace(s.standard, '-', ' '), s.recorded, s.source_name, s.note,"
    " coalesce(r.said, ''), coalesce((select group_concat(d.words, ' ') from decision d where"
    " d.set_id = s.id), '') from recorded_set s join client c on c.id = s.client_id left join"
    " review r on r.set_id = s.id"
)
_COLUMNS: Final = "rowid, client, exercise, recorded, source, note, found, cues"
_CUES: Final = (
    "update words set cues = coalesce((select group_concat(words, ' ') from decision where set_id ="
    " {row}.set_id), '') where rowid = {row}.set_id"
)


class Connection(Protocol):
    def exec_driver_sql(self, statement: str) -> Any: ...


def make_index(connection: Connection) -> None:
    """The index with its triggers, filled from the existing rows."""
    for statement in _statements():
        connection.exec_driver_sql(statement)


def _statements() -> Iterable[str]:
    yield "drop table if exists words"
    yield (
        "create virtual table words using fts5(client, exercise, recorded, source, note, found,"
        " cues, tokenize = 'unicode61 remove_diacritics 2', prefix = '1 2 3')"
    )
    yield f"insert into words ({_COLUMNS}) {_SETS}"
    one = f"insert into words ({_COLUMNS}) {_SETS} where s.id = new.id"
    for name, when, what in (
        ("set_in", "insert on recorded_set", one),
        ("set_out", "delete on recorded_set", "delete from words where rowid = old.id"),
        (
            "set_other",
            "update of client_id, standard, recorded, source_name, note on recorded_set",
            (
                "update words set client = (select name from client where id = new.client_id),"
                " exercise = replace(new.standard, '-', ' '), recorded = new.recorded, source ="
                " new.source_name, note = new.note where rowid = new.id"
            ),
        ),
        (
            "client_other",
            "update of name on client",
            (
                "update words set client = new.name where rowid in"
                " (select id from recorded_set where client_id = new.id)"
            ),
        ),
        (
            "review_in",
            "insert on review",
            "update words set found = new.said where rowid = new.set_id",
        ),
        (
            "review_other",
            "update of said on review",
            "update words set found = new.said where rowid = new.set_id",
        ),
        ("review_out", "delete on review", "update words set found = '' where rowid = old.set_id"),
        ("decided_in", "insert on decision", _CUES.format(row="new")),
        ("decided_other", "update of words on decision", _CUES.format(row="new")),
        ("decided_out", "delete on decision", _CUES.format(row="old")),
    ):
        yield f"drop trigger if exists words_{name}"
        yield f"create trigger words_{name} after {when} begin {what}; end"


# Nothing of a deleted row stays in the index after this.
TIDY: Final = "insert into words (words) values ('optimize')"


def asked_for(words: str) -> str:
    """The user's text as a query of the index: every word, each as a beginning. Empty if no
    letter was typed."""
    quoted = (word.replace('"', " ").strip() for word in words.split())
    return " ".join(f'"{word}"*' for word in quoted if any(c.isalnum() for c in word))


def said_in(titles: Sequence[str]) -> str:
    """What a review found, as one text."""
    return "\n".join(dict.fromkeys(titles))
