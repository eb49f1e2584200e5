"""The plan as the program lists it."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.plan.commands import COMMANDS

PLAN_PLACE: Final = PlaceEntry(
    "plan",
    "Plan",
    "F8",
    "↑ ↓ line    ← → load step    Shift+↑ ↓ order    A add    + − sets    [ ] session    Ctrl+P"
    " print    Ctrl+Enter send    Escape queue    F1 keys",
    "guide_arc.app.places.plan.place:make",
    COMMANDS,
    "What to do next, session by session, and why",
    also=("guide_arc.app.services.plan_jobs",),
)
