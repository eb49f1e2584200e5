"""The review as the program lists it."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.review.commands import COMMANDS

REVIEW: Final = PlaceEntry(
    "review",
    "Review",
    "F3",
    "space play    ↑ ↓ rep    N finding    K keep    D drop    E reword    B path    G traces    J"
    " numbers    C compare    P page    Ctrl+Enter done    F1 keys",
    "guide_arc.app.places.review.place:make",
    COMMANDS,
    "The set that is open",
    early=True,
)
