"""What can be made to go wrong in a simulated set: each fault by the name of its check.

An amount is in the unit of the check: how far it goes wrong, so that a perfect measurement of
the fault gives the amount back.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache

import numpy as np

from guide_arc.core.checks.registry import specs
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.core.model.standard import Standard


@cache
def faults_known() -> dict[str, str]:
    """Each fault by the name of its check, and what an amount of it means."""
    return {name: spec.fault for name, spec in specs().items()}


def moved(faults: Mapping[str, float], channel: str, bump: Array) -> Array:
    """(T,) what the faults do to one channel of the body, for those that simply move something."""
    out = np.zeros(len(bump))
    for name, amount in faults.items():
        moves = specs()[name].moves
        if moves is not None and moves.channel == channel:
            out = out + moves.per_amount * amount * bump
    return out


def checked_faults(faults: Mapping[str, float]) -> dict[str, float]:
    """The faults as given; BadInput for an unknown name or an amount that is no amount."""
    known = faults_known()
    for name, amount in faults.items():
        if name not in known:
            raise BadInput(
                f"there is no fault {name!r}{did_you_mean(name, known)}; "
                f"it must be one of {', '.join(known)}"
            )
        if not np.isfinite(amount) or not 0 <= amount <= 180:
            raise BadInput(f"the fault {name} has amount {amount:g}; it must be from 0 to 180")
    return dict(faults)


def goes_over_at_start(standard: Standard) -> bool:
    """Whether going too far is going too deep: where the lift starts, as in a press, a dip or a
    fly."""
    rule = standard.check("range-over")
    return rule is not None and any(words.way == "start" for words in rule.ways)


def reach(standard: Standard, faults: Mapping[str, float], reps: int) -> Array:
    """(2, reps) share of the intended lift that left and right arm reach in each rep."""
    size = standard.range.size_deg
    out = np.ones((2, reps))
    out -= faults.get("range-short", 0.0) / size
    if not goes_over_at_start(standard):
        out += faults.get("range-over", 0.0) / size
    out[1] -= faults.get("left-right", 0.0) / size
    if reps > 1:
        out *= 1.0 - faults.get("fatigue-drift", 0.0) / 100.0 * np.linspace(0.0, 1.0, reps)
    return np.clip(out, 0.05, 1.3)
