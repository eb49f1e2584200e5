"""Form against load: a column for each set with a block for each rep, the load as a staircase
above."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from guide_arc.core.planning.course import Course
from guide_arc.core.planning.kept_set import KeptSet, RepForm
from guide_arc.core.planning.rules import PLAN
from guide_arc.drawings.days import short_day
from guide_arc.drawings.shapes import Area, Disc, Drawing, Role, Stroke, Words

Grain = Literal["sets", "weeks", "months"]
# A column holds `100 kg` and a date; margins about all of them, pixels.
PITCH: Final = 62.0
_LEFT: Final = 16.0
_TOP: Final = 34.0
_FOOT: Final = 24.0
# A rep is a block of at most this, so that few reps don't fill the sheet.
_MOST_BLOCK: Final = 11.0
_ROLE: Final[dict[RepForm, Role]] = {"held": "actual", "unseen": "unsure", "broke": "off"}


@dataclass(frozen=True)
class CourseColumn:
    """One column: a set, or the hardest set of a week or month that represents the others."""

    of: KeptSet
    label: str
    sets: int = 1


def columns_of(course: Course, grain: Grain) -> tuple[CourseColumn, ...]:
    """The columns at a grain, oldest first."""
    if grain == "sets":
        return tuple(CourseColumn(s, short_day(s.on)) for s in course.sets)
    periods: dict[tuple[int, int], list[KeptSet]] = {}
    for s in course.sets:
        key = s.on.isocalendar()[:2] if grain == "weeks" else (s.on.year, s.on.month)
        periods.setdefault(key, []).append(s)
    out = []
    for own in periods.values():
        sign = -1.0 if course.assisted else 1.0
        hardest = max(own, key=lambda s: (sign * (s.load_kg or 0.0), s.held, s.full))
        label = short_day(own[0].on) if grain == "weeks" else f"{own[0].on:%b %Y}"
        out.append(CourseColumn(hardest, label, len(own)))
    return tuple(out)


def fit(width: float) -> int:
    """The number of columns that fit on a sheet."""
    return max(int((width - 2 * _LEFT) / PITCH), 1)


def course_sheet(
    width: float,
    height: float,
    columns: Sequence[CourseColumn],
    first: int,
    chosen: int | None,
    assisted: bool = False,
) -> Drawing:
    """The columns from `first` on that fit; `chosen` is an index of all columns."""
    out = Drawing(width, height)
    shown = columns[first : first + fit(width)]
    if not shown:
        out.add(
            Words(
                width / 2,
                height / 2,
                "No reviewed set of this exercise yet.",
                "muted",
                13,
                anchor="middle",
            )
        )
        return out
    floor = height - _FOOT
    most = max((len(c.of.trace.reps) for c in shown), default=1)
    room = floor - _TOP - 62.0
    block = min(_MOST_BLOCK, room / max(most, 1))
    out.add(Stroke(np.array([(_LEFT, floor + 1), (width - _LEFT, floor + 1)]), "rule"))
    _staircase(out, shown, assisted)
    for i, column in enumerate(shown):
        x = _LEFT + (i + 0.5) * PITCH
        _column(out, column, x, floor, block, chosen == first + i)
    if first > 0:
        out.add(Words(4, floor + 16, "‹", "muted", 13))
    if first + len(shown) < len(columns):
        out.add(Words(width - 10, floor + 16, "›", "muted", 13))
    return out


def _column(
    out: Drawing, column: CourseColumn, x: float, floor: float, block: float, chosen: bool
) -> None:
    half = 0.28 * PITCH
    for n, rep in enumerate(column.of.trace.reps):
        wide = half if rep.full else 0.55 * half
        top, bottom = floor - (n + 1) * block + 1.2, floor - n * block
        box = np.array([(x - wide, top), (x + wide, top), (x + wide, bottom), (x - wide, bottom)])
        if rep.form == "unseen":
            out.add(Area(box, "panel", outline="unsure"))
        else:
            out.add(Area(box, _ROLE[rep.form]))
        if rep.form == "broke":
            # A notch as well as a colour.
            notch = np.array(
                [(x + wide, top), (x + wide - 5, 0.5 * (top + bottom)), (x + wide, bottom)]
            )
            out.add(Area(notch, "panel"))
    if column.of.hurt:
        y = floor - len(column.of.trace.reps) * block - 9
        out.add(Words(x=x, y=y, text="pain", role="off", size=11, bold=True, anchor="middle"))
    if chosen:
        out.add(Disc(x, floor + 6, 2.5, "guide"))
    label = column.label if column.sets == 1 else f"{column.label} ×{column.sets}"
    out.add(
        Words(
            x=x,
            y=floor + 19,
            text=label,
            role="ink" if chosen else "muted",
            size=11,
            bold=chosen,
            anchor="middle",
        )
    )


def _staircase(out: Drawing, shown: Sequence[CourseColumn], assisted: bool) -> None:
    loads = [c.of.load_kg for c in shown]
    known = [kg for kg in loads if kg is not None]
    if not known:
        return
    low, high = min(known), max(known)
    points: list[tuple[float, float]] = []
    before: float | None = None
    for i, load in enumerate(loads):
        if load is None:
            continue
        share = 0.5 if high == low else (load - low) / (high - low)
        if assisted:
            share = 1.0 - share
        y = _TOP + 40.0 - 28.0 * share
        left = _LEFT + i * PITCH
        points += [(left, y), (left + PITCH, y)]
        if load != before:
            out.add(Words(left + 6, y - 5, f"{load:g} kg", "guide", 12, True))
            if before is not None:
                _step(out, left, load / before - 1.0)
        before = load
    if assisted:
        out.add(Words(_LEFT, 12, "help: less is harder", "muted", 11))
    out.add(Stroke(np.array(points), "guide", 1.8))


def _step(out: Drawing, x: float, share: float) -> None:
    """A jump up of more than a tenth is marked: it is to be questioned."""
    if share <= PLAN.most_jump_share + 1e-9:
        return
    out.add(Stroke(np.array([(x, 18.0), (x, _TOP + 60)]), "off", 1.0, dash=True))
    out.add(Words(x, 13.0, f"+ {100 * share:.0f} %", "off", 11, anchor="middle", clear=True))
