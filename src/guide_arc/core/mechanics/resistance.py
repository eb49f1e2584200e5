"""What a pull asks of the working joint along its movement: the effective lever arm.

By virtual work (any text on mechanics) a force F at the hand resists a joint's turning by
-F . dp/dq: p is the hand from the joint, q the joint's angle. For a unit force that is a length:
the lever arm at which the pull works against the movement; negative where it helps.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array, dot

# Below this share of its largest lever the pull is negligible.
SLACK_SHARE: Final = 0.15
GRID: Final = 41
_ORDER: Final = 3


def lever_along(share: Array, place_m: Array, toward: Array, turn_rad: float) -> Array:
    """(..., GRID) lever arm in metres at even shares of the movement, 0 to 1.

    share : (N,) how much of the joint's turn is done at each sample, 0 to 1
    place_m : (N, 3) the hand from the joint; toward : (..., N, 3) unit direction of the pull
    turn_rad : the whole turn, positive

    The hand's way is fitted by a cubic in the share, so that its slope is not made of noise.
    Raises ValueError for fewer samples than the cubic has numbers.
    """
    if len(share) <= _ORDER:
        raise ValueError(f"{len(share)} samples can't carry a cubic")
    basis = np.vander(share, _ORDER + 1, increasing=True)
    fit = np.linalg.pinv(basis)
    way, pull = fit @ place_m, fit @ toward
    at = np.linspace(0.0, 1.0, GRID)
    powers = np.arange(1, _ORDER + 1)
    slope = (powers * at[:, None] ** (powers - 1)) @ way[1:]
    direction = np.vander(at, _ORDER + 1, increasing=True) @ pull
    out: Array = -dot(direction, slope) / turn_rad
    return out


def slack_share(lever_m: Array, bar: float = SLACK_SHARE) -> float:
    """The share of the movement in which the lever arm is below a share of its largest.

    1 where the pull never works against the movement.
    """
    most = float(lever_m.max())
    if most <= 0.0:
        return 1.0
    fine = np.interp(np.linspace(0.0, 1.0, 401), np.linspace(0.0, 1.0, len(lever_m)), lever_m)
    return float((fine < bar * most).mean())
