"""The standards as the program lists them."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.standards.commands import COMMANDS

STANDARDS: Final = PlaceEntry(
    "standards",
    "Standards",
    "F4",
    "↑ ↓ ← → choose    / find    V turn    space stop    Ctrl+D copy    Ctrl+Z undo    Escape queue"
    "    F1 keys",
    "guide_arc.app.places.standards.place:make",
    COMMANDS,
    "The exercise standards: read, change and make them",
)
