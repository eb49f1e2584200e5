"""Other kits on the same motion, and what of each asks for the same peak."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.mechanics.kit import (
    GRAVITY,
    AnchoredBar,
    Band,
    Cable,
    Chain,
    FreeWeight,
    Kit,
    Place,
)
from guide_arc.core.mechanics.path_load import (
    USUAL_LOAD_KG,
    PathLoad,
    PathOfArms,
    load_along,
    placed,
)
from guide_arc.core.model.landmarks import Side

# Low and half a metre in front of the feet, for kit without a line of pull.
_USUAL_PLACE: Final = (0.0, 0.1, 0.5)
# A bar of usual length that turns about the floor ahead; chains, and a band, of which ten kilograms
# are a usual amount.
_BAR_M: Final = 2.2
_PIVOT_AHEAD_M: Final = 1.6
_CHAIN_SHARE: Final = 0.5
_CHAIN_M: Final = 2.0
_STRETCH_M: Final = 0.5


@dataclass(frozen=True, eq=False)
class Beside:
    """One kit on the motion. words : what it is; amount : how much of it"""

    words: str
    amount: str
    kit: Kit
    load: PathLoad


def kits_beside(path: PathOfArms, kit: Kit, peak_nm: float | None) -> tuple[Beside, ...]:
    """A dumbbell, a cable, a band, chains on a bar and an anchored bar on the motion; those that
    pull with it left out.

    kit : the present setup; a cable and a band pull from its place
    peak_nm : each asks for that at the most; None takes ten kilograms of each
    """
    spots = _spots(path, kit)
    out = []
    for words, made, said in _KINDS:
        one = _scaled(path, lambda kg, made=made: made(path, spots, kg), peak_nm)  # type: ignore[misc]
        if one is not None:
            kg, kit_of, load = one
            out.append(Beside(words, said(kg), kit_of, load))
    return tuple(out)


def as_hard(path: PathOfArms, kit: Kit, peak_nm: float) -> float | None:
    """Kilograms on a kit that ask for a peak on a path; None for kit without a weight, and if it
    never resists."""
    if not isinstance(kit, FreeWeight | Cable):
        return None
    peak = _peak(load_along(path, kit))
    return kit.kg * peak_nm / peak if peak > 0.0 else None


def _spots(path: PathOfArms, kit: Kit) -> Mapping[Side, Place]:
    if isinstance(kit, Cable):
        return kit.pulley_m
    if isinstance(kit, Band):
        return kit.anchor_m
    return placed(path, _USUAL_PLACE)


def _scaled(
    path: PathOfArms, made: Callable[[float], Kit], peak_nm: float | None
) -> tuple[float, Kit, PathLoad] | None:
    """Every kit here asks in proportion to its kilograms."""
    kg, load = USUAL_LOAD_KG, load_along(path, made(USUAL_LOAD_KG))
    peak = _peak(load)
    if peak <= 0.0:
        return None
    if peak_nm is not None:
        kg *= peak_nm / peak
        load = load_along(path, made(kg))
    return kg, made(kg), load


def _peak(load: PathLoad) -> float:
    return load.curve.hardest.nm if load.curve.hardest is not None else 0.0


def _dumbbell(_path: PathOfArms, _spots: Mapping[Side, Place], kg: float) -> Kit:
    return FreeWeight(kg, "dumbbell")


def _cable(_path: PathOfArms, spots: Mapping[Side, Place], kg: float) -> Kit:
    return Cable(kg, spots, each=True)


def _band(path: PathOfArms, spots: Mapping[Side, Place], kg: float) -> Kit:

    nearest = min(
        float(np.linalg.norm(path.arms[s].grip - np.asarray(spots[s]), axis=-1).min())
        for s in path.arms
    )
    return Band(spots, 0.8 * nearest, kg * GRAVITY / _STRETCH_M)


def _chain(_path: PathOfArms, _spots: Mapping[Side, Place], kg: float) -> Kit:
    return Chain(kg, _CHAIN_SHARE * kg, _CHAIN_M, 0.0)


def _anchored(path: PathOfArms, _spots: Mapping[Side, Place], kg: float) -> Kit:
    x, _y, z = path.feet
    return AnchoredBar((float(x), 0.0, float(z) + _PIVOT_AHEAD_M), kg, _BAR_M, kg, 0.9 * _BAR_M)


_KINDS: Final[
    Sequence[
        tuple[str, Callable[[PathOfArms, Mapping[Side, Place], float], Kit], Callable[[float], str]]
    ]
] = (
    ("dumbbell", _dumbbell, lambda kg: f"{kg:.1f} kg"),
    ("cable", _cable, lambda kg: f"{kg:.1f} kg a hand"),
    ("band", _band, lambda kg: f"{kg * GRAVITY / _STRETCH_M:.0f} N a metre"),
    ("chains", _chain, lambda kg: f"of {_CHAIN_SHARE * kg:.1f} kg a metre on a bar of {kg:.1f} kg"),
    ("anchored", _anchored, lambda kg: f"bar of {kg:.1f} kg, as much on it"),
)
