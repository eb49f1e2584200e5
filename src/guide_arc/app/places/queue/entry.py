"""The queue as the program lists it."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.queue.commands import COMMANDS, EVERYWHERE
from guide_arc.app.services.destinations import ToQueue
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.places.queue import evening_dialogs, incoming_dialog, names_dialog
    from guide_arc.app.places.queue.place import QueuePlace, make
    from guide_arc.app.services import clip_jobs, evening_jobs, intake_jobs
    from guide_arc.app.widgets import clip_frames

QUEUE: Final = PlaceEntry(
    "Queue",
    "F2",
    "Enter open    / find    Ctrl+O add    Delete erase    Ctrl+K all commands    F1 keys",
    start=ToQueue(),
    make=make,
    enter=QueuePlace.enter,
    commands=COMMANDS,
    everywhere=EVERYWHERE,
    help="Sets waiting for review, most urgent first",
    needs_core=False,
    also=(
        evening_dialogs,
        evening_jobs,
        incoming_dialog,
        names_dialog,
        intake_jobs,
        clip_jobs,
        clip_frames,
    ),
)
