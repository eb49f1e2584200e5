"""The yaw of a camera off the axis of its stated view, from what that view should not show.

From the side the two shoulders and the two hips lie behind one another; how far apart they look is
how far the camera has gone round. From the front or the back feet point at the camera or away from
it; how far they look to one side says the same. Bodies differ and turn a little: each sign is
rough, and a value within its uncertainty does not count."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.anatomy import Anatomy
from guide_arc.core.kinematics.rules import ASIDE, CLEAN
from guide_arc.core.kinematics.vectors import Array, median
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.track import CameraPlace, View

_ROUNDS: Final = 4


@dataclass(frozen=True)
class CameraAside:
    """deg : yaw in degrees, 0 if it may be zero; u_deg : its standard uncertainty; seems_deg : what
    it seems to be, sure or not
    yaw_deg : the likeliest, the way that leads from the front to the left positive; said : whether
        the user chose a view between two sides"""

    deg: float
    u_deg: float
    seems_deg: float = 0.0
    yaw_deg: float = 0.0
    said: bool = False

    @property
    def too_far(self) -> bool:
        """Whether the camera is too far off-axis for the stated view."""
        return not self.said and self.deg > ASIDE.too_far_deg

    @property
    def limb_u_deg(self) -> float:
        """Error in degrees of the angle of a limb that is nearly in the picture's plane: the part
        in the plane looks narrower, and the part out of the plane looks turned (a share of the
        limb's length, as with arms)."""
        narrow = 0.5 * (1.0 - np.cos(self._turn))
        return float(np.degrees(np.hypot(narrow, ASIDE.out_of_plane_share * np.sin(self._turn))))

    @property
    def side_lean_u_deg(self) -> float:
        """Degrees of apparent side lean of a trunk that leans forward or back."""
        return float(ASIDE.trunk_leans_deg * np.sin(self._turn))

    def unfolded(self, lean_deg: Array) -> Array:
        """The forward lean of a trunk that a camera, surely off-axis, sees narrowed."""
        if not self.deg:
            return lean_deg
        lean = np.radians(lean_deg)
        narrow = max(float(np.cos(np.radians(self.yaw_deg))), ASIDE.least_cosine)
        out: Array = np.degrees(np.arctan2(np.sin(lean) / narrow, np.cos(lean)))
        return out

    @property
    def lean_u_deg(self) -> float:
        """Degrees by which that is wrong: from the uncertainty of the camera's yaw, and from a side
        lean that looks like a forward lean."""
        steep = float(np.tan(np.radians(min(self.deg, ASIDE.steepest_deg))))
        by_yaw = np.radians(self.u_deg) * ASIDE.trunk_leans_deg
        return float(steep * np.hypot(by_yaw, ASIDE.leans_aside_deg))

    @property
    def _turn(self) -> float:
        """How far round the camera may be, radians."""
        unseen = np.hypot(self.seems_deg, ASIDE.unseen_share * self.u_deg)
        return float(np.radians(self.deg or unseen))


NOT_ASIDE = CameraAside(0.0, 0.0)


def camera_aside(
    seen: Array,
    names: Sequence[str],
    view: View,
    stature_m: float | None,
    said: CameraPlace = CameraPlace(),
) -> CameraAside:
    """The camera's yaw.

    seen : (T, L, 3) metres in the body's axes, the hidden axis of no use; NaN where missing; said :
        what is known of it
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
                # A trunk that turns during the set says less about the camera's yaw.
                turns = _spread(apart, 2.0 * half)
                turn = _with_narrow_trunk(_turn(apart, 2.0 * half), _trunk_leans(seen, at))
                signs.append((turn, float(np.hypot(u_deg, turns))))
    else:
        feet = [
            seen[:, at[f"{side}_foot"], 0] - seen[:, at[f"{side}_heel"], 0]
            for side in SIDES
            if f"{side}_foot" in at and f"{side}_heel" in at
        ]
        if len(feet) == 2:
            signs.append((-_turn(0.5 * (feet[0] + feet[1]), body.foot_m), ASIDE.feet_u_deg))
    signs = [(deg, u) for deg, u in signs if np.isfinite(deg)]
    if said.yaw_deg is not None:
        return _placed(said.off_deg + said.yaw_deg, ASIDE.told_u_deg, said)
    if said.between:
        signs.append((said.off_deg, ASIDE.between_u_deg))
        return _placed(*_together(signs), said)
    if not signs:
        return NOT_ASIDE
    deg, u_deg = _together(signs)
    yaw, _u = _together([*signs, (0.0, ASIDE.usual_u_deg)])
    sure = abs(deg) if abs(deg) > ASIDE.sure_from_u * u_deg else 0.0
    return CameraAside(sure, u_deg, abs(deg), yaw)


def _placed(yaw_deg: float, u_deg: float, said: CameraPlace) -> CameraAside:
    """A camera whose place was given by the user."""
    aside = abs(yaw_deg)
    return CameraAside(
        aside if aside > ASIDE.sure_from_u * u_deg else 0.0,
        u_deg,
        aside,
        yaw_deg,
        bool(said.between),
    )


def _together(signs: Sequence[tuple[float, float]]) -> tuple[float, float]:
    """The weighted mean of angles with their standard uncertainties, and its own."""
    weight = sum(1.0 / u**2 for _, u in signs)
    return sum(d / u**2 for d, u in signs) / weight, float(np.sqrt(1.0 / weight))


def _trunk_leans(seen: Array, at: Mapping[str, int]) -> float:
    """How far a trunk leans in a side view's picture, radians; 0 if it is not seen."""
    ends = [[at.get(f"{side}_{part}") for side in SIDES] for part in ("shoulder", "hip")]
    if any(i is None for pair in ends for i in pair):
        return 0.0
    top, low = (np.nanmean(seen[:, [i for i in pair if i is not None]], axis=1) for pair in ends)
    line = top - low
    lean = np.arctan2(line[:, 2], line[:, 1])
    lean = lean[np.isfinite(lean)]
    return median(lean) if len(lean) else 0.0


def _with_narrow_trunk(turn_deg: float, leans_rad: float) -> float:
    """The camera's yaw if the trunk, which gives the picture's scale, points along the camera's
    axis and looks short: everything else looks too broad by as much."""
    apart = np.sin(np.radians(turn_deg))
    turn, leans = np.radians(turn_deg), leans_rad
    for _ in range(_ROUNDS):
        leans = np.arctan2(np.sin(leans_rad), np.cos(leans_rad) * max(np.cos(turn), 0.1))
        turn = np.arcsin(apart / np.sqrt(1.0 + (apart * np.sin(leans)) ** 2))
    return float(np.degrees(turn))


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
