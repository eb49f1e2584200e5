"""What of a review is kept for the years."""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.registry import must_hold
from guide_arc.core.model.finding import Verdict
from guide_arc.core.model.review import Review
from guide_arc.core.planning.history import shown_by_arms
from guide_arc.core.planning.kept_set import CheckTrace, RepForm, RepTrace, SetTrace
from guide_arc.core.review.trends import off_by_rep

# How well the ends of one phase are known: two edges of about a frame each.
_EDGE_U_S: Final = 0.05


def trace_of(review: Review) -> SetTrace:
    """What is kept of a review."""
    off = off_by_rep(review.reps, [f for f in review.findings if not f.allowed])
    deciding = must_hold(review.standard)
    verdicts: dict[str, set[Verdict]] = {}
    for f in review.findings:
        if f.rule.name in deciding:
            # The reps that broke say so themselves; the others apply if nothing else is in doubt.
            verdicts.setdefault(f.rule.name, set()).add("ok" if f.judged == "off" else f.judged)
    unseen = any(shown_by_arms(own) == "unseen" for own in verdicts.values())
    full = [r for r in review.reps if r.full]
    ranges = [q for q, r in zip(review.range_by_rep, review.reps, strict=True) if r.full]
    holds = [r.top_hold.length_s if r.top_hold else 0.0 for r in full]
    reps = review.reps
    return SetTrace(
        view=review.trust.view,
        unit=review.standard.drive_unit,
        reps=tuple(
            RepTrace(r.side, r.full, _form(off[r.key], unseen), tuple(sorted(off[r.key])))
            for r in reps
        ),
        checks=tuple(
            CheckTrace(
                check=f.rule.name,
                side=f.side,
                verdict=f.judged,
                harm=f.rule.harm,
                title=f.title,
                says=f.says,
                cue=f.cue,
                unit=f.unit,
                limit=f.limit,
                value=f.value,
                u=f.uncertainty,
                why=f.why or "",
                allowed=f.allowed,
            )
            for f in review.findings
        ),
        range_=_median(
            [q.value for q in ranges], float(np.mean([q.u for q in ranges])) if ranges else 0.0
        ),
        lower_s=_median([r.lower.length_s for r in full], _EDGE_U_S),
        hold_s=_median(holds, _EDGE_U_S) if any(holds) else None,
        tension_s=review.under_tension_s,
        start_s=reps[0].start_s if reps else 0.0,
        length_s=max(r.end_s for r in reps) - reps[0].start_s if reps else 0.0,
    )


def _form(off: set[str], unseen: bool) -> RepForm:
    if off:
        return "broke"
    return "unseen" if unseen else "held"


def _median(values: list[float], u: float) -> tuple[float, float] | None:
    """The median and its standard uncertainty: the measurement's, or the reps' own scatter over
    their root."""
    known = [v for v in values if np.isfinite(v)]
    if not known:
        return None
    scatter = float(np.std(known)) / np.sqrt(len(known)) if len(known) > 1 else 0.0
    return float(np.median(known)), float(np.hypot(scatter, u / np.sqrt(len(known))))
