"""What to do next time."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from guide_arc.core.model.standard import Tempo

Change = Literal["up", "same", "down", "more-reps", "deload", "stop"]


@dataclass(frozen=True)
class LighterSets:
    """Sets after the heaviest one. load_kg : a weight of the rack"""

    load_kg: float
    reps: tuple[int, int]
    sets: int


@dataclass(frozen=True)
class AskedStep:
    """A step that is taken only if the coach says yes to it. load_kg : a weight of the rack; why :
    the reason for it"""

    load_kg: float
    why: str


@dataclass(frozen=True)
class Prescription:
    """The next dose of one exercise.

    change : harder, the same, easier, more reps, an easier week, or nothing before a clinician was
        asked
    load_kg : a weight that there is; None if no load is given or none was ever recorded
    reasons : the most telling first; then : what would change it
    look_for : the checks of harm that were not seen; the weight may rise once the coach's eye or
        another recording answers
    ask : a step beyond a tenth that the coach has to say yes to
    questions : about entries that look like slips, which are left out until they are answered
    back_off : the lighter sets that follow, where the scheme has some
    in_reserve : clean reps that each set leaves undone, so that form holds to its end
    """

    change: Change
    load_kg: float | None
    reps: tuple[int, int]
    sets: int
    tempo: Tempo
    rest_s: int
    reasons: tuple[str, ...]
    then: str = ""
    back_off: LighterSets | None = None
    look_for: tuple[str, ...] = ()
    ask: AskedStep | None = None
    questions: tuple[str, ...] = ()
    in_reserve: int = 0

    @property
    def reserve_words(self) -> str:
        """When to stop a set, for the client; empty where every rep is done."""
        if not self.in_reserve or self.ask_first:
            return ""
        reps = "1 more clean rep" if self.in_reserve == 1 else f"{self.in_reserve} more clean reps"
        return f"Stop each set when you could do {reps}."

    @property
    def reason(self) -> str:
        return self.reasons[0]

    @property
    def ask_first(self) -> bool:
        """Whether nothing is to be loaded before a licensed clinician was asked."""
        return self.change == "stop"
