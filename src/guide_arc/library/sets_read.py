"""What is read of the sets of a library."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from sqlalchemy import func, select

from guide_arc.core.model.track import LandmarkTrack
from guide_arc.formats.track_file import parse_track
from guide_arc.library.errors import BadLibrary
from guide_arc.library.library_read import LibraryRead
from guide_arc.library.notes_rows import notes_of
from guide_arc.library.queue_rows import QueueFilter, QueuePage, QueueRow, page_of
from guide_arc.library.records import EarlierSet, SetNotes, SetRecord
from guide_arc.library.server_rows import server_page
from guide_arc.library.set_changes import set_row
from guide_arc.library.stored_json import stored
from guide_arc.library.tables import (
    ClientRow,
    ClipRow,
    ReviewRow,
    SetRow,
    TrackRow,
)


class SetsRead(LibraryRead):
    """The sets of an open library; `store.py` writes them. Use from one thread."""

    # One set

    def record(self, set_id: int) -> SetRecord:
        """One set. Raises Gone if it no longer exists."""
        with self.reading() as session:
            row = set_row(session, set_id)
            client = session.get_one(ClientRow, row.client_id)
            track = session.get(TrackRow, row.track_hash) if row.track_hash else None
            clip = session.get(ClipRow, row.clip_hash) if row.clip_hash else None
            notes = notes_of(session, row)
            of_clip = (0, 0.0)
            if clip is not None:
                of_clip = (
                    clip.frames,
                    clip.duration_s * clip.shown_hz / (row.capture_hz or clip.shown_hz),
                )
            frames, duration_s = (track.frames, track.duration_s) if track else of_clip
            view = row.view or (track.view if track else "none")
            return SetRecord(
                id=row.id,
                client=client.name,
                standard=row.standard,
                school=row.school,
                tempo=row.tempo,
                load_kg=row.load_kg,
                recorded=row.recorded,
                source_name=row.source_name,
                track_hash=row.track_hash,
                frames=frames,
                duration_s=duration_s,
                view=view,
                notes=notes,
                clip_hash=row.clip_hash,
                capture_hz=row.capture_hz,
                tracked_by=row.tracked_by,
                mirrored=row.mirrored,
                search=row.search,
            )

    def track_bytes(self, set_id: int) -> tuple[bytes, str]:
        """The file of a set's track as it came, with its name."""
        with self.reading() as session:
            row = set_row(session, set_id)
            if row.track_hash is None:
                raise BadLibrary(
                    f"no landmarks were found yet in {row.source_name}; mark them first"
                )
            file = session.get_one(TrackRow, row.track_hash).file
            name = row.source_name
        try:
            return (self.folder / "tracks" / file).read_bytes(), name
        except OSError as error:
            raise BadLibrary(
                f"the track of set {set_id} can't be read ({error.strerror})"
            ) from None

    def track_file(self, set_id: int) -> tuple[bytes, str]:
        """The same, with the ending that its form has here."""
        data, _name = self.track_bytes(set_id)
        return data, ".json" if data.lstrip()[:1] == b"{" else ".csv"

    def track(self, set_id: int) -> LandmarkTrack:
        return _parsed(*self.track_bytes(set_id))

    def queue(
        self, *, words: str = "", state: str | None = "waiting", limit: int = 500
    ) -> list[QueueRow]:
        """Sets that match every word (client, exercise, date, verdict), most in need first.

        Pain first, then how much is off, then the oldest.
        """
        return list(self.page(QueueFilter(words, state, limit=limit)).rows)

    def page(self, wanted: QueueFilter) -> QueuePage:
        """The same as the window shows it."""
        with self.reading() as session:
            if self.on_server:
                return server_page(session, wanted)
            return page_of(session.connection().exec_driver_sql, wanted)

    def same_set(
        self, standard: str, notes: SetNotes, *, track: str | None = None, clip: str | None = None
    ) -> int | None:
        """The set of a recording (by its track's or its clip's hash) with this exercise and these
        bounds; None if there is none: one recording may hold several sets."""
        of = SetRow.track_hash == track if track else SetRow.clip_hash == clip
        with self.reading() as session:
            for row in session.scalars(select(SetRow).where(of, SetRow.standard == standard)):
                if notes_of(session, row).settings.bounds == notes.settings.bounds:
                    return row.id
        return None

    def shown_with(self, set_id: int) -> int | None:
        """The set whose reps this one's recording shows from another side."""
        with self.reading() as session:
            return session.scalar(select(SetRow.other_view_of).where(SetRow.id == set_id))

    def other_views(self, set_id: int) -> list[int]:
        """The sets whose recordings show the same reps as this one from another side."""
        ask = select(SetRow.id).where(SetRow.other_view_of == set_id).order_by(SetRow.id)
        with self.reading() as session:
            return list(session.scalars(ask))

    def earlier_sets(self, set_id: int, limit: int = 20) -> list[EarlierSet]:
        """Other sets of the same client and standard, the latest before this one first, then later
        ones."""
        with self.reading() as session:
            row = set_row(session, set_id)
            ask = (
                select(SetRow.id, SetRow.recorded, SetRow.load_kg, SetRow.school)
                .where(SetRow.client_id == row.client_id, SetRow.standard == row.standard)
                .where(
                    SetRow.id != row.id,
                    SetRow.track_hash.is_not(None),
                    SetRow.other_view_of.is_(None),
                )
                .order_by(
                    (SetRow.recorded > row.recorded), SetRow.recorded.desc(), SetRow.id.desc()
                )
                .limit(limit)
            )
            return [EarlierSet(*found) for found in session.execute(ask)]

    def ids(self) -> frozenset[int]:
        """Every set's."""
        with self.reading() as session:
            return frozenset(session.scalars(select(SetRow.id)))

    def reviewable(self) -> list[int]:
        """Every set with landmarks, in the order in which they came."""
        with self.reading() as session:
            ask = select(SetRow.id).where(SetRow.track_hash.is_not(None)).order_by(SetRow.id)
            return list(session.scalars(ask))

    def count(self, state: str | None = None) -> int:
        ask = select(func.count()).select_from(SetRow)
        if state:
            ask = ask.where(SetRow.state == state)
        with self.reading() as session:
            return session.scalar(ask) or 0

    def count_of_standard(self, id: str) -> int:
        """How many sets follow a standard."""
        with self.reading() as session:
            ask = select(func.count()).select_from(SetRow).where(SetRow.standard == id)
            return session.scalar(ask) or 0

    def sets_of_standard(self, id: str, limit: int | None = None) -> list[tuple[int, str]]:
        """The sets of a standard, latest first: (id, client)."""
        ask = (
            select(SetRow.id, ClientRow.name)
            .join(ClientRow, ClientRow.id == SetRow.client_id)
            .where(SetRow.standard == id, SetRow.track_hash.is_not(None))
            .order_by(SetRow.recorded.desc(), SetRow.id.desc())
            .limit(limit)
        )
        with self.reading() as session:
            return [(row_id, name) for row_id, name in session.execute(ask)]

    # Reviews and tracks

    def without_review(self) -> list[int]:
        """Sets that wait for a review to be computed."""
        with self.reading() as session:
            ask = (
                select(SetRow.id)
                .outerjoin(ReviewRow)
                .where(ReviewRow.set_id.is_(None), SetRow.track_hash.is_not(None))
            )
            return sorted(session.scalars(ask))

    def kept_review(self, set_id: int) -> dict[str, Any] | None:
        """The `set-review/1` document that was last computed for a set."""
        with self.reading() as session:
            row = session.get(ReviewRow, set_id)
            return (stored(row.document) or None) if row else None

    def set_with_track(self, key: str) -> int | None:
        with self.reading() as session:
            return session.scalar(
                select(SetRow.id).where(SetRow.track_hash == key).order_by(SetRow.id).limit(1)
            )

    def names_track(self, key: str) -> bool:
        with self.reading() as session:
            return session.get(TrackRow, key) is not None


@lru_cache(maxsize=6)
def _parsed(data: bytes, name: str) -> LandmarkTrack:
    """A track's file as a track. A coach goes to and fro between a few sets: each is parsed
    once."""
    return parse_track(data, name)
