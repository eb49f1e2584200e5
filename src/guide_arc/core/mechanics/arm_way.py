"""A standard's lift with the elbow bent otherwise than it asks."""

from __future__ import annotations

from dataclasses import replace
from typing import Final

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.standard import Standard

# An elbow that changes by more from the start to the turn is not held: it takes part in the lift.
_HELD_WITHIN_DEG: Final = 20.0
_BENDS_TO_DEG: Final = 140.0


def with_bend(standard: Standard, by_deg: float) -> Standard:
    """The standard with the elbow flexed so much more (less where negative) all along the lift.

    Raises BadInput if the elbow itself moves during the lift, or cannot bend or straighten that
    far."""
    if by_deg == 0.0:
        return standard
    start, turn = standard.start.elbow_deg, standard.turn.elbow_deg
    if abs(turn - start) > _HELD_WITHIN_DEG:
        raise BadInput(
            "in this exercise the elbow bends with the lift: it holds no angle that could be"
            " another"
        )
    if min(start, turn) + by_deg < 0.0:
        raise BadInput("the elbow is as straight as it gets")
    if max(start, turn) + by_deg > _BENDS_TO_DEG:
        raise BadInput("the elbow does not bend farther")
    return replace(
        standard,
        start=replace(standard.start, elbow_deg=start + by_deg),
        turn=replace(standard.turn, elbow_deg=turn + by_deg),
    )
