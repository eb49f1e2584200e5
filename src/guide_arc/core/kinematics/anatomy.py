"""Usual body proportions: segment lengths as shares of the stature.

Source: Drillis and Contini's segment lengths as tabled in Winter, Biomechanics and Motor
Control of Human Movement, 4th ed., fig. 4.1; joint half-breadths from the same figure, taken
to the joint centres.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Anatomy:
    """Segment lengths in metres for one stature. arms : upper arm and forearm over a usual
    body's"""

    stature_m: float
    arms: float = 1.0

    @property
    def upper_arm_m(self) -> float:
        return 0.186 * self.stature_m * self.arms

    @property
    def forearm_m(self) -> float:
        return 0.146 * self.stature_m * self.arms

    @property
    def knuckles_m(self) -> float:
        """Wrist to the knuckles."""
        return 0.050 * self.stature_m

    @property
    def half_shoulders_m(self) -> float:
        return 0.111 * self.stature_m

    @property
    def half_hips_m(self) -> float:
        return 0.052 * self.stature_m

    @property
    def trunk_m(self) -> float:
        """Mid-hips to mid-shoulders."""
        return 0.288 * self.stature_m

    @property
    def thigh_m(self) -> float:
        return 0.245 * self.stature_m

    @property
    def shank_m(self) -> float:
        return 0.246 * self.stature_m

    @property
    def ankle_height_m(self) -> float:
        return 0.039 * self.stature_m

    @property
    def foot_m(self) -> float:
        return 0.152 * self.stature_m

    @property
    def ear_above_shoulder_m(self) -> float:
        return 0.112 * self.stature_m

    @property
    def half_ears_m(self) -> float:
        return 0.043 * self.stature_m


FOREARM_OVER_UPPER_ARM = 0.146 / 0.186
