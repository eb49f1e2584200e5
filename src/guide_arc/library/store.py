"""The sets of a library: adding, changing, deciding; what is read of them is in `sets_read.py`.

Every change is one transaction (`database.py`); a track's file is whole before a set names it.
"""

from __future__ import annotations

import contextlib
import hashlib
import json
from collections.abc import Callable, Mapping, Sequence
from contextlib import AbstractContextManager
from datetime import datetime
from pathlib import Path
from typing import Any, Final

from sqlalchemy import select, text
from sqlalchemy.orm import Session

from guide_arc.core.model.track import LandmarkTrack
from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.track_file import parse_track
from guide_arc.library.aside import Aside
from guide_arc.library.clients_read import ClientsRead
from guide_arc.library.database import Database
from guide_arc.library.forgetting import is_about, without_clients
from guide_arc.library.full_text import TIDY, said_in
from guide_arc.library.leftovers import Leftovers
from guide_arc.library.merging import Merged, merged_notes
from guide_arc.library.notes_rows import notes_of, put_notes
from guide_arc.library.place import is_team
from guide_arc.library.plain_values import (
    file_name_of,
    load_of,
    moment_of,
    tempo_of,
)
from guide_arc.library.records import (
    QUARANTINE,
    SetNotes,
    SetPart,
)
from guide_arc.library.server import ServerDatabase, team_place
from guide_arc.library.set_changes import change_set, client_named, join_views, set_row, split_set
from guide_arc.library.sets_read import SetsRead
from guide_arc.library.tables import (
    KeptRow,
    ReviewRow,
    SetRow,
    SettingRow,
    TrackRow,
)

# No write takes so long: on a team's folder, what is named for longer was left by a kill.
_LEFT_FOR_S: Final = 3600.0


