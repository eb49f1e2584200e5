"""What can be made to go wrong in a simulated set: each fault by the name of its check.

An amount is in the unit of the check: how far it goes wrong, so that a perfect measurement of
the fault gives the amount back.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.core.model.standard import Standard

# Name to what an amount means.
FAULTS: Final[dict[str, str]] = {
    "upper-arm-drift": "degrees the upper arm comes forward at the turn",
    "elbow-bend-change": "degrees the elbow bends more at the turn",
    "torso-swing": "degrees the torso swings back in each lift",
    "torso-lean": "degrees the torso leans beyond the setup",
    "torso-twist": "degrees the shoulders turn in each lift",
    "shoulder-hike": "percent of the trunk that the shoulders rise at the turn",
    "wrist-bend": "degrees the wrist curls at the turn",
    "range-short": "degrees missing at the turn",
    "range-over": "degrees beyond the turn",
    "elbow-low": "percent of the upper arm that the elbow hangs below the shoulder at the turn",
    "elbow-high": "percent of the upper arm that the elbow rises above the shoulder at the turn",
    "elbow-path": "percent of the upper arm that the elbow leaves its guide arc",
    "hand-path": "percent of the upper arm that the hand leaves its guide arc",
    "end-point": "percent of the trunk that the hand is short of its target",
    "too-fast-lower": "seconds that the lowering lasts",
    "too-fast-lift": "seconds that the lift lasts",
    "hold-missing": "seconds that the hold lasts",
    "momentum": "percent of the lift in one burst of 0.2 s",
    "left-right": "degrees the right arm does less",
    "line-of-pull": "degrees the cable runs off the arm's plane",
    "slack-zone": "percent of the lift without resistance, by where the pulley stands",
    "fatigue-drift": "percent that the range shrinks from the first rep to the last",
}


def checked_faults(faults: Mapping[str, float]) -> dict[str, float]:
    """The faults as given; BadInput for an unknown name or an amount that is no amount."""
    for name, amount in faults.items():
        if name not in FAULTS:
            raise BadInput(
                f"there is no fault {name!r}{did_you_mean(name, FAULTS)}; "
                f"it must be one of {', '.join(FAULTS)}"
            )
        if not np.isfinite(amount) or not 0 <= amount <= 180:
            raise BadInput(f"the fault {name} has amount {amount:g}; it must be from 0 to 180")
    return dict(faults)


def reach(standard: Standard, faults: Mapping[str, float], reps: int) -> Array:
    """(2, reps) share of the intended lift that left and right arm reach in each rep."""
    size = standard.range.size_deg
    out = np.ones((2, reps))
    out -= faults.get("range-short", 0.0) / size
    out += faults.get("range-over", 0.0) / size
    out[1] -= faults.get("left-right", 0.0) / size
    if reps > 1:
        out *= 1.0 - faults.get("fatigue-drift", 0.0) / 100.0 * np.linspace(0.0, 1.0, reps)
    return np.clip(out, 0.05, 1.3)
