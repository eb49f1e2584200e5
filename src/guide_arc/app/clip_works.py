"""What is done to clips off the window's thread: each piece opens the library anew."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from guide_arc.core.model.errors import BadInput
from guide_arc.library.store import Library

if TYPE_CHECKING:
    from guide_arc.capture.tracking.tracker import Tracker
    from guide_arc.library.clip_sets import ClipDetails

Progress = Callable[[float], None]
# New sets' ids, how many were known, and what went wrong.
Added = tuple[list[int], int, list[str]]


def part(progress: Progress, i: int, count: int, share: float) -> None:
    """How far the whole is, from how far its part number i is."""
    progress((i + share) / count)


def find(folder: Path, set_id: int, tracker: Tracker, progress: Progress) -> None:
    from guide_arc.library.clip_sets import ClipSets  # noqa: PLC0415
    from guide_arc.library.reviewing import review_and_keep  # noqa: PLC0415

    library = Library.open(folder)
    try:
        track = ClipSets(library).find_landmarks(set_id, tracker, lambda s: progress(0.95 * s))
        review_and_keep(library, set_id, track)
    finally:
        library.close()


def add_clips(folder: Path, rows: list[tuple[Path, ClipDetails]], progress: Progress) -> Added:
    from guide_arc.library.clip_sets import ClipSets  # noqa: PLC0415

    library = Library.open(folder)
    try:
        sets = ClipSets(library)
        return _each([partial(sets.add, path, details) for path, details in rows], progress)
    finally:
        library.close()


def add_bundles(folder: Path, paths: list[Path], progress: Progress) -> Added:
    from guide_arc.library.bundles import take_bundle  # noqa: PLC0415
    from guide_arc.library.reviewing import review_and_keep  # noqa: PLC0415

    library = Library.open(folder)

    def take(path: Path, _progress: Progress) -> tuple[int, bool]:
        set_id, new = take_bundle(library, path)
        if new and not library.record(set_id).waits_for_landmarks:
            review_and_keep(library, set_id)
        return set_id, new

    try:
        return _each([partial(take, path) for path in paths], progress)
    finally:
        library.close()


def go_on(folder: Path, progress: Progress) -> Added:
    from guide_arc.library.clip_sets import ClipSets  # noqa: PLC0415

    library = Library.open(folder)
    try:
        sets = ClipSets(library)
        return _each([partial(sets.go_on, coming) for coming in sets.folder.unfinished()], progress)
    finally:
        library.close()


def _each(
    works: list[Callable[[Progress], tuple[int, bool]]],
    progress: Progress,
) -> Added:
    """(new ids, how many were known, what went wrong): one bad clip does not stop the rest."""
    added: list[int] = []
    known = 0
    wrong: list[str] = []
    for i, work in enumerate(works):
        try:
            set_id, new = work(partial(part, progress, i, len(works)))
        except BadInput as error:
            wrong.append(str(error))
            continue
        if new:
            added.append(set_id)
        else:
            known += 1
    return added, known, wrong


def make_proxies(folder: Path, progress: Progress) -> None:
    from guide_arc.library.clip_folder import ClipFolder  # noqa: PLC0415

    clips = ClipFolder(folder)
    missing = clips.without_proxy()
    for i, name in enumerate(missing):
        clip = clips.find(name)
        if clip is not None:
            clips.make_proxy(clip, partial(part, progress, i, len(missing)))
