"""Two recordings of one set, from different sides, reviewed as one: each check by the view that
shows it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep, WorkSide
from guide_arc.core.model.review import Review
from guide_arc.core.model.settings import ENTRY
from guide_arc.core.planning.history import NO_PAST, Past
from guide_arc.core.review.causes import causes_of
from guide_arc.core.review.prescribe import next_time
from guide_arc.core.review.rank import ranked
from guide_arc.core.review.trends import broke_down, off_by_rep

# Two phones that are started and stopped by hand differ by no more reps than these at either end.
_MOST_APART: Final = 3
# How much steadier the two clocks' difference has to be, in seconds, to leave a rep out at one end.
_A_REP_APART_S: Final = 0.05


def together(
    main: Review, others: Sequence[Review], load_kg: float | None = None, past: Past = NO_PAST
) -> Review:
    """The review of a set that was recorded from several sides at once.

    main : whose reps and times are kept; the findings of the others are reported at the same reps
    of it Raises BadInput if they are not of the same exercise and school.
    """
    for other in others:
        if (other.standard.id, other.standard.school.id) != (
            main.standard.id,
            main.standard.school.id,
        ):
            raise BadInput(
                f"one recording is of {main.standard.name} ({main.standard.school.name}), the other"
                f" of {other.standard.name} ({other.standard.school.name}); they are one set only"
                " if both are the same"
            )
    findings = [replace(f, seen_from=_side(main)) for f in main.findings]
    for other in others:
        by_key = {f.key: f for f in other.findings}
        same = _same_reps(main.reps, other.reps)
        findings = [_surer(f, by_key.get(f.key), same, _side(other)) for f in findings]
    found = ranked(findings)
    off = off_by_rep(main.reps, found)
    trust = replace(
        main.trust,
        view=" and ".join((main.trust.view, *dict.fromkeys(_side(o) for o in others))),
        cannot=tuple(c for c in main.trust.cannot if all(c in o.trust.cannot for o in others)),
        doubts=(*main.trust.doubts, *(d for o in others for d in _doubts(main, o))),
    )
    return replace(
        main,
        findings=found,
        trust=trust,
        loose=tuple(key for key, names in off.items() if names),
        broke_down=broke_down(main.reps, off),
        causes=(
            *causes_of(main.standard, found, main.settings.felt, past.feel),
            *(c for c in main.causes if c.kind == "load"),
        ),
        next_time=next_time(
            main.standard,
            main.tempo,
            main.reps,
            found,
            load_kg,
            felt=main.settings.felt,
            past=past,
            entry_is_right=main.settings.seen_by_eye(ENTRY) is not None,
        ),
    )


def _side(review: Review) -> str:
    """`from the left`"""
    return review.trust.view.removeprefix("Seen ")


def _surer(own: Finding, other: Finding | None, same: _SameReps, side: str) -> Finding:
    """The more informative of two findings of one check, with the reps and times of the main
    recording."""
    if other is None or other.verdict == "cannot-tell":
        return own
    if (
        own.verdict != "cannot-tell"
        and own.uncertainty is not None
        and (other.uncertainty is None or own.uncertainty <= other.uncertainty)
    ):
        return own
    return replace(
        other,
        at_s=None if other.at_s is None else same.moment(other.at_s),
        reps=tuple(n for r in other.reps if (n := same.number(other.side, r)) is not None),
        per_rep=tuple(
            replace(v, rep=n, at_s=same.moment(v.at_s))
            for v in other.per_rep
            if (n := same.number(other.side, v.rep)) is not None
        ),
        seen_from=side,
    )


def _doubts(main: Review, other: Review) -> tuple[str, ...]:
    if len(main.reps) == len(other.reps):
        return ()
    return (
        (
            f"{len(main.reps)} reps {_side(main)}, but {len(other.reps)} {_side(other)}: "
            "are both recordings of the same set?"
        ),
    )


@dataclass(frozen=True)
class _SameReps:
    """Which reps of another recording are which of the main one: only the rhythm of the reps aligns
    the two clocks.

    pairs : (the other recording's rep, the main one's)
    """

    pairs: tuple[tuple[Rep, Rep], ...]

    def number(self, side: WorkSide, rep: int) -> int | None:
        """The main recording's number of a rep of the other one; None if it has no such rep."""
        for theirs, own in self.pairs:
            if theirs.number == rep and ("both" in (side, theirs.side) or theirs.side == side):
                return own.number
        return None

    def moment(self, at_s: float) -> float:
        """A moment of the other recording on the main one's clock."""
        if not self.pairs:
            return at_s
        there = np.array([_moments(rep) for rep, _own in self.pairs]).ravel()
        here = np.array([_moments(rep) for _theirs, rep in self.pairs]).ravel()
        seen = np.isfinite(there + here)
        order = np.argsort(there[seen], kind="stable")
        there, here = there[seen][order], here[seen][order]
        if not len(there):
            return at_s
        if at_s <= there[0] or at_s >= there[-1]:
            end = 0 if at_s <= there[0] else -1
            return float(here[end] + at_s - there[end])
        return float(np.interp(at_s, there, here))


def _same_reps(main: tuple[Rep, ...], other: tuple[Rep, ...]) -> _SameReps:
    """Line up two recordings of the same reps, where one may have begun or ended a few reps
    earlier: the reps' lengths and pauses say how far they are shifted, as the two clocks differ by
    the same at every rep."""
    best: tuple[float, tuple[tuple[Rep, Rep], ...]] = (np.inf, ())
    fewer = min(len(main), len(other))
    for shift in range(-len(other) + 1, len(main)):
        pairs = tuple(
            (theirs, main[i + shift])
            for i, theirs in enumerate(other)
            if 0 <= i + shift < len(main) and theirs.side == main[i + shift].side
        )
        if len(pairs) < max(fewer - _MOST_APART, (fewer + 1) // 2):
            continue
        apart = np.array([np.subtract(_moments(own), _moments(theirs)) for theirs, own in pairs])
        # Each rep that only one recording shows has to be paid for by a clearly steadier
        # difference.
        apart = apart[np.isfinite(apart)]
        if not len(apart):
            continue
        cost = float(np.std(apart)) + _A_REP_APART_S * (fewer - len(pairs))
        if cost < best[0]:
            best = cost, pairs
    return _SameReps(best[1])


def _moments(rep: Rep) -> tuple[float, ...]:
    """When its phases begin and end; NaN if that was not seen."""
    out = []
    for phase in (rep.lift, rep.lower):
        out += [phase.start_s if phase.start_seen else math.nan]
        out += [phase.end_s if phase.end_seen else math.nan]
    return tuple(out)
