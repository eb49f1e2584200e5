"""What is done to sets off the window's thread. Each function is a job's work: (library, progress,
…)."""

from __future__ import annotations

import contextlib
import getpass
import logging
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from guide_arc import lazily
from guide_arc.app.contract.job import Cancelled, Progress
from guide_arc.capture.video.clip import Clip
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.marks import Marks
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.planning.history import Past
from guide_arc.core.review.assess import merged
from guide_arc.core.review.fits import BetterFit, better_school
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.library import undoing
from guide_arc.library.answers import answers_of
from guide_arc.library.aside import Aside
from guide_arc.library.changes import Changes
from guide_arc.library.clients import Clients
from guide_arc.library.clip_sets import ClipSets
from guide_arc.library.errors import LostLibrary
from guide_arc.library.intake import Known
from guide_arc.library.merging import Merged
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.pasts import past_of
from guide_arc.library.place import remember, was_here
from guide_arc.library.quarantine import all_quarantined, quarantine_set, release_set
from guide_arc.library.records import EarlierSet, SetNotes, SetPart, SetRecord
from guide_arc.library.reviewing import plan_of, review_and_keep, shown_set
from guide_arc.library.same_day import OtherRecording, recordings_of_that_day
from guide_arc.library.searches import NOT_SEARCHED, Search, search_of
from guide_arc.library.set_changes import change_set, entry_called_right, split_set
from guide_arc.library.set_changes import join_views as views_joined
from guide_arc.library.store import Library
from guide_arc.library.tables import SetRow
from guide_arc.library.taking_out import forget_taken_out
from guide_arc.library.taking_out import take_out as take_sets_out
from guide_arc.library.undoing import Done, TakenBack, finish_wanted
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.tempo import parse_tempo

_LOG = logging.getLogger(__name__)
# The columns of a set's row that its review is computed from.
_REVIEW_RESTS_ON = (
    "standard",
    "school",
    "tempo",
    "load_kg",
    "recorded",
    "felt",
    "loose_last",
    "corrections",
    "track_hash",
    "other_view_of",
    "client_id",
)


@dataclass(frozen=True)
class LoadedLibrary:
    """What the program holds of its library once that is open.

    brought_back: the clients of whom something came back that an earlier undo asked for and did not
    get forgotten: the clients who were erased in an earlier run, and are gone for good now
    """

    library: Library
    own: OwnStandards
    catalogue: Catalogue
    coach: str
    brought_back: tuple[str, ...] = ()
    forgotten: tuple[str, ...] = ()


@dataclass(frozen=True, eq=False)
class OpenedSet:
    """A set with all that is shown of it.

    shown : None while it waits for landmarks
    clip, proxy : of a set that came as a clip; clip_missing : the reason if there is none although
    it did
    marks, found, plan, stature_m : what the marking place needs
    that_day : the day's other recordings of the exercise, and what they show
    answers : the client's answers to the set's page, as lines
    fit : the school that the set fits better than the one it is judged by
    search : how far finding its landmarks without help has come"""

    record: SetRecord
    shown: ShownSet | None
    earlier: tuple[EarlierSet, ...]
    clip: Clip | None
    proxy: Clip | None
    clip_missing: str
    marks: Marks | None
    found: LandmarkTrack | None
    plan: Standard
    stature_m: float | None
    fit: BetterFit | None = None
    search: Search = NOT_SEARCHED
    that_day: tuple[OtherRecording, ...] = ()
    answers: tuple[str, ...] = ()


def load(
    _progress: Progress, where: Path | str, aside: Aside, also: tuple[object, ...]
) -> LoadedLibrary:
    """Open the library for as long as the window is, with everything that is needed of the program.

    also : what the window will need, loaded here so that the window does not freeze
    """
    for one in also:
        lazily.load(one)
    library = Library.open(where, aside=aside, make=isinstance(where, str) or not was_here(where))
    try:
        if isinstance(where, Path):
            remember(where)
        brought_back = _finish_undo(library)
        forgotten = forget_taken_out(library)  # of earlier runs: no undo can ask for it any more
        own = OwnStandards(library)
        catalogue = own.catalogue()
        for id in catalogue.ids():
            catalogue.standard(id)  # built here, off the window's thread
        return LoadedLibrary(
            library,
            own,
            catalogue,
            library.setting("coach") or login_name(),
            brought_back,
            tuple(forgotten),
        )
    except BaseException:
        library.close()
        raise


def _finish_undo(library: Library) -> tuple[str, ...]:
    """What an undo in an earlier run failed to bring back; if it fails again, the program opens all
    the same."""
    try:
        return tuple(finish_wanted(library))
    except BadInput:
        _LOG.exception("what an earlier undo asked for could not be brought back")
        return ()


