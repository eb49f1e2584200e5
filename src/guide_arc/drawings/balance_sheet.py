"""Time under tension by muscle and head, as bars."""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.planning.balance import Balance, balance_words, minutes
from guide_arc.drawings.shapes import Area, Drawing, Words

# A row, and room for the longest muscle's name, pixels.
_ROW: Final = 19.0
_NAME: Final = 128.0


def balance_sheet(width: float, height: float, balance: Balance | None) -> Drawing:
    """A bar each, done dark and planned in teal, the longest first; below how the sides compare."""
    out = Drawing(width, height)
    if balance is None or not balance.heads:
        out.add(
            Words(12, 24, "Nothing was done in these days, and nothing is planned.", "muted", 12)
        )
        return out
    rows = max(int((height - 26) // _ROW), 1)
    columns = min(max(int(width // 280), 1), -(-len(balance.heads) // rows))
    pitch = (width - 20) / max(columns, 1)
    most = balance.heads[0].total_s or 1.0
    room = pitch - _NAME - 56
    for n, head in enumerate(balance.heads[: rows * columns]):
        x, y = 12 + (n // rows) * pitch, 4 + (n % rows) * _ROW
        out.add(Words(x, y + 12, head.muscle, "ink", 11.5))
        at = x + _NAME
        for seconds, planned in ((head.done_s, False), (head.planned_s, True)):
            wide = room * seconds / most
            if wide > 0.2:
                box = np.array([(at, y + 4), (at + wide, y + 4), (at + wide, y + 12), (at, y + 12)])
                out.add(Area(box, "guide" if planned else "actual", 0.9))
            at += wide
        out.add(Words(at + 6, y + 12, minutes(head.total_s), "muted", 11))
    left_out = len(balance.heads) - rows * columns
    more = f"   {left_out} more are left out." if left_out > 0 else ""
    out.add(Words(12, height - 6, balance_words(balance) + more, "ink", 12))
    return out
