"""What is known of a client, next to the sets."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, time
from types import MappingProxyType
from typing import Final, Literal

PLACES: Final = ("elbow", "shoulder", "wrist", "neck", "lower back", "hip", "knee", "ankle")
SIDED: Final = tuple(f"{side} {place}" for place in PLACES for side in ("left", "right"))

Dominant = Literal["", "left", "right"]
Weight = Literal["kg", "lb"]
Length = Literal["cm", "in"]
# What is made of where a client feels a set: a guide to whether it works, or a clue to joint
# position only.
Feel = Literal["guide", "clue"]


@dataclass(frozen=True)
class SorePlace:
    """place : one of PLACES, with left or right before it where known; until None it is not over"""

    place: str
    since: date
    until: date | None = None

    def on(self, day: date) -> bool:
        return self.since <= day and (self.until is None or day <= self.until)

    @property
    def joint(self) -> str:
        return self.place.removeprefix("left ").removeprefix("right ")


@dataclass(frozen=True)
class Cleared:
    """A clinician's word, noted by the coach. place : what was cleared; None for all of it"""

    place: str | None
    on: date


@dataclass(frozen=True)
class Client:
    """One client as the coach knows them.

    goals : in the coach's words; weak : regions that come first
    kit : what there is to pull with, as standards name it; empty where nobody noted it
    rack_kg : the weights that there are, by what is held: "dumbbell", "bar", "cable", "machine",
        "assisted"
    room : the name of the room they train in
    words : what they understand, and what they don't, in the coach's words
    neglect_days : how long a region may go without a set; session_min : how long a session may be
    session_at : when a session usually begins
    tired : days after poor sleep, or sore all over
    file_words : words in the names of their files, as agreed with the coach
    feel : the school by which the coach takes what this client feels
    cleared : what a licensed clinician cleared after pain, as the coach noted it
    coach : the coach of a team who trains them; empty where nobody is named
    """

    name: str
    stature_m: float | None = None
    goals: str = ""
    weak: tuple[str, ...] = ()
    sore: tuple[SorePlace, ...] = ()
    kit: tuple[str, ...] = ()
    rack_kg: Mapping[str, tuple[float, ...]] = field(default_factory=dict)
    room: str = ""
    dominant: Dominant = ""
    covers_face: bool = False
    words: str = ""
    weight: Weight = "kg"
    length: Length = "cm"
    neglect_days: int = 14
    session_min: int = 60
    session_at: time = time(18, 0)
    feel: Feel = "guide"
    tired: tuple[date, ...] = ()
    file_words: tuple[str, ...] = ()
    cleared: tuple[Cleared, ...] = ()
    coach: str = ""

    def __post_init__(self) -> None:
        object.__setattr__(self, "rack_kg", MappingProxyType(dict(self.rack_kg)))

    def sore_on(self, day: date) -> tuple[SorePlace, ...]:
        return tuple(s for s in self.sore if s.on(day))
