"""Sets that came as clips: taking them in, what was marked on them, and the landmarks found in
them."""

from __future__ import annotations

import contextlib
import hashlib
import json
import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import datetime
from pathlib import Path
from typing import Any, Final

from sqlalchemy import select
from sqlalchemy.orm import Session

from guide_arc.capture.tracking.landmarks import joined, landmark_track
from guide_arc.capture.tracking.tracker import Tracker
from guide_arc.capture.video.clip import Clip
from guide_arc.core.kinematics.calibrate import calibration_of
from guide_arc.core.model.calibration import Calibration
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import on_other_side
from guide_arc.core.model.marks import MARKABLE, Line, Mark, Marks
from guide_arc.core.model.track import STATED_VIEWS, CameraPlace, LandmarkTrack, SetFacts
from guide_arc.formats.errors import BadFile
from guide_arc.formats.track_csv import csv_text
from guide_arc.lazily import lazily
from guide_arc.library.backups import recordings_in_backups
from guide_arc.library.clip_folder import BusyClip, ClipFolder, PendingClip
from guide_arc.library.erased import held_recordings
from guide_arc.library.errors import BadLibrary
from guide_arc.library.merging import Merged, merged_marks
from guide_arc.library.plain_values import file_name_of, load_of, moment_of, tempo_of
from guide_arc.library.set_changes import client_named, set_row
from guide_arc.library.store import Library
from guide_arc.library.tables import ClientRow, ClipRow, ReviewRow, SetRow, TrackRow

with lazily():
    from guide_arc.capture.tracking.calibrated import arm_px, filled
    from guide_arc.capture.tracking.following import MarkedPoints

# The name under which the tracker of marks keeps what it found.
_BY_HAND = "marked points"

Progress = Callable[[float], None]
# How often marks are joined again where other windows keep theirs at the same time.
_MOST_TRIES: Final = 20


@dataclass(frozen=True)
class ClipDetails:
    """The details of a clip at its import."""

    client: str
    standard: str
    school: str
    view: str
    tempo: str | None = None
    load_kg: float | None = None
    recorded: str | None = None
    pain: bool = False
    capture_hz: float | None = None

    def __post_init__(self) -> None:
        if self.view not in STATED_VIEWS:
            raise BadInput(
                f"the view is {self.view!r}; it must be one of {', '.join(STATED_VIEWS)}"
            )
        if self.capture_hz is not None and not 5 <= self.capture_hz <= 1000:
            raise BadInput(
                f"the capture rate is {self.capture_hz:g}; it must be from 5 to 1000 frames a"
                " second"
            )


class _MarkedMeanwhile(Exception):
    """Another window kept its marks between the reading and the writing."""


