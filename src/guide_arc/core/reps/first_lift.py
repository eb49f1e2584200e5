"""When the first lift starts in a recording whose standard is not known."""

from __future__ import annotations

from typing import Final

from guide_arc.core.kinematics.body import Body
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.standard import Range
from guide_arc.core.reps.candidates import by_size, candidates
from guide_arc.core.reps.drive import signal_of
from guide_arc.core.reps.rules import REP

_MEASURES: Final = ("elbow_flexion", "shoulder_elevation", "shoulder_plane")
# Before the standard is known the floor for a movement is that in degrees.
_USUAL: Final = Range(0.0, REP.size_floor_deg / REP.size_floor_share, 10.0)


def first_lift_s(body: Body) -> float | None:
    """The start of the first of the repeated movements that cover most degrees together."""
    best, most = None, 0.0
    for measure in _MEASURES:
        for side in SIDES:
            if not body.shows(measure, side):
                continue
            drive = signal_of(body, measure, side, _USUAL)
            full = [c for c, is_full in by_size(candidates(drive)) if is_full] if drive else []
            covered = sum(c.size_deg for c in full)
            if covered > most:
                best, most = full[0].lift.span.start_s, covered
    return best
