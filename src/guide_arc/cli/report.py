"""`guide-arc report CLIENT`: a client's progress as PDF and HTML."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from guide_arc.cli.options import AnyLibrary, library_at
from guide_arc.cli.terminal import say
from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.formats.file_names import file_name_part
from guide_arc.library.client_sheet import sheets_of
from guide_arc.reports.progress import write_progress


def report(
    client: Annotated[str, typer.Argument(help="The client's name.")],
    standard: Annotated[str | None, typer.Option(help="Only this exercise.")] = None,
    out: Annotated[
        Path | None, typer.Option(help="The PDF to write; the HTML is written next to it.")
    ] = None,
    library: AnyLibrary = None,
) -> None:
    """A client's progress: form against load, the weeks, what the cues did."""
    opened = library_at(library)
    try:
        names = opened.clients()
        if client not in names:
            raise BadInput(f"there is no client {client!r}{did_you_mean(client, names)}")
        sheets = sheets_of(opened, client, standard, lambda _share: None)
        if standard is not None and (sheets[0].plan is None or sheets[0].plan.id != standard):
            done = [id for id, _name, _count in sheets[0].exercises]
            raise BadInput(
                f"{client} has no set of {standard!r}; there are sets of"
                f" {', '.join(done) or 'nothing'}"
            )
        target = write_progress(
            sheets, out or Path(f"{file_name_part(client)} - progress.pdf"), opened.setting("coach")
        )
    finally:
        opened.close()
    say(f"{target}")
