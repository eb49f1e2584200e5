"""The evening's work off the window's thread. Each function is a job's work: (library, progress, …)."""

from __future__ import annotations

from datetime import date, datetime

from guide_arc.app.contract.job import Progress
from guide_arc.library import evening
from guide_arc.library.queue_rows import QueueRow
from guide_arc.library.records import SetNotes
from guide_arc.library.store import Library


def note_reviewed(
    library: Library, progress: Progress, set_id: int, seconds: float, at: datetime
) -> None:
    progress(0.0)
    evening.note_reviewed(library, set_id, seconds, at)


def clean_rows(library: Library, progress: Progress) -> list[QueueRow]:
    progress(0.0)
    return evening.clean_rows(library)


def mark_reviewed(
    library: Library, progress: Progress, ids: tuple[int, ...], at: datetime
) -> dict[int, SetNotes]:
    progress(0.0)
    return evening.mark_reviewed(library, ids, at)


def put_notes_back(library: Library, progress: Progress, before: dict[int, SetNotes]) -> None:
    """The coach's documents of some sets as they were."""
    for i, (set_id, notes) in enumerate(before.items()):
        progress(i / len(before))
        library.keep_notes(set_id, notes)


def evening_text(library: Library, progress: Progress, day: date) -> str:
    progress(0.0)
    return evening.evening_text(evening.told_on(library, day), day)


def templates(library: Library, progress: Progress) -> list[str]:
    progress(0.0)
    return evening.templates(library)


def keep_templates(library: Library, progress: Progress, texts: tuple[str, ...]) -> None:
    progress(0.0)
    evening.keep_templates(library, texts)
