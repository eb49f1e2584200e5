"""The one list of the program's places, in the order of the rail. The first is the one shown at
start."""

from __future__ import annotations

from typing import Final

from guide_arc.app.places.clients.entry import CLIENTS
from guide_arc.app.places.marking.entry import MARKING
from guide_arc.app.places.plan.entry import PLAN_PLACE
from guide_arc.app.places.queue.entry import QUEUE
from guide_arc.app.places.review.entry import REVIEW
from guide_arc.app.places.setup.entry import SETUP
from guide_arc.app.places.standards.entry import STANDARDS

ENTRIES: Final = (
    QUEUE,
    REVIEW,
    MARKING,
    STANDARDS,
    SETUP,
    CLIENTS,
    PLAN_PLACE,
)
