"""Tempo as people write it: LOWER-BOTTOM-LIFT-TOP in seconds, `x` for no demand."""

from __future__ import annotations

import re

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.standard import Tempo

_PART = re.compile(r"x|\d{1,2}(\.\d{1,2})?", re.IGNORECASE)


def parse_tempo(text: str) -> Tempo:
    """`3-1-1-0` -> three seconds down, one at the bottom, one up, none at the top."""
    parts = text.strip().split("-")
    if len(parts) != 4 or not all(_PART.fullmatch(p) for p in parts):
        raise BadInput(
            f"the tempo is {text!r}; it must be LOWER-BOTTOM-LIFT-TOP in seconds, such as 3-1-1-0, "
            "with x for no demand"
        )
    lower, bottom, lift, top = (None if p.lower() == "x" else float(p) for p in parts)
    return Tempo(lower, bottom, lift, top)
