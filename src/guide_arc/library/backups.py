"""Copies of a library's file that hold all that was written, whatever still is in its log."""

from __future__ import annotations

import contextlib
import os
import re
import sqlite3
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import date
from pathlib import Path
from typing import Final

from guide_arc.formats.atomic import part_of
from guide_arc.library.errors import BadLibrary
from guide_arc.library.forgetting import is_about, without_clients
from guide_arc.library.full_text import TIDY

FOLDER: Final = "backups"
# As many days, each with what stood at its first opening.
KEPT: Final = 7
_FILE: Final = "library.sqlite"


@dataclass(frozen=True)
class Backup:
    """A copy that can be brought back. day : of the making; what : it holds, in words"""

    path: Path
    day: str
    what: str


def copy_of(library: Path, target: Path) -> None:
    """Copy a library's file through SQLite's own backup, look it over, and only then give it its
    name.

    Raises BadLibrary if the copy is not whole or can't be written; nothing is left of it then.
    """
    part = part_of(target)
    part.unlink(missing_ok=True)
    try:
        os.close(os.open(part, os.O_CREAT | os.O_WRONLY, 0o600))
        os.chmod(part, 0o600)
        with _opened(library) as source, _opened(part) as copy:
            source.backup(copy)
            # A single file: the rename would leave a separate log behind.
            copy.execute("pragma journal_mode = delete")
            (said,) = copy.execute("pragma integrity_check").fetchone()
        if said != "ok":
            raise BadLibrary(
                f"a copy of the library could not be made ({said}); nothing was changed"
            )
        part.replace(target)
    except (OSError, sqlite3.Error) as error:
        raise BadLibrary(
            f"a copy of the library could not be made ({error}); nothing was changed"
        ) from None
    finally:
        for left in (part, *(Path(f"{part}{end}") for end in ("-wal", "-shm", "-journal"))):
            left.unlink(missing_ok=True)


def daily(folder: Path, today: date) -> Path | None:
    """The day's copy, unless there is one; the oldest beyond the kept ones go. The copy's file,
    where one was made.

    Raises BadLibrary if it can't be made.
    """
    place = folder / FOLDER
    target = place / f"library-{today.isoformat()}.sqlite"
    if target.exists():
        return None
    try:
        place.mkdir(exist_ok=True, mode=0o700)
    except OSError as error:
        raise BadLibrary(
            f"the day's copy of the library could not be made ({error.strerror})"
        ) from None
    copy_of(folder / _FILE, target)
    for old in _in_order(place, today)[:-KEPT]:
        old.unlink(missing_ok=True)
    return target


def _in_order(place: Path, today: date) -> list[Path]:
    """The daily copies, the oldest first. One that is dated after today was made while the clock
    was wrong: it counts as older than any other, or each new copy would be deleted as the
    oldest."""

    def age(path: Path) -> tuple[bool, str]:
        return _day(path) <= today.isoformat(), _day(path)

    return sorted(place.glob("library-????-??-??.sqlite"), key=age)


def backups(folder: Path) -> list[Backup]:
    """The copies that can be brought back, the newest first; those that can't be read are left
    out."""
    found = []
    for path in _copies(folder):
        with contextlib.suppress(sqlite3.Error, TypeError, OSError):
            found.append(Backup(path, _day(path), _holds(path)))
    return sorted(found, key=lambda b: (b.day, b.path.name), reverse=True)


def bring_back(folder: Path, backup: Path, today: date) -> Path | None:
    """Put a copy in the place of the library's file; windows that have it open see it at once. The
    present library is copied first if it can be read: the path of that copy.

    Raises BadLibrary for an incomplete copy, and if it can't be written; nothing is
    changed then.
    """
    file = folder / _FILE
    place = folder / FOLDER
    try:
        with _opened(backup) as source:
            if not _sound(source):
                raise BadLibrary(f"the copy {backup.name} is not whole; choose another")
            place.mkdir(exist_ok=True, mode=0o700)
            number = len(list(place.glob("before-*.sqlite"))) + 1
            kept, moved = None, False
            if file.exists() and file.stat().st_size:
                if _is_sound(file):
                    kept = place / f"before-{today.isoformat()}-{number}.sqlite"
                    copy_of(file, kept)
                else:
                    move(file, place / f"damaged-{today.isoformat()}-{number}.bytes")
                    moved = True
            try:
                _write_over(source, file)
            except (OSError, sqlite3.Error):
                if moved:
                    move(place / f"damaged-{today.isoformat()}-{number}.bytes", file)
                raise
        os.chmod(file, 0o600)
    except (OSError, sqlite3.Error) as error:
        raise BadLibrary(
            f"the copy {backup.name} can't be brought back ({error}); nothing was changed"
        ) from None
    return kept


