"""`guide-arc log`: what was done without being filmed."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import Annotated

import typer

from guide_arc.cli.options import AnyLibrary, library_at
from guide_arc.cli.terminal import say
from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.core.planning.training_log import LoggedSet, read_line
from guide_arc.formats.errors import BadFile
from guide_arc.formats.log_csv import log_table, read_table
from guide_arc.library.clients import Clients
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.store import Library
from guide_arc.library.training_logs import logged_sets, named_exercises, note_at_once
from guide_arc.standards.catalogue import Catalogue


def log(
    client: Annotated[str, typer.Argument(help="The client's name.")],
    lines: Annotated[
        list[str] | None,
        typer.Argument(help="Sets, a line an exercise: 'curl 27.5x12x3 @2'. None prints the log."),
    ] = None,
    on: Annotated[str | None, typer.Option(help="The day, such as 2031-05-04; today.")] = None,
    table: Annotated[
        Path | None, typer.Option("--csv", help="Take a table in: date, exercise, weight, reps, …")
    ] = None,
    library: AnyLibrary = None,
) -> None:
    """What was done without being filmed: note sets, take a table in, or print what is noted."""
    day = _day(on)
    opened = library_at(library)
    try:
        names = opened.clients()
        if client not in names:
            raise BadInput(f"there is no client {client!r}{did_you_mean(client, names)}")
        catalogue = OwnStandards(opened).catalogue()
        if not lines and table is None:
            say(_printed(opened, client, catalogue))
            return
        typed = _typed(opened, client, lines or [], day, catalogue)
        taken = _taken(table, catalogue) if table is not None else ()
        count = note_at_once(opened, client, typed, taken)
    finally:
        opened.close()
    say(f"{count} set{'' if count == 1 else 's'} noted for {client}.")


def _day(on: str | None) -> date:
    try:
        return date.fromisoformat(on) if on else date.today()
    except ValueError:
        raise BadInput(f"{on!r} is no day; write it such as 2031-05-04") from None


def _typed(
    library: Library, client: str, lines: list[str], day: date, catalogue: Catalogue
) -> tuple[LoggedSet, ...]:
    offered, usual = named_exercises(catalogue), library.exercises_of(client)
    return tuple(s for line in lines for s in read_line(line, day, offered, usual))


def _taken(table: Path, catalogue: Catalogue) -> tuple[LoggedSet, ...]:
    try:
        text = table.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        why = error.strerror if isinstance(error, OSError) else "it is no text in UTF-8"
        raise BadFile(f"the file can't be read ({why})", path=table) from None
    return read_table(text, table.name, named_exercises(catalogue))


def _printed(library: Library, client: str, catalogue: Catalogue) -> str:
    sets = logged_sets(Clients(library), client)
    return log_table(sets, catalogue.name).rstrip("\n")
