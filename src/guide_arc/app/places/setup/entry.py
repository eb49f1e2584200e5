"""The setup as the program lists it."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.setup.commands import COMMANDS

SETUP: Final = PlaceEntry(
    "setup",
    "Setup",
    "F9",
    "drag pulley, feet, hand, trunk    ↑ ↓ a hole    ← → half a shoe    [ ] along the lift    V"
    " view    W wish    F find    S keep    Ctrl+Z undo    Escape queue    F1 keys",
    "guide_arc.app.places.setup.place:make",
    COMMANDS,
    "Where the pull comes from, and finding the setup",
    also=("guide_arc.app.services.setup_jobs",),
)
