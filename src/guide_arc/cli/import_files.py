"""`guide-arc import`: many files into the library at once."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from guide_arc.capture.drop_folder import LOOKED_AT, TAKEN
from guide_arc.capture.video.clip import OTHER_SUFFIXES, SUFFIXES
from guide_arc.cli.options import AnyLibrary, ViewName, library_at
from guide_arc.cli.progress import shown_progress
from guide_arc.cli.terminal import say
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.track import StatedView
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.library.answers import match, take_answer
    from guide_arc.library.attribution import attribution
    from guide_arc.library.batch import TrackFile, import_clips, import_tracks
    from guide_arc.library.bundles import take_bundle
    from guide_arc.library.clip_sets import ClipDetails, cut_words
    from guide_arc.library.intake import answers_among, inspect_clip
    from guide_arc.library.own_standards import OwnStandards
    from guide_arc.library.reviewing import review_and_keep
    from guide_arc.library.searches import Searches
    from guide_arc.library.whole_records import records_in, take_in

if TYPE_CHECKING:
    from guide_arc.library.batch import Outcome
    from guide_arc.library.store import Library

_ANY = "Unnamed client"


def import_files(
    folder: Annotated[
        Path, typer.Argument(help="A folder, searched for tracks and clips, or one file.")
    ],
    client: Annotated[
        str | None, typer.Option(help="Whose sets; else by the files' names.")
    ] = None,
    standard: Annotated[
        str | None, typer.Option(help="The exercise of all that name none.")
    ] = None,
    view: Annotated[
        ViewName | None,
        typer.Option(help="From where clips were filmed; else by their names."),
    ] = None,
    capture_rate: Annotated[
        float | None, typer.Option(help="Frames a second at which slow-motion clips were filmed.")
    ] = None,
    search: Annotated[
        bool, typer.Option(help="Find the landmarks of clips by the pose model, where it is there.")
    ] = True,
    library: AnyLibrary = None,
) -> None:
    """Take a folder of tracks and clips in, and review the tracks, on all cores.

    Where the pose model is there, the clips' landmarks are found and reviewed after that. A run
    that was cut off is gone on with by the same command. One bad file never stops the rest.
    """
    if records_in(folder):
        _take_records(folder, library)
        return
    if not folder.exists():
        raise BadInput(f"{folder}: there is no such folder; give one that holds tracks or clips")
    files = sorted(p for p in folder.rglob("*") if p.is_file()) if folder.is_dir() else [folder]
    files = [p for p in files if p.suffix.lower() in LOOKED_AT and not p.name.startswith(".")]
    answers, given = answers_among(p for p in files if not p.name.endswith(".truth.json"))
    files = list(given)
    if answers:
        say("\n".join(_take_answers(answers, library)))
        if not files:
            return
    if not files:
        raise BadInput(f"{folder}: it holds no track and no clip ({', '.join(TAKEN)})")
    apart = (*SUFFIXES, *OTHER_SUFFIXES, ".zip")
    opened = library_at(library, make=True, patient=True)
    try:
        clients = opened.client_names()
        tracks = [
            TrackFile(p, client or attribution(p.name, clients).client or _ANY, standard)
            for p in files
            if p.suffix.lower() not in apart
        ]
        others = [p for p in files if p.suffix.lower() in apart]
        with shown_progress(f"importing {len(files)} files") as progress:
            share = len(tracks) / len(files)
            out = import_tracks(opened, tracks, lambda s: progress(share * s))
            chosen: StatedView | None = view.value if view else None
            clips = []
            for path in others:
                found = _one(
                    opened,
                    path,
                    client,
                    standard=standard,
                    view=chosen,
                    capture_hz=capture_rate,
                    out=out,
                )
                clips += [found] if found else []
            taken = import_clips(opened, clips, lambda s: progress(share + (1 - share) * s))
            out.done += taken.done
            out.known += taken.known
            out.refused += taken.refused
        cut = [words for set_id in taken.done for words in cut_words(opened, set_id)]
        owners = [opened.record(set_id).client for set_id in out.done] if client is None else []
        searched = _search(opened, taken.done) if search else ""
    finally:
        opened.close()
    lines = [f"{len(out.done)} sets added, {out.known} known already, {len(out.refused)} refused"]
    lines += [searched] if searched else []
    unnamed = sum(record == _ANY for record in owners)
    if unnamed:
        count = "1 set has" if unnamed == 1 else f"{unnamed} sets have"
        lines.append(
            f"  {count} no client's name in the file's name: listed under “{_ANY}”. Choose the"
            " client in the window, or give --client next time."
        )
    lines += [f"  {words}" for words in cut]
    say("\n".join([*lines, *(f"  {why}" for why in out.refused)]))
    if out.refused and not out.done and not out.known:
        raise BadInput(f"none of {len(files)} files could be used; the first: {out.refused[0]}")


def _take_answers(answers: tuple[tuple[Path, str], ...], into: str | None) -> list[str]:
    """Take clients' answers in; a line for each."""
    lines = []
    opened = library_at(into, make=True, patient=True)
    try:
        for path, text in answers:
            try:
                found = match(opened, text, date.today())
                if found.known:
                    words = f"taken in before: {found.about}"
                elif found.doubt:
                    words = f"{found.about}: {found.doubt}. Take it in with Add sets in the window."
                else:
                    words = take_answer(opened, found).words
                    if not opened.record(found.set_id).waits_for_landmarks:
                        review_and_keep(opened, found.set_id)
            except BadInput as error:
                words = f"{error}."
            lines.append(f"{path.name}: {words}")
    finally:
        opened.close()
    return lines


