"""The cues as WebVTT, to play with the clip."""

from __future__ import annotations

from pathlib import Path
from typing import Final

from guide_arc.core.model.errors import BadInput
from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.cues_vtt import vtt_text
from guide_arc.library.clip_sets import ClipSets
from guide_arc.reports.cues import said_cues, subtitles
from guide_arc.reports.exports.export import PRIVATE, Export, Leaving, Progress


def write(leaving: Leaving, target: Path, progress: Progress) -> None:
    progress(0.1)
    clip = ClipSets(leaving.library).clip(leaving.record.id)
    cues = said_cues(leaving.shown, leaving.notes)
    said = subtitles(cues, leaving.shown, clip.slowdown if clip else 1.0)
    if not said:
        raise BadInput("There is no cue to write; keep a finding first.")
    write_atomic(target, vtt_text(said).encode(), PRIVATE)


EXPORT: Final = Export(
    "subtitles",
    "Cues as subtitles",
    "WebVTT, to play with the clip",
    ((".vtt", "Subtitles"),),
    write,
    order=30,
)
