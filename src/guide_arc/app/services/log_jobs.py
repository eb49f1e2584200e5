"""What is read and noted of training that nobody filmed, off the window's thread. Each function is
a job's work: (library, progress, …)."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from guide_arc.app.contract.job import Progress
from guide_arc.core.planning.training_log import LoggedSet
from guide_arc.library.changes import Changes
from guide_arc.library.log_sheet import LogSheet, read_log_sheet
from guide_arc.library.store import Library
from guide_arc.library.training_logs import change_log


def read_day(library: Library, progress: Progress, client: str, on: date) -> LogSheet:
    """A day as it is noted, with what its session asks for."""
    progress(0.0)
    return read_log_sheet(library, client, on)


def change(
    library: Library,
    progress: Progress,
    client: str,
    on: date,
    sets: Sequence[LoggedSet],
    since: Sequence[LoggedSet],
    tired: bool | None,
) -> Changes:
    """Other sets in place of those that a day had; what another window noted meanwhile stays.
    tired : whether the client was; None leaves that as it is"""
    progress(0.0)
    return change_log(library, client, on, sets=sets, since=since, tired=tired)
