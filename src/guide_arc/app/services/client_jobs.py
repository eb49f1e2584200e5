"""What is read and done of clients off the window's thread. Each function is a job's work:
(library, progress, …)."""

from __future__ import annotations

from pathlib import Path

from guide_arc.app.contract.job import Progress
from guide_arc.core.model.client import Client
from guide_arc.lazily import lazily
from guide_arc.library import clients, kept_things
from guide_arc.library.changes import Changes
from guide_arc.library.client_sheet import ClientSheet, read_sheet, sheets_of
from guide_arc.library.clients import Clients, ClientSummary
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library
from guide_arc.library.taking_out import take_client_out as take_out_client
from guide_arc.library.undoing import Done, do

with lazily():
    from guide_arc.reports.client_folder import write_client_folder
    from guide_arc.reports.progress import write_progress


def read_clients(library: Library, progress: Progress) -> list[ClientSummary]:
    progress(0.0)
    return Clients(library).all()


def read_page(library: Library, progress: Progress, name: str, standard: str | None) -> ClientSheet:
    """A client's page. standard : None shows the exercise that was done last"""
    return read_sheet(library, progress, name, standard)


def measure_untold(library: Library, progress: Progress, name: str) -> int:
    """Compute what is missing of a client's sets; how many there were."""
    ids = Clients(library).untold(name)
    for i, set_id in enumerate(ids):
        progress(i / len(ids))
        review_and_keep(library, set_id)
    return len(ids)


def keep_client(
    library: Library, progress: Progress, client: Client, was: Client | None
) -> Done[str]:
    """Save a client's profile; was : as they were known; what another window noted
    otherwise, in a sentence"""
    progress(0.0)
    return do(library, lambda session: clients.keep_client(session, client, was))


def join_clients(library: Library, progress: Progress, name: str, into: str) -> Done[list[int]]:
    """Make two clients one; the sets that moved."""
    progress(0.0)
    return do(library, lambda session: clients.join_clients(session, name, into))


def take_client_out(library: Library, progress: Progress, name: str) -> Changes:
    """Erase a client with every set so that undo can bring them back."""
    progress(0.0)
    return take_out_client(library, name)


def keep_words(
    library: Library, progress: Progress, name: str, check: str, words: str | None
) -> Changes:
    """Store the words that replace a check's cue for one client; None deletes them."""
    progress(0.0)
    return do(library, lambda session: kept_things.keep_words(session, name, check, words)).changes


def export_client(library: Library, progress: Progress, name: str, folder: Path) -> int:
    """Everything of a client into a folder: the profile, every set as a bundle, the years as a
    table."""
    return write_client_folder(library, name, folder, progress)


def write_report(
    library: Library, progress: Progress, name: str, standard: str | None, target: Path
) -> Path:
    """The progress report of one exercise, or of all of a client's."""
    progress(0.0)
    sheets = sheets_of(library, name, standard, progress)
    return write_progress(sheets, target, library.setting("coach"))
