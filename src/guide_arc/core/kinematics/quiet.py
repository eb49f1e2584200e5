"""When the body is still before the first lift: what is counted from rest begins there."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.rules import BODY_RULES
from guide_arc.core.kinematics.trunk import Points
from guide_arc.core.kinematics.vectors import Array, length

_WATCHED = (
    "left_shoulder",
    "right_shoulder",
    "left_hip",
    "right_hip",
    "left_wrist",
    "right_wrist",
    "left_ear",
    "right_ear",
)


def quietest_second(
    points: Points, time_s: Array, step_s: float, first_lift_s: float
) -> slice | None:
    """The frames of the quietest second before the first lift; None without one.

    Where less than a second comes before the lift, all of it, down to 0.3 s.

    points : (T, 3) by name, metres; step_s : the usual time between two frames
    """
    end = int(np.searchsorted(time_s, first_lift_s))
    if end < 2 or time_s[end - 1] - time_s[0] < BODY_RULES.quiet_least_s:
        return None
    width = min(end, max(2, round(BODY_RULES.quiet_s / step_s)))
    speed = np.zeros(end)
    for part in _WATCHED:
        step_m = length(np.diff(points[part][: end + 1], axis=0))[:end]
        speed[: len(step_m)] += np.nan_to_num(step_m)
    moved = np.convolve(speed, np.ones(width), mode="valid")
    start = int(np.argmin(moved[: end - width + 1]))
    return slice(start, start + width)