def _write_over(source: sqlite3.Connection, file: Path) -> None:
    """Numbers that the file gave out since the copy was made are not given out again: other windows
    may hold them."""
    os.close(os.open(file, os.O_CREAT | os.O_RDWR, 0o600))
    with _opened(file) as target, contextlib.closing(sqlite3.connect(":memory:")) as made:
        source.backup(made)
        _count_on_from(made, _counts(target))
        source = made
        target.execute("pragma busy_timeout = 10000")
        target.execute("pragma synchronous = full")
        target.execute("pragma secure_delete = on")
        source.backup(target)
        target.execute("pragma journal_mode = wal")


def _counts(database: sqlite3.Connection) -> dict[str, int]:
    """By table the last number that was given out; empty if the file can't be read."""
    try:
        return dict(database.execute("select name, seq from sqlite_sequence").fetchall())
    except sqlite3.Error:
        return {}


def _count_on_from(copy: sqlite3.Connection, counts: Mapping[str, int]) -> None:
    with contextlib.suppress(sqlite3.Error), copy:
        for table, last in counts.items():
            copy.execute(
                "update sqlite_sequence set seq = max(seq, ?) where name = ?", (last, table)
            )
            copy.execute(
                "insert into sqlite_sequence (name, seq) select ?, ? where exists (select 1 from"
                " sqlite_master where name = ?) and not exists (select 1 from sqlite_sequence where"
                " name = ?)",
                (table, last, table, table),
            )


def _sound(database: sqlite3.Connection) -> bool:
    return bool(database.execute("pragma integrity_check").fetchone() == ("ok",))


def _is_sound(file: Path) -> bool:
    """Whether a file can be read as a library. Raises OSError or sqlite3.OperationalError where the
    disk is in the way."""
    try:
        with _opened(file) as there:
            return _sound(there)
    except sqlite3.OperationalError:
        raise
    except sqlite3.DatabaseError:
        return False


def move(file: Path, to: Path) -> None:
    """A database with what is next to it."""
    for end in ("", "-wal", "-shm"):
        with contextlib.suppress(FileNotFoundError):
            Path(f"{file}{end}").replace(f"{to}{end}")


@dataclass(frozen=True)
class Erased:
    """What is gone from a library for good.

    sets: (number, hash of its track, hash of its clip), with "" for none
    recordings: (folder, hash) of the files
    clients: by name
    """

    sets: tuple[tuple[int, str, str], ...]
    recordings: tuple[tuple[str, str], ...]
    clients: tuple[str, ...]


def lose_in_backups(folder: Path, gone: Sequence[Erased], owners: Mapping[int, str]) -> None:
    """Erase from every copy what was erased from the library. A copy in which that can't be done is
    deleted.

    owners: by the number of each set in the library the name of its client. A copy may list one of
    them under a client who was erased since: it is kept, under the client whom it belongs to now.
    """
    for path in _copies(folder):
        try:
            with _opened(path) as copy:
                copy.execute("pragma secure_delete = on")
                copy.execute("pragma foreign_keys = off")
                before = copy.total_changes
                with copy:
                    for one in gone:
                        _lose(copy, one, owners)
                    if copy.execute("select 1 from sqlite_master where name = 'words'").fetchone():
                        copy.execute(TIDY)
                if copy.total_changes > before:
                    copy.execute("vacuum")
        except sqlite3.Error:
            path.unlink(missing_ok=True)
    for damaged in (folder / FOLDER).glob("damaged-*"):
        damaged.unlink(missing_ok=True)


def recordings_in_backups(folder: Path) -> set[tuple[str, str]]:
    """The recordings that the copies name: (folder, hash)."""
    out: set[tuple[str, str]] = set()
    for path in _copies(folder):
        with contextlib.suppress(sqlite3.Error), _opened(path) as copy:
            columns = {row[1] for row in copy.execute("pragma table_info(recorded_set)")}
            for place, column in (("tracks", "track_hash"), ("clips", "clip_hash")):
                if column in columns:
                    found = copy.execute(f"select distinct {column} from recorded_set")
                    out |= {(place, key) for (key,) in found if key}
    return out


