"""Follow-ups, off the window's thread. Each function is a job's work: (library, progress, …)."""

from __future__ import annotations

from datetime import date

from guide_arc.app.contract.job import Progress
from guide_arc.library import follow_ups
from guide_arc.library.changes import Changes
from guide_arc.library.follow_ups import FollowUp
from guide_arc.library.store import Library
from guide_arc.library.undoing import do


def read(library: Library, progress: Progress) -> list[FollowUp]:
    progress(0.0)
    return follow_ups.follow_ups(library)


def keep(
    library: Library, progress: Progress, client: str, words: str, due: date, set_id: int | None
) -> Changes:
    progress(0.0)
    return do(
        library, lambda session: follow_ups.put_follow_up(session, client, words, due, set_id)
    ).changes


def settle(
    library: Library, progress: Progress, states: dict[int, tuple[date | None, date | None]]
) -> None:
    """By number the day on which it was done, or None, and the day on which it is due."""
    progress(0.0)
    follow_ups.settle(library, states)
