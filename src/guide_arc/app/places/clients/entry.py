"""The clients as the program lists them."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.clients.commands import COMMANDS
from guide_arc.app.services.destinations import ToClients
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.places.clients.place import ClientsPlace, make
    from guide_arc.app.services import client_jobs

CLIENTS: Final = PlaceEntry(
    "Clients",
    "F7",
    "↑ ↓ client    ← → set    Tab exercise    Enter open the set    X set against set    M months  "
    "  G what is known    Ctrl+P report    Escape queue    F1 keys",
    start=ToClients(),
    make=make,
    enter=ClientsPlace.enter,
    commands=COMMANDS,
    help="Each client over the years: form against load, cues, what is known",
    also=(client_jobs,),
)
