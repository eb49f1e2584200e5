"""Which parts of one recording belong to which of several standards.

Each standard looks for its reps in the whole recording; where two claim the same time, the one
whose guide arc the hand keeps to has it. The coach confirms the proposal.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.rep import Span
from guide_arc.core.model.settings import Correction, Settings
from guide_arc.core.model.standard import Standard
from guide_arc.core.reps.candidates import candidates, usual_size
from guide_arc.core.reps.drive import both_arms, driving
from guide_arc.core.reps.rules import REP
from guide_arc.core.reps.segment import RepSet, find_reps
from guide_arc.core.reps.selection import off_guide


@dataclass(frozen=True, eq=False)
class Part:
    """A stretch of the recording in which one standard was done, with its reps there.

    off_arms : how far the hand stays from that standard's guide arc, in arm lengths; other_arms :
        the same for the best of the other standards, inf where none of them saw reps there
    """

    standard: Standard
    span: Span
    repset: RepSet
    off_arms: float
    other_arms: float

    @property
    def sure(self) -> bool:
        """Whether the fit is clearly better than that of the others."""
        return self.other_arms > 1.5 * self.off_arms

    @property
    def bounds(self) -> Correction:
        """The part as the coach's own start and end of a set."""
        return Correction("bounds", self.span.start_s, self.span.end_s)


@dataclass(frozen=True)
class _Claim:
    standard: int
    span: Span
    off_arms: float


def split_by_standard(body: Body, standards: Sequence[Standard]) -> tuple[Part, ...]:
    """The parts of a recording in order of time; one standard may come back.

    Raises ValueError for fewer than two standards.
    """
    if len(standards) < 2:
        raise ValueError("a recording is split between at least two standards")
    claims = [c for i, plan in enumerate(standards) for c in _claims(body, plan, i)]
    won = _winners(claims)
    out: list[Part] = []
    groups = [(i, list(g)) for i, g in itertools.groupby(won, key=lambda c: c.standard)]
    for k, (i, group) in enumerate(groups):
        start = float(body.time_s[0])
        end = float(body.time_s[-1])
        if k:
            start = _between(groups[k - 1][1][-1], group[0])
        if k + 1 < len(groups):
            end = _between(group[-1], groups[k + 1][1][0])
        span = Span(start, end)
        marked = Settings((Correction("bounds", start, end),))
        repset = find_reps(body, standards[i], marked)
        if not repset.reps:
            continue
        rivals = [c.off_arms for c in claims if c.standard != i and _overlap(c.span, span) > 0.0]
        off = float(np.median([c.off_arms for c in group]))
        out.append(
            Part(standards[i], span, repset, off, float(np.median(rivals)) if rivals else np.inf)
        )
    return tuple(out)


def _between(a: _Claim, b: _Claim) -> float:
    return 0.5 * (a.span.end_s + b.span.start_s)


def _claims(body: Body, plan: Standard, index: int) -> list[_Claim]:
    """What could be reps of a standard anywhere in the recording, with how well each fits."""
    drives = driving(body, plan)
    if not drives:
        return []
    if len(drives) == 2 and plan.arms == "both":
        signals = [("both", both_arms(drives["left"], drives["right"]))]
    else:
        signals = [(side, drive) for side, drive in drives.items()]
    out: list[_Claim] = []
    for side, drive in signals:
        found = candidates(drive)
        if not found:
            continue
        usual = min(usual_size(np.array([c.size_deg for c in found])), plan.range.size_deg)
        large = [c for c in found if c.size_deg >= 0.6 * REP.full_share * usual]
        off: Array = off_guide(body, plan, large, side)  # type: ignore[arg-type]
        out += [
            _Claim(index, Span(c.lift.span.start_s, c.lower.span.end_s), float(o))
            for c, o in zip(large, off, strict=True)
            if o <= REP.worst_fit_arms
        ]
    return out


def _overlap(a: Span, b: Span) -> float:
    return max(0.0, min(a.end_s, b.end_s) - max(a.start_s, b.start_s))


def _winners(claims: list[_Claim]) -> list[_Claim]:
    """Of claims on the same time the best fits, in order of time."""
    won: list[_Claim] = []
    for claim in sorted(claims, key=lambda c: c.off_arms):
        if all(_overlap(claim.span, w.span) < 0.3 * claim.span.length_s for w in won):
            won.append(claim)
    return sorted(won, key=lambda c: c.span.start_s)
