"""A joint that leaps: it was found elsewhere from one frame to the next, faster than any limb
turns."""

from __future__ import annotations

from typing import Final

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import binary_dilation

from guide_arc.core.kinematics.vectors import Array

# How much an upper arm's or a thigh's course may bend from frame to frame, as a share of its
# length, at so many frames a second and more: four times what a brisk press does. Slower films bend
# by the square of their step.
_BENDS: Final = 0.2
_STEP_S: Final = 1 / 24
# Time before or after a leap during which a limb may have been placed wrongly.
_LASTS_S: Final = 0.13


def about_leaps(along: Array, long: float, step_s: float) -> NDArray[np.bool_]:
    """(F,) the frames about a leap of a limb. along : (F, 2) from the joint above to its end; long
    : its length"""
    bends = np.hypot(*np.diff(along, n=2, axis=0).T) / long
    leaps = np.zeros(len(along), dtype=bool)
    leaps[1:-1] = bends > _BENDS * max(step_s / _STEP_S, 1.0) ** 2
    if not leaps.any():
        return leaps
    out: NDArray[np.bool_] = binary_dilation(leaps, iterations=max(round(_LASTS_S / step_s), 1))
    return out
