"""The few things a drawing is made of. Colours are roles; who shows the drawing knows the
palette."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.model.finding import Verdict

Points = NDArray[np.float64]
Role = Literal[
    "paper",
    "panel",
    "rule",
    "ink",
    "muted",
    "faint",
    "guide",
    "guide-soft",
    "actual",
    "off",
    "off-soft",
    "near",
    "unsure",
    "held",
]
Anchor = Literal["start", "middle", "end"]


@dataclass(frozen=True, eq=False)
class Stroke:
    """A line through points (N, 2). `dash` draws it broken."""

    points: Points
    role: Role
    width: float = 1.0
    dash: bool = False
    opacity: float = 1.0


@dataclass(frozen=True, eq=False)
class Area:
    """A filled outline through points (N, 2)."""

    points: Points
    role: Role
    opacity: float = 1.0
    outline: Role | None = None
    dash: bool = False


@dataclass(frozen=True)
class Disc:
    """A circle, filled or only outlined."""

    x: float
    y: float
    radius: float
    fill: Role | None = None
    outline: Role | None = None
    width: float = 1.0
    height_ratio: float = 1.0


@dataclass(frozen=True)
class Words:
    """A line of text; y is its baseline. `clear` wipes the sheet under it first."""

    x: float
    y: float
    text: str
    role: Role = "ink"
    size: float = 11.0
    bold: bool = False
    anchor: Anchor = "start"
    clear: bool = False


@dataclass(frozen=True)
class MarkShape:
    """A verdict's shape: disc ok, half-disc near, wedge off, hatched square can't tell."""

    x: float
    y: float
    verdict: Verdict
    size: float = 10.0


Item = Stroke | Area | Disc | Words | MarkShape


@dataclass
class Drawing:
    """Items in the order in which they are painted, on a sheet of a size in pixels."""

    width: float
    height: float
    items: list[Item] = field(default_factory=list)

    def add(self, *items: Item) -> None:
        self.items.extend(items)

    def extend(self, items: Iterable[Item]) -> None:
        self.items.extend(items)

    def words(self) -> list[str]:
        """All text on the sheet, for those who can't see it and for tests."""
        return [item.text for item in self.items if isinstance(item, Words)]


def polar(x: float, y: float, radius: Points | float, turn_deg: Points) -> Points:
    """(N, 2) points about a centre. 0 degrees hangs down; turning goes to the left and up."""
    turn = np.radians(np.asarray(turn_deg, dtype=float))
    return np.stack((x - radius * np.sin(turn), y + radius * np.cos(turn)), axis=-1)


def sector(
    x: float, y: float, inner: float, outer: float, from_deg: float, to_deg: float
) -> Points:
    """(N, 2) outline of a ring's sector."""
    steps = max(2, int(abs(to_deg - from_deg) / 3) + 1)
    turn = np.linspace(from_deg, to_deg, steps)
    return np.concatenate((polar(x, y, outer, turn), polar(x, y, inner, turn[::-1])))
