"""The marking of clips as the program lists it."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.place import PlaceEntry
from guide_arc.app.places.marking.commands import COMMANDS

MARKING: Final = PlaceEntry(
    "marking",
    "Marks",
    "F6",
    "click mark    drag move    wheel zoom    , . frame    Q look again    Backspace take away   "
    " Ctrl+Enter follow    F3 review    Escape queue    F1 keys",
    "guide_arc.app.places.marking.place:make",
    COMMANDS,
    "Joints and kit on the clip's picture",
)
