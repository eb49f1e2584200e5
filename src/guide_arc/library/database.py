"""The library's folder and its database file: opened, brought up to date, read and written in
transactions.

Every change is one transaction, flushed to the disk before it ends. A kill at any moment leaves a
file that opens.
"""

from __future__ import annotations

import contextlib
import errno
import fcntl
import os
import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from functools import lru_cache
from pathlib import Path
from typing import IO, Any, Final, NoReturn

from sqlalchemy import URL, Engine, create_engine, event, text
from sqlalchemy.exc import DatabaseError, OperationalError
from sqlalchemy.orm import Session
from sqlalchemy.util import LRUCache, immutabledict

from guide_arc.library.backups import copy_of
from guide_arc.library.errors import BadLibrary, LostLibrary, ReadOnly
from guide_arc.library.full_text import make_index
from guide_arc.library.migrations import FORMS, bring_to_newest
from guide_arc.library.place import FILE
from guide_arc.library.queue_rows import FORM
from guide_arc.library.tables import Base

NEWEST = FORM
# How long a write waits for another one that is under way.
_WAITS_MS = 10_000
# The same for commands that work through many files: they go on once the other one lets them.
_PATIENT_MS = 600_000
# What the system says of a disk or a file that can't be written.
_NOT_WRITABLE: Final = frozenset((errno.EROFS, errno.EACCES, errno.EPERM))
# So many statements stay put into words; a whole evening uses fewer.
_WORDED: Final = 500
# Where whole sets are unpacked on their way in.
UNPACKING: Final = "unpacking"
# Where a write that was killed may have left a part of a file.
_PLACES: Final = ("tracks", "clips", "clips/coming", "standards", "coming", "backups")
_MEND: Final = (
    "File → Restore… brings a backup back; 'guide-arc check --mend' lists what is there again"
)


