"""A week of all clients: a row a client, a column a day, and in words what is to be done."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Final

import numpy as np

from guide_arc.core.planning.practice import ClientWeek
from guide_arc.drawings.shapes import Area, Drawing, Points, Role, Stroke, Words

# A row holds one line of words; names and words are next to the days, pixels.
ROW: Final = 30.0
HEAD: Final = 40.0
_NAMES: Final = 190.0
_DAY: Final = 62.0
_DAYS: Final = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
# What a letter takes of a line of words at its size, pixels.
_LETTER: Final = 6.2


def practice_height(count: int) -> float:
    return HEAD + ROW * count + 6.0


def practice_sheet(
    width: float, weeks: Sequence[ClientWeek], monday: date, today: date, chosen: int | None
) -> Drawing:
    """Done days are filled, planned ones framed, missed ones crossed out; the shape tells."""
    out = Drawing(width, practice_height(len(weeks)))
    for n, name in enumerate(_DAYS):
        day, x = monday + timedelta(days=n), _NAMES + n * _DAY
        here = day == today
        out.add(Words(x + _DAY / 2, 15, name, "guide" if here else "muted", 11, anchor="middle"))
        role: Role = "guide" if here else "ink"
        out.add(Words(x + _DAY / 2, 31, f"{day.day}", role, 12, bold=here, anchor="middle"))
    most = int((width - _NAMES - 7 * _DAY - 24) / _LETTER)
    for i, week in enumerate(weeks):
        top = HEAD + i * ROW
        if i == chosen:
            out.add(Area(_box(4, top + 1, width - 4, top + ROW - 1), "guide-soft", 0.6))
        out.add(Stroke(np.array([(8.0, top), (width - 8.0, top)]), "rule"))
        out.add(Words(14, top + 20, _fitted(week.name, 26), "ink", 12.5, i == chosen))
        for n in range(7):
            state = week.days.get(monday + timedelta(days=n))
            if state is not None:
                _mark(out, state, _NAMES + n * _DAY + _DAY / 2, top + ROW / 2)
        bad = week.pain or bool(week.sore)
        role = "off" if bad else "near" if week.overdue else "muted"
        words = _fitted(week.words, most)
        if words:
            out.add(Words(_NAMES + 7 * _DAY + 14, top + 20, words, role, 12))
    return out


def row_at(y: float, count: int) -> int | None:
    """The row at a height; None outside the rows."""
    row = int((y - HEAD) // ROW)
    return row if 0 <= row < count else None


def _mark(out: Drawing, state: str, x: float, y: float) -> None:
    box = _box(x - 13, y - 8, x + 13, y + 8)
    if state == "done":
        out.add(Area(box, "actual"))
    elif state == "planned":
        out.add(Stroke(np.vstack((box, box[:1])), "guide", 1.8))
    else:
        out.add(Stroke(np.vstack((box, box[:1])), "off", 1.4, dash=True))
        out.add(Stroke(np.array([(x - 8, y - 4), (x + 8, y + 4)]), "off", 1.4))


def _box(x0: float, y0: float, x1: float, y1: float) -> Points:
    return np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1)])


def _fitted(words: str, most: int) -> str:
    return words if len(words) <= most else words[: max(most - 1, 1)].rstrip() + "…"
