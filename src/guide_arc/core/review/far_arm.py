"""The arm behind the body in a side view: it is mentioned once, not in every check."""

from __future__ import annotations

from collections.abc import Iterable

from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.track import View


def far_arm(findings: Iterable[Finding], view: View) -> Side | None:
    """The arm that the body hides, where checks of both arms are asked for; None if there is
    none."""
    near = near_side(view)
    if near is None:
        return None
    far: Side = "right" if near == "left" else "left"
    return far if any(_hidden(f, far) for f in findings) else None


def told_once(findings: tuple[Finding, ...], view: View) -> tuple[Finding, ...]:
    """The findings without those of the hidden arm that only say that it is hidden."""
    far = far_arm(findings, view)
    if far is None:
        return findings
    of_the_near = {f.rule.name for f in findings if f.side not in (far, "both")}
    return tuple(f for f in findings if not (_hidden(f, far) and f.rule.name in of_the_near))


def _hidden(finding: Finding, far: Side) -> bool:
    return (
        finding.side == far
        and finding.verdict == "cannot-tell"
        and finding.by_view
        and finding.eye is None
    )
