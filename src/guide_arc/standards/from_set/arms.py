"""Which arms work in a model set."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.standard import TRUNK_DRIVES, Standard
from guide_arc.core.reps.drive import driving


def working_arms(body: Body, near: Standard) -> tuple[Side, ...]:
    """The arms that move; where the trunk does, the side that it works to."""
    if near.drive in TRUNK_DRIVES:
        return tuple(driving(body, near)) or SIDES
    if near.drive == "shoulder_hike":
        return SIDES
    moved = {}
    for side in (s for s in SIDES if body.shows("shoulder_elevation", s)):
        wrist = body.in_trunk(f"{side}_wrist", side)
        seen = wrist[np.isfinite(wrist).all(axis=1)]
        moved[side] = (
            float(np.linalg.norm(np.ptp(np.percentile(seen, (5, 95), axis=0), axis=0)))
            if len(seen)
            else 0.0
        )
    if not moved:
        raise BadInput("no arm is seen in this recording; a standard needs one.")
    most = max(moved.values())
    return tuple(s for s in moved if moved[s] >= 0.35 * most)
