"""A client's whole record as a folder, with what they need to film their exercises."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Final

from guide_arc.formats.atomic import write_atomic
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.store import Library
from guide_arc.library.whole_records import record_folder, write_client
from guide_arc.reports.filming import filming_html
from guide_arc.reports.pdf import pdf_of

Progress = Callable[[float], None]
FILMING: Final = "how-to-film"
# Of the progress: the record itself.
_RECORD_SHARE: Final = 0.8


def write_client_folder(library: Library, name: str, folder: Path, progress: Progress) -> int:
    """Write the record, and how to film each exercise that the client does; how many sets there
    are.

    progress : may raise to stop; each file is whole or not there
    """
    count = write_client(library, name, folder, lambda share: progress(_RECORD_SHARE * share))
    catalogue = OwnStandards(library).catalogue()
    plans = [catalogue.standard(id) for id in library.exercises_of(name) if id in catalogue]
    if plans:
        html = filming_html(
            plans, lambda share: progress(_RECORD_SHARE + 0.5 * (1.0 - _RECORD_SHARE) * share)
        )
        target = record_folder(folder, name)
        write_atomic(target / f"{FILMING}.html", html.encode(), mode=0o600)
        write_atomic(target / f"{FILMING}.pdf", pdf_of(html), mode=0o600)
    return count