class ClipSets:
    """What a library does with clips."""

    def __init__(self, library: Library) -> None:
        self.library = library
        self.folder = ClipFolder(library.folder)

    # Taking in

    def add(
        self, source: Path, details: ClipDetails, progress: Progress = lambda _share: None
    ) -> tuple[int, bool]:
        """Copy a clip in and make a set of it; (its id, whether it is new). The same clip twice
        makes one set.

        progress : a share from 0 to 1; may raise to stop, and the next call goes on from there
        Raises BadFile for what is no clip.
        """
        name, clip, slip = self.folder.take(source, asdict(details), progress)
        return self.arrive(name, clip, slip, source, details)

    def arrive(
        self, name: str, clip: Clip, slip: Path, source: Path, details: ClipDetails
    ) -> tuple[int, bool]:
        """Make a set of a clip that the folder has taken; (its id, whether it is new)."""
        found = self._with_clip(name)
        new = found is None
        if found is None:
            found, new = self._set_of(name, clip, source, details, once=True)
        self.folder.commit(slip)
        return found, new

    def resume(
        self, coming: PendingClip, progress: Progress = lambda _share: None
    ) -> tuple[int, bool]:
        """Finish what a kill cut off. Raises BadInput, and forgets the clip, where that can't be
        done."""
        try:
            details = ClipDetails(**coming.details)
            there = self.folder.find(coming.name) if coming.name else None
            if there is not None:  # all of it was copied, so the file that it came from may be gone
                arrived = self.arrive(coming.name, there, coming.slip, coming.source, details)
                self.folder.abandon(coming)  # after a cut of power the half copy may be there again
                return arrived
            return self.add(coming.source, details, progress)
        except BusyClip:
            raise
        except (BadInput, TypeError) as error:
            self.abandon(coming)
            if isinstance(error, BadInput):
                raise
            raise BadInput(f"{coming.source.name} was not added; add it again") from None

    def abandon(self, coming: PendingClip) -> None:
        """Forget a clip that was on its way, and what had come of it already.

        What another set, an undo or a copy of the library needs stays.
        """
        recording = ("clips", coming.name)
        where = self.library.folder
        # In a transaction, so that nobody makes a set of it meanwhile.
        with self.library.writing() as session:
            wanted = held_recordings(where) | recordings_in_backups(where)
            if (
                coming.name
                and session.get(ClipRow, coming.name) is None
                and recording not in wanted
            ):
                self.folder.remove(coming.name)
            self.folder.abandon(coming)

    def abandon_of(self, clients: Sequence[str]) -> None:
        """Forget the clips of these clients that were on their way."""
        for coming in self.folder.pending():
            if coming.details.get("client") in clients:
                self.abandon(coming)

    def _with_clip(self, name: str) -> int | None:
        with self.library.reading() as session:
            ask = select(SetRow.id).where(SetRow.clip_hash == name).order_by(SetRow.id).limit(1)
            return session.scalar(ask)

    def new_set(self, name: str, clip: Clip, source: Path, details: ClipDetails) -> int:
        """A set of a clip that the folder has taken, next to others that there may be of it; its
        id."""
        return self._set_of(name, clip, source, details, once=False)[0]

    def _set_of(
        self, name: str, clip: Clip, source: Path, details: ClipDetails, *, once: bool
    ) -> tuple[int, bool]:
        """The same; (its id, whether it is new). once : the one that another command made meanwhile
        is used"""
        taken = (
            datetime.fromtimestamp(source.stat().st_mtime) if source.exists() else datetime.now()
        )
        with self.library.writing() as session:
            there = session.scalar(
                select(SetRow.id).where(SetRow.clip_hash == name).order_by(SetRow.id).limit(1)
            )
            if once and there is not None:
                return there, False
            if self.folder.find(name) is None:
                raise BadFile(
                    "it was removed while it was added", path=source, right="add it again"
                )
            client = client_named(session, details.client)
            session.merge(
                ClipRow(
                    hash=name,
                    file=clip.path.name,
                    frames=clip.frames,
                    shown_hz=clip.shown_hz,
                    duration_s=clip.duration_s,
                    width=clip.width,
                    height=clip.height,
                )
            )
            session.flush()
            row = SetRow(
                client_id=client.id,
                track_hash=None,
                clip_hash=name,
                source_name=file_name_of(source.name),
                standard=details.standard,
                school=details.school,
                tempo=tempo_of(details.tempo),
                load_kg=load_of(details.load_kg),
                pain=details.pain,
                view=details.view,
                capture_hz=details.capture_hz,
                recorded=moment_of(details.recorded) or taken.isoformat(timespec="minutes"),
            )
            session.add(row)
            session.flush()
            return row.id, True

    # Reading

    def clip(self, set_id: int) -> Clip | None:
        """The clip of a set; None for a set that came as a track, or whose clip is gone from the
        folder."""
        record = self.library.record(set_id)
        if record.clip_hash is None:
            return None
        return self.folder.find(record.clip_hash, record.capture_hz, mirrored=record.mirrored)

    def marks(self, set_id: int) -> Marks:
        """What was marked on a set's clip; nothing yet for a new one."""
        with self.library.reading() as session:
            row = set_row(session, set_id)
            return marks_of(row.marks, row.view or "left")

    def keep_marks(
        self,
        set_id: int,
        marks: Marks,
        since: Marks | None = None,
        mirrored: bool | None = None,
        *,
        scale: bool = False,
    ) -> Merged[Marks]:
        """Keep what was marked on a set's clip, joined with what another window marked meanwhile.

        since : the marks from which these were made; None keeps them whole, whatever is there
        mirrored : how the marked picture was shown; another window may have mirrored it since
        scale : in the same transaction the landmarks get the scale, the vertical and the side that
            the marks say
        """
        for _ in range(_MOST_TRIES):
            with contextlib.suppress(_MarkedMeanwhile):
                return self._keep_marks(set_id, marks, since, mirrored, scale=scale)
        raise BadLibrary("other windows mark this clip all the time; try again in a moment")

    def _keep_marks(
        self, set_id: int, marks: Marks, since: Marks | None, mirrored: bool | None, *, scale: bool
    ) -> Merged[Marks]:
        clip = self.clip(set_id) if mirrored is not None else None
        with self.library.reading() as session:
            row = set_row(session, set_id)
            read = (row.marks, row.view, row.mirrored, row.track_hash)
            tracked_by = row.tracked_by
        turned = clip is not None and read[2] != mirrored
        stored = marks_of(read[0], read[1] or "left")
        if turned and clip is not None:
            stored = stored.mirrored(clip.width)
        out = Merged(marks) if since is None else merged_marks(since, marks, stored)
        kept = out.value.mirrored(clip.width) if turned and clip is not None else out.value

        def put(session: Session) -> None:
            own = set_row(session, set_id)
            if (own.marks, own.view, own.mirrored, own.track_hash) != read:
                raise _MarkedMeanwhile
            own.marks, own.view = marks_text(kept), kept.view

        track = self.library.track(set_id) if scale and read[3] is not None else None
        scaled = _seen_as(track, kept) if track else None
        if (
            track
            and scaled
            and (scaled.calibration, scaled.camera, scaled.view)
            != (track.calibration, track.camera, track.view)
        ):
            self.keep_track(set_id, scaled, tracked_by, put)
        else:
            with self.library.writing() as session:
                put(session)
        return out

    def turn_back(self, set_id: int, mirrored: bool) -> None:
        """Say whether a clip was filmed as in a mirror. Its pictures, marks and landmarks are
        turned left to right; what a model took for the left arm was the right one then, what was
        marked by hand keeps its name.
        """
        record, clip, marks = self.library.record(set_id), self.clip(set_id), self.marks(set_id)
        if clip is None or record.mirrored == mirrored:
            return
        turned_marks = marks.mirrored(clip.width)

        def turn(session: Session) -> None:
            row = set_row(session, set_id)
            row.mirrored, row.marks = mirrored, marks_text(turned_marks)

        if record.waits_for_landmarks:
            with self.library.writing() as session:
                turn(session)
            return
        by_hand = record.tracked_by == _BY_HAND
        track = _turned(
            self.library.track(set_id), clip.width, calibration_of(turned_marks), by_hand=by_hand
        )
        self.keep_track(set_id, track, record.tracked_by, turn)

    # Landmarks

    def keep_track(
        self,
        set_id: int,
        track: LandmarkTrack,
        by: str,
        also: Callable[[Session], None] = lambda _session: None,
    ) -> None:
        """Make a track the landmarks of a set. Its computed review goes; what was decided stays.

        also : other changes of the same transaction
        """
        data = csv_text(track).encode()
        old = self.library.record(set_id).track_hash
        both = [hashlib.sha256(data).hexdigest(), *([old] if old else [])]
        with self.library.leftovers.watching(both), self.library.writing() as session:
            row = self.library.write_track(data, "track.csv", track)
            also(session)
            own = set_row(session, set_id)
            session.merge(row)
            session.flush()
            own.track_hash, own.tracked_by, own.search = row.hash, by, ""
            review = session.get(ReviewRow, set_id)
            if review is not None:
                session.delete(review)
            session.flush()
            shared = select(SetRow.id).where(SetRow.track_hash == old).limit(1)
            if old and old != row.hash and not session.scalar(shared):
                session.delete(session.get_one(TrackRow, old))

    def find_landmarks(
        self,
        set_id: int,
        tracker: Tracker,
        progress: Progress = lambda _share: None,
        *,
        only_if_waiting: bool = False,
    ) -> LandmarkTrack:
        """Run a tracker over a set's clip and keep what it found. Kit marked by hand is followed
        and joined.

        progress : may raise to stop; nothing is kept then
        only_if_waiting : where landmarks came from elsewhere meanwhile, those stay and are given
        back

        Raises BadInput if the tracker can't work on this clip.
        """
        clip, marks = self.clip(set_id), self.marks(set_id)
        record = self.library.record(set_id)
        if clip is None:
            raise BadInput(
                f"the clip of {record.source_name} is gone from the library; add it again"
            )
        why_not = tracker.why_not(clip, marks)
        if why_not:
            raise BadInput(f"{record.source_name}: {why_not}")
        by_hand = tracker.name == _BY_HAND
        also_follow = bool(marks.points) and not by_hand
        share = 0.5 if also_follow else 1.0
        found = tracker.track(clip, marks, lambda s: progress(share * s))
        if also_follow:
            followed = MarkedPoints().track(clip, marks, lambda s: progress(share + share * s))
            followed = filled(followed, found, arm_px(clip, marks), clip.time_s)
            found = joined(followed, found)
        facts = SetFacts(record.standard, record.load_kg, self._stature(set_id), record.recorded)
        track = landmark_track(
            found, clip, marks, facts, points_from="marks" if by_hand else "pose"
        )
        if only_if_waiting and not self.library.record(set_id).waits_for_landmarks:
            return self.library.track(set_id)
        self.keep_track(set_id, track, tracker.name)
        return track

    def _stature(self, set_id: int) -> float | None:
        with self.library.reading() as session:
            row = set_row(session, set_id)
            return session.get_one(ClientRow, row.client_id).stature_m


