"""The history of one exercise that the next dose is based on."""

from __future__ import annotations

from collections.abc import Iterable
from collections.abc import Set as AbstractSet
from dataclasses import dataclass, field
from datetime import date
from functools import cached_property
from typing import Final, Literal

from guide_arc.core.model.client import Cleared, Feel, SorePlace
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.finding import Verdict
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.settings import Saw
from guide_arc.core.model.standard import Harm, Standard, Tempo
from guide_arc.core.planning.pain import speaks_of_pain
from guide_arc.core.planning.scheme import PLAIN_SCHEME, Scheme


@dataclass(frozen=True)
class Seen:
    """One check's verdict on a set.

    title, says, why : as the finding's, if there is one
    eye : what the coach saw with their own eyes
    """

    check: str
    verdict: Verdict
    harm: Harm
    title: str = ""
    says: str = ""
    why: str = ""
    eye: Saw | None = None

    @property
    def judged(self) -> Verdict:
        """The coach's own answer if there is one, otherwise the measurement."""
        if self.eye is None:
            return self.verdict
        return "ok" if self.eye == "held" else "off"


@dataclass(frozen=True)
class DoneSet:
    """One set as it was done. load_kg : of assisted kit, the help; None where nobody noted it

    left_reps, right_reps : full reps of each arm; 0 for an arm that did not work
    filmed : a set that was not shows nothing and takes nothing away
    in_reserve : reps that were left, where that was said
    one_arm : an arm without reps did not work, or was not seen; otherwise it counts as a set
        without reps
    entry_is_right : the coach was asked about load, day or an idle arm, and says they are right"""

    on: date
    load_kg: float | None
    left_reps: int
    right_reps: int
    partial_reps: int = 0
    findings: tuple[Seen, ...] = ()
    pain: bool = False
    felt: tuple[str, ...] = ()
    filmed: bool = True
    in_reserve: int | None = None
    one_arm: bool = False
    entry_is_right: bool = False

    @property
    def idle_arm(self) -> Side | None:
        """The arm without a rep next to one that worked."""
        if bool(self.left_reps) == bool(self.right_reps):
            return None
        return "right" if self.left_reps else "left"

    @property
    def weaker(self) -> int:
        """Full reps of the arm that did fewer; if one arm works alone, the other has no part in
        it."""
        if not self.one_arm:
            return min(self.left_reps, self.right_reps)
        worked = [reps for reps in (self.left_reps, self.right_reps) if reps]
        return min(worked, default=0)

    @property
    def hurt(self) -> bool:
        return self.pain or speaks_of_pain(self.felt)


Shown = Literal["held", "broke", "unseen"]


def shown_in(session: Iterable[DoneSet]) -> dict[str, Shown]:
    """What a session shows of each check that one of its sets names: held if at least one set shows
    it and none shows it broken, so two recordings from different sides together show what each of
    them hides."""
    out: dict[str, Shown] = {}
    for done in session:
        for check, shown in _shown_by(done).items():
            before = out.get(check, "unseen")
            out[check] = (
                "broke"
                if "broke" in (before, shown)
                else "held"
                if "held" in (before, shown)
                else "unseen"
            )
    return out


def form_of(session: Iterable[DoneSet]) -> Shown:
    """A session's form: broken where any check broke, held where each check of harm was seen to
    hold, else unseen."""
    sets = tuple(session)
    shown = shown_in(sets)
    harm = {f.check for done in sets for f in done.findings if f.harm != "effect"}
    if "broke" in shown.values():
        return "broke"
    return "held" if shown and all(shown.get(c) == "held" for c in harm) else "unseen"


def _shown_by(done: DoneSet) -> dict[str, Shown]:
    """What one set shows. Of its two arms the one that was hidden takes nothing away; one that is
    near its limit does."""
    if not done.filmed:
        return {}
    verdicts: dict[str, set[Verdict]] = {}
    for f in done.findings:
        verdicts.setdefault(f.check, set()).add(f.judged)
    return {check: shown_by_arms(own) for check, own in verdicts.items()}


