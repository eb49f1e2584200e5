"""How far a camera stands aside of the view that it is said to have, from what it should not see.

From the side the two shoulders and the two hips lie behind one another; how far apart they look is how far the camera has
gone round. From the front or the back feet point at the camera or away from it; how far they look to one side says the
same. Bodies differ and turn a little: each is a rough sign, and what is within its doubt is none.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from guide_arc.core.kinematics.anatomy import Anatomy
from guide_arc.core.kinematics.rules import ASIDE, CLEAN
from guide_arc.core.kinematics.vectors import Array, median
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.track import View


@dataclass(frozen=True)
class Aside:
    """deg : how far round, 0 where it may be none; u_deg : its standard uncertainty; seems_deg : what it seems to be, sure or not"""

    deg: float
    u_deg: float
    seems_deg: float = 0.0

    @property
    def too_far(self) -> bool:
        """Whether the recording is no longer of the view that it is said to have."""
        return self.deg > ASIDE.too_far_deg

    @property
    def limb_u_deg(self) -> float:
        """Degrees by which it makes the angle of a limb wrong that lies about in the picture's plane: what lies in the
        plane looks narrower, and what reaches out of it looks turned (a share of the limb's length, as arms do)."""
        narrow = 0.5 * (1.0 - np.cos(self._turn))
        return float(np.degrees(np.hypot(narrow, ASIDE.out_of_plane_share * np.sin(self._turn))))

    @property
    def side_lean_u_deg(self) -> float:
        """Degrees by which a trunk that leans ahead or back seems to lean aside."""
        return float(ASIDE.trunk_leans_deg * np.sin(self._turn))

    @property
    def _turn(self) -> float:
        """How far round the camera may be, radians."""
        unseen = np.hypot(self.seems_deg, ASIDE.unseen_share * self.u_deg)
        return float(np.radians(self.deg or unseen))


NOT_ASIDE = Aside(0.0, 0.0)


def camera_aside(seen: Array, names: Sequence[str], view: View, stature_m: float | None) -> Aside:
    """How far aside a camera stands.

    seen : (T, L, 3) metres in the body's axes, the hidden axis of no use; NaN where missing
    """
    body = Anatomy(stature_m or CLEAN.usual_stature_m)
    at = {name: i for i, name in enumerate(names)}
    signs: list[tuple[float, float]] = []
    if view in SIDES:
        for part, half, u_deg in (
            ("shoulder", body.half_shoulders_m, ASIDE.shoulders_u_deg),
            ("hip", body.half_hips_m, ASIDE.hips_u_deg),
        ):
            pair = [at.get(f"{side}_{part}") for side in SIDES]
            if None not in pair:
                apart = seen[:, pair[0], 2] - seen[:, pair[1], 2]
                # A trunk that turns in the set tells less of where the camera stands.
                turns = _spread(apart, 2.0 * half)
                signs.append((_turn(apart, 2.0 * half), float(np.hypot(u_deg, turns))))
    else:
        feet = [
            seen[:, at[f"{side}_foot"], 0] - seen[:, at[f"{side}_heel"], 0]
            for side in SIDES
            if f"{side}_foot" in at and f"{side}_heel" in at
        ]
        if len(feet) == 2:
            signs.append((_turn(0.5 * (feet[0] + feet[1]), body.foot_m), ASIDE.feet_u_deg))
    signs = [(deg, u) for deg, u in signs if np.isfinite(deg)]
    if not signs:
        return NOT_ASIDE
    weight = sum(1.0 / u**2 for _, u in signs)
    deg, u_deg = sum(d / u**2 for d, u in signs) / weight, float(np.sqrt(1.0 / weight))
    return Aside(abs(deg) if abs(deg) > ASIDE.sure_from_u * u_deg else 0.0, u_deg, abs(deg))


def _spread(apart_m: Array, whole_m: float) -> float:
    """Degrees by which a line turns to either side of its middle, within the set."""
    known = apart_m[np.isfinite(apart_m)]
    if not len(known):
        return 0.0
    low, high = np.percentile(np.clip(known / whole_m, -1.0, 1.0), (10, 90))
    return float(0.5 * np.degrees(np.arcsin(high) - np.arcsin(low)))


def _turn(apart_m: Array, whole_m: float) -> float:
    known = apart_m[np.isfinite(apart_m)]
    if not len(known):
        return float("nan")
    return float(np.degrees(np.arcsin(np.clip(median(known) / whole_m, -1.0, 1.0))))
