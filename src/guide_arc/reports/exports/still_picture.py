"""This moment as it is on the stage."""

from __future__ import annotations

from pathlib import Path
from typing import Final

from guide_arc.library.clip_sets import ClipSets
from guide_arc.reports.exports.export import Export, Leaving, Progress
from guide_arc.reports.still import write_still


def write(leaving: Leaving, target: Path, progress: Progress) -> None:
    progress(0.1)
    clip = ClipSets(leaving.library).clip(leaving.record.id) if leaving.over_clip else None
    write_still(
        target,
        leaving.shown,
        leaving.at_s,
        leaving.looking,
        leaving.finding,
        clip,
        face_covered=leaving.cover_face,
    )


EXPORT: Final = Export(
    "still",
    "Still picture",
    "this moment as shown on the stage",
    ((".png", "Picture"), (".svg", "Drawing")),
    write,
    asks=frozenset({"face"}),
    order=20,
)