def login_name() -> str:
    """Who decides, until a name is given."""
    try:
        return getpass.getuser()
    except (KeyError, OSError):
        return "coach"


def open_set(
    library: Library,
    progress: Progress,
    set_id: int,
    kept: OpenedSet | None,
    wanted: str = "review",
) -> OpenedSet:
    """A set with its review. `kept`: as it was opened before, used again where nothing has changed.

    wanted : "review"; "marks" and the landmarks as they were found; or "both"
    """
    with library.at_one_moment():
        return _opened(library, progress, set_id, kept, wanted)


def _opened(
    library: Library, progress: Progress, set_id: int, kept: OpenedSet | None, wanted: str
) -> OpenedSet:
    record = library.record(set_id)
    catalogue = OwnStandards(library).catalogue()
    plan = plan_of(library, record, catalogue)
    past = past_of(library, set_id, plan)
    shown, fit = None, None
    if not record.waits_for_landmarks:
        views = library.other_views(set_id)
        shown = _still_good(kept, record, plan, past, len(views))
        if shown is None and wanted != "marks":
            shown = shown_set(library, record, plan, past, progress)
            # Made here, off the window's thread.
            _ = shown.rings, shown.extent, shown.tracks, shown.figures
    if shown is not None and kept is not None and shown is kept.shown:
        fit = kept.fit
    elif shown is not None:
        schools = [catalogue.standard(plan.id, s.id) for s in plan.schools]
        fit = better_school(shown.body, shown.review, schools)
    clips = ClipSets(library)
    clip, proxy, missing, marks = None, None, "", None
    if record.clip_hash is not None:
        try:
            clip = clips.clip(set_id)
            proxy = clips.folder.proxy(clip) if clip is not None else None
            missing = "" if clip else "The clip of this set is gone from the library's folder."
        except BadInput as error:
            missing = str(error)
        marks = clips.marks(set_id)
    marking = wanted != "review" or record.waits_for_landmarks
    found = library.track(set_id) if marking and not record.waits_for_landmarks else None
    return OpenedSet(
        record=record,
        shown=shown,
        earlier=tuple(library.earlier_sets(set_id)),
        clip=clip,
        proxy=proxy,
        clip_missing=missing,
        marks=marks,
        found=found,
        plan=plan,
        stature_m=library.stature(record.client) if marking else None,
        fit=fit,
        search=search_of(record.search),
        that_day=recordings_of_that_day(library, record),
        answers=answers_of(library, record.id),
    )


def _still_good(
    kept: OpenedSet | None, record: SetRecord, plan: Standard, past: Past, views: int
) -> ShownSet | None:
    """The stored review, if a new one would be the same."""
    if kept is None or kept.shown is None:
        return None
    review = kept.shown.review
    tempo = parse_tempo(record.tempo) if record.tempo else None
    same = (
        kept.record.track_hash == record.track_hash
        and kept.record.load_kg == record.load_kg
        and review.settings == record.notes.settings
        and review.standard == plan
        and (kept.shown.past, len(kept.shown.others)) == (past, views)
        and review.tempo == merged(tempo, plan.tempo)
    )
    return kept.shown if same else None


def review_each(library: Library, progress: Progress, ids: tuple[int, ...]) -> list[str]:
    """Review sets again; the sentences of those that can't be. One that can't never stops the
    others."""
    wrong = []
    quarantined = {one.set_id for one in all_quarantined(library)} if ids else set()
    for i, set_id in enumerate(ids):
        progress(i / len(ids))
        try:
            review_and_keep(library, set_id)
        except LostLibrary:
            raise
        except BadInput as error:
            wrong.append(f"set {set_id}: {error}")
        except Cancelled:
            raise
        except Exception:
            _LOG.exception("a set could not be reviewed")
            wrong.append(f"set {set_id}: something is wrong in the program itself")
        else:
            if set_id in quarantined:
                release_set(library, set_id)
            continue
        with contextlib.suppress(BadInput):  # it may be gone meanwhile
            quarantine_set(library, set_id, wrong[-1])
    return wrong


def review_missing(library: Library, progress: Progress) -> list[str]:
    """Sets whose review is not there yet (a kill in the middle of adding) get one; those that are
    quarantined wait for the coach."""
    quarantined = {one.set_id for one in all_quarantined(library)}
    return review_each(
        library, progress, tuple(i for i in library.without_review() if i not in quarantined)
    )


def review_standard(library: Library, progress: Progress, standard: str) -> list[int]:
    """Sets that follow a standard are reviewed again; their ids."""
    ids = [set_id for set_id, _client in library.sets_of_standard(standard)]
    review_each(library, progress, tuple(ids))
    return ids


