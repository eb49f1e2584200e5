"""What a check found, and how sure it is."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Final, Literal

from guide_arc.core.model.rep import Rep, WorkSide
from guide_arc.core.model.settings import Saw
from guide_arc.core.model.standard import CheckRule

Verdict = Literal["ok", "near", "off", "cannot-tell"]
# From this probability on what is not sure is said as likely (formats.md, section 5).
LIKELY_FROM: Final = 0.8


@dataclass(frozen=True)
class RepVerdict:
    """One check on one rep. `at_s` is the moment it shows most."""

    rep: int
    value: float
    uncertainty: float
    at_s: float
    verdict: Verdict


@dataclass(frozen=True)
class Finding:
    """One check over the whole set on one side.

    value, limit : in `unit`; the worst rep of those that carry the verdict
    uncertainty : 95 % of the errors stay within it (twice the standard uncertainty)
    says : the value in plain words, such as "short by 12°"
    why : for cannot-tell, what is in the way and which recording would show it allowed : off only
        in the last reps, which the coach allows to be loose
    way : in which of the ways that its check knows it departs, such as "back" or "start"
    by_view : for cannot-tell, whether it is the view that hides it, so that another recording may
        show it
    eye : what the coach saw with their own eyes, which is in the place of the verdict
    least : the limit is the smallest allowed value
    seen_from : if a set was recorded from several sides, the one that showed this, such as "from
        the left"
    partly : only a part of what the check asks for was seen: the verdict is about that part"""

    rule: CheckRule
    verdict: Verdict
    side: WorkSide
    reps: tuple[int, ...]
    value: float | None
    uncertainty: float | None
    limit: float
    unit: str
    at_s: float | None
    says: str
    why: str | None = None
    per_rep: tuple[RepVerdict, ...] = ()
    allowed: bool = False
    way: str = ""
    by_view: bool = False
    least: bool = False
    partly: bool = False
    seen_from: str = ""
    eye: Saw | None = None

    @property
    def p(self) -> float | None:
        """The probability that the true value is past the limit, of a normal error; None where
        nothing was judged."""
        if self.value is None or self.uncertainty is None or self.verdict == "cannot-tell":
            return None
        past = (self.limit - self.value) if self.least else (self.value - self.limit)
        if self.uncertainty <= 0.0:
            return 1.0 if past > 0.0 else 0.0
        return 0.5 * (1.0 + math.erf(past / (self.uncertainty / 2.0) / math.sqrt(2.0)))

    @property
    def judged(self) -> Verdict:
        """The verdict that counts for weight, history, cues and praise: the coach's eye, or else
        what was measured."""
        if self.eye is None:
            return self.verdict
        return "ok" if self.eye == "held" else "off"

    @property
    def right_from(self) -> int | None:
        """The number of the rep from which the fault was gone for the rest of the set: every later
        rep surely held, and more of them than went wrong before. None if it was not."""
        wrong = [j.rep for j in self.per_rep if j.verdict == "off"]
        if self.verdict != "off" or not wrong:
            return None
        later = [j for j in self.per_rep if j.rep > max(wrong)]
        gone = all(j.verdict == "ok" for j in later) and len(later) > len(wrong)
        return min(j.rep for j in later) if gone and len(later) > 1 else None

    @property
    def hint(self) -> bool:
        """Whether it is likely past its limit, though not surely."""
        return self.eye is None and self.verdict == "near" and (self.p or 0.0) >= LIKELY_FROM

    @property
    def title(self) -> str:
        """The fault in a few words, as it was measured."""
        return self.rule.words_for(self.way).title

    @property
    def matters(self) -> str:
        """Why it matters."""
        return self.rule.words_for(self.way).why

    @property
    def cue(self) -> str:
        """The words for the client."""
        return self.rule.words_for(self.way).cue

    @property
    def other_cues(self) -> tuple[str, ...]:
        """Other words for the cue."""
        return self.rule.words_for(self.way).other_cues

    @property
    def felt(self) -> tuple[str, ...]:
        """Where a client may feel it, gone wrong as it was measured."""
        return self.rule.words_for(self.way).felt

    def is_about(self, rep: Rep) -> bool:
        """Whether the finding's verdict is carried by this rep."""
        same_arm = "both" in (self.side, rep.side) or self.side == rep.side
        return same_arm and rep.number in self.reps

    @property
    def key(self) -> str:
        """Identifies the finding over re-runs: the check and the side it is about."""
        return f"{self.rule.name}/{self.side}"


def judge(value: float, uncertainty: float, limit: float) -> Verdict:
    """The verdict on a value that should stay at or below its limit.

    `off` is past the limit by more than the uncertainty, `ok` is below it by at least the
    uncertainty, `near` is everything between.
    """
    if value - limit > uncertainty:
        return "off"
    if limit - value >= uncertainty:
        return "ok"
    return "near"
