"""How an open library is read: one moment at a time, from one thread."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import AbstractContextManager, contextmanager, nullcontext

from sqlalchemy import event
from sqlalchemy.orm import Session

from guide_arc.library.database import Database
from guide_arc.library.server import ServerDatabase
from guide_arc.library.tables import SettingRow


class LibraryRead:
    """What all that reads a library rests on."""

    def __init__(self, database: Database | ServerDatabase) -> None:
        self.folder = database.folder
        self.on_server = isinstance(database, ServerDatabase)
        self._database = database
        self._moment: Session | None = None

    def reading(self) -> AbstractContextManager[Session]:
        """What is read here is of one moment; see `Database.reading`."""
        return nullcontext(self._moment) if self._moment is not None else self._database.reading()

    @contextmanager
    def at_one_moment(self) -> Iterator[None]:
        """All that is read inside, by whatever asks, is of the same moment, and nothing is written:
        what belongs together is read together, and fast."""
        with self.reading() as session:
            rows: list[
                object
            ] = []  # a session forgets a row that nobody holds, and would ask again
            event.listen(session, "loaded_as_persistent", lambda _session, row: rows.append(row))
            before, self._moment = self._moment, session
            try:
                yield
            finally:
                self._moment = before

    def setting(self, key: str, default: str = "") -> str:
        with self.reading() as session:
            row = session.get(SettingRow, key)
            return row.value if row else default
