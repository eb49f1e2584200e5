"""The setup as the program lists it."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.setup.commands import COMMANDS
from guide_arc.app.services.destinations import ToSetup
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.places.setup.place import SetupPlace, make
    from guide_arc.app.services import setup_jobs

SETUP: Final = PlaceEntry(
    "Setup",
    "F9",
    "drag pulley, feet, hand, trunk    ↑ ↓ a hole    ← → half a shoe    [ ] along the lift    V"
    " view    W wish    F find    S keep    Ctrl+Z undo    Escape queue    F1 keys",
    start=ToSetup(),
    make=make,
    enter=SetupPlace.enter,
    commands=COMMANDS,
    help="Where the pull comes from, and finding the setup",
    also=(setup_jobs,),
)
