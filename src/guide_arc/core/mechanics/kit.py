"""What pulls at the hands: each kind of kit, and the force with which it pulls.

World axes, metres, newtons, kilograms; g = 9.80665 m/s² (standard gravity, CGPM 1901). The shares
of a load between two hands, and what each kit does, are those of formats.md, section 7.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from guide_arc.core.kinematics.vectors import Array, dot, length, unit
from guide_arc.core.model.landmarks import Side

GRAVITY: Final = 9.80665
# Error in the place of kit that a coach put up by eye.
HANDS_WIDTH_M: Final = 0.10
Place = tuple[float, float, float]
_DOWN: Final = np.array([0.0, -1.0, 0.0])


@dataclass(frozen=True)
class FreeWeight:
    """kg : of each dumbbell, or of the whole bar"""

    kg: float
    held: Literal["dumbbell", "bar"]


@dataclass(frozen=True)
class Cable:
    """kg : on the stack; ratio : 2 where the hand feels half; each : whether each arm has its own
    stack
    friction : the share of the stack's weight that pulleys and rods take: more to lift, less to
        lower"""

    kg: float
    pulley_m: Mapping[Side, Place]
    ratio: float = 1.0
    each: bool = False
    friction: float = 0.0


@dataclass(frozen=True)
class Band:
    """rest_m : from anchor to hand at rest; table : (stretch in metres, newtons), rising"""

    anchor_m: Mapping[Side, Place]
    rest_m: float
    newton_per_m: float | None = None
    table: tuple[tuple[float, float], ...] = ()

    def force_n(self, stretch_m: Array) -> Array:
        """Newtons at a stretch; none while it is slack, and past the table's end its last slope."""
        if self.newton_per_m is not None:
            return np.maximum(self.newton_per_m * stretch_m, 0.0)
        at, force = np.array(self.table).T
        out = np.interp(stretch_m, at, force)
        if len(at) > 1:
            slope = (force[-1] - force[-2]) / (at[-1] - at[-2])
            out = np.where(stretch_m > at[-1], force[-1] + slope * (stretch_m - at[-1]), out)
        rising = force[0] * stretch_m / at[0] if at[0] > 0 else np.zeros_like(stretch_m)
        out = np.where(stretch_m < at[0], rising, out)
        return np.where(stretch_m < 0.0, 0.0, np.maximum(out, 0.0))


@dataclass(frozen=True)
class Chain:
    """kg : of the bar; kg_per_m : of all chains together; floor_y_m : links on the floor are not
    lifted"""

    kg: float
    kg_per_m: float
    length_m: float
    floor_y_m: float


@dataclass(frozen=True)
class AnchoredBar:
    """One end turns about the pivot on the floor; plates_at_m : from the pivot"""

    pivot_m: Place
    bar_kg: float
    bar_m: float
    plates_kg: float
    plates_at_m: float


@dataclass(frozen=True)
class BodyWeight:
    """kg : of the person; the support pushes each hand straight up"""

    kg: float
    assist_kg: float = 0.0
    support_share: float = 1.0


@dataclass(frozen=True)
class Machine:
    """table : (share of the driving measure's range, newtons at each hand); it pulls against the
    hand's way"""

    table: tuple[tuple[float, float], ...]


Kit = FreeWeight | Cable | Band | Chain | AnchoredBar | BodyWeight | Machine


def force_on(
    kit: Kit,
    hands: Mapping[Side, Array],
    share: Array,
    way: Mapping[Side, Array],
    sign: Array | float = 1.0,
) -> dict[Side, Array]:
    """The force of the kit on each working hand, newtons.

    hands : (..., T, 3) where the kit takes hold, of the arms that work: of one arm, the whole load
        is in its hand
    share : (T,) of the driving measure's range; way : (T, 3) unit direction of each hand in the
        lift, for machines
    sign : (T,) +1 while lifting, -1 while lowering, 0 between: which way friction acts
    """
    part = 1.0 / len(hands)
    return {
        side: _one(kit, side, hands, part=part, share=share, way=way, sign=sign) for side in hands
    }


def _one(
    kit: Kit,
    side: Side,
    hands: Mapping[Side, Array],
    part: float,
    share: Array,
    way: Mapping[Side, Array],
    sign: Array | float,
) -> Array:
    hand = hands[side]
    if isinstance(kit, FreeWeight):
        each = kit.kg if kit.held == "dumbbell" else kit.kg * part
        return np.broadcast_to(each * GRAVITY * _DOWN, hand.shape)
    if isinstance(kit, Cable):
        newton = kit.kg * GRAVITY / kit.ratio * (1.0 if kit.each else part)
        rubbed = 1.0 + kit.friction * np.asarray(sign)
        pull: Array = newton * rubbed[..., None] * unit(np.asarray(kit.pulley_m[side]) - hand)
        return pull
    if isinstance(kit, Band):
        line = np.asarray(kit.anchor_m[side]) - hand
        drawn: Array = kit.force_n(length(line) - kit.rest_m)[..., None] * unit(line)
        return drawn
    middle = np.mean([hands[s] for s in hands], axis=0)
    if isinstance(kit, Chain):
        hangs = np.clip(middle[..., 1] - kit.floor_y_m, 0.0, kit.length_m)
        lifted: Array = (part * GRAVITY * (kit.kg + kit.kg_per_m * hangs))[..., None] * _DOWN
        return lifted
    if isinstance(kit, AnchoredBar):
        return part * _of_bar(kit, middle)
    if isinstance(kit, BodyWeight):
        newton = part * GRAVITY * (kit.kg - kit.assist_kg) * kit.support_share
        return np.broadcast_to(-newton * _DOWN, hand.shape)
    at, force = np.array(kit.table).T
    against: Array = -np.interp(share, at, force)[..., None] * way[side]
    return against


def _of_bar(kit: AnchoredBar, middle: Array) -> Array:
    """What carries the bar at right angles to it, in its vertical plane: moments about the
    pivot."""
    line = middle - np.asarray(kit.pivot_m)
    reach, along = length(line), unit(line)
    level = np.hypot(along[..., 0], along[..., 2])
    moment = GRAVITY * (kit.bar_kg * 0.5 * kit.bar_m + kit.plates_kg * kit.plates_at_m) * level
    across = unit(_DOWN - dot(np.broadcast_to(_DOWN, along.shape), along)[..., None] * along)
    out: Array = (moment / np.maximum(reach, 1e-9))[..., None] * np.nan_to_num(across)
    return out
