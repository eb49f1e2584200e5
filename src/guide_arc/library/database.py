"""The library's folder and its database file: opened, brought up to date, read and written in transactions.

Every change is one transaction, flushed to the disk before it ends. A kill at any moment leaves a file that opens.
"""

from __future__ import annotations

import contextlib
import fcntl
import os
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from typing import IO, Any

from sqlalchemy import Engine, create_engine, event, text
from sqlalchemy.exc import DatabaseError, OperationalError
from sqlalchemy.orm import Session

from guide_arc.library.backups import copy_of
from guide_arc.library.errors import BadLibrary
from guide_arc.library.queue_rows import FORM
from guide_arc.library.tables import Base

NEWEST = FORM
# How long a write waits for another one that is under way.
_WAITS_MS = 10_000
_KNOWN = ("0001", "0002", "0003", "0004", "0005")


class Database:
    """An open library folder with its file. Use from one thread."""

    def __init__(self, folder: Path, engine: Engine, held: IO[bytes]) -> None:
        self.folder = folder
        self._engine = engine
        self._held = held

    @classmethod
    def open(cls, folder: Path) -> Database:
        """Open the library in a folder, making it where there is none.

        Raises BadLibrary where the folder can't be used or a newer program wrote it.
        """
        try:
            folder.mkdir(parents=True, exist_ok=True, mode=0o700)
            os.chmod(folder, 0o700)
            for place in ("tracks", "clips"):
                (folder / place).mkdir(exist_ok=True, mode=0o700)
            held = _held(folder)
        except OSError as error:
            raise BadLibrary(
                f"the library folder {folder} can't be used ({error.strerror}); choose another"
            ) from None
        file = folder / "library.sqlite"
        engine = create_engine(f"sqlite:///{file}")
        event.listen(engine, "connect", _on_connect)
        event.listen(engine, "begin", _on_begin)
        database = cls(folder, engine, held)
        try:
            database._bring_up_to_date()
            os.chmod(file, 0o600)
        except BadLibrary:
            database.close()
            raise
        except (DatabaseError, OperationalError) as error:
            database.close()
            raise BadLibrary(
                f"the library file {file} can't be read ({error.orig!s}); "
                "a copy of it from before the last upgrade may stand beside it"
            ) from None
        return database

    def close(self) -> None:
        self._engine.dispose()
        self._held.close()

    def _make_new(self) -> None:
        """All tables in their newest form at once, in one transaction."""
        with self._engine.begin() as connection:
            Base.metadata.create_all(connection)
            connection.execute(
                text(
                    "create table alembic_version (version_num varchar(32) not null, "
                    "constraint alembic_version_pkc primary key (version_num))"
                )
            )
            connection.execute(text("insert into alembic_version values (:form)"), {"form": NEWEST})

    def _bring_up_to_date(self) -> None:
        with self._engine.connect() as connection:
            tables = {
                r[0]
                for r in connection.execute(
                    text("select name from sqlite_master where type='table'")
                )
            }
            at = None
            if "alembic_version" in tables:
                at = connection.execute(text("select version_num from alembic_version")).scalar()
        if at == NEWEST:
            return
        if at is not None and at not in _KNOWN:
            raise BadLibrary(
                f"the library in {self.folder} was written by a newer version of this program; "
                "install that version, or open another library"
            )
        if not tables:
            self._make_new()
            return
        if at is not None:
            stamp = datetime.now(UTC).strftime("%Y%m%dT%H%M%S")
            copy_of(self.folder / "library.sqlite", self.folder / f"library-before-{stamp}.sqlite")
        from alembic import command  # noqa: PLC0415 - slow to load and seldom needed
        from alembic.config import Config  # noqa: PLC0415

        config = Config()
        config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
        # A table that others refer to can only be made anew while nobody watches the references.
        engine = create_engine(self._engine.url)
        event.listen(engine, "connect", _on_connect)
        event.listen(engine, "connect", _without_references)
        event.listen(engine, "begin", _on_begin)
        try:
            with engine.begin() as connection:
                config.attributes["connection"] = connection
                command.upgrade(config, "head")
                broken = connection.execute(text("pragma foreign_key_check")).first()
                if broken is not None:
                    raise BadLibrary(
                        f"the library in {self.folder} refers to something that is gone ({broken[0]}); "
                        "nothing was changed"
                    )
        finally:
            engine.dispose()

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """What is read here is of one moment, whoever writes meanwhile."""
        with Session(self._engine) as session, session.begin():
            yield session

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """One transaction: whole or not at all. It takes the library's one lock for writing at its start, and waits
        for it: a transaction that begins by reading could not get it any more once another has written.

        Raises BadLibrary where another one holds the lock for longer than it is waited for.
        """
        with Session(self._engine.execution_options(writes=True)) as session, session.begin():
            try:
                session.connection()
            except OperationalError as error:
                if "locked" not in str(error.orig):
                    raise
                raise BadLibrary(
                    f"the library in {self.folder} is being written by another window or command; "
                    "try again in a moment"
                ) from None
            yield session

    def empty_log(self) -> None:
        """Nothing of what was erased stays in the file's log, where nobody else holds it open."""
        with contextlib.suppress(OperationalError), self._engine.connect() as connection:
            connection.exec_driver_sql("PRAGMA wal_checkpoint(TRUNCATE)")


def _held(folder: Path) -> IO[bytes]:
    """Hold the folder open, shared with all who have it open. Who is alone sweeps what a kill in the middle
    of a write has left; with others there, it may be a write that is under way."""
    held = (folder / "open").open("ab")
    os.chmod(folder / "open", 0o600)
    with contextlib.suppress(OSError):  # others are there, or the disk knows no locks
        fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        for place in (folder, folder / "tracks", folder / "standards"):
            for part in place.glob(".*.part"):
                part.unlink(missing_ok=True)
        fcntl.flock(held, fcntl.LOCK_SH)
        return held
    with contextlib.suppress(OSError):
        fcntl.flock(held, fcntl.LOCK_SH)
    return held


def _on_begin(connection: Any) -> None:
    """The driver would commit each table of a migration by itself; a transaction of our own holds
    them all, so that a kill in the middle leaves the file as it was."""
    writes = connection.get_execution_options().get("writes", False)
    connection.exec_driver_sql("BEGIN IMMEDIATE" if writes else "BEGIN")


def _on_connect(connection: Any, _record: Any) -> None:
    connection.isolation_level = None  # transactions start where `_on_begin` says, and only there
    cursor = connection.cursor()
    for pragma in (
        "journal_mode=WAL",
        "synchronous=FULL",
        "foreign_keys=ON",
        f"busy_timeout={_WAITS_MS}",
        "secure_delete=ON",
    ):
        cursor.execute(f"PRAGMA {pragma}")
    cursor.close()


def _without_references(connection: Any, _record: Any) -> None:
    cursor = connection.cursor()
    cursor.execute("PRAGMA foreign_keys=OFF")
    cursor.close()
