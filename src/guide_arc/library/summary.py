"""What the queue shows of a review without computing it again: plain data, kept with it."""

from __future__ import annotations

from typing import Any

from guide_arc.core.model.finding import Finding
from guide_arc.core.model.review import Review
from guide_arc.core.review.rank import excess
from guide_arc.drawings.words import which_reps


def summary_of(review: Review) -> dict[str, Any]:
    """One line in words, the verdicts' counts, and the rings of the miniature dial."""
    worst = {f.verdict for f in review.findings}
    off = review.with_verdict("off")
    return {
        "line": _line(review),
        "verdict": next((v for v in ("off", "near", "ok") if v in worst), "cannot-tell"),
        "off": len({f.rule.name for f in off}),
        "near": len({f.rule.name for f in review.with_verdict("near")}),
        "urgency": _urgency(off),
        "full": review.full_reps,
        "partial": len(review.reps) - review.full_reps,
        "name": review.standard.name,
        "school": review.standard.school.name if len(review.standard.schools) > 1 else "",
        "intended": [review.standard.range.from_deg, review.standard.range.to_deg],
        "found": [
            words
            for f in review.findings
            if f.verdict in ("off", "near")
            for words in (f.title, f.says, f.cue)
            if words
        ],
        "rings": [[round(r.from_deg, 1), round(r.to_deg, 1), bool(r.full)] for r in review.reps],
        "off_rings": [i for i, r in enumerate(review.reps) if any(f.is_about(r) for f in off)],
    }


def _line(review: Review) -> str:
    if not review.reps:
        return review.trust.doubts[0] if review.trust.doubts else "no rep was found"
    off = review.with_verdict("off")
    if off:
        first = off[0]
        others = len({f.rule.name for f in off} - {first.rule.name})
        more = f", and {others} more" if others else ""
        return f"{first.says}{_where(first)}{more}"
    near = review.with_verdict("near")
    if near:
        if near[0].hint:
            return f"likely: {near[0].says}{_where(near[0])}"
        return f"{near[0].says}{_where(near[0])}: close to the limit"
    unsure = len({f.rule.name for f in review.with_verdict("cannot-tell")})
    if unsure:
        return (
            f"nothing past its limit; {unsure} of {len(review.standard.checks)} checks can't be"
            " told from this recording"
        )
    return "all within the limits"


def _where(finding: Finding) -> str:
    side = f", {finding.side}" if finding.side != "both" else ""
    return f"{side}, {which_reps(finding)}" if finding.reps else side


def _urgency(off: tuple[Finding, ...]) -> float:
    """Larger is more in need: what is at stake first, then how far past the limit."""
    weight = {"spine": 3.0, "joint": 2.0, "effect": 1.0}
    return round(sum(weight[f.rule.harm] * (1.0 + min(excess(f), 3.0)) for f in off), 2)
