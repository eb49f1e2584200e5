"""The evening's work off the window's thread. Each function is a job's work: (library, progress,
…)."""

from __future__ import annotations

from datetime import date, datetime
from pathlib import Path

from guide_arc.app.contract.job import Progress
from guide_arc.library import evening
from guide_arc.library.answers import unanswered
from guide_arc.library.changes import Changes
from guide_arc.library.queue_rows import QueueRow
from guide_arc.library.store import Library
from guide_arc.library.undoing import do
from guide_arc.reports.evening_folder import EveningPages, write_evening


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
) -> Changes:
    """Mark sets reviewed in one transaction."""
    progress(0.0)
    return do(library, lambda session: evening.mark_reviewed(session, ids, at)).changes


def evening_text(library: Library, progress: Progress, day: date) -> str:
    progress(0.0)
    late = unanswered(library, datetime.combine(day, datetime.min.time()))
    waits = f"\nNo answer yet: {', '.join(late)}\n" if late else ""
    return evening.evening_text(evening.told_on(library, day), day) + waits


def write_pages(
    library: Library, progress: Progress, day: date, folder: Path, coach: str
) -> EveningPages:
    return write_evening(library, day, folder, coach, progress)


def templates(library: Library, progress: Progress) -> list[str]:
    progress(0.0)
    return evening.templates(library)


def keep_templates(library: Library, progress: Progress, texts: tuple[str, ...]) -> None:
    progress(0.0)
    evening.keep_templates(library, texts)
