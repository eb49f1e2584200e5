"""A repetition and its phases."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

WorkSide = Literal["both", "left", "right"]


@dataclass(frozen=True)
class Span:
    """A stretch of time in seconds of the recording.

    start_u_s, end_u_s : standard uncertainties of its ends; 0 if a hand or nobody's measuring
        put them
    start_seen, end_seen : whether the movement was seen about that end; a lost end is no more than
        a guess
    """

    start_s: float
    end_s: float
    start_u_s: float = 0.0
    end_u_s: float = 0.0
    start_seen: bool = True
    end_seen: bool = True

    def __post_init__(self) -> None:
        if not self.end_s >= self.start_s:
            raise ValueError(f"span ends at {self.end_s} before it starts at {self.start_s}")

    @property
    def length_s(self) -> float:
        return self.end_s - self.start_s

    @property
    def seen(self) -> bool:
        """Whether both ends were seen."""
        return self.start_seen and self.end_seen

    @property
    def length_u_s(self) -> float:
        """Standard uncertainty of the length from those of its ends."""
        return math.hypot(self.start_u_s, self.end_u_s)


@dataclass(frozen=True)
class Rep:
    """One work phase against the resistance with the return that belongs to it.

    from_deg, to_deg : the driving measure at the start and at the end of the lift
    """

    number: int
    side: WorkSide
    full: bool
    lift: Span
    top_hold: Span | None
    lower: Span
    bottom_hold: Span | None
    measure: str
    from_deg: float
    to_deg: float

    @property
    def key(self) -> tuple[WorkSide, int]:
        """Tells it from all others of its set: arms that alternate are numbered by themselves."""
        return self.side, self.number

    @property
    def start_s(self) -> float:
        return self.lift.start_s

    @property
    def end_s(self) -> float:
        return self.lower.end_s

    @property
    def turn_s(self) -> float:
        """The middle of the turn: half-way between the lift's end and the lower's start."""
        return 0.5 * (self.lift.end_s + self.lower.start_s)

    @property
    def turn_seen(self) -> bool:
        """Whether the turn was seen, from the end of the lift to the start of the lower."""
        return self.lift.end_seen and self.lower.start_seen

    @property
    def start_seen(self) -> bool:
        """Whether both moments were seen at which the stretch can be reached: the start and the
        end."""
        return self.lift.start_seen and self.lower.end_seen

    @property
    def under_load_s(self) -> float:
        """Time under tension of this rep: lift, top hold and lower."""
        return self.lower.end_s - self.lift.start_s
