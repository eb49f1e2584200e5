"""`guide-arc team`: makes the library that a team shares on a server, and takes members in."""

from __future__ import annotations

from typing import Annotated

import typer

from guide_arc.cli.terminal import say
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.library.server import Role, make_library, team_place


def team(
    address: Annotated[
        str, typer.Argument(help="postgresql://NAME@HOST/DATABASE?recordings=/shared/folder")
    ],
    coach: Annotated[
        list[str] | None, typer.Option(help="A member by name on the server who reads and writes.")
    ] = None,
    reader: Annotated[
        list[str] | None, typer.Option(help="A member by name on the server who reads.")
    ] = None,
) -> None:
    """Make a team's library in a PostgreSQL database.

    It needs the right to make tables and roles there. Run again, it brings the library up after a
    new version, or takes more members in.

    Every member then opens it with the same address under their own name: guide-arc --library
    ADDRESS.
    """
    members: dict[str, Role] = dict.fromkeys(reader or (), "reader")
    members.update(dict.fromkeys(coach or (), "coach"))
    make_library(team_place(address), members)
    names = ", ".join(f"{name} ({role})" for name, role in sorted(members.items()))
    say(f"the team's library is ready{f' for {names}' if names else ''}")
