"""The set's clip with the drawing on it; at its own speed with the cues as subtitles next to it."""

from __future__ import annotations

from pathlib import Path
from typing import Final

from guide_arc.core.model.errors import BadInput
from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.cues_vtt import vtt_text
from guide_arc.library.clip_sets import ClipSets
from guide_arc.reports.annotated import AnnotationOptions, annotated_clip
from guide_arc.reports.cues import said_cues, subtitles
from guide_arc.reports.exports.export import PRIVATE, Export, Leaving, Progress


def write(leaving: Leaving, target: Path, progress: Progress) -> None:
    clip = ClipSets(leaving.library).clip(leaving.record.id)
    if clip is None:
        raise BadInput("The clip of this set is gone from the library's folder.")
    cues = said_cues(leaving.shown, leaving.notes)
    wanted = AnnotationOptions(leaving.slow, leaving.cover_face)
    annotated_clip(target, clip, leaving.shown, cues, wanted, progress)
    if not leaving.slow:  # then its times are the clip's own, and subtitles fit
        text = vtt_text(subtitles(cues, leaving.shown, clip.slowdown))
        write_atomic(target.with_suffix(".vtt"), text.encode(), PRIVATE)


EXPORT: Final = Export(
    id="clip",
    words="Annotated clip",
    help="the set's clip with the drawing on it, slow at the faults",
    files=((".mp4", "MP4 clip"),),
    write=write,
    needs="clip",
    asks=frozenset({"slow", "face"}),
    order=10,
)
