"""What is read and done of clients off the window's thread. Each function is a job's work: (library, progress, …)."""

from __future__ import annotations

from pathlib import Path

from guide_arc.app.contract.job import Progress
from guide_arc.core.model.client import Client
from guide_arc.library.client_sheet import ClientSheet, read_sheet, sheets_of
from guide_arc.library.clients import Clients, ClientSummary, RemovedClient
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library


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


def keep_client(library: Library, progress: Progress, client: Client, was: Client | None) -> str:
    """Keep what is known of a client; was : as they were known; what another window noted otherwise, in a sentence"""
    progress(0.0)
    clients = Clients(library)
    if was is not None and was.name != client.name:
        clients.rename(was.name, client.name)
    return clients.keep(client, was)


def join_clients(
    library: Library, progress: Progress, name: str, into: str
) -> tuple[list[int], Client, Client]:
    """Make two one; what an undo needs: the sets that moved, and both as they were."""
    progress(0.0)
    clients = Clients(library)
    before = clients.client(into)
    ids, was = clients.join(name, into)
    return ids, was, before


def part_clients(
    library: Library, progress: Progress, was: Client, ids: tuple[int, ...], into: Client
) -> None:
    progress(0.0)
    Clients(library).part(was, ids, into)


def take_client_out(library: Library, progress: Progress, name: str) -> RemovedClient:
    progress(0.0)
    return Clients(library).take_out(name)


def put_client_back(library: Library, progress: Progress, removed: RemovedClient) -> None:
    progress(0.0)
    Clients(library).put_back(removed)


def remove_new(library: Library, progress: Progress, name: str) -> None:
    """A client that was made and has nothing yet is gone again."""
    progress(0.0)
    Clients(library).take_out(name)


def keep_words(
    library: Library, progress: Progress, name: str, check: str, words: str | None
) -> None:
    """Keep the words that stand for a check's cue for one client; None forgets them."""
    progress(0.0)
    Clients(library).keep_words(name, check, words)


def export_client(library: Library, progress: Progress, name: str, folder: Path) -> int:
    """Everything of a client into a folder: what is known, every set as a bundle, the years as a table."""
    from guide_arc.library.whole_records import write_client  # noqa: PLC0415

    return write_client(library, name, folder, progress)


def write_report(
    library: Library, progress: Progress, name: str, standard: str | None, target: Path
) -> Path:
    """The progress report of one exercise, or of all of a client's."""
    from guide_arc.reports.progress import write_progress  # noqa: PLC0415

    progress(0.0)
    sheets = sheets_of(library, name, standard, progress)
    return write_progress(sheets, target, library.setting("coach"))
