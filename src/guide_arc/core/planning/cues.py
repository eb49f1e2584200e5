"""Did the cues work? Each cue that was given, followed through the sets after it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from guide_arc.core.checks.registry import spec_of
from guide_arc.core.planning.kept_set import CheckTrace, KeptSet, Said
from guide_arc.core.planning.rules import PLAN
from guide_arc.core.planning.trend import Sample, comparable, sure_change

Outcome = Literal["worked", "better", "no-change", "worse", "waiting", "unseen", "too-soon"]


@dataclass(frozen=True)
class Followed:
    """One cue and what came of it.

    before, after : the measure in the set in which it was given, and in those after it
    u : 95 % of the errors of the first stay within it
    """

    given_in: KeptSet
    said: Said
    title: str
    unit: str
    before: float
    u: float
    after: tuple[float, ...]
    outcome: Outcome

    @property
    def say_it_otherwise(self) -> bool:
        """Whether so many sets without a change ask for other words."""
        return (
            self.outcome in ("no-change", "worse") and len(self.after) >= PLAN.sets_without_change
        )

    def set_after(self, sets: Sequence[KeptSet]) -> KeptSet | None:
        """The first set after the one in which it was given; None if there is none yet."""
        given = (self.given_in.at, self.given_in.id)
        return min(
            (s for s in sets if (s.at, s.id) > given), key=lambda s: (s.at, s.id), default=None
        )


def followed(sets: Sequence[KeptSet]) -> tuple[Followed, ...]:
    """Every cue given in these sets of one exercise, the latest first. sets : oldest first"""
    out = []
    for i, given in enumerate(sets):
        for said in given.said:
            before = given.trace.check(said.key)
            if before is None or before.value is None:
                continue
            later = sets[i + 1 :]
            since = _samples(later[: _until_said_again(later, before.check)], said.key)
            values = tuple(sample.value for sample in since)
            out.append(
                Followed(
                    given_in=given,
                    said=said,
                    title=before.title,
                    unit=before.unit,
                    before=before.value,
                    u=before.u or 0.0,
                    after=values,
                    outcome=_outcome(
                        before, _samples(sets[: i + 1], said.key), since, waiting=not later
                    ),
                )
            )
    return tuple(reversed(out))


def _until_said_again(later: Sequence[KeptSet], check: str) -> int:
    """The number of sets after a cue that show its effect: up to the one after which the same is
    said again."""
    for j, s in enumerate(later):
        if any(o.key.split("/")[0] == check for o in s.said):
            return j + 1
    return len(later)


def _samples(sets: Sequence[KeptSet], key: str) -> list[Sample]:
    """A check's values from the sets that show it."""
    return [
        Sample(s.on.toordinal(), float(c.value), 0.5 * (c.u or 0.0), s.trace.view, s.load_kg)
        for s in sets
        if (c := s.trace.check(key)) is not None
        and c.value is not None
        and c.verdict != "cannot-tell"
    ]


def _outcome(
    before: CheckTrace, until: Sequence[Sample], since: Sequence[Sample], *, waiting: bool
) -> Outcome:
    """until : the sets up to the one in which it was given; since : those after it"""
    if not since:
        return "waiting" if waiting else "unseen"
    if not until:
        return "too-soon"
    given = until[-1]
    after = [s for s in since if comparable(given, s)]
    change = sure_change([s for s in until if comparable(given, s)], after)
    if change is None:
        return "too-soon"
    # A measure that asks for at least its limit (a hold, a lowering) is better when it grows.
    sign = -1.0 if spec_of(before.check).least else 1.0
    gain = -sign * change
    if gain <= 0.0:
        return "worse" if gain < 0.0 else "no-change"
    usual = sum(s.value for s in after) / len(after)
    return "worked" if sign * (before.limit - usual) >= 0 else "better"


def words_that_worked(every: Sequence[Followed]) -> dict[str, tuple[str, ...]]:
    """For each check, the words after which its measure came within its limit, the latest first."""
    out: dict[str, list[str]] = {}
    for f in every:
        if f.outcome == "worked":
            out.setdefault(f.said.key.split("/")[0], []).append(f.said.words)
    return {check: tuple(dict.fromkeys(words)) for check, words in out.items()}


def other_words(
    check_words: Sequence[str], every: Sequence[Followed], check: str
) -> tuple[str, ...]:
    """Other ways to say one check's cue to this client: what worked first, then what was not tried,
    never what was said without a change."""
    worked = words_that_worked(every).get(check, ())
    tried = {f.said.words for f in every if f.said.key.split("/")[0] == check}
    fresh = [w for w in check_words if w not in tried]
    return tuple(dict.fromkeys((*worked, *fresh)))
