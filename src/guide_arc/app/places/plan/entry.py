"""The plan as the program lists it."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.plan.commands import COMMANDS
from guide_arc.app.services.destinations import ToPlan
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.places.plan.place import PlanPlace, make
    from guide_arc.app.services import plan_jobs

PLAN_PLACE: Final = PlaceEntry(
    "Plan",
    "F8",
    "↑ ↓ line    ← → load step    G propose    A add    + − sets    D log    E last set"
    "    [ ] session    Ctrl+P print    Ctrl+Enter send    Escape queue    F1 keys",
    start=ToPlan(),
    make=make,
    enter=PlanPlace.enter,
    commands=COMMANDS,
    help="What to do next, session by session, and why",
    also=(plan_jobs,),
)
