"""Loose reps at the end of a set that the coach allows while the spine stays safe."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep


def allowing(
    findings: Iterable[Finding], reps: tuple[Rep, ...], loose_last: int
) -> tuple[Finding, ...]:
    """The findings, with those marked that are off in the last `loose_last` reps only.

    What puts the spine at stake is never allowed.
    """
    out = []
    for finding in findings:
        own = [
            rep.number
            for rep in reps
            if "both" in (finding.side, rep.side) or rep.side == finding.side
        ]
        last = set(sorted(set(own))[-loose_last:]) if loose_last else set()
        spared = (
            finding.verdict == "off"
            and finding.rule.harm != "spine"
            and 2 * len(finding.per_rep) > len(own)  # judged rep by rep, not over the set
            and set(finding.reps) <= last
        )
        out.append(replace(finding, allowed=True) if spared else finding)
    return tuple(out)
