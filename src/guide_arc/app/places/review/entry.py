"""The review as the program lists it."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.review.commands import COMMANDS
from guide_arc.app.services.destinations import ToReview
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.places.review.place import ReviewPlace, make

REVIEW: Final = PlaceEntry(
    "Review",
    "F3",
    "space play    ↑ ↓ rep    N finding    K keep    D drop    E reword    B path    G traces    J"
    " numbers    C compare    P page    Ctrl+Enter done    F1 keys",
    start=ToReview(),
    make=make,
    enter=ReviewPlace.enter,
    commands=COMMANDS,
    help="The set that is open",
    early=True,
)
