"""The whole set as one file, to be taken in elsewhere."""

from __future__ import annotations

from pathlib import Path
from typing import Final

from guide_arc.library.bundles import write_set
from guide_arc.reports.exports.export import Export, Leaving, Progress


def write(leaving: Leaving, target: Path, progress: Progress) -> None:
    progress(0.1)
    write_set(leaving.library, leaving.record.id, target)


EXPORT: Final = Export(
    "bundle",
    "The whole set",
    "one ZIP with clip, track and what is known of the set",
    ((".zip", "Set"),),
    write,
    asks=frozenset({"whole clip"}),
    order=90,
)
