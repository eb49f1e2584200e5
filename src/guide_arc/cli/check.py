"""`guide-arc check`: whether the library is whole; mending it, and bringing a backup back."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import Annotated

import typer

from guide_arc.cli.options import AnyLibrary
from guide_arc.cli.progress import shown_progress
from guide_arc.cli.terminal import say
from guide_arc.core.model.errors import BadInput
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.library import backups as copies
    from guide_arc.library.checking import check as look
    from guide_arc.library.place import is_team, own_library_folder


def check(
    mend: Annotated[
        bool,
        typer.Option(
            "--mend",
            help="Mend what can be: list recordings that no set names, close what others can read.",
        ),
    ] = False,
    backups: Annotated[
        bool, typer.Option("--backups", help="List the backups, the newest first.")
    ] = False,
    restore: Annotated[
        str | None,
        typer.Option(help="Bring a backup back first: a file's name from --backups, or 'latest'."),
    ] = None,
    library: AnyLibrary = None,
) -> None:
    """Verify the library: its file, every recording by its bytes, what no set names.

    Exits 1 if anything is left wrong.
    """
    where = library or own_library_folder()
    if is_team(where):
        if backups or restore is not None:
            raise BadInput("the backups of a team's library are made by whoever runs its server")
        _look(where, mend=mend)
        return
    folder = Path(where)
    found = copies.backups(folder)
    if backups:
        lines = [f"{b.path.name}: {b.what}" for b in found] or ["no backup is there yet"]
        say("\n".join(lines))
        return
    if restore is not None:
        chosen = next((b for b in found if restore in ("latest", b.path.name)), None)
        if chosen is None:
            raise BadInput(
                f"there is no backup {restore!r}; 'guide-arc check --backups' lists them"
            )
        kept = copies.bring_back(folder, chosen.path, date.today())
        beside = f"; what stood there is kept as {kept.name}" if kept else ""
        say(f"{chosen.path.name} is brought back ({chosen.what}){beside}")
    _look(folder, mend=mend)


def _look(where: Path | str, *, mend: bool) -> None:
    with shown_progress("looking through the library") as progress:
        out = look(where, progress, mend=mend)
    lines = [f"{out.sets} sets and {out.files} recordings looked through"]
    lines += [f"  mended: {words}" for words in out.mended]
    lines += [f"  wrong: {words}" for words in out.wrong]
    if not out.wrong:
        lines.append("the library is whole")
    say("\n".join(lines))
    if out.wrong:
        raise typer.Exit(1)
