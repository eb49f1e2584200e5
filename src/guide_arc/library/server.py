"""A library that a team shares: rows on a PostgreSQL server, recordings in a folder that all reach.

The same tables and the same statements as in a file. One writes at a time, as there: each write
takes the library's one lock for as long as its transaction lasts, so that what is read and then
changed in it is of one moment.
"""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Final, Literal

from sqlalchemy import URL, Connection, Engine, create_engine, event, inspect, make_url, text
from sqlalchemy.exc import ArgumentError, DBAPIError, ProgrammingError
from sqlalchemy.orm import Session

from guide_arc.formats.atomic import make_folder
from guide_arc.library.errors import BadLibrary, LostLibrary, ReadOnly
from guide_arc.library.migrations import FORMS, bring_to_newest
from guide_arc.library.queue_rows import FORM
from guide_arc.library.tables import Base

Role = Literal["coach", "reader"]
_GROUPS: Final[dict[Role, str]] = {"coach": "guide_arc_coach", "reader": "guide_arc_reader"}
# The library's one lock for writing, and how long it is waited for.
_LOCK: Final = 0x6A7C
_WAITS: Final = "10s"


@dataclass(frozen=True)
class TeamPlace:
    """Where a team's library is. text : as it was given"""

    text: str
    url: URL
    recordings: Path


def team_place(where: str) -> TeamPlace:
    """`postgresql://NAME@HOST/DATABASE?recordings=/shared/folder`. Raises BadLibrary for anything
    else."""
    try:
        url = make_url(where.replace("postgres://", "postgresql://", 1))
    except ArgumentError:
        raise BadLibrary("this is no address of a library on a server") from None
    folder = url.query.get("recordings")
    if not isinstance(folder, str) or not folder:
        raise BadLibrary(
            "the address does not say where the recordings are; add ?recordings=/shared/folder"
            " to it"
        )
    plain = url.difference_update_query(["recordings"]).set(drivername="postgresql+psycopg")
    return TeamPlace(where, plain, Path(folder))


class ServerDatabase:
    """An open library on a server; takes the place of `Database`. Use from one thread."""

    # Nobody sweeps what may be another machine's write under way.
    alone: Final = False

    def __init__(self, place: TeamPlace, engine: Engine) -> None:
        self.place, self.folder, self._engine = place, place.recordings, engine

    @classmethod
    def open(cls, place: TeamPlace) -> ServerDatabase:
        """Open a team's library. Raises BadLibrary if the server, the database or the folder
        can't be used."""
        if not place.recordings.is_dir():
            raise LostLibrary(
                f"the team's recordings are not in {place.recordings}; see that the shared folder"
                " is there",
                place.recordings,
                "folder",
            )
        try:
            engine = create_engine(place.url, pool_pre_ping=True)
        except ImportError:
            raise BadLibrary(
                "a library on a server needs the extra 'team'; install guide-arc[team]"
            ) from None
        event.listen(engine, "begin", _on_begin)
        database = cls(place, engine)
        try:
            with engine.connect() as connection:
                there = inspect(connection).has_table("alembic_version")
                form = (
                    connection.execute(text("select version_num from alembic_version")).scalar()
                    if there
                    else None
                )
        except DBAPIError as error:
            database.close()
            raise _in_words(error, place) from None
        if form != FORM:
            database.close()
            raise BadLibrary(
                "this database holds no library yet; 'guide-arc team' makes one in it"
                if form is None
                else (
                    "the team's library was made by an older version of this program; 'guide-arc"
                    " team' brings it up, once everybody has this version"
                    if form in FORMS
                    else (
                        "the team's library is of a newer version of this program; install that one"
                    )
                )
            )
        return database

    def close(self) -> None:
        self._engine.dispose()

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """What is read here is of one moment, whoever writes meanwhile."""
        yield from self._session(writes=False)

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """One transaction: atomically, under an exclusive lock. Raises BadLibrary for a reader, and
        where the lock is not had."""
        yield from self._session(writes=True)

    def _session(self, *, writes: bool) -> Iterator[Session]:
        engine = self._engine.execution_options(
            writes=writes, isolation_level="READ COMMITTED" if writes else "REPEATABLE READ"
        )
        try:
            with Session(engine) as session, session.begin():
                yield session
        except DBAPIError as error:
            told = _in_words(error, self.place)
            if told is error:
                raise
            raise told from error

    def empty_log(self) -> None:
        """A server keeps its own log."""


