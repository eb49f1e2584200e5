"""`guide-arc measure`: every measure over time as CSV."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from guide_arc.cli.terminal import say
from guide_arc.core.review.measure_all import measure_all
from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.measures_csv import measures_text
from guide_arc.formats.track_file import read_track
from guide_arc.standards.loader import shipped, standard


def measure(
    track: Annotated[Path, typer.Argument(help="A landmark track, CSV or JSON.")],
    out: Annotated[Path | None, typer.Option(help="Write here instead of printing.")] = None,
) -> None:
    """Every measure over time, with its standard uncertainty, one row per frame."""
    recorded = read_track(track)
    known = recorded.facts.standard
    series = measure_all(recorded, standard(known) if known in shipped() else None)
    text = measures_text(recorded.time_s, series)
    if out:
        write_atomic(out, text.encode())
    else:
        say(text.rstrip("\n"))
