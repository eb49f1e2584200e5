"""What is read of the clients of a library by name; `clients.py` has their profiles."""

from __future__ import annotations

from sqlalchemy import func, select

from guide_arc.library.attribution import ClientName
from guide_arc.library.library_read import LibraryRead
from guide_arc.library.stored_json import stored
from guide_arc.library.tables import ClientRow, SetRow


class ClientsRead(LibraryRead):
    """The clients of an open library. Use from one thread."""

    def clients(self) -> list[str]:
        with self.reading() as session:
            return list(session.scalars(select(ClientRow.name).order_by(ClientRow.name)))

    def client_names(self) -> list[ClientName]:
        """Every client's name, with the words that were agreed on for their files."""
        with self.reading() as session:
            ask = select(ClientRow.name, ClientRow.profile).order_by(ClientRow.name)
            return [
                ClientName(name, _file_words(profile)) for name, profile in session.execute(ask)
            ]

    def exercises_of(self, client: str) -> list[str]:
        """The ids of the exercises that a client has sets of, the one done last first."""
        with self.reading() as session:
            ask = (
                select(SetRow.standard)
                .join(ClientRow, ClientRow.id == SetRow.client_id)
                .where(ClientRow.name == client)
                .group_by(SetRow.standard)
                .order_by(func.max(SetRow.recorded).desc(), SetRow.standard)
            )
            return list(session.scalars(ask))

    def stature(self, client: str) -> float | None:
        """A client's stature in metres, if known."""
        with self.reading() as session:
            return session.scalar(select(ClientRow.stature_m).where(ClientRow.name == client))


def _file_words(profile: str) -> tuple[str, ...]:
    words = stored(profile).get("file_words", [])
    return tuple(w for w in words if isinstance(w, str)) if isinstance(words, list) else ()
