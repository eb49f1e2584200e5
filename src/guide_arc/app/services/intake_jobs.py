"""What is done to files on their way in, off the window's thread: (library, progress, …)."""

from __future__ import annotations

import logging
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path

from guide_arc.app.contract.job import Cancelled, Progress
from guide_arc.app.services.clip_jobs import part
from guide_arc.app.services.set_jobs import review_each
from guide_arc.capture.drop_folder import DropFolder
from guide_arc.capture.video.clip import inspect_video
from guide_arc.capture.video.frames import Picture
from guide_arc.capture.video.glimpse import glimpses
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.plain_text import visible
from guide_arc.formats.marker_names import Names
from guide_arc.library import clients, proposals, quarantine
from guide_arc.library.bundles import take_bundle
from guide_arc.library.changes import Changes
from guide_arc.library.clip_folder import BusyClip
from guide_arc.library.clip_sets import ClipDetails, ClipSets, cut_words
from guide_arc.library.errors import LostLibrary
from guide_arc.library.intake import Details, Incoming, Known, Refused, answers_among, inspect_files
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.proposals import ClipProposal
from guide_arc.library.quarantine import quarantine_file, release_file
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.searches import Searches
from guide_arc.library.store import Library
from guide_arc.library.undoing import do
from guide_arc.library.whole_records import take_in

# Pictures of a clip on its way in: eight a second, and large enough to know a person by.
_GLIMPSES = 24
_GLIMPSE_WIDTH = 250

_LOG = logging.getLogger(__name__)


@dataclass(frozen=True)
class Looked:
    """Files that were looked into: the importable files, the others, and the choices for the
    dialog. answers : clients' answers, with their texts"""

    paths: tuple[Path, ...]
    good: list[Incoming]
    bad: list[Refused]
    known: Known
    answers: tuple[tuple[Path, str], ...] = ()


@dataclass
class Added:
    """What became of sets on their way in. wrong : a sentence for each that could not come in; cut
    : for each clip of which a part is missing; settled : the files that are stored or quarantined;
    busy : those that somebody else copies just now
    """

    ids: list[int] = field(default_factory=list)
    clips: int = 0
    known: int = 0
    wrong: list[str] = field(default_factory=list)
    stopped: bool = False
    names: list[str] = field(default_factory=list)
    cut: list[str] = field(default_factory=list)
    to_search: int = 0
    settled: list[Path] = field(default_factory=list)
    busy: list[Path] = field(default_factory=list)

    @property
    def words(self) -> str:
        """All of it in one line."""
        sets = len(self.ids) - self.clips
        parts = [
            f"{count} {what}{'' if count == 1 else 's'} added"
            for count, what in ((sets, "set"), (self.clips, "clip"))
            if count
        ]
        if len(self.ids) == 1 and self.names:
            parts = [f"{parts[0]}: {self.names[0]}; Enter opens it"]
        if self.known:
            parts.append(f"{self.known} already in the library")
        line = ", ".join(parts) + "." if parts else ""
        more = ["Stopped. The sets added before that are saved."] if self.stopped else []
        return " ".join([line, *self.cut[:2], *self.wrong[:2], *more]).strip()


def look(
    library: Library, progress: Progress, paths: tuple[Path, ...], names: Names | None
) -> Looked:
    """Read files on their way in; nothing is stored yet."""
    own = OwnStandards(library)
    names_of_clients = tuple(library.client_names())
    known = Known(
        [one.name for one in names_of_clients],
        own.catalogue(),
        own.preferences(),
        names_of_clients,
        clients.Clients(library).usual_loads(),
    )
    answers, others = answers_among(paths)
    good, bad = inspect_files(others, names_of_clients, known.catalogue, progress, names)
    for refused in bad:
        if refused.path is not None and refused.unnamed is None:
            quarantine_file(library, refused.path, refused.why)
    return Looked(others, good, bad, known, answers)


def agree_on_words(
    library: Library, progress: Progress, words: tuple[tuple[str, str], ...]
) -> Changes:
    """Store words that name a client's files from now on."""
    progress(0.0)
    return do(library, lambda session: clients.agree_on_words(session, words)).changes


def glimpse(_library: Library, _progress: Progress, path: Path) -> tuple[Picture, ...]:
    """A few small pictures of a clip on its way in; none where its frames can't be decoded."""
    try:
        return glimpses(inspect_video(path), _GLIMPSE_WIDTH, _GLIMPSES)
    except BadInput:
        return ()


def propose(library: Library, progress: Progress, path: Path) -> ClipProposal:
    """What a clip shows before its import."""
    return proposals.propose(inspect_video(path), OwnStandards(library).catalogue(), progress)


def look_into_drop_folder(
    library: Library, progress: Progress, folder: DropFolder, now_s: float, names: Names | None
) -> Looked | None:
    """The files that have arrived whole since the last look, looked into; None if there are
    none."""
    whole = folder.look(now_s)
    return look(library, progress, tuple(whole), names) if whole else None


