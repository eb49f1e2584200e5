"""All measures, as their files declare them."""

from __future__ import annotations

from functools import cache

from guide_arc.core.kinematics.measures.spec import MeasureSpec
from guide_arc.core.model.declared import declared
from guide_arc.core.model.landmarks import SIDES, Side


@cache
def measures() -> dict[str, MeasureSpec]:
    """Every measure by its name, in the order in which they are listed."""
    found: list[MeasureSpec] = list(declared("guide_arc.core.kinematics.measures", "SPEC"))
    return {spec.name: spec for spec in sorted(found, key=lambda s: s.order)}


@cache
def all_measures() -> tuple[tuple[str, Side | None], ...]:
    """Every measure with each side that it has; the trunk's have none."""
    return tuple(
        (name, side)
        for name, spec in measures().items()
        for side in (SIDES if spec.per_side else (None,))
    )


def spec_of_measure(name: str) -> MeasureSpec:
    return measures()[name]


def own_sign(measure: str, side: Side) -> float:
    """Turns a measure of the whole trunk into one arm's own: leaning or turning to its own side is
    positive for the left as for the right."""
    return -1.0 if measures()[measure].mirrored and side == "right" else 1.0


def full_name(measure: str, side: Side | None) -> str:
    """`left_elbow_flexion` for a limb's measure, `trunk_lean` for the trunk's."""
    return f"{side}_{measure}" if side else measure
