"""Many files in, many sets reviewed: on all cores, resumable, and no bad file stops the rest."""

from __future__ import annotations

import hashlib
import json
import os
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import FIRST_COMPLETED, Future, ProcessPoolExecutor, wait
from dataclasses import asdict, dataclass, field
from multiprocessing import get_context
from pathlib import Path
from typing import Any

from guide_arc import __version__
from guide_arc.capture.video.clip import Clip
from guide_arc.core.model.errors import BadInput
from guide_arc.formats.marker_names import Names
from guide_arc.formats.track_file import as_kept, read_track
from guide_arc.library.clip_folder import ClipFolder
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.kept_forms import KeptForms, kept_forms
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.reviewing import review_of
from guide_arc.library.store import Library

Progress = Callable[[float], None]
_RUN = "review-all"
# Starting helper processes takes as long as reviewing this many sets, or copying this many clips.
_SETS_WORTH_HELPERS = 16
_CLIPS_WORTH_HELPERS = 3


@dataclass
class Outcome:
    """What became of many files or sets."""

    done: list[int] = field(default_factory=list)
    known: int = 0
    refused: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class TrackFile:
    """A track's file on its way in, with what is said of its set. standard, school : None as the file says"""

    path: Path
    client: str
    standard: str | None
    school: str | None = None
    names: Names | None = None


def import_tracks(
    library: Library, files: Iterable[TrackFile], progress: Progress = lambda _share: None
) -> Outcome:
    """Take tracks in and review them, each as one transaction. A file that is in already is passed over
    without being read through, so that the same call goes on after a kill."""
    out = Outcome()
    todo: list[TrackFile] = []
    for file in files:
        try:
            known = library.set_with_track(_hash(file.path))
        except OSError as error:
            out.refused.append(f"{file.path.name}: the file can't be read ({error.strerror}).")
            continue
        if known is None:
            todo.append(file)
        else:
            out.known += 1
    for i, (file, made) in enumerate(
        _each(_read, [(f, library.folder) for f in todo], _SETS_WORTH_HELPERS)
    ):
        progress(i / max(len(todo), 1))
        if isinstance(made, str):
            out.refused.append(made)
            continue
        (read, _folder) = file
        set_id, new = library.add_set(
            made.data, made.name, client=read.client, standard=made.standard, school=made.school
        )
        if new:
            library.keep_review(set_id, __version__, *made.forms)
            out.done.append(set_id)
        else:
            out.known += 1
    return out


def import_clips(
    library: Library, clips: Iterable[tuple[Path, ClipDetails]],
    progress: Progress = lambda _share: None,
) -> Outcome:  # fmt: skip
    """Copy clips in and look at them on all cores; each becomes a set here, one after the other."""
    out = Outcome()
    sets = ClipSets(library)
    jobs = [(path, details, library.folder) for path, details in clips]
    for i, ((path, details, _folder), made) in enumerate(_each(_take, jobs, _CLIPS_WORTH_HELPERS)):
        progress(i / len(jobs))
        if isinstance(made, str):
            out.refused.append(made)
            continue
        name, clip, slip = made
        set_id, new = sets.arrive(name, clip, slip, path, details)
        if new:
            out.done.append(set_id)
        else:
            out.known += 1
    return out


def _take(job: tuple[Path, ClipDetails, Path]) -> tuple[str, Clip, Path] | str:
    """A clip copied in, or why not; maybe in a helper process."""
    path, details, folder = job
    try:
        return ClipFolder(folder).take(path, asdict(details))
    except BadInput as error:
        return str(error)


def review_all(
    library: Library, progress: Progress = lambda _share: None, *, fresh: bool = False
) -> Outcome:
    """Compute the review of every set anew. A call that was cut off is gone on with by the next one.

    fresh : begin anew instead
    """
    out = Outcome()
    ids = [row.id for row in library.queue(state=None, limit=1_000_000) if row.has_track]
    before = [] if fresh else json.loads(library.setting(_RUN, "[]"))
    done = {i for i in before if i in set(ids)}
    todo = [i for i in ids if i not in done]
    for n, ((set_id, _folder), made) in enumerate(
        _each(_review, [(i, library.folder) for i in todo], _SETS_WORTH_HELPERS)
    ):
        progress(n / max(len(todo), 1))
        if isinstance(made, str):
            out.refused.append(made)
        else:
            library.keep_review(set_id, __version__, *made)
            out.done.append(set_id)
        done.add(set_id)
        library.keep_setting(_RUN, json.dumps(sorted(done)))
    library.keep_setting(_RUN, "[]")
    out.known = len(before)
    return out


@dataclass(frozen=True)
class _Made:
    data: bytes
    name: str
    standard: str
    school: str
    forms: KeptForms


def _read(job: tuple[TrackFile, Path]) -> _Made | str:
    """A file as a set with its review, or why not; maybe in a helper process."""
    file, folder = job
    try:
        library = Library.open(folder)
        try:
            catalogue = OwnStandards(library).catalogue()
        finally:
            library.close()
        track = read_track(file.path, file.names)
        standard_id = file.standard or track.facts.standard
        if standard_id is None:
            return f"{file.path.name}: it names no standard; give one with --standard."
        chosen = catalogue.standard(standard_id, file.school)
        data = as_kept(file.path, track)
        from guide_arc.core.review.assess import review_set  # noqa: PLC0415

        review = review_set(track, chosen)
        return _Made(
            data,
            file.path.name,
            chosen.id,
            chosen.school.id,
            kept_forms(review),
        )
    except BadInput as error:
        return str(error)
    except OSError as error:
        return f"{file.path.name}: the file can't be read ({error.strerror})."


def _review(job: tuple[int, Path]) -> KeptForms | str:
    """A set's review, or why not; maybe in a helper process."""
    set_id, folder = job
    try:
        library = Library.open(folder)
        try:
            return kept_forms(review_of(library, set_id))
        finally:
            library.close()
    except BadInput as error:
        return f"set {set_id}: {error}"


def _each(
    work: Callable[[Any], Any], jobs: list[Any], worth_helpers: int
) -> Iterator[tuple[Any, Any]]:
    """(job, what it gave) as they come; on all cores, a few on their way at a time, where there are enough."""
    cores = os.cpu_count() or 1
    if len(jobs) < worth_helpers or cores == 1:
        for job in jobs:
            yield job, work(job)
        return
    with ProcessPoolExecutor(min(cores, len(jobs)), mp_context=get_context("spawn")) as pool:
        waiting = iter(jobs)
        running: dict[Future[Any], Any] = {}
        try:
            while True:
                for job in waiting:
                    running[pool.submit(work, job)] = job
                    if len(running) >= 2 * cores:
                        break
                if not running:
                    return
                finished, _ = wait(running, return_when=FIRST_COMPLETED)
                for future in finished:
                    yield running.pop(future), future.result()
        finally:
            pool.shutdown(wait=True, cancel_futures=True)


def _hash(path: Path) -> str:
    digest = hashlib.sha256()
    with path.open("rb") as given:
        while data := given.read(1 << 20):
            digest.update(data)
    return digest.hexdigest()