class Library(SetsRead, ClientsRead):
    """An open library. Use from one thread; other threads open their own on the same folder."""

    def __init__(self, database: Database | ServerDatabase, aside: Aside | None = None) -> None:
        super().__init__(database)
        # What another process opens it by.
        self.where: Path | str = (
            database.place.text if isinstance(database, ServerDatabase) else database.folder
        )
        self._own_aside = aside is None
        self.aside = aside or Aside(database.folder)
        self.leftovers = Leftovers(database.folder, self.names_track)
        self.read_only = isinstance(database, Database) and database.read_only
        if database.alone:
            self.leftovers.sweep()
        elif self.on_server:
            with contextlib.suppress(OSError):  # a reader may not delete there
                self.leftovers.sweep(_LEFT_FOR_S)

    @classmethod
    def open(
        cls,
        where: Path | str,
        *,
        aside: Aside | None = None,
        make: bool = True,
        replaces_lost: bool = False,
        patient: bool = False,
    ) -> Library:
        """Open the library in a folder, or a team's library by its address (see `team_place`).

        aside : keeps removed files for undo, for callers that open the library several times; by
            default they are kept until this library closes
        make : create the library if it does not exist; False for a library that was open before
        replaces_lost : create it even if the folder has recordings whose library file is lost
        patient : writes wait for minutes for another one, for commands that process many files
            Raises BadLibrary if the folder can't be used or a newer program wrote it.
        """
        if is_team(where):
            return cls(ServerDatabase.open(team_place(str(where))), aside)
        return cls(
            Database.open(Path(where), make=make, replaces_lost=replaces_lost, patient=patient),
            aside,
        )

    def close(self) -> None:
        if self._own_aside:
            self.aside.let_go()
        self._database.close()

    def lose_traces(self, clients: Sequence[str]) -> None:
        """Nothing that was erased stays in the library's own file, its log, or what is remembered
        next to the sets."""
        with self.writing() as session:
            for row in session.scalars(select(SettingRow)):
                row.value = without_clients(row.value, clients)
            for quarantined in session.scalars(select(KeptRow).where(KeptRow.kind == QUARANTINE)):
                if is_about(quarantined.document, clients):
                    session.delete(quarantined)
            session.flush()
            if not self.on_server:
                session.execute(text(TIDY))
        self._database.empty_log()

    def writing(self) -> AbstractContextManager[Session]:
        """One transaction: atomically; see `Database.writing`."""
        assert self._moment is None, "what is read at one moment would not hold what is written now"
        return self._database.writing()

    # Adding

    def add_set(
        self,
        data: bytes,
        source_name: str,
        *,
        client: str,
        standard: str,
        school: str,
        tempo: str | None = None,
        recorded: str | None = None,
        load_kg: float | None = None,
        pain: bool = False,
        notes: SetNotes | None = None,
        again: bool = False,
    ) -> tuple[int, bool]:
        """Take a track file's bytes in as a set. Returns its id, and whether it is new.

        The same bytes twice make one set, unless `again` says that it is another one of the same
        recording. `notes` : what the coach added already. Raises BadFile for a file that is no
        track, and BadInput for what no set can have.
        """
        track = parse_track(data, source_name)
        key = hashlib.sha256(data).hexdigest()
        known = None if again else self.set_with_track(key)
        if known is not None:
            return known, False
        tempo, load = tempo_of(tempo), load_of(track.facts.load_kg if load_kg is None else load_kg)
        recorded = (
            moment_of(recorded)
            or moment_of(track.facts.recorded)
            or datetime.now().isoformat(timespec="minutes")
        )
        with self.leftovers.watching([key]), self.writing() as session:
            if not again:
                # Another command may have taken the same file in since it was asked about.
                taken = session.scalar(
                    select(SetRow.id).where(SetRow.track_hash == key).order_by(SetRow.id).limit(1)
                )
                if taken is not None:
                    return taken, False
            track_row = self.write_track(data, source_name, track)
            client_row = client_named(session, client, track.facts.subject_height_m)
            session.merge(track_row)
            session.flush()
            row = SetRow(
                client_id=client_row.id,
                track_hash=key,
                source_name=file_name_of(source_name),
                standard=standard,
                school=school,
                tempo=tempo,
                load_kg=load,
                recorded=recorded,
                pain=pain,
            )
            session.add(row)
            session.flush()
            if notes is not None:
                put_notes(session, row, notes)
            return row.id, True

    def write_track(self, data: bytes, name: str, track: LandmarkTrack) -> TrackRow:
        """Store a track's file; the row that a set may then name."""
        key = hashlib.sha256(data).hexdigest()
        suffix = ".json" if Path(name).suffix.lower() == ".json" else ".csv"
        write_atomic(self.folder / "tracks" / f"{key}{suffix}", data, like_folder=True)
        return TrackRow(
            hash=key,
            file=f"{key}{suffix}",
            frames=track.frames,
            duration_s=track.duration_s,
            view=track.stated_view,
        )

    def split_set(self, set_id: int, parts: Sequence[SetPart]) -> list[int]:
        """Make several sets of one recording, each with its own standard and bounds, in one
        transaction.

        The first part stays under the set's own id; the ids of all parts are returned in order.
        What was decided about the whole is about another exercise now and goes.
        """
        with self.writing() as session:
            return split_set(session, set_id, parts)

    def change_set(self, set_id: int, **changes: Any) -> None:
        """Correct the details of a set: client, standard, school, tempo, load_kg, recorded,
        source_name.

        Raises BadInput for a word that names no such field.
        """
        with self.writing() as session:
            change_set(session, set_id, changes)

    def join_views(self, set_id: int, main: int | None) -> None:
        """Say that a recording shows the reps of another set from another side; `main` None parts
        them.

        Raises BadInput if that makes no sense.
        """
        with self.writing() as session:
            join_views(session, set_id, main)

    # Reviews and decisions

    def keep_review(
        self,
        set_id: int,
        program: str,
        document: Mapping[str, Any],
        summary: Mapping[str, Any],
        trace: str = "",
    ) -> None:
        """Keep a computed review in place of the one before. Decisions stay as they are."""
        with self.writing() as session:
            session.merge(
                ReviewRow(
                    set_id=set_id,
                    program=program,
                    document=json.dumps(document),
                    summary=json.dumps({k: v for k, v in summary.items() if k != "found"}),
                    trace=trace,
                    said=said_in(summary.get("found", ())),
                )
            )
            row = set_row(session, set_id)
            row.urgency, row.clean = float(summary.get("urgency", 0.0)), summary.get("off") == 0

    def keep_notes(
        self, set_id: int, notes: SetNotes, since: SetNotes | None = None
    ) -> Merged[SetNotes]:
        """Keep the coach's document of a set; the notes now saved, with the conflicts from another
        window.

        since : the document from which this one was made; what came from elsewhere meanwhile is
            joined with it. None keeps it whole, whatever is there.
        """
        with self.writing() as session:
            row = set_row(session, set_id)
            out = Merged(notes)
            if since is not None:
                out = merged_notes(since, notes, notes_of(session, row))
            put_notes(session, row, out.value)
        return out

    def keep_setting(self, key: str, value: str) -> None:
        with self.writing() as session:
            session.merge(SettingRow(key=key, value=value))

    def change_setting(self, key: str, change: Callable[[str], str]) -> None:
        """Change a setting in one transaction. change : gets "" if it was never saved"""
        with self.writing() as session:
            row = session.get(SettingRow, key)
            session.merge(SettingRow(key=key, value=change(row.value if row else "")))
