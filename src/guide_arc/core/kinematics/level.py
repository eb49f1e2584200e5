"""How far a camera stood off level, from what should be plumb or level in its picture.

Seen from the front or the back the hips of a standing person are over the feet, and the two feet,
hips and shoulders are level; from the side the foot is flat and the body is above it. Each of
these is a rough level only: together, and with cameras being near level to begin with, they make a
fair one.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.rules import LEVEL
from guide_arc.core.kinematics.vectors import Array, median
from guide_arc.core.kinematics.views import hidden_axis
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.track import View


@dataclass(frozen=True)
class Roll:
    """How far the picture is turned against the true vertical.

    deg : positive when the picture must be turned from the first shown axis towards up to be
        straight
    put_straight : whether it was more than its uncertainty allows to be none, and was taken out
    """

    deg: float
    u_deg: float
    put_straight: bool


def picture_roll(seen: Array, names: Sequence[str], view: View) -> Roll:
    """The roll of a picture.

    seen : (T, L, 3) metres in the body's axes, the hidden axis 0; NaN where missing
    """
    across = 2 if hidden_axis(view) == 0 else 0
    spots = {
        name: np.array([_middle(seen[:, i, across]), _middle(seen[:, i, 1])])
        for i, name in enumerate(names)
    }
    levels = _side_levels(spots) if view in SIDES else _front_levels(spots)
    # A larger angle than cameras have is a body that leans.
    found = [(off, u) for off, u in levels if abs(off) <= LEVEL.most_roll_deg]
    apart = _disagree(found)
    found = [(off, u * apart) for off, u in found]
    weight = 1.0 / LEVEL.usual_roll_deg**2
    total = 0.0
    for off, u in found:
        weight += 1.0 / u**2
        total += off / u**2
    deg, u_deg = total / weight, float(np.sqrt(1.0 / weight))
    # The prior draws the sum towards none; what is taken out is the levels' own answer.
    own = sum(1.0 / u**2 for _, u in found)
    if own and abs(total / own) > 2.0 / np.sqrt(own) and abs(deg) > 1.5 * u_deg:
        return Roll(total / own, float(1.0 / np.sqrt(own)), True)
    # A roll that is not sure enough to be corrected may still be real, within what cameras usually
    # have; the rest leans itself.
    return Roll(0.0, float(np.hypot(u_deg, min(abs(deg), LEVEL.usual_roll_deg))), False)


def _disagree(levels: Sequence[tuple[float, float]]) -> float:
    """The difference of the levels in units of their uncertainty, at least 1: the Birge ratio (R.
    T. Birge, Phys. Rev. 40 (1932), 207). Legs that slant forward seem to lean sideways if the
    camera is off-axis; the shoulders show it."""
    if len(levels) < 2:
        return 1.0
    off, u = np.array(levels).T
    middle = np.average(off, weights=u**-2.0)
    return float(max(1.0, np.sqrt(np.sum(((off - middle) / u) ** 2) / (len(off) - 1))))


UNKNOWN_ROLL: Final = Roll(0.0, LEVEL.usual_roll_deg, False)


def drawn_roll(right_sign: float, vertical: Quantity) -> Roll:
    """The roll that a drawn vertical says.

    right_sign : whether the picture's right is the first shown axis' way (1) or against it (-1)
    vertical : how far the true vertical leans to the right in the picture, degrees
    """
    return Roll(right_sign * vertical.value, vertical.u, True)


def straightened(seen: Array, view: View, roll: Roll) -> Array:
    """The same landmarks with the roll taken out."""
    if not roll.put_straight:
        return seen
    across = 2 if hidden_axis(view) == 0 else 0
    turn = np.radians(roll.deg)
    out = seen.copy()
    out[..., across] = np.cos(turn) * seen[..., across] - np.sin(turn) * seen[..., 1]
    out[..., 1] = np.sin(turn) * seen[..., across] + np.cos(turn) * seen[..., 1]
    return out


def _middle(values: Array) -> float:
    return median(values[np.isfinite(values)])


def _off_plumb(low: Array, high: Array) -> float:
    """Degrees by which a line that should be plumb leans along the first shown axis: turning the
    picture by as much puts it up."""
    return float(np.degrees(np.arctan2(high[0] - low[0], high[1] - low[1])))


def _off_level(a: Array, b: Array) -> float:
    """Degrees by which a line that should be level falls along the first shown axis."""
    line = b - a if b[0] > a[0] else a - b
    return -float(np.degrees(np.arctan2(line[1], line[0])))


def _pair(spots: dict[str, Array], part: str) -> tuple[Array, Array] | None:
    pair = [spots.get(f"{side}_{part}") for side in SIDES]
    if any(p is None or not np.isfinite(p).all() for p in pair):
        return None
    return pair[0], pair[1]  # type: ignore[return-value]


def _front_levels(spots: dict[str, Array]) -> list[tuple[float, float]]:
    out: list[tuple[float, float]] = []
    ankles, hips, shoulders = (_pair(spots, p) for p in ("ankle", "hip", "shoulder"))
    if ankles and abs(ankles[0][0] - ankles[1][0]) > LEVEL.feet_apart_m:
        out.append((_off_level(*ankles), LEVEL.feet_level_u_deg))
    if shoulders and abs(shoulders[0][0] - shoulders[1][0]) > LEVEL.feet_apart_m:
        out.append((_off_level(*shoulders), LEVEL.shoulders_level_u_deg))
    if ankles and hips and shoulders:
        feet, middle = 0.5 * (ankles[0] + ankles[1]), 0.5 * (hips[0] + hips[1])
        legs, trunk = _off_plumb(feet, middle), 0.5 * (shoulders[0] + shoulders[1]) - middle
        # Seated or bent over, the hips need not be over the feet.
        if (
            middle[1] - feet[1] > 1.2 * abs(trunk[1])
            and abs(legs - _off_plumb(np.zeros(2), trunk)) < LEVEL.upright_deg
        ):
            out.append((legs, LEVEL.plumb_front_u_deg))
    return out


def _side_levels(spots: dict[str, Array]) -> list[tuple[float, float]]:
    out: list[tuple[float, float]] = []
    for side in SIDES:
        heel, foot, ankle, hip, shoulder = (
            spots.get(f"{side}_{p}") for p in ("heel", "foot", "ankle", "hip", "shoulder")
        )
        if heel is not None and foot is not None and np.isfinite(heel + foot).all():
            flat = _off_level(heel, foot)
            if abs(flat) < LEVEL.no_level_deg:
                out.append((flat, LEVEL.foot_flat_u_deg * np.sqrt(2.0)))
        if ankle is None or hip is None or shoulder is None:
            continue
        if not np.isfinite(ankle + hip + shoulder).all():
            continue
        legs, trunk = _off_plumb(ankle, hip), _off_plumb(hip, shoulder)
        if abs(legs - trunk) < 0.5 * LEVEL.upright_deg and abs(legs) < 2.0 * LEVEL.upright_deg:
            lean = _off_plumb(ankle, shoulder) - LEVEL.stands_ahead_deg
            if abs(lean) < LEVEL.no_level_deg:
                out.append((lean, LEVEL.stands_over_u_deg * np.sqrt(2.0)))
    return out
