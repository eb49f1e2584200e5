"""Follow-ups, off the window's thread. Each function is a job's work: (library, progress, …)."""

from __future__ import annotations

from datetime import date

from guide_arc.app.contract.job import Progress
from guide_arc.library import follow_ups
from guide_arc.library.clients import Clients
from guide_arc.library.follow_ups import FollowUp
from guide_arc.library.store import Library


def read(library: Library, progress: Progress) -> list[FollowUp]:
    progress(0.0)
    return follow_ups.follow_ups(library)


def keep(
    library: Library, progress: Progress, client: str, words: str, due: date, set_id: int | None
) -> int:
    progress(0.0)
    return follow_ups.keep_follow_up(library, client, words, due, set_id)


def settle(library: Library, progress: Progress, before: dict[int, tuple[date | None, date]]) -> None:  # fmt: skip
    """By id the day on which it was done, or None, and the day on which it is due."""
    for n, (id, (done, due)) in enumerate(before.items()):
        progress(n / len(before))
        follow_ups.settle(library, id, done, due)


def forget(library: Library, progress: Progress, id: int) -> None:
    progress(0.0)
    Clients(library).forget_thing(id)
