"""The queue as the program lists it."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.queue.commands import COMMANDS

QUEUE: Final = PlaceEntry(
    "queue",
    "Queue",
    "F2",
    "Enter open    / find    Ctrl+O add    Delete erase    Ctrl+K all commands    F1 keys",
    "guide_arc.app.places.queue.place:make",
    COMMANDS,
    "The sets that wait, most in need first",
    needs_core=False,
    also=(
        "guide_arc.app.places.queue.evening_dialogs",
        "guide_arc.app.services.evening_jobs",
        "guide_arc.app.places.queue.incoming_dialog",
        "guide_arc.app.places.queue.names_dialog",
        "guide_arc.app.services.intake_jobs",
        "guide_arc.app.services.clip_jobs",
        "guide_arc.app.widgets.clip_frames",
    ),
)
