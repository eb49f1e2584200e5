"""One set of a client's years: when, with what, how its form was, what was said and felt."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from functools import cached_property
from typing import Final, Literal

from guide_arc.core.model.finding import Verdict
from guide_arc.core.model.rep import WorkSide
from guide_arc.core.model.standard import Harm
from guide_arc.core.planning.history import DoneSet, Seen
from guide_arc.core.planning.pain import speaks_of_pain
from guide_arc.core.planning.training_log import LoggedSet

# Form held and all that matters was seen, form held in what was seen, or form broke.
RepForm = Literal["held", "unseen", "broke"]


@dataclass(frozen=True)
class RepTrace:
    """One rep: whether it counts as full, what of its form was seen, and by which checks it
    broke."""

    side: WorkSide
    full: bool
    form: RepForm
    off: tuple[str, ...] = ()


@dataclass(frozen=True)
class CheckTrace:
    """One check's finding. u : 95 % of the errors stay within it; cue : what was proposed to be
    said"""

    check: str
    side: WorkSide
    verdict: Verdict
    harm: Harm
    title: str
    says: str
    cue: str
    unit: str
    limit: float
    value: float | None = None
    u: float | None = None
    why: str = ""
    allowed: bool = False

    @property
    def key(self) -> str:
        return f"{self.check}/{self.side}"


@dataclass(frozen=True)
class SetTrace:
    """What is kept of a review: small enough to read thousands at once.

    range_, lower_s, hold_s : median over the full reps with its standard uncertainty; None unseen
    tension_s : time under tension of the whole set
    start_s, length_s : of the recording, the first lift and how long from there to the last lower's
        end
    """

    view: str
    unit: str
    reps: tuple[RepTrace, ...]
    checks: tuple[CheckTrace, ...]
    range_: tuple[float, float] | None
    lower_s: tuple[float, float] | None
    hold_s: tuple[float, float] | None
    tension_s: float
    start_s: float
    length_s: float

    def full_reps(self, side: Literal["left", "right"]) -> int:
        return sum(r.full for r in self.reps if r.side in (side, "both"))

    @cached_property
    def _by_key(self) -> dict[str, CheckTrace]:
        return {c.key: c for c in reversed(self.checks)}

    def check(self, key: str) -> CheckTrace | None:
        return self._by_key.get(key)


NOTHING_SEEN: Final = SetTrace(
    view="",
    unit="",
    reps=(),
    checks=(),
    range_=None,
    lower_s=None,
    hold_s=None,
    tension_s=0.0,
    start_s=0.0,
    length_s=0.0,
)


@dataclass(frozen=True)
class Said:
    """A cue that was given: for which finding, in which words."""

    key: str
    words: str


@dataclass(frozen=True)
class KeptSet:
    """A set of one client with the saved part of its review.

    at : when it was done, as noted, to the second where known
    entry_is_right : the coach was asked about what was typed, and says it is right
    logged : a set that was noted and not filmed; its trace shows nothing then
    """

    id: int
    standard: str
    school: str
    at: str
    load_kg: float | None
    trace: SetTrace
    pain: bool = False
    felt: tuple[str, ...] = ()
    reviewed: bool = False
    said: tuple[Said, ...] = ()
    entry_is_right: bool = False
    logged: LoggedSet | None = None

    @classmethod
    def of_log(cls, number: int, logged: LoggedSet, school: str) -> KeptSet:
        """A set that was done and not filmed. number : among those of the client, from 1; such sets
        have no number in the library, and one below 0 here"""
        return cls(
            id=-number,
            standard=logged.standard,
            school=school,
            at=logged.on.isoformat(),
            load_kg=logged.load_kg,
            trace=NOTHING_SEEN,
            pain=logged.pain,
            felt=logged.felt,
            entry_is_right=logged.entry_is_right,
            logged=logged,
        )

    @cached_property
    def on(self) -> date:
        """The day; the first possible day if unknown."""
        try:
            return date.fromisoformat(self.at[:10])
        except ValueError:
            return date.min

    @property
    def hurt(self) -> bool:
        return self.pain or speaks_of_pain(self.felt)

    @property
    def full(self) -> int:
        """Full reps of the arm that did fewer, of those that took part."""
        return self.done.weaker

    @property
    def held(self) -> bool:
        """Whether form was seen to hold in every full rep."""
        full = [r for r in self.trace.reps if r.full]
        return bool(full) and all(r.form == "held" for r in full)

    @property
    def broke(self) -> bool:
        return any(r.form == "broke" for r in self.trace.reps)

    @cached_property
    def done(self) -> DoneSet:
        """The set as the next dose rests on it."""
        if self.logged is not None:
            return self.logged.done
        trace = self.trace
        seen = tuple(
            Seen(c.check, "ok" if c.allowed else c.verdict, c.harm, c.title, c.says, c.why)
            for c in trace.checks
        )
        return DoneSet(
            on=self.on,
            load_kg=self.load_kg,
            left_reps=trace.full_reps("left"),
            right_reps=trace.full_reps("right"),
            partial_reps=sum(not r.full for r in trace.reps),
            findings=seen,
            pain=self.pain,
            felt=self.felt,
            one_arm=True,
            entry_is_right=self.entry_is_right,
        )