def _take_records(folder: Path, into: str | None) -> None:
    """What `guide-arc export` has written comes back."""
    opened = library_at(into, make=True, patient=True)
    try:
        with shown_progress("taking the record in") as progress:
            taken = take_in(opened, folder, progress)
    finally:
        opened.close()
    lines = [
        f"{len(taken.ids)} sets added, {taken.known} known already, {len(taken.wrong)} refused"
    ]
    say("\n".join([*lines, *(f"  {why}" for why in taken.wrong)]))
    if taken.wrong and not taken.ids and not taken.known:
        raise BadInput(f"nothing of {folder} could be used; the first: {taken.wrong[0]}")


def _search(library: Library, new: list[int]) -> str:
    """Find the landmarks of the clips that came in, and of those left from a run that was cut off;
    what became of them."""
    searches = Searches(library)
    searches.want(new)
    waiting = searches.wanted()
    if not waiting:
        return ""
    count = "one clip" if len(waiting) == 1 else f"{len(waiting)} clips"
    with shown_progress(f"finding the body in {count}") as progress:
        return searches.run(progress).words


def _one(
    library: Library,
    path: Path,
    client: str | None,
    standard: str | None,
    view: StatedView | None,
    capture_hz: float | None,
    out: Outcome,
) -> tuple[Path, ClipDetails] | None:
    """A clip with its details; a bundle is taken in at once. What is wrong goes into the
    outcome."""
    try:
        if path.suffix.lower() == ".zip":
            set_id, new = take_bundle(library, path)
            out.done += [set_id] if new else []
            out.known += not new
            return None
        catalogue = OwnStandards(library).catalogue()
        item = inspect_clip(path, library.client_names(), catalogue)
        id, side = standard or item.standard, view or item.view
        if id is None or side is None:
            missing = "its exercise (--standard)" if id is None else "its view (--view)"
            raise BadInput(f"{path.name}: its name does not say {missing}.")
        return path, ClipDetails(
            client or item.client or _ANY,
            id,
            catalogue.standard(id).school.id,
            side,
            recorded=item.recorded,
            capture_hz=capture_hz or item.capture_hz,
        )
    except BadInput as error:
        out.refused.append(str(error))
        return None
