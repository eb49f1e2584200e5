"""The landmark track in each form that can be written."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import Final

from guide_arc.formats.format import Format
from guide_arc.formats.registry import formats
from guide_arc.reports.exports.export import Export, Leaving, Progress


def write(form: Format, leaving: Leaving, target: Path, progress: Progress) -> None:
    progress(0.1)
    form.save(leaving.library.track(leaving.record.id), target)


EXPORTS: Final = tuple(
    Export(
        form.id,
        form.words,
        form.help,
        tuple((ending, form.words) for ending in form.suffixes),
        partial(write, form),
        form.holds,
        order=60,
    )
    for form in formats()
    if form.write is not None
)
