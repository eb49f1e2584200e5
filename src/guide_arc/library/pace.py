"""How long sets take this coach, and how long the ones that wait will take."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from statistics import median
from typing import Any, Final

# Until this coach's own pace is known, seconds for a set with nothing off and for any other.
USUAL_CLEAN_S: Final = 45.0
USUAL_OTHER_S: Final = 150.0
# A set that stayed open for longer was left alone; fewer give no pace.
LONGEST_S: Final = 900.0
FEWEST: Final = 5
# So many of the last ones count: a pace changes.
LAST: Final = 60


@dataclass(frozen=True)
class Took:
    """One reviewed set: how long it was open, and whether nothing was off."""

    seconds: float
    clean: bool

    def as_dict(self) -> dict[str, Any]:
        return {"seconds": round(self.seconds, 1), "clean": self.clean}


@dataclass(frozen=True)
class Pace:
    """Seconds for a set with nothing off and for any other. learned : from this coach's own
    evenings"""

    clean_s: float = USUAL_CLEAN_S
    other_s: float = USUAL_OTHER_S
    learned: bool = False

    def for_sets(self, clean: int, other: int) -> float:
        """Seconds that so many sets will take."""
        return clean * self.clean_s + other * self.other_s


def pace_of(took: Iterable[Took]) -> Pace:
    """The median time of the sets that were open but not left alone, for each kind separately."""
    known = [t for t in took if 0.0 < t.seconds <= LONGEST_S]
    parts = {kind: [t.seconds for t in known if t.clean is kind] for kind in (True, False)}
    clean = median(parts[True]) if len(parts[True]) >= FEWEST else USUAL_CLEAN_S
    other = median(parts[False]) if len(parts[False]) >= FEWEST else USUAL_OTHER_S
    return Pace(clean, other, learned=any(len(p) >= FEWEST for p in parts.values()))


def minutes_words(seconds: float) -> str:
    """`about 25 min`, in steps that the estimate can carry; nothing where nothing waits."""
    if seconds <= 0.0:
        return ""
    minutes = seconds / 60.0
    step = 1 if minutes < 10 else 5
    return f"about {max(step, round(minutes / step) * step)} min"
