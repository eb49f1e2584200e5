"""Reps and measures as tables."""

from __future__ import annotations

from pathlib import Path
from typing import Final

from guide_arc.core.review.measure_all import measure_all
from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.measures_csv import measures_text
from guide_arc.formats.reps_csv import reps_text
from guide_arc.reports.exports.export import PRIVATE, Export, Leaving, Progress


def write_reps(leaving: Leaving, target: Path, progress: Progress) -> None:
    progress(0.1)
    write_atomic(target, reps_text(leaving.shown.review).encode(), PRIVATE)


def write_measures(leaving: Leaving, target: Path, progress: Progress) -> None:
    progress(0.1)
    track = leaving.library.track(leaving.record.id)
    series = measure_all(track, leaving.shown.review.standard)
    progress(0.8)
    write_atomic(target, measures_text(track.time_s, series).encode(), PRIVATE)


_CSV: Final = ((".csv", "Table"),)
EXPORTS: Final = (
    Export(
        "reps",
        "Reps as a table",
        "one row a rep: phases, range, what is off",
        _CSV,
        write_reps,
        order=40,
    ),
    Export(
        "measures",
        "Measures as a table",
        "every measure over time with its uncertainty",
        _CSV,
        write_measures,
        order=41,
    ),
)