def shown_by_arms(verdicts: AbstractSet[Verdict]) -> Shown:
    """What the verdicts of both arms on one check show together."""
    if "off" in verdicts:
        return "broke"
    return "held" if "ok" in verdicts and "near" not in verdicts else "unseen"


@dataclass(frozen=True)
class Aim:
    """What is aimed at: a range of reps, and how many sets."""

    reps: tuple[int, int]
    sets: int


@dataclass(frozen=True)
class History:
    """sets : oldest first, at least one; those of one date are a session
    rack_kg : the weights that there are, lightest first; of assisted kit, the help
    on : the day that is planned for
    tempo : this client's targets; None takes the scheme's, or the standard's own
    scheme : how the sets are arranged
    tired : days on which poor sleep or soreness all over was noted
    cleared : what a clinician cleared, as the coach noted it
    expected : the last day before `on` on which it is still to be done; easier : `on` is in an
        easier week"""

    standard: Standard
    rack_kg: tuple[float, ...]
    sets: tuple[DoneSet, ...]
    on: date
    assisted: bool = False
    aim: Aim | None = None
    sore: tuple[SorePlace, ...] = field(default=())
    tempo: Tempo | None = None
    scheme: Scheme = PLAIN_SCHEME
    tired: tuple[date, ...] = ()
    expected: date | None = None
    easier: bool = False
    cleared: tuple[Cleared, ...] = ()

    def __post_init__(self) -> None:
        if not self.sets:
            raise BadInput("a history needs at least one set")
        if not self.rack_kg:
            raise BadInput("the rack has no weight")
        if list(self.rack_kg) != sorted(set(self.rack_kg)):
            raise BadInput("the rack's weights must rise, each once")
        if any(a.on > b.on for a, b in zip(self.sets, self.sets[1:], strict=False)):
            raise BadInput("the sets must stand oldest first")

    @cached_property
    def sessions(self) -> tuple[tuple[DoneSet, ...], ...]:
        """The sets of each date, oldest first."""
        days: dict[date, list[DoneSet]] = {}
        for done in self.sets:
            days.setdefault(done.on, []).append(done)
        return tuple(tuple(own) for own in days.values())

    @property
    def aimed(self) -> Aim:
        dose = self.scheme.dose(self.standard)
        return self.aim or Aim(self._grown(dose.reps), dose.sets[0])

    def _grown(self, reps: tuple[int, int]) -> tuple[int, int]:
        """Where a scheme grows by reps, the range that the last session has come to."""
        if self.scheme.grows != "reps" or not self.sets:
            return reps
        last = min(done.weaker for done in self.sessions[-1])
        low, high = reps
        while last > high and high < self.scheme.most_reps:
            low, high = low + self.scheme.step_reps, high + self.scheme.step_reps
        return low, min(high, self.scheme.most_reps)

    def hardest(self, session: tuple[DoneSet, ...]) -> float | None:
        """The load of a session's hardest set; the least help of assisted kit."""
        loads = [done.load_kg for done in session if done.load_kg is not None]
        if not loads:
            return None
        return min(loads) if self.assisted else max(loads)


@dataclass(frozen=True)
class Past:
    """What is known of a client next to the set under review.

    sets : those of the same exercise that were done before it, oldest first
    rack_kg : the weights that there are; empty where nobody noted them
    on : the day of the set under review
    """

    sets: tuple[DoneSet, ...] = ()
    rack_kg: tuple[float, ...] = ()
    sore: tuple[SorePlace, ...] = ()
    on: date = date.min
    aim: Aim | None = None
    scheme: Scheme = PLAIN_SCHEME
    tired: tuple[date, ...] = ()
    feel: Feel = "guide"
    cleared: tuple[Cleared, ...] = ()


NO_PAST: Final = Past()
