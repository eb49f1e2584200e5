"""The marking of clips as the program lists it."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.marking.commands import COMMANDS
from guide_arc.app.services.destinations import ToMarking
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.places.marking.place import MarkingPlace, make

MARKING: Final = PlaceEntry(
    "Marks",
    "F6",
    "click mark    drag move    wheel zoom    , . frame    Q look again    Backspace take away   "
    " Ctrl+Enter follow    F3 review    Escape queue    F1 keys",
    start=ToMarking(),
    make=make,
    enter=MarkingPlace.enter,
    commands=COMMANDS,
    help="Joints and kit on the clip's picture",
)
