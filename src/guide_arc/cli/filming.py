"""`guide-arc filming`: where to put the phone, half a page an exercise."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from guide_arc.cli.options import AnyLibrary
from guide_arc.cli.progress import shown_progress
from guide_arc.cli.terminal import say
from guide_arc.core.model.errors import BadInput
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.cli.options import library_at
    from guide_arc.library.own_standards import OwnStandards
    from guide_arc.reports.filming import write_filming
    from guide_arc.standards.catalogue import Catalogue


def filming(
    out: Annotated[Path, typer.Argument(help="The file to write: .pdf or .html.")],
    standard: Annotated[
        list[str] | None,
        typer.Option(help="An exercise; may be given several times. All of them when left out."),
    ] = None,
    client: Annotated[
        str | None, typer.Option(help="The exercises that this client of the library does.")
    ] = None,
    library: AnyLibrary = None,
) -> None:
    """How to film exercises: the phone's side, distance and height, and the second view."""
    if out.suffix.lower() not in (".pdf", ".html"):
        raise BadInput(f"{out.name}: its ending must be .pdf or .html")
    if client is not None:
        opened = library_at(library)
        try:
            catalogue = OwnStandards(opened).catalogue()
            asked = opened.exercises_of(client)
        finally:
            opened.close()
        if not asked:
            raise BadInput(f"no exercise of {client} is in the library")
    else:
        catalogue = Catalogue()
        asked = list(standard or catalogue.ids())
    plans = [catalogue.standard(id) for id in dict.fromkeys(asked)]
    with shown_progress(f"writing {out.name}") as progress:
        write_filming(plans, out, progress)
    say(f"{out}: how to film {len(plans)} {'exercise' if len(plans) == 1 else 'exercises'}")
