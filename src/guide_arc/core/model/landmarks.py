"""The names a landmark track may use (the body, and points of the kit)."""

from __future__ import annotations

from typing import Final, Literal

Side = Literal["left", "right"]
SIDES: Final[tuple[Side, Side]] = ("left", "right")

_PAIRED: Final = (
    "ear",
    "shoulder",
    "elbow",
    "wrist",
    "thumb",
    "index",
    "pinky",
    "hip",
    "knee",
    "ankle",
    "heel",
    "foot",
)

BODY: Final[tuple[str, ...]] = (
    "nose",
    *(f"{side}_{part}" for part in _PAIRED for side in SIDES),
    "neck",
    "mid_spine",
)
KIT: Final[tuple[str, ...]] = (
    "left_handle",
    "right_handle",
    "left_pulley",
    "right_pulley",
    "bar_left",
    "bar_right",
    "anchor",
    "bench_head",
    "bench_foot",
)
ALL: Final[tuple[str, ...]] = BODY + KIT
KNOWN: Final[frozenset[str]] = frozenset(ALL)


def on_other_side(name: str) -> str:
    """The landmark's counterpart: `left_wrist` for `right_wrist`; itself if there is none."""
    side, _, part = name.partition("_")
    return f"{other(side)}_{part}" if side in SIDES else name


def other(side: Side) -> Side:
    """The opposite side of the body."""
    return "right" if side == "left" else "left"
