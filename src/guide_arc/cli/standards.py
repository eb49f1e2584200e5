"""`guide-arc standards`: the exercise standards that ship."""

from __future__ import annotations

import json as jsonlib
from typing import Annotated

import typer

from guide_arc.cli.terminal import say
from guide_arc.standards.loader import shipped, standard


def standards(
    json: Annotated[bool, typer.Option("--json", help="Print as JSON.")] = False,
) -> None:
    """The exercise standards with id, name, kit, views and schools."""
    all_of_them = [standard(id) for id in shipped()]
    if json:
        document = [
            {
                "id": s.id,
                "name": s.name,
                "region": s.region,
                "kit": {"pull": s.pull, "held": s.held},
                "views": list(s.views),
                "schools": [school.id for school in s.schools],
            }
            for s in all_of_them
        ]
        say(jsonlib.dumps(document, indent=1))
        return
    for s in all_of_them:
        kit = s.pull if s.held == "none" else f"{s.pull}, {s.held}"
        schools = ", ".join(school.id for school in s.schools)
        say(f"{s.id:<28}{s.name:<32}{kit:<24}film: {', '.join(s.views):<20}{schools}")
