"""Schemes of sets and reps: how a dose is arranged and how it goes on. They are data,
`standards/data/schemes.toml`."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final, Literal

from guide_arc.core.model.standard import Dose, HoldsOn, Standard, Tempo

# What comes first when a set was held at its upper number.
Grows = Literal["weight", "reps"]


@dataclass(frozen=True)
class BackOff:
    """Lighter sets after the top set. share : of the top set's load"""

    reps: tuple[int, int]
    sets: int
    share: float


@dataclass(frozen=True)
class Scheme:
    """One way to lay out sets and reps.

    why : its reason; held_by : who works so; limits : when not to use it, in words
    reps, sets, rest_s : None takes the standard's own
    grows : the weight after the upper number of reps, or `step_reps` more reps up to `most_reps`
        first
    lower_s, top_s, bottom_s : its own tempo for these phases; holds_on : which reps the holds
        are asked of
    partials : partial reps after the last full one
    in_reserve : clean reps that each set leaves undone
    rounds : of a circuit, fewest and most; 0 to 0 for none
    pair : the exercise before it as its pair: "raise" or "sweep"; empty for none
    alternates : whether two variants take turns, each to beat its own last one
    """

    id: str
    name: str
    why: str
    held_by: str
    limits: str
    reps: tuple[int, int] | None = None
    sets: int | None = None
    rest_s: int | None = None
    grows: Grows = "weight"
    step_reps: int = 1
    most_reps: int = 0
    back_off: BackOff | None = None
    lower_s: float | None = None
    top_s: float | None = None
    bottom_s: float | None = None
    holds_on: HoldsOn = "every"
    partials: int = 0
    in_reserve: int = 2
    rounds: tuple[int, int] = (0, 0)
    pair: str = ""
    alternates: bool = False

    def dose(self, standard: Standard) -> Dose:
        """The standard's dose as this scheme has it."""
        own = standard.dose
        sets = (self.sets, self.sets) if self.sets else own.sets
        rest = own.rest_s if self.rest_s is None else self.rest_s
        return replace(
            own,
            reps=self.reps or own.reps,
            sets=sets,
            rest_s=rest,
            partials=self.partials or own.partials,
        )

    def tempo(self, standard: Standard) -> Tempo:
        """The standard's tempo with what the scheme asks for otherwise. What forbids slow lowering
        keeps its own."""
        own = standard.tempo
        slow_forbidden = standard.check("too-slow-lower") is not None
        return Tempo(
            own.lower_s if self.lower_s is None or slow_forbidden else self.lower_s,
            own.bottom_s if self.bottom_s is None else self.bottom_s,
            own.lift_s,
            own.top_s if self.top_s is None else self.top_s,
        )


# Double progression within the standard's own dose: what holds where no scheme is chosen.
PLAIN_SCHEME: Final = Scheme(
    "double-progression",
    "reps, then weight",
    "More reps within the range first, then the next weight step, only where form held.",
    "most coaches",
    "Belongs everywhere; alone it says nothing of variety.",
)