class Database:
    """An open library folder with its file. Use from one thread."""

    def __init__(
        self, folder: Path, engine: Engine, held: IO[bytes] | None, *, alone: bool
    ) -> None:
        self.folder = folder
        self.alone = alone
        self._engine = engine
        self._held = held
        self._is: tuple[int, int] | None = None
        # Where a copy of the file is, for a library that can only be read.
        self._copy: Path | None = None

    @property
    def read_only(self) -> bool:
        """Whether it can be read and not changed."""
        return self._copy is not None

    @classmethod
    def open(
        cls, folder: Path, *, make: bool = True, replaces_lost: bool = False, patient: bool = False
    ) -> Database:
        """Open the library in a folder. A library on a read-only disk is opened for reading.

        make : create the library if it does not exist
        replaces_lost : create it even if the folder has recordings whose library file is lost
        patient : writes wait for minutes for another one, for commands that process many files
        Raises BadLibrary if the folder can't be used or a newer program wrote it, LostLibrary if
        the library file is missing or damaged.
        """
        file = folder / FILE
        if not make and not file.exists() and not recordings_in(folder):
            raise LostLibrary(_gone(folder), folder, "folder")
        try:
            folder.mkdir(parents=True, exist_ok=True, mode=0o700)
            os.chmod(folder, 0o700)
            for place in ("tracks", "clips"):
                (folder / place).mkdir(exist_ok=True, mode=0o700)
            held, alone = _held(folder)
        except OSError as error:
            if error.errno in _NOT_WRITABLE and _has_bytes(file):
                return cls._open_for_reading(folder)
            raise BadLibrary(
                f"the library folder {folder} can't be used ({error.strerror}); choose another"
            ) from None
        database = cls(folder, _engine_of(file, patient=patient), held, alone=alone)
        try:
            if not replaces_lost and not _has_bytes(file) and recordings_in(folder):
                raise LostLibrary(
                    f"the library file {file} is {'empty' if file.exists() else 'gone'}, and"
                    f" recordings are beside it; {_MEND}",
                    folder,
                    "file",
                )
            # Made here, so that nobody else can read it from its first moment on; its log takes
            # after it.
            os.close(os.open(file, os.O_CREAT | os.O_RDWR, 0o600))
            database._bring_up_to_date()
            os.chmod(file, 0o600)
            database._is = _identity(file)
        except BadLibrary:
            database.close()
            raise
        except DatabaseError as error:
            database.close()
            raise in_words(error, folder) from None
        except OSError as error:
            database.close()
            raise BadLibrary(f"the library file {file} can't be used ({error.strerror})") from None
        return database

    @classmethod
    def _open_for_reading(cls, folder: Path) -> Database:
        """Open a library that can't be written, through a copy of its file: SQLite needs to write
        next to the file to read what is in its log. The recordings are read where they are."""
        copy = Path(tempfile.mkdtemp(prefix="guide-arc-"))
        database: Database | None = None
        try:
            for end in ("", "-wal"):
                with contextlib.suppress(FileNotFoundError):
                    shutil.copyfile(f"{folder / FILE}{end}", f"{copy / FILE}{end}")
            database = cls(folder, _engine_of(copy / FILE), None, alone=False)
            database._copy = copy
            database._bring_up_to_date()
            database._is = _identity(folder / FILE)
        except BaseException as error:
            if database is not None:
                database.close()
            shutil.rmtree(copy, ignore_errors=True)
            if isinstance(error, DatabaseError):
                raise in_words(error, folder) from None
            if isinstance(error, OSError):
                raise BadLibrary(
                    f"the library in {folder} can't be read ({error.strerror}); see that you may"
                    " read its files"
                ) from None
            raise
        return database

    def close(self) -> None:
        self._engine.dispose()
        if self._held is not None:
            self._held.close()
        if self._copy is not None:
            shutil.rmtree(self._copy, ignore_errors=True)

    @property
    def _file(self) -> Path:
        return (self._copy or self.folder) / FILE

    def _make_new(self) -> None:
        """All tables in their newest form at once, in one transaction; somebody else may have made
        them meanwhile."""
        with self._engine.execution_options(writes=True).begin() as connection:
            if connection.dialect.has_table(connection, "alembic_version"):
                return
            Base.metadata.create_all(connection)
            make_index(connection)
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
        if at is not None and at not in FORMS:
            raise BadLibrary(
                f"the library in {self.folder} was written by a newer version of this program; "
                "install that version, or open another library"
            )
        if not tables:
            self._make_new()
            return
        if at is not None:
            stamp = datetime.now(UTC).strftime("%Y%m%dT%H%M%S")
            if not self.read_only:
                copy_of(self._file, self.folder / f"library-before-{stamp}.sqlite")
        # A table that others refer to can only be made again while nobody watches the references.
        engine = _new_engine(str(self._file))
        event.listen(engine, "connect", _without_references)
        event.listen(engine, "begin", _on_begin)
        try:
            with engine.begin() as connection:
                bring_to_newest(connection)
                broken = connection.execute(text("pragma foreign_key_check")).first()
                if broken is not None:
                    raise BadLibrary(
                        f"the library in {self.folder} refers to something that is gone"
                        f" ({broken[0]}); nothing was changed"
                    )
        finally:
            engine.dispose()

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """What is read here is of one moment, whoever writes meanwhile. Raises BadLibrary if it
        can't be read."""
        self._need_it_there()
        try:
            with Session(self._engine) as session, session.begin():
                yield session
        except DatabaseError as error:
            _raise_in_words(error, self.folder)

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """One transaction: atomically. It takes the library's one lock for writing at its
        start, and waits for it: a transaction that begins by reading could not get it any more once
        another has written.

        Raises BadLibrary after the timeout if another process holds the lock, if the disk is full
        or read-only, and if the library has been moved: what was written into a file that is gone
        is lost."""
        self._need_it_there()
        if self.read_only:
            raise ReadOnly(
                f"the library in {self.folder} can only be read (its disk or its files are"
                " read-only); copy its folder to a disk that can be written, and open it there"
            )
        try:
            with Session(self._engine.execution_options(writes=True)) as session, session.begin():
                session.connection()
                yield session
        except DatabaseError as error:
            _raise_in_words(error, self.folder)
        self._need_it_there()

    def _need_it_there(self) -> None:
        if self._is is not None and _identity(self.folder / FILE) != self._is:
            raise LostLibrary(_gone(self.folder), self.folder, "folder")

    def empty_log(self) -> None:
        """Nothing of what was erased stays in the file's log, where nobody else holds it open."""
        with contextlib.suppress(DatabaseError), self._engine.connect() as connection:
            connection.exec_driver_sql("PRAGMA wal_checkpoint(TRUNCATE)")


def recordings_in(folder: Path) -> bool:
    """Whether a library's folder holds any track or clip."""
    places = (folder / "tracks", folder / "clips")
    return any(f.is_file() and not f.name.startswith(".") for p in places for f in p.glob("*.*"))


