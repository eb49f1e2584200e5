"""How a standard's driving measure rises along its guide arc, where that is not at an even pace."""

from __future__ import annotations

from functools import lru_cache
from typing import Final

import numpy as np

from guide_arc.core.kinematics.guide import poses_along, poses_back
from guide_arc.core.model.standard import Standard
from guide_arc.core.reps.arc import EVEN, Arc, arc_of
from guide_arc.core.reps.rules import EDGE

# Where a driving measure is in a pose.
_COLUMN: Final = {"shoulder_elevation": 0, "shoulder_plane": 1, "elbow_flexion": 2}


def arcs_of(standard: Standard) -> tuple[Arc, Arc]:
    """How the driving measure rises on the way up and on the way down."""
    if standard.drive not in _COLUMN:
        return EVEN, EVEN
    return _arcs(standard, EDGE.least_pace_share)


@lru_cache(maxsize=512)  # a standard that is edited is another one with every change
def _arcs(standard: Standard, least_share: float) -> tuple[Arc, Arc]:
    share, column = np.linspace(0.0, 1.0, 41), _COLUMN[standard.drive]
    up, down = (
        arc_of(standard.range.direction * poses(standard, share)[:, column], least_share)
        for poses in (poses_along, poses_back)
    )
    return up, up if np.array_equal(up.level_deg, down.level_deg) else down
