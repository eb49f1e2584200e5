"""The evening's pages for all clients: a folder for each, with a page for each set that was
reviewed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from pathlib import Path

from guide_arc.core.model.errors import BadInput
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.formats.file_names import file_name_part, free_name
from guide_arc.library.answers import page_key
from guide_arc.library.evening import reviewed_on
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.pasts import past_of
from guide_arc.library.records import SetRecord
from guide_arc.library.reviewing import plan_of, shown_set
from guide_arc.library.setups import kept_setups
from guide_arc.library.store import Library
from guide_arc.reports.page import write_page


@dataclass(frozen=True)
class EveningPages:
    """folder : where they are; clients, pages : how many; wrong : a sentence for each set whose
    page could not be made"""

    folder: Path
    clients: int
    pages: int
    wrong: tuple[str, ...] = ()

    @property
    def words(self) -> str:
        """One line for the foot of the window."""
        if not self.pages and not self.wrong:
            return "No set was reviewed today, so there is no page to write."
        pages = f"{self.pages} page{'' if self.pages == 1 else 's'}"
        people = f"{self.clients} client{'' if self.clients == 1 else 's'}"
        more = f" {self.wrong[0]}" if self.wrong else ""
        return f"{pages} for {people} written to {self.folder.name}.{more}"


def write_evening(
    library: Library,
    day: date,
    folder: Path,
    coach: str,
    progress: Callable[[float], None] = lambda _share: None,
) -> EveningPages:
    """Write the pages of all sets that were reviewed on a day, in a folder for each client. The
    pages can be answered.

    progress : may raise to stop; each page is whole or not there
    Raises BadInput if the folder can't be written.
    """
    records = reviewed_on(library, day)
    folders: dict[str, Path] = {}
    written, wrong = 0, []
    for i, record in enumerate(records):
        progress(i / len(records))
        own = folders.get(record.client)
        if own is None:
            taken = [path.name for path in folders.values()]
            own = folders[record.client] = folder / free_name(file_name_part(record.client), taken)
        try:
            own.mkdir(mode=0o700, parents=True, exist_ok=True)
        except OSError as error:
            raise BadInput(f"{own} can't be written ({error.strerror})") from error
        name = f"{record.recorded[:10]}-{record.standard}-{record.id}.pdf"
        try:
            write_page(
                own / name,
                record,
                _shown(library, record),
                record.notes,
                coach,
                next(reversed(kept_setups(library, record.standard, record.client)), None),
                answer=page_key(library, record.id, day),
            )
            written += 1
        except BadInput as error:
            wrong.append(f"{record.client}, {record.standard}: {error}.")
    return EveningPages(folder, len(folders), written, tuple(wrong))


def _shown(library: Library, record: SetRecord) -> ShownSet:
    if record.waits_for_landmarks:
        raise BadInput("its clip has no landmarks yet")
    plan = plan_of(library, record, OwnStandards(library).catalogue())
    return shown_set(library, record, plan, past_of(library, record.id, plan))