def _give(copy: sqlite3.Connection, set_id: int, owner: str) -> None:
    """Make a set that of a client, who is added to the copy where they are not in it."""
    if copy.execute("select 1 from client where name = ?", (owner,)).fetchone() is None:
        columns = {row[1] for row in copy.execute("pragma table_info(client)")}
        more, empty = (", profile", ", '{}'") if "profile" in columns else ("", "")
        copy.execute(f"insert into client (name{more}) values (?{empty})", (owner,))
    (id,) = copy.execute("select id from client where name = ?", (owner,)).fetchone()
    copy.execute("update recorded_set set client_id = ? where id = ?", (id, set_id))
    if copy.execute("select 1 from sqlite_master where name = 'kept'").fetchone():
        copy.execute(
            "update kept set client_id = ? where kind = 'reviewed' and name = ?", (id, str(set_id))
        )


def _lose(copy: sqlite3.Connection, gone: Erased, owners: Mapping[int, str]) -> None:
    columns = {row[1] for row in copy.execute("pragma table_info(recorded_set)")}
    clip = "coalesce(clip_hash, '')" if "clip_hash" in columns else "''"
    tables = {row[0] for row in copy.execute("select name from sqlite_master where type = 'table'")}
    # The same number and one recording the same: landmarks may have been found after the copy was
    # made.
    ids = [
        row[0]
        for of in gone.sets
        for row in copy.execute(
            "select id from recorded_set where id = ?1"
            f" and ((?2 <> '' and track_hash = ?2) or (?3 <> '' and {clip} = ?3))",
            of,
        )
    ]
    for name in gone.clients:
        theirs = copy.execute(
            "select s.id from recorded_set s join client c on c.id = s.client_id where c.name = ?",
            (name,),
        )
        for (set_id,) in theirs.fetchall():
            if set_id in owners:
                _give(copy, set_id, owners[set_id])
            else:
                ids.append(set_id)
    for set_id in ids:
        for table, column in (("decision", "set_id"), ("review", "set_id"), ("recorded_set", "id")):
            copy.execute(f"delete from {table} where {column} = ?", (set_id,))
        if "other_view_of" in columns:
            copy.execute(
                "update recorded_set set other_view_of = null where other_view_of = ?", (set_id,)
            )
        if "kept" in tables:
            copy.execute("delete from kept where kind = 'reviewed' and name = ?", (str(set_id),))
    for table, column in (("track", "track_hash"), ("clip", "clip_hash")):
        if table in tables and column in columns:
            # Recordings that only the erased sets named.
            copy.execute(
                f"delete from {table} where hash not in "
                f"(select {column} from recorded_set where {column} is not null)"
            )
    if "kept" in tables:
        set_aside = copy.execute(
            "select id, document from kept where kind = 'set-aside'"
        ).fetchall()
        own = [(id,) for id, document in set_aside if is_about(document, gone.clients)]
        copy.executemany("delete from kept where id = ?", own)
    for key, value in copy.execute("select key, value from setting").fetchall():
        left = without_clients(value, gone.clients)
        if left != value:
            copy.execute("update setting set value = ? where key = ?", (left, key))
    for name in gone.clients:
        if "kept" in tables:
            copy.execute(
                "delete from kept where client_id in (select id from client where name = ?)",
                (name,),
            )
        copy.execute("delete from client where name = ?", (name,))


def _copies(folder: Path) -> Iterator[Path]:
    yield from sorted((folder / FOLDER).glob("*.sqlite"))
    yield from sorted(folder.glob("library-before-*.sqlite"))


def _day(path: Path) -> str:
    named = re.search(r"\d{4}-\d\d-\d\d", path.name)
    return named.group() if named else date.fromtimestamp(path.stat().st_mtime).isoformat()


def _holds(path: Path) -> str:
    with _opened(path) as copy:
        sets, last = copy.execute("select count(*), max(recorded) from recorded_set").fetchone()
        (clients,) = copy.execute("select count(*) from client").fetchone()
        (done,) = copy.execute("select count(*) from recorded_set where state = 'done'").fetchone()
    latest = f", the latest of {last[:10]}" if last else ""
    return f"{_count(sets, 'set')} of {_count(clients, 'client')}{latest}; {done} reviewed"


def _count(count: int, what: str) -> str:
    return f"{count} {what}{'' if count == 1 else 's'}"


@contextmanager
def _opened(file: Path) -> Iterator[sqlite3.Connection]:
    """A database's file; never made by looking at it."""
    connection = sqlite3.connect(f"{file.absolute().as_uri()}?mode=rw", uri=True)
    try:
        yield connection
    finally:
        connection.close()
