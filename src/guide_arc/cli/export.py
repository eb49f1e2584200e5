"""`guide-arc export`: a client's whole record, or the whole library, as a folder of files."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from guide_arc.cli.options import AnyLibrary, library_at
from guide_arc.cli.progress import shown_progress
from guide_arc.cli.terminal import say
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.library.whole_records import write_library
    from guide_arc.reports.client_folder import write_client_folder


def export(
    folder: Annotated[
        Path, typer.Argument(help="The folder to write into; made where there is none.")
    ],
    client: Annotated[
        str | None, typer.Option(help="One client only; all clients when left out.")
    ] = None,
    library: AnyLibrary = None,
) -> None:
    """Export every set, client and year as files that 'import' reads again.

    Sets are bundles, the years a table.
    """
    opened = library_at(library)
    try:
        with shown_progress("exporting") as progress:
            if client is not None:
                count = write_client_folder(opened, client, folder, progress)
            else:
                count = write_library(opened, folder, progress)
    finally:
        opened.close()
    say(f"{count} {'set' if count == 1 else 'sets'} written into {folder}")