def _on_begin(connection: object) -> None:
    if connection.get_execution_options().get("writes"):  # type: ignore[attr-defined]
        connection.exec_driver_sql(f"set local lock_timeout = '{_WAITS}'")  # type: ignore[attr-defined]
        connection.exec_driver_sql(f"select pg_advisory_xact_lock({_LOCK})")  # type: ignore[attr-defined]


def make_library(place: TeamPlace, members: dict[str, Role]) -> None:
    """Make a team's library in a database, bring one of an older form up, or take more members in;
    for who may make tables and roles there.

    members : by their names on the server: coaches read and write, readers read
    Raises BadLibrary if that can't be done.
    """
    try:
        # Shared by the folder's group, whose everything in it stays; nobody else reads it.
        place.recordings.mkdir(parents=True, exist_ok=True)
        os.chmod(place.recordings, 0o2770)
        for folder in ("tracks", "clips", "standards"):
            make_folder(place.recordings / folder)
        engine = create_engine(place.url)
        try:
            with engine.begin() as connection:
                _make_tables(connection)
                _take_in(connection, members)
        finally:
            engine.dispose()
    except OSError as error:
        raise BadLibrary(
            f"the folder {place.recordings} can't be used ({error.strerror})"
        ) from None
    except DBAPIError as error:
        raise _in_words(error, place) from None
    except ImportError:
        raise BadLibrary(
            "a library on a server needs the extra 'team'; install guide-arc[team]"
        ) from None


def _make_tables(connection: Connection) -> None:
    """All tables in the newest form: made, or brought up from an older one."""
    connection.execute(
        text("create table if not exists alembic_version (version_num varchar(32) primary key)")
    )
    form = connection.execute(text("select version_num from alembic_version")).scalar()
    if form is None:
        Base.metadata.create_all(connection)
        connection.execute(text("insert into alembic_version values (:form)"), {"form": FORM})
    elif form not in FORMS:
        raise BadLibrary(
            "the team's library is of a newer version of this program; install that one"
        )
    elif form != FORM:
        bring_to_newest(connection)


def _take_in(connection: Connection, members: dict[str, Role]) -> None:
    """Give each group its rights on every table, and each member a group."""
    quote = connection.dialect.identifier_preparer.quote
    for group in _GROUPS.values():
        known = connection.execute(text("select 1 from pg_roles where rolname = :n"), {"n": group})
        if known.first() is None:
            connection.exec_driver_sql(f"create role {group} nologin")
        connection.exec_driver_sql(f"grant usage on schema public to {group}")
        connection.exec_driver_sql(f"grant select on all tables in schema public to {group}")
    coach = _GROUPS["coach"]
    connection.exec_driver_sql(
        f"grant insert, update, delete on all tables in schema public to {coach}"
    )
    connection.exec_driver_sql(f"grant usage, select on all sequences in schema public to {coach}")
    for name, role in members.items():
        connection.exec_driver_sql(f"grant {_GROUPS[role]} to {quote(name)}")


def _in_words(error: DBAPIError, place: TeamPlace) -> Exception:
    said = str(error.orig).strip().splitlines()[0] if str(error.orig).strip() else "no answer"
    kind = type(error.orig).__name__
    host = place.url.host or "this machine"
    if kind == "InsufficientPrivilege":
        return ReadOnly(
            "you may read the team's library and not change it; ask for the role of a coach"
        )
    if kind == "LockNotAvailable":
        return BadLibrary("someone else is writing to the team's library; try again in a moment")
    if error.connection_invalidated or kind in (
        "OperationalError",
        "ConnectionTimeout",
        "AdminShutdown",
    ):
        return BadLibrary(
            f"the server of the team's library on {host} does not answer ({said}); try again"
        )
    if isinstance(error, ProgrammingError) and kind in (
        "UndefinedObject",
        "InvalidAuthorizationSpecification",
    ):
        return BadLibrary(f"the server of the team's library refused ({said})")
    return error
