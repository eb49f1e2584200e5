"""What is learned of a body over a whole set: which landmarks were seen, and how long its limbs and
trunk are."""

from __future__ import annotations

from functools import cached_property

import numpy as np

from guide_arc.core.kinematics.anatomy import FOREARM_OVER_UPPER_ARM
from guide_arc.core.kinematics.cleaning import CleanTrack
from guide_arc.core.kinematics.foreshortening import (
    ARM_OVER_TRUNK,
    FOREARM_OVER_TRUNK,
    limb_length,
    trunk_tip_deg,
)
from guide_arc.core.kinematics.rules import BODY_RULES, CLEAN, PICTURE
from guide_arc.core.kinematics.trunk import Points, middle, trunk
from guide_arc.core.kinematics.vectors import Array, length, median, seen_median, unit
from guide_arc.core.model.landmarks import SIDES, Side


class Learned:
    """Lengths in metres. points : every body landmark by name, (T, 3)"""

    def __init__(self, cleaned: CleanTrack, points: Points) -> None:
        self.cleaned, self.points = cleaned, points

    @cached_property
    def seen(self) -> frozenset[str]:
        """The landmarks that were seen at least once."""
        return frozenset(n for n, p in self.points.items() if np.isfinite(p[:, 1]).any())

    @cached_property
    def picture_forearm_m(self) -> dict[Side, float]:
        """Forearm length of each side in a picture: what it looked like when it lay in the
        plane."""
        return {
            side: limb_length(
                length(self.points[f"{side}_wrist"] - self.points[f"{side}_elbow"]),
                self._trunk_at_rest_m,
                FOREARM_OVER_TRUNK,
                self._ends_noise_m(f"{side}_wrist", f"{side}_elbow"),
            )[0]
            for side in SIDES
        }

    @cached_property
    def joint_u_m(self) -> float:
        """How far a pose model's joints are from the joint centres, in all frames: nothing of it
        shows but the jitter of such a model, and one that jitters little is a good one."""
        if not self.cleaned.noise_stays or self.cleaned.track.points_from in (
            "marks",
            "laboratory",
        ):
            return 0.0
        flat = self.cleaned.track.view != "none"
        usual = CLEAN.model_joint_u_m if flat else CLEAN.model_joint_space_u_m
        return min(usual, CLEAN.model_joint_noises * float(np.median(self.cleaned.noise_m)))

    def _ends_noise_m(self, *names: str) -> float:
        """What noise that stays makes of a limb's length, at a usual moment; white noise is
        smoothed away."""
        if not self.cleaned.noise_stays:
            return 0.0
        ends = [seen_median(self.cleaned.sigma(n)) for n in names]
        return float(np.linalg.norm(ends))

    @cached_property
    def centre_m(self) -> float:
        """Height of the picture's middle, in the body's axes."""
        size, scale = self.cleaned.track.image_size, self.cleaned.metres_per_px
        return 0.0 if size is None or scale is None else -0.5 * scale * size[1]

    @cached_property
    def distance_m(self) -> float:
        """Approximate distance of the camera, from the apparent size of the body."""
        size, scale = self.cleaned.track.image_size, self.cleaned.metres_per_px
        if size is None or scale is None:
            return PICTURE.usual_distance_m
        low, high = PICTURE.distances_m
        return min(max(PICTURE.focal_share * max(size) * scale, low), high)

    @cached_property
    def trunk_is_seen(self) -> bool:
        """Whether a front or back view shows the trunk's axis: bent over, it points at the camera,
        and what is measured along it can't be determined."""
        if self.cleaned.track.view not in ("front", "back"):
            return True
        breadth = length(self.points["left_shoulder"] - self.points["right_shoulder"])
        return trunk_tip_deg(self.trunk_m, breadth) <= BODY_RULES.tipped_deg

    @cached_property
    def upper_arm_m(self) -> dict[Side, float]:
        """Upper-arm length of each side: the set's median in space; in a picture what it looked
        like when it lay in the plane."""
        return {side: arm for side, (arm, _u) in self._upper_arms.items()}

    @cached_property
    def upper_arm_u(self) -> dict[Side, float]:
        """How unsure that is, as a share of it."""
        return {side: u for side, (_arm, u) in self._upper_arms.items()}

    @cached_property
    def _upper_arms(self) -> dict[Side, tuple[float, float]]:
        out: dict[Side, tuple[float, float]] = {}
        for side in SIDES:
            arm = length(self.points[f"{side}_elbow"] - self.points[f"{side}_shoulder"])
            arm = arm[np.isfinite(arm)]
            if self.cleaned.track.view == "none" or not len(arm):
                out[side] = (median(arm), 0.0)
            else:
                noise = self._ends_noise_m(f"{side}_elbow", f"{side}_shoulder")
                out[side] = limb_length(arm, self._trunk_at_rest_m, ARM_OVER_TRUNK, noise)
        return out

    @cached_property
    def _trunk_at_rest_m(self) -> float:
        """The trunk's length in the picture while it is in the plane and no shoulder is raised.

        A raised shoulder makes the trunk look longer by as much as it comes nearer to the ear.
        """
        trunk_m = self.trunk_m[np.isfinite(self.trunk_m)]
        if not len(trunk_m):
            return 0.5
        usual = float(np.percentile(trunk_m, 90))
        if self.cleaned.track.view not in ("front", "back"):
            return usual
        up = unit(trunk(self.points))
        hips = middle(self.points, "hip")
        heights = [
            np.einsum("ti,ti->t", middle(self.points, p) - hips, up) for p in ("ear", "shoulder")
        ]
        gap = heights[0] - heights[1]
        if not np.isfinite(gap).any():
            return usual
        # The height of the ears, less the largest gap to the shoulders in the set.
        rest = float(np.nanpercentile(heights[0], 90) - np.nanpercentile(gap, 90))
        return min(usual, max(rest, BODY_RULES.least_rest_share * usual))

    @cached_property
    def forearm_over_upper_arm(self) -> dict[Side, float]:
        """Forearm length over upper-arm length of each side, learned over the set in space; a
        usual body's where a picture shortens them or one was not seen."""
        out: dict[Side, float] = {}
        for side in SIDES:
            forearm = length(self.points[f"{side}_wrist"] - self.points[f"{side}_elbow"])
            forearm = forearm[np.isfinite(forearm)]
            known = self.cleaned.track.view == "none" and len(forearm) and self.upper_arm_m[side]
            ratio = median(forearm) / self.upper_arm_m[side] if known else FOREARM_OVER_UPPER_ARM
            out[side] = ratio if np.isfinite(ratio) else FOREARM_OVER_UPPER_ARM
        return out

    @cached_property
    def trunk_m(self) -> Array:
        """(T,) mid-hips to mid-shoulders."""
        return length(trunk(self.points))
