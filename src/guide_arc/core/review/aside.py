"""A camera that is too far off-axis for anything to be judged."""

from __future__ import annotations

from collections.abc import Iterable

from guide_arc.core.checks.context import cannot_tell
from guide_arc.core.kinematics.cleaning import CleanTrack
from guide_arc.core.model.finding import Finding


def judged_from_aside(findings: Iterable[Finding], cleaned: CleanTrack) -> list[Finding]:
    """The findings as they are; not used if the camera is between two views."""
    if not cleaned.aside.too_far:
        return list(findings)
    why = f"the camera stands about {cleaned.aside.deg:.0f}° aside of the {cleaned.track.view} view"
    return [
        (
            f
            if f.verdict == "cannot-tell"
            else cannot_tell(f.rule, f.side, f.limit, f.unit, why, by_view=True)
        )
        for f in findings
    ]
