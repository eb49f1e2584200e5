"""Whether a set was done as another school of its exercise does it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from guide_arc.core.kinematics.body import Body
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import School, Standard
from guide_arc.core.review.assess import review_body


@dataclass(frozen=True)
class BetterFit:
    """A school in which fewer checks are off, and none that was ok before.

    gone : the titles of what is off as the set is judged now, and not in that school
    """

    school: School
    gone: tuple[str, ...]

    @property
    def words(self) -> str:
        what = " and ".join(f"“{t[:1].lower()}{t[1:]}”" for t in self.gone[:2])
        return (
            f"This was done as the school “{self.school.name}” does it ({what} would be no fault"
            " there)."
        )


def better_school(body: Body, review: Review, others: Iterable[Standard]) -> BetterFit | None:
    """The school that a set fits better than the one it is judged by; None if there is none.

    others : the same standard as its other schools see it Only what a school asks otherwise counts;
    nothing is said where pain was reported, as that chooses no school.
    """
    off = {f.rule.name: f.title for f in review.with_verdict("off") if not f.allowed}
    if not off or review.next_time.ask_first:
        return None
    best: BetterFit | None = None
    for other in others:
        if other.school.id == review.standard.school.id:
            continue
        seen, _, _ = review_body(body, other, None, review.settings)
        if len(seen.reps) != len(review.reps):
            continue
        there = {f.rule.name for f in seen.with_verdict("off")}
        told = {f.rule.name for f in seen.findings if f.verdict in ("ok", "near")}
        asked = {rule.name for rule in other.checks}
        # A check that the other school does not ask is gone by its choice; one that can't be
        # determined is not gone.
        gone = tuple(t for n, t in off.items() if n not in there and (n in told or n not in asked))
        if there - set(off) or not gone:
            continue
        if best is None or len(gone) > len(best.gone):
            best = BetterFit(other.school, gone)
    return best