def cut_words(library: Library, set_id: int) -> list[str]:
    """A sentence where a set's clip was cut off in its file; none for a whole one."""
    clip = ClipSets(library).clip(set_id)
    if clip is None or not clip.missing_s:
        return []
    name = library.record(set_id).source_name
    return [f"{name} is cut off: {clip.missing_s:.0f} s of it are missing; ask for it again."]


def _turned(
    track: LandmarkTrack, width: float, calibration: Calibration, *, by_hand: bool
) -> LandmarkTrack:
    position = track.position.copy()
    position[..., 0] = width - 1.0 - position[..., 0]
    names = track.names if by_hand else tuple(on_other_side(name) for name in track.names)
    return replace(track, position=position, names=names, calibration=calibration)


def marks_text(marks: Marks) -> str:
    """Marks as the library keeps them."""
    return json.dumps(
        {
            "points": {
                n: [[m.frame, round(m.x, 2), round(m.y, 2)] for m in own]
                for n, own in marks.points.items()
            },
            "lines": [asdict(line) for line in marks.lines],
            "person": marks.person,
        }
    )


def _seen_as(track: LandmarkTrack, marks: Marks) -> LandmarkTrack:
    """A clip's landmarks with the scale, the vertical and the view that the marks say."""
    return replace(
        track,
        calibration=calibration_of(marks),
        view=marks.side,
        camera=CameraPlace.stated(marks.view),
    )


def marks_of(text: str, view: Any) -> Marks:
    """Marks from what the library keeps; nothing marked for an empty text. Raises ValueError for
    another."""
    if not text:
        return Marks(view)
    try:
        kept: Mapping[str, Any] = json.loads(text)
        points = {
            n: tuple(Mark(int(f), _finite(x), _finite(y)) for f, x, y in own)
            for n, own in kept["points"].items()
            if n in MARKABLE and own
        }
        lines = tuple(Line(**line) for line in kept["lines"])
        person = kept.get("person")
        box = (int(person[0]), *(_finite(v) for v in person[1:5])) if person else None
        for line in lines:
            if line.kind not in ("length", "plumb", "level"):
                raise ValueError(line.kind)
            for value in (line.ax, line.ay, line.bx, line.by, line.metres):
                _finite(value)
    except (KeyError, TypeError, AttributeError, IndexError) as error:
        raise ValueError(f"the marks can't be read ({error})") from None
    return Marks(view, points, lines, box)  # type: ignore[arg-type]


def _finite(value: Any) -> float:
    number = float(value)
    if not math.isfinite(number):
        raise ValueError(f"{value!r} is no finite number")
    return number
