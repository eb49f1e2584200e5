"""A client's weeks on a board: a row a week, a column a day, a card a session with a block for each
set."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Final

import numpy as np

from guide_arc.core.planning.board import Card, Week
from guide_arc.drawings.days import short_day
from guide_arc.drawings.shapes import Area, Drawing, Role, Stroke, Words

# Room for the week's date and its sum, the head, and the least row that holds two lines, pixels.
_LEFT: Final = 104.0
_RIGHT: Final = 92.0
_HEAD: Final = 22.0
_LEAST_ROW: Final = 34.0
_DAYS: Final = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")


def board_height(weeks: int) -> float:
    """The least height at which every card can be read."""
    return _HEAD + _LEAST_ROW * weeks


def board(
    width: float, height: float, weeks: Sequence[Week], chosen: date | None, today: date
) -> Drawing:
    """The whole board; today has its day underlined, the chosen day a frame."""
    out = Drawing(width, height)
    if not weeks:
        return out
    row, column = _row(height, weeks), _column(width)
    for n, name in enumerate(_DAYS):
        out.add(Words(_LEFT + n * column + 6, 15, name, "muted", 11))
    out.add(Words(width - _RIGHT + 8, 15, "sets", "muted", 11))
    most = max((sum(c.sets for c in w.cards) for w in weeks), default=1) or 1
    for i, week in enumerate(weeks):
        top = _HEAD + i * row
        if week.easier:
            out.add(Area(_box(2, top + 1, width - 2, top + row - 1), "guide-soft", 0.35))
        this = week.monday <= today < week.monday + timedelta(days=7)
        out.add(Stroke(np.array([(10, top), (width - 10, top)]), "rule"))
        out.add(Words(12, top + 15, short_day(week.monday), "ink", 11.5, this))
        if week.easier:
            out.add(Words(12, top + 28, "easier week", "guide", 10.5))
        elif this:
            out.add(Words(12, top + 28, "this week", "muted", 10.5))
        for n in range(7):
            day = week.monday + timedelta(days=n)
            x = _LEFT + n * column
            card = week.card_on(day)
            if card is not None:
                _card(out, card, x + 3, top + 3, column - 6, row - 6)
            if day == today:
                out.add(
                    Stroke(
                        np.array([(x + 4, top + row - 1.5), (x + column - 4, top + row - 1.5)]),
                        "guide",
                        2.0,
                    )
                )
            if day == chosen:
                out.add(
                    _frame(
                        _box(x + 1.5, top + 1.5, x + column - 1.5, top + row - 1.5), "guide", 2.0
                    )
                )
        _sum(out, week, width - _RIGHT + 8, top, most)
    return out


def day_at(x: float, y: float, width: float, height: float, weeks: Sequence[Week]) -> date | None:
    """The day under a point; None outside the days."""
    row, column = _row(height, weeks), _column(width)
    i, n = int((y - _HEAD) // row), int((x - _LEFT) // column)
    if not (0 <= i < len(weeks) and 0 <= n < 7):
        return None
    return weeks[i].monday + timedelta(days=n)


def card_words(card: Card) -> str:
    """`18 sets, 48 min`, or what keeps it from being one."""
    if card.lines and all(line.stopped for line in card.lines):
        return "ask first"
    sets = f"{card.sets} set{'' if card.sets == 1 else 's'}"
    return sets if card.length_s is None else f"{sets}, {card.length_s / 60:.0f} min"


def _card(out: Drawing, card: Card, x: float, y: float, width: float, height: float) -> None:
    frame = _box(x, y, x + width, y + height)
    missed = card.state == "missed"
    if card.state == "done":
        out.add(Area(frame, "held", 0.55))
    else:
        edge: Role = "off" if missed else "guide"
        out.add(_frame(frame, edge, 1.2, dash=card.state == "proposed"))
    words = "missed" if missed else card_words(card)
    loud = missed or card.too_long
    out.add(Words(x + 6, y + 12, words, "off" if loud else "ink", 10.5, loud))
    at, floor = x + 6, y + height - 4
    tall = max(min(height - 19, 9.0), 3.0)
    # A block for each set, exercises apart; they grow narrower where many have to fit.
    count = sum(line.sets for line in card.lines)
    gap = 3.0
    wide = min(4.0, (width - 12 - gap * max(len(card.lines) - 1, 0)) / max(count, 1))
    role: Role = "actual" if card.state == "done" else "off" if missed else "guide"
    for line in card.lines:
        for _set in range(line.sets):
            block = _box(at, floor - tall, at + max(wide - 1.0, 0.8), floor)
            if line.stopped:
                out.add(Stroke(np.array([(at, floor - tall), (at + wide, floor)]), "off", 1.2))
            else:
                out.add(Area(block, role, 0.9))
            at += wide
        at += gap


def _sum(out: Drawing, week: Week, x: float, top: float, most: int) -> None:
    """The sets of a week, done and still to be done."""
    at = x
    for state, role in (("done", "actual"), ("planned", "guide")):
        sets = sum(
            c.sets
            for c in week.cards
            if (c.state == "done") == (state == "done") and c.state != "missed"
        )
        wide = 44.0 * sets / most
        if wide:
            out.add(Area(_box(at, top + 9, at + wide, top + 17), role, 0.9))  # type: ignore[arg-type]
        at += wide
    total = sum(c.sets for c in week.cards if c.state != "missed")
    if total:
        out.add(Words(at + 6, top + 17, str(total), "ink", 11))


def _frame(box: np.ndarray, role: Role, width: float, dash: bool = False) -> Stroke:
    return Stroke(np.concatenate((box, box[:1])), role, width, dash)


def _row(height: float, weeks: Sequence[Week]) -> float:
    return (height - _HEAD) / max(len(weeks), 1)


def _column(width: float) -> float:
    return (width - _LEFT - _RIGHT) / 7


def _box(a: float, top: float, b: float, bottom: float) -> np.ndarray:
    return np.array([(a, top), (b, top), (b, bottom), (a, bottom)])
