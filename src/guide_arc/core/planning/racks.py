"""The weights that there are."""

from __future__ import annotations

from typing import Final

_HEAVIEST_TIMES: Final = 2.0


def usual_rack(step_kg: float, lifted_kg: float | None) -> tuple[float, ...]:
    """The weights of an exercise's usual steps, where nobody noted a rack: up to twice what was lifted, and what
    was lifted itself, which there must be."""
    lifted = lifted_kg or step_kg
    count = int(_HEAVIEST_TIMES * lifted / step_kg) + 2
    steps = {round(i * step_kg, 3) for i in range(1, count + 1)}
    return tuple(sorted(steps | {lifted}))