def in_words(error: DatabaseError, folder: Path) -> BadLibrary:
    """What the database says, as what is wrong and what to do."""
    said = str(error.orig)
    if "locked" in said or "busy" in said:
        return BadLibrary(
            f"the library in {folder} is being written by another window or command; try again in a"
            " moment"
        )
    if "full" in said:
        return BadLibrary(
            f"the disk of the library in {folder} is full; make room there, and try again"
        )
    if "readonly" in said:
        return ReadOnly(
            f"the library in {folder} can't be written (its file or its disk is read-only); allow"
            " writing there, and try again"
        )
    if "malformed" in said or "not a database" in said:
        return LostLibrary(
            f"the library file {folder / FILE} can't be read ({said}); {_MEND}", folder, "damaged"
        )
    if "unable to open" in said or "disk I/O" in said:
        return BadLibrary(
            f"the library in {folder} can't be reached ({said}); see that its disk is there, and"
            " try again"
        )
    return BadLibrary(f"the library file {folder / FILE} can't be read ({said})")


def _raise_in_words(error: DatabaseError, folder: Path) -> NoReturn:
    """Raise an error of disk or lock as a sentence, with its cause; a fault of the
    program's own as it is."""
    said = str(error.orig)
    outside = isinstance(error, OperationalError) or type(error) is DatabaseError
    if outside and "no such" not in said and "syntax" not in said:
        raise in_words(error, folder) from error
    raise error


def _has_bytes(file: Path) -> bool:
    return file.exists() and file.stat().st_size > 0


def _gone(folder: Path) -> str:
    return (
        f"the library is not in {folder} any more (moved, renamed, or its disk is not there); put"
        " it back, or open it where it is now"
    )


def _identity(file: Path) -> tuple[int, int] | None:
    """Which file it is, whatever its name."""
    try:
        found = os.stat(file)
    except OSError:
        return None
    return found.st_dev, found.st_ino


def _engine_of(file: Path, *, patient: bool = False) -> Engine:
    """An engine with separate connections. Putting a statement into words takes longer than
    running it: all engines of a file share one dialect and what was put into words for it, or a
    window that opens the library for each job would do it again each time."""
    first, worded = _shared_engine(str(file))
    options = immutabledict({"compiled_cache": worded})
    engine = Engine(first.pool.recreate(), first.dialect, first.url, execution_options=options)
    event.listen(engine, "begin", _on_begin)
    if patient:
        event.listen(engine, "connect", _wait_long)
    return engine


@lru_cache(maxsize=4)
def _shared_engine(file: str) -> tuple[Engine, LRUCache[Any, Any]]:
    return _new_engine(file), LRUCache(_WORDED)


def _new_engine(file: str) -> Engine:
    # Not as one text: a folder's name may hold what has a meaning there.
    engine = create_engine(URL.create("sqlite", database=file))
    event.listen(engine, "connect", _on_connect)
    return engine


def _held(folder: Path) -> tuple[IO[bytes], bool]:
    """Hold the folder open, shared with all who have it open; and whether nobody else has. Who is
    alone sweeps what a kill in the middle of a write has left; with others there, it may be a write
    that is under way.
    """
    held = (folder / "open").open("ab")
    os.chmod(folder / "open", 0o600)
    with contextlib.suppress(OSError):  # others are there, or the disk knows no locks
        fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        for place in (folder, *(folder / p for p in _PLACES)):
            for part in place.glob(".*.part"):
                part.unlink(missing_ok=True)
        shutil.rmtree(folder / UNPACKING, ignore_errors=True)
        fcntl.flock(held, fcntl.LOCK_SH)
        return held, True
    with contextlib.suppress(OSError):
        fcntl.flock(held, fcntl.LOCK_SH)
    return held, False


def _on_begin(connection: Any) -> None:
    """The driver would commit each table of a migration separately; a transaction of our own holds
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


def _wait_long(connection: Any, _record: Any) -> None:
    cursor = connection.cursor()
    cursor.execute(f"PRAGMA busy_timeout={_PATIENT_MS}")
    cursor.close()


def _without_references(connection: Any, _record: Any) -> None:
    cursor = connection.cursor()
    cursor.execute("PRAGMA foreign_keys=OFF")
    cursor.close()