def to_the_end(_share: float) -> None:
    """The progress of what follows a change that is stored already: stopped half-way, the step of
    undo would be missing."""


def take_out(library: Library, progress: Progress, ids: tuple[int, ...]) -> Changes:
    """Erase sets so that undo can bring them back."""
    progress(0.0)
    return take_sets_out(library, ids)


def take_back(library: Library, progress: Progress, changes: Changes) -> TakenBack:
    """Undo or redo a step; then compute the reviews that rest on what it changed.

    A review that can't be computed does not stop the step: the set is listed as quarantined.
    """
    progress(0.0)
    taken = undoing.take_back(library, changes)
    there = library.ids()
    ids = sorted(taken.changes.set_ids() & there)
    mains = {main for i in ids if (main := library.shown_with(i)) is not None}
    missing = set(library.without_review())
    changed = _judged_otherwise(taken.changes) | _judged_otherwise(changes)
    again = sorted((changed & there | set(ids) & missing | mains) & set(library.reviewable()))
    review_each(library, to_the_end, tuple(again))
    return taken


def _judged_otherwise(changes: Changes) -> frozenset[int]:
    """The sets of which something changed that their review rests on."""
    return frozenset(
        int(str(row.after["id"]))
        for row in changes.of(SetRow)
        if row.before is not None
        and row.after is not None
        and any(row.before[name] != row.after[name] for name in _REVIEW_RESTS_ON)
    )


def change(
    library: Library, progress: Progress, set_id: int, fields: dict[str, tuple[Any, Any]]
) -> Done[str]:
    """Correct the details of a set, and review it again. A field that has changed since is left
    alone and reported.

    fields : from what to what, by name
    """
    record = library.record(set_id)
    clashes, changes = [], {}
    for name, (was, to) in fields.items():
        now = getattr(record, name)
        if now in (was, to):
            changes[name] = to
        else:
            what = name.removesuffix("_kg")
            clashes.append(f"Another window changed the {what} to {now}; yours was {to}.")
    done = undoing.do(library, lambda session: change_set(session, set_id, changes))
    if not record.waits_for_landmarks:
        review_each(library, to_the_end, (set_id,))
    return Done(" ".join(clashes), done.changes)


def call_entry_right(
    library: Library, progress: Progress, set_id: int, coach: str, at: str
) -> Changes:
    """Keep that the coach was asked about what was typed of a set, and says it is right."""
    progress(0.0)
    return undoing.do(
        library, lambda session: entry_called_right(session, set_id, coach, at)
    ).changes


def put_notes(
    library: Library, progress: Progress, set_id: int, notes: SetNotes, since: SetNotes | None
) -> None:
    """Change a coach's document of a set that is not open, and review again what that changes.

    since : None: its note
    """
    record = library.record(set_id)
    since = since or replace(notes, note=record.notes.note)
    kept = library.keep_notes(set_id, notes, since).value
    if record.notes.settings != kept.settings and not record.waits_for_landmarks:
        review_and_keep(library, set_id, progress=progress)


def split(
    library: Library, progress: Progress, set_id: int, parts: tuple[SetPart, ...]
) -> Done[list[int]]:
    """Make several sets of one recording; their numbers."""
    done = undoing.do(library, lambda session: split_set(session, set_id, parts))
    review_each(library, to_the_end, tuple(done.result))
    return done


def keep_marks(
    library: Library,
    progress: Progress,
    set_id: int,
    marks: Marks,
    since: Marks | None,
    mirrored: bool | None,
) -> tuple[bool, Merged[Marks]]:
    """Keep marks made on a clip; whether they change the scale or the vertical of what was found,
    and the marks as they are now. since, mirrored : as in `ClipSets.keep_marks`"""
    clips = ClipSets(library)
    before = library.record(set_id).track_hash
    out = clips.keep_marks(set_id, marks, since, mirrored, scale=True)
    progress(0.2)
    changed = library.record(set_id).track_hash != before
    if changed:
        review_each(library, to_the_end, (set_id,))
    return changed, out


def join_views(
    library: Library, progress: Progress, other: int, main: int, joined: bool
) -> Changes:
    """A recording shows a set's reps from another side, or no longer; then both are reviewed
    again."""
    to = main if joined else None
    done = undoing.do(library, lambda session: views_joined(session, other, to))
    review_each(library, to_the_end, (main,) if joined else (main, other))
    return done.changes


def to_correct(library: Library, progress: Progress, set_id: int) -> tuple[SetRecord, Known]:
    """A set's record, and the choices for its dialog."""
    progress(0.0)
    own = OwnStandards(library)
    known = Known(
        library.clients(),
        own.catalogue(),
        own.preferences(),
        usual_kg=Clients(library).usual_loads(),
    )
    return library.record(set_id), known
