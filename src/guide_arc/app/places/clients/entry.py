"""The clients as the program lists them."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.clients.commands import COMMANDS

CLIENTS: Final = PlaceEntry(
    "clients",
    "Clients",
    "F7",
    "↑ ↓ client    ← → set    Tab exercise    Enter open the set    X set against set    M months  "
    "  G what is known    Ctrl+P report    Escape queue    F1 keys",
    "guide_arc.app.places.clients.place:make",
    COMMANDS,
    "Each client over the years: form against load, cues, what is known",
    also=("guide_arc.app.services.client_jobs",),
)
