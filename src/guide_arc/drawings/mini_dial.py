"""The arc dial as a miniature, from a review's summary. Plain numbers: the queue is there at
once."""

from __future__ import annotations

from collections.abc import Mapping
from math import cos, radians, sin
from typing import Any, Final, NamedTuple

Point = tuple[float, float]

# Room for the ring's stroke, pixels.
_PAD: Final = 3.0
# The hole in the middle, as a share of the radius.
_INNER_SHARE: Final = 0.26
# Corners of an arc: at this size it is invisible.
_SECTOR_STEPS: Final = 40
_RING_STEPS: Final = 16


class MiniRing(NamedTuple):
    """One rep: its line, how wide it is drawn, and whether anything is off in it."""

    line: tuple[Point, ...]
    width: float
    off: bool


class MiniDial(NamedTuple):
    """The outline of the intended range, the rings from the first rep outward, and the joint."""

    intended: tuple[Point, ...]
    rings: tuple[MiniRing, ...]
    joint: Point


def mini_dial(summary: Mapping[str, Any], width: float, height: float) -> MiniDial:
    """The dial of a summary (`library/summary.py`) on a sheet of that size.

    Angles are oriented as on the large dial: 0 hangs down, turning goes to the left and up.
    """
    first, last = (float(v) for v in summary["intended"])
    rings: list[list[float]] = summary["rings"]
    off = set(summary["off_rings"])
    values = [first, last, *(v for ring in rings for v in ring[:2])]
    unit = [*_arc((0.0, 0.0), 1.0, min(values), max(values), _SECTOR_STEPS), (0.0, 0.0)]
    left, right = min(p[0] for p in unit), max(p[0] for p in unit)
    top, bottom = min(p[1] for p in unit), max(p[1] for p in unit)
    outer = min((width - 2 * _PAD) / (right - left), (height - 2 * _PAD) / (bottom - top))
    joint = (0.5 * (width - outer * (left + right)), 0.5 * (height - outer * (top + bottom)))
    inner = _INNER_SHARE * outer
    sector = (
        *_arc(joint, outer, first, last, _SECTOR_STEPS),
        *reversed(_arc(joint, inner, first, last, _SECTOR_STEPS)),
    )
    step = (outer - inner) / max(len(rings), 1)
    lines = tuple(
        MiniRing(
            _arc(joint, inner + (i + 0.5) * step, ring[0], ring[1], _RING_STEPS),
            max(1.0, min(2.2, 0.62 * step)),
            i in off,
        )
        for i, ring in enumerate(rings)
    )
    return MiniDial(sector, lines, joint)


def _arc(
    about: Point, radius: float, from_deg: float, to_deg: float, steps: int
) -> tuple[Point, ...]:
    turns = (radians(from_deg + (to_deg - from_deg) * i / (steps - 1)) for i in range(steps))
    return tuple((about[0] - radius * sin(t), about[1] + radius * cos(t)) for t in turns)
