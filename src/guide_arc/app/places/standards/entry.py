"""The standards as the program lists them."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.standards.commands import COMMANDS
from guide_arc.app.services.destinations import ToStandards
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.places.standards.place import StandardsPlace, make

STANDARDS: Final = PlaceEntry(
    "Standards",
    "F4",
    "↑ ↓ ← → choose    / find    V turn    space stop    Ctrl+D copy    Ctrl+Z undo    Escape queue"
    "    F1 keys",
    start=ToStandards(),
    make=make,
    enter=StandardsPlace.enter,
    commands=COMMANDS,
    help="The exercise standards: read, change and make them",
)