def add(
    library: Library,
    progress: Progress,
    rows: tuple[tuple[Incoming, Details], ...],
    bundles: tuple[Path, ...],
) -> Added:
    """Take sets in, one by one: tracks with their review, then clips, then whole sets.

    One that can't come in never stops the others; what was asked to stop keeps what came before.
    """
    out = Added()
    tracks = [(_source(i), partial(_add_track, library, i, d)) for i, d in rows if not i.clip]
    clips = [(_source(i), partial(_add_clip, library, i, d)) for i, d in rows if i.clip]
    whole = [(path, partial(_add_bundle, library, path)) for path in bundles]
    works: list[tuple[Path, _Work]] = [*tracks, *clips, *whole]
    try:
        for i, (source, work) in enumerate(works):
            progress(i / len(works))
            _one(library, out, source, work, partial(part, progress, i, len(works)))
    except Cancelled:
        out.stopped = True
        _give_up_clips(library)
    out.to_search = len(Searches(library).want(out.ids))
    return out


def take_records(library: Library, progress: Progress, folders: tuple[Path, ...]) -> Added:
    """Take whole records of clients in, as they were exported."""
    out = Added()
    try:
        for i, folder in enumerate(folders):
            taken = take_in(library, folder, partial(part, progress, i, len(folders)))
            out.ids += taken.ids
            out.known += taken.known
            out.wrong += taken.wrong
    except Cancelled:
        out.stopped = True
    return out


def go_on_with_clips(library: Library, progress: Progress) -> Added:
    """Finish the clips whose copying was cut off."""
    out = Added()
    clips = ClipSets(library)
    coming = clips.folder.pending()
    try:
        for i, one in enumerate(coming):
            work = partial(clips.resume, one)
            _one(library, out, one.source, work, partial(part, progress, i, len(coming)))
    except Cancelled:
        out.stopped = True
        _give_up_clips(library)
    out.to_search = len(Searches(library).want(out.ids))
    return out


_Work = Callable[[Progress], tuple[int, bool]]


def _source(item: Incoming) -> Path:
    return item.path or item.clip or Path(item.name)


def _one(library: Library, out: Added, source: Path, work: _Work, progress: Progress) -> None:
    """One set comes in, or its file is quarantined with why not."""
    name = visible(source.name)
    try:
        set_id, new = work(progress)
    except BusyClip:
        out.busy.append(source)
    except LostLibrary:
        raise  # nothing is wrong with the file
    except BadInput as error:
        _lay(library, out, source, str(error))
    except OSError as error:
        _lay(library, out, source, f"{name} was not added ({error.strerror}).")
    except Cancelled:
        raise
    except Exception:
        _LOG.exception("a set could not be imported")
        _lay(
            library, out, source, f"{name} was not added: something is wrong in the program itself."
        )
    else:
        out.settled.append(source)
        release_file(library, source)
        if not new:
            out.known += 1
            return
        record = library.record(set_id)
        out.ids.append(set_id)
        out.clips += record.clip_hash is not None
        out.names.append(f"{record.client}, {record.standard.replace('-', ' ')}")
        if record.clip_hash is not None:
            out.cut += cut_words(library, set_id)


def _lay(library: Library, out: Added, source: Path, why: str) -> None:
    out.wrong.append(why)
    out.settled.append(source)
    quarantine_file(library, source, why)


def all_quarantined(library: Library, progress: Progress) -> list[quarantine.Quarantined]:
    progress(0.0)
    return quarantine.all_quarantined(library)


def release(library: Library, progress: Progress, ids: tuple[int, ...]) -> None:
    progress(0.0)
    quarantine.release(library, ids)


def review_quarantined(library: Library, progress: Progress, ids: tuple[int, ...]) -> list[str]:
    """Review quarantined sets again; returns a sentence for each that still can't be reviewed."""
    return review_each(library, progress, ids)


def _add_track(
    library: Library, item: Incoming, details: Details, progress: Progress
) -> tuple[int, bool]:
    set_id, new = library.add_set(
        item.data,
        item.name,
        client=details.client,
        standard=details.standard,
        school=details.school,
        tempo=details.tempo,
        recorded=item.recorded,
        load_kg=details.load_kg,
    )
    if new:
        review_and_keep(library, set_id, progress=progress)
    return set_id, new


def _add_clip(
    library: Library, item: Incoming, details: Details, progress: Progress
) -> tuple[int, bool]:
    assert item.clip is not None
    said = ClipDetails(
        client=details.client,
        standard=details.standard,
        school=details.school,
        view=details.view or "left",
        tempo=details.tempo,
        load_kg=details.load_kg,
        recorded=item.recorded,
        capture_hz=details.capture_hz,
    )
    return ClipSets(library).add(item.clip, said, progress)


def _add_bundle(library: Library, path: Path, progress: Progress) -> tuple[int, bool]:
    progress(0.0)
    set_id, new = take_bundle(library, path)
    if new and not library.record(set_id).waits_for_landmarks:
        review_and_keep(library, set_id, progress=progress)
    return set_id, new


def _give_up_clips(library: Library) -> None:
    """The coach stopped the copying: what is half copied is not gone on with."""
    sets = ClipSets(library)
    for coming in sets.folder.pending():
        sets.abandon(coming)
