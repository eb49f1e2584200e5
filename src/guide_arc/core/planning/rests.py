"""Real rests: from the start times of a day's sets of one exercise, against what was asked."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from itertools import pairwise
from typing import Final

from guide_arc.core.planning.kept_set import KeptSet

# What is noted to the minute may be half a minute off at either end of a rest.
_TO_THE_MINUTE_S: Final = 60.0
_TO_THE_SECOND_S: Final = 2.0
# After a longer pause the next set belongs to another session.
LONGEST_S: Final = 1200.0


@dataclass(frozen=True)
class Rest:
    """The time between the last lower of a set and the first lift of the next.

    u_s : its uncertainty, from that of the start times
    """

    seconds: float
    u_s: float
    asked_s: float

    @property
    def off_s(self) -> float:
        """By how much it surely differs from what was asked: negative too short, 0 if that is
        not sure."""
        gap = self.seconds - self.asked_s
        return 0.0 if abs(gap) <= self.u_s else gap


def rests_of(sets: Sequence[KeptSet], asked_s: float) -> tuple[Rest, ...]:
    """The rests of the last day on which at least two sets of known start time followed each other.

    sets : of one exercise, oldest first; those without a time of day are left out
    """
    timed = [
        (at, to_the_second, s)
        for s in sets
        if (known := _start(s.at))
        for at, to_the_second in [known]
    ]
    days = sorted({at.date() for at, _exact, _s in timed}, reverse=True)
    for day in days:
        own = [(at, exact, s) for at, exact, s in timed if at.date() == day]
        found = []
        for (at, exact, s), (then, then_exact, following) in pairwise(own):
            gap = (then - at).total_seconds()
            seconds = gap + following.trace.start_s - s.trace.start_s - s.trace.length_s
            u_s = _TO_THE_SECOND_S if exact and then_exact else _TO_THE_MINUTE_S
            if 0.0 < seconds <= LONGEST_S:
                found.append(Rest(seconds, u_s, asked_s))
        if found:
            return tuple(found)
    return ()


def rest_words(rests: Sequence[Rest]) -> str:
    """The rests in a sentence; empty if unknown."""
    if not rests:
        return ""
    asked = minutes(rests[0].asked_s)
    told = ", ".join(minutes(r.seconds) for r in rests)
    roughly = "about " if rests[0].u_s >= _TO_THE_MINUTE_S else ""
    short, long = (
        min((r.off_s for r in rests), default=0.0),
        max((r.off_s for r in rests), default=0.0),
    )
    if short < 0.0:
        tail = f"the shortest was {minutes(-short)} too short"
    elif long > 0.0:
        tail = f"the longest was {minutes(long)} longer"
    else:
        tail = "as asked, as far as the start times tell"
    one = len(rests) == 1
    return (
        f"Rest{'' if one else 's'} the last time: {roughly}{told} where {asked} was asked; {tail}."
    )


def minutes(seconds: float) -> str:
    """`1:50 min`, `45 s`"""
    whole = round(seconds)
    return f"{whole // 60}:{whole % 60:02d} min" if whole >= 60 else f"{whole} s"


def _start(at: str) -> tuple[datetime, bool] | None:
    """When a recording began, and whether that is known to the second; None without a time of
    day."""
    if "T" not in at and " " not in at:
        return None
    try:
        found = datetime.fromisoformat(at)
    except ValueError:
        return None
    return found.replace(tzinfo=None), at.count(":") >= 2
