"""What to say first: spine and neck, then joints, then effect; within them the size and reach."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final

from guide_arc.core.checks.registry import follows
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import HARM_ORDER

_VERDICT_ORDER: Final = ("off", "near", "cannot-tell", "ok")
MOST_CUES: Final = 3


def excess(finding: Finding) -> float:
    """How far a value is past its limit, as a share of the limit; 0 without a value."""
    if finding.value is None or not finding.limit:
        return 0.0
    gap = finding.value - finding.limit
    return abs(gap) / abs(finding.limit) if finding.verdict == "off" else gap / abs(finding.limit)


def ranked(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """Findings in the order in which a coach should read them."""

    def key(f: Finding) -> tuple[float, int, float, int]:
        return (
            # Likely faults come before all others that are near; allowed ones come after that.
            _VERDICT_ORDER.index("cannot-tell" if f.allowed else f.judged)
            - 0.5 * (f.allowed or f.hint),
            HARM_ORDER.index(f.rule.harm),
            -excess(f),
            -len(f.reps),
        )

    return tuple(sorted(findings, key=key))


def proposed_cues(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """At most three findings worth a cue, most harmful first, no check twice.

    What only shows another fault over again, and what was put right within the set, comes after
    everything else.
    """
    off: list[Finding] = []
    for finding in ranked(findings):
        if (
            finding.judged == "off"
            and not finding.allowed
            and all(f.rule.name != finding.rule.name for f in off)
        ):
            off.append(finding)
    again = {f.rule.name for i, f in enumerate(off) if _is_said(f, off[:i], off)}
    # What the client put right within the set comes after what stayed wrong to its end.
    ordered = sorted(off, key=lambda f: (f.rule.name in again, f.right_from is not None))
    return tuple(ordered[:MOST_CUES])


def _is_said(finding: Finding, before: list[Finding], every: list[Finding]) -> bool:
    """Whether another finding says the same: one that causes it, or of two that show each other the
    one that is read first."""
    name = finding.rule.name
    return any(
        follows(name, other.rule.name) and (other in before or not follows(other.rule.name, name))
        for other in every
        if other is not finding
    )
