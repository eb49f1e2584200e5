"""`guide-arc review`: the whole review of one recorded set."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Annotated

import typer

from guide_arc.cli.options import library_at, standard_for, tempo_of
from guide_arc.cli.progress import shown_progress
from guide_arc.cli.terminal import say
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.figures import SetFigures
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.review import Review
from guide_arc.core.model.settings import Settings
from guide_arc.core.model.track import View
from guide_arc.core.model.units import amount, spread
from guide_arc.core.planning.pain import STOP, asking_first
from guide_arc.core.review.assess import context_of, review_with_body
from guide_arc.core.review.far_arm import told_once
from guide_arc.core.review.figures import figures_of
from guide_arc.drawings.words import sentence, which_reps
from guide_arc.formats.review_json import review_json
from guide_arc.formats.track_file import read_track
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.library.batch import review_all

_MARK = {"ok": "ok", "near": "near", "off": "OFF", "cannot-tell": "can't tell"}


def review(
    track: Annotated[
        Path | None, typer.Argument(help="A landmark track: CSV, JSON, C3D or TRC.")
    ] = None,
    standard: Annotated[
        str | None, typer.Option(help="The exercise standard; the track's own when left out.")
    ] = None,
    school: Annotated[
        str | None,
        typer.Option(help="One of the standard's schools; the strict one when left out."),
    ] = None,
    tempo: Annotated[
        str | None, typer.Option(help="LOWER-BOTTOM-LIFT-TOP in seconds, x for no demand.")
    ] = None,
    felt: Annotated[
        list[str] | None, typer.Option(help="Where the client felt it; may be given several times.")
    ] = None,
    pain: Annotated[
        bool, typer.Option("--pain", help="The client reported pain: no load is proposed.")
    ] = False,
    loose_last: Annotated[
        int, typer.Option(min=0, help="How many of the last reps may be loose, the spine excepted.")
    ] = 0,
    partials: Annotated[
        int,
        typer.Option(min=0, help="How many partial reps were asked for after the last full one."),
    ] = 0,
    json: Annotated[bool, typer.Option("--json", help="Print the review as JSON.")] = False,
    every: Annotated[
        bool, typer.Option("--all", help="Review every set of the library again, on all cores.")
    ] = False,
    fresh: Annotated[
        bool,
        typer.Option("--fresh", help="With --all: from the beginning, not from where it stopped."),
    ] = False,
    scheduler: Annotated[
        str | None,
        typer.Option(
            help="With --all: a Dask scheduler's address, whose workers do the computing."
        ),
    ] = None,
    library: Annotated[
        str | None,
        typer.Option(
            help="With --all: another library's folder than your own, or a team's address."
        ),
    ] = None,
) -> None:
    """The whole review of a set: reps, phases, findings.

    With --all, of every set in the library.
    """
    if every:
        _all(track, library, fresh, scheduler)
        return
    if track is None:
        raise BadInput("no track is given; give a landmark track, or --all for the library's sets")
    asked = tempo_of(tempo)
    settings = Settings(loose_last=loose_last, felt=tuple(felt or ()))
    with shown_progress(f"reviewing {track.name}") as progress:
        recorded = read_track(track)
        chosen = standard_for(recorded, standard, school)
        if partials:
            chosen = replace(chosen, dose=replace(chosen.dose, partials=partials))
        progress(0.3)
        result, body, repset = review_with_body(
            recorded, chosen, asked, lambda share: progress(0.3 + 0.4 * share), settings=settings
        )
        if pain:
            result = replace(result, next_time=asking_first(result.next_time))
        figures = figures_of(context_of(body, repset, chosen, asked))
        progress(1.0)
    words = review_json(result, figures) if json else _words(result, figures, recorded.view)
    say(words)


def _all(track: Path | None, folder: str | None, fresh: bool, scheduler: str | None) -> None:
    if track is not None:
        raise BadInput("--all reviews the library's sets; give a track or --all, not both")
    opened = library_at(folder, patient=True)
    try:
        with shown_progress("reviewing every set") as progress:
            out = review_all(opened, progress, fresh=fresh, scheduler=scheduler)
    finally:
        opened.close()
    before = f", {out.known} in the run before" if out.known else ""
    lines = [f"{len(out.done)} sets reviewed{before}, {len(out.refused)} could not be"]
    say("\n".join([*lines, *(f"  {why}" for why in out.refused)]))


def _words(review: Review, figures: SetFigures, view: View) -> str:
    partial = len(review.reps) - review.full_reps
    lines = [
        f"{review.standard.name}, {review.standard.school.name}: {review.full_reps} full reps"
        + (f" and {partial} partial" if partial else "")
        + f" in {review.duration_s:.1f} s, {review.under_tension_s:.0f} s under load",
        (
            f"{review.trust.view}, {review.trust.scale}; angles good to ±"
            f" {2 * review.trust.angle_u_deg:.0f}°"
        ),
        *(f"Note: {doubt}" for doubt in review.trust.doubts),
        "",
    ]
    lines += [_line(f) for f in told_once(review.findings, view)]
    told = [
        sentence(t.says) + ("" if t.side == "both" else f" ({t.side})")
        for t in figures.trends
        if t.sure
    ]
    if review.broke_down:
        told.insert(0, sentence(review.broke_down.says))
    told += [c.words.rstrip(".") for c in review.causes]
    lines += ["", *(f"{words}." for words in told)] if told else []
    lines += ["", f"Next time: {review.next_time.reason}."]
    if review.next_time.ask_first:
        lines.insert(0, STOP)
    return "\n".join(lines)


def _line(f: Finding) -> str:
    side = "" if f.side == "both" else f" ({f.side})"
    if f.verdict == "cannot-tell":
        return f"  {_MARK[f.verdict]:<11}{f.title}{side}: {f.why}"
    reps = f", {which_reps(f)}" if f.verdict != "ok" else ""
    sure = f" ± {spread(f.uncertainty or 0.0, f.unit)}, limit {amount(f.limit, f.unit)}"
    mark = "likely" if f.hint else _MARK[f.verdict]
    return f"  {mark:<11}{f.title}{side}: {f.says}{sure}{reps}"
