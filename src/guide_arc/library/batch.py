"""Many files in, many sets reviewed: on all cores, resumable, and no bad file stops the rest."""

from __future__ import annotations

import hashlib
import logging
import os
from collections import deque
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import FIRST_COMPLETED, Future, ProcessPoolExecutor, wait
from concurrent.futures.process import BrokenProcessPool
from contextlib import contextmanager
from dataclasses import asdict, dataclass, field
from functools import lru_cache
from multiprocessing import get_context, parent_process
from pathlib import Path
from typing import Any

from guide_arc import __version__
from guide_arc.capture.video.clip import Clip
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.plain_text import visible
from guide_arc.formats.marker_names import Names
from guide_arc.formats.track_file import as_kept, read_track
from guide_arc.lazily import lazily
from guide_arc.library.clip_folder import ClipFolder
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.cluster import on_cluster
from guide_arc.library.kept_forms import KeptForms, kept_forms
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.quarantine import quarantine_set
from guide_arc.library.reviewing import review_of
from guide_arc.library.store import Library

with lazily():
    from guide_arc.core.review.assess import review_set

_LOG = logging.getLogger(__name__)

Progress = Callable[[float], None]
# What a run of `review_all` has done, one set's number a line: a call that was cut off is gone on
# with.
_RUN = "review-all.done"
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
    """A track file to import, with the details of its set. standard, school : None as the
    file says"""

    path: Path
    client: str
    standard: str | None
    school: str | None = None
    names: Names | None = None


def import_tracks(
    library: Library, files: Iterable[TrackFile], progress: Progress = lambda _share: None
) -> Outcome:
    """Take tracks in and review them, each as one transaction. A file that is in already is passed
    over without being read through, so that the same call goes on after a kill."""
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
        _each(_read, [(f, library.where) for f in todo], _SETS_WORTH_HELPERS)
    ):
        progress(i / max(len(todo), 1))
        if isinstance(made, str):
            out.refused.append(made)
            continue
        read, _folder = file
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
    library: Library,
    clips: Iterable[tuple[Path, ClipDetails]],
    progress: Progress = lambda _share: None,
) -> Outcome:
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
    except Exception as error:
        _LOG.exception("a clip could not be imported")
        return (
            f"{visible(path.name)}: something is wrong in the program itself"
            f" ({type(error).__name__})"
        )


def review_all(
    library: Library,
    progress: Progress = lambda _share: None,
    *,
    fresh: bool = False,
    scheduler: str | None = None,
) -> Outcome:
    """Compute the review of every set again. A call that was cut off is gone on with by the next
    one.

    fresh : begin again instead; scheduler : the address of one whose workers do the computing, see
        `cluster.py`
    """
    out = Outcome()
    file = library.folder / _RUN
    if fresh:
        file.unlink(missing_ok=True)
    ids = library.reviewable()
    before = _numbers(file) & {*ids}
    todo = [i for i in ids if i not in before]
    with os.fdopen(os.open(file, os.O_APPEND | os.O_CREAT | os.O_WRONLY, 0o600), "a") as done:
        jobs = [(i, library.where) for i in todo]
        found = (
            on_cluster(_review, jobs, scheduler)
            if scheduler
            else _each(_review, jobs, _SETS_WORTH_HELPERS)
        )
        for n, ((set_id, _where), made) in enumerate(found):
            progress(n / max(len(todo), 1))
            if isinstance(made, str):
                out.refused.append(made)
                quarantine_set(library, set_id, made)
            else:
                library.keep_review(set_id, __version__, *made)
                out.done.append(set_id)
            done.write(f"{set_id}\n")
            done.flush()
    file.unlink(missing_ok=True)
    out.known = len(before)
    return out


def _numbers(file: Path) -> set[int]:
    """The sets that a run had done when it was cut off, in the middle of a line maybe."""
    try:
        return {int(line) for line in file.read_text().split("\n")[:-1] if line.isdecimal()}
    except OSError:
        return set()


@dataclass(frozen=True)
class _Made:
    data: bytes
    name: str
    standard: str
    school: str
    forms: KeptForms


def _read(job: tuple[TrackFile, Path | str]) -> _Made | str:
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
        return f"{visible(file.path.name)}: the file can't be read ({error.strerror})."
    except Exception as error:
        _LOG.exception("a file could not be read")
        return (
            f"{visible(file.path.name)}: something is wrong in the program itself"
            f" ({type(error).__name__})"
        )


def _review(job: tuple[int, Path | str]) -> KeptForms | str:
    """A set's review, or why not; maybe in a helper process, or on another machine."""
    set_id, folder = job
    try:
        with _opened(folder) as library:
            return kept_forms(review_of(library, set_id))
    except BadInput as error:
        return f"set {set_id}: {error}"
    except Exception as error:
        _LOG.exception("a set could not be reviewed")
        return f"set {set_id}: something is wrong in the program itself ({type(error).__name__})"


@contextmanager
def _opened(folder: Path | str) -> Iterator[Library]:
    if parent_process() is not None:
        yield _open_here(folder)
        return
    library = Library.open(folder, make=False)
    try:
        yield library
    finally:
        library.close()


@lru_cache(maxsize=1)
def _open_here(folder: Path | str) -> Library:
    """A helper process opens the library once, for as long as it lives."""
    return Library.open(folder, make=False)


def _each(
    work: Callable[[Any], Any], jobs: list[Any], worth_helpers: int
) -> Iterator[tuple[Any, Any]]:
    """(job, what it gave) as they come; on all cores, a few on their way at a time, where there are
    enough."""
    cores = os.cpu_count() or 1
    if len(jobs) < worth_helpers or cores == 1:
        for job in jobs:
            yield job, work(job)
        return
    waiting = deque(jobs)
    while waiting:
        broken: list[Any] = []
        yield from _in_helpers(work, waiting, min(cores, len(waiting)), broken)
        # A helper process died and stopped the others: running each job alone shows which it was.
        for job in broken:
            alone: list[Any] = []
            yield from _in_helpers(work, deque([job]), 1, alone)
            for one in alone:
                yield (
                    one,
                    (
                        f"{_named(one)}: the program that worked on it ended (too little memory,"
                        " maybe)"
                    ),
                )


def _in_helpers(
    work: Callable[[Any], Any], waiting: deque[Any], count: int, broken: list[Any]
) -> Iterator[tuple[Any, Any]]:
    """What the jobs gave, until none waits or a helper dies; `broken` are the jobs that were lost
    with it."""
    running: dict[Future[Any], Any] = {}
    with ProcessPoolExecutor(count, mp_context=get_context("spawn")) as pool:
        try:
            while not broken:
                while waiting and len(running) < 2 * count:
                    job = waiting.popleft()
                    try:
                        running[pool.submit(work, job)] = job
                    except BrokenProcessPool:
                        waiting.appendleft(job)
                        break
                if not running:
                    return
                finished, _ = wait(running, return_when=FIRST_COMPLETED)
                for future in finished:
                    job = running.pop(future)
                    try:
                        result = future.result()
                    except BrokenProcessPool:
                        broken.append(job)
                    else:
                        yield job, result
            broken += running.values()
        finally:
            pool.shutdown(wait=True, cancel_futures=True)


def _named(job: Any) -> str:
    """What a job is about, in words: a file, or a set."""
    what = job[0]
    if isinstance(what, int):
        return f"set {what}"
    return visible((what.path if isinstance(what, TrackFile) else what).name)


def _hash(path: Path) -> str:
    digest = hashlib.sha256()
    with path.open("rb") as given:
        while data := given.read(1 << 20):
            digest.update(data)
    return digest.hexdigest()
