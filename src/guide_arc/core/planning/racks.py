"""The weights that there are."""

from __future__ import annotations

from typing import Final

from guide_arc.core.model.client import Client
from guide_arc.core.model.standard import Standard

# What a client may have weights of, with how that is said.
RACKS: Final = {
    "dumbbell": "dumbbells",
    "bar": "bars with their plates",
    "cable": "cable stack",
    "machine": "machines",
    "assisted": "help of assisted kit",
}
_HEAVIEST_TIMES: Final = 2.0


def usual_rack(step_kg: float, lifted_kg: float | None) -> tuple[float, ...]:
    """The weights of an exercise's usual steps, where nobody noted a rack: up to twice what was
    lifted, and what was lifted itself, which there must be."""
    lifted = lifted_kg or step_kg
    count = int(_HEAVIEST_TIMES * lifted / step_kg) + 2
    steps = {round(i * step_kg, 3) for i in range(1, count + 1)}
    return tuple(sorted(steps | {lifted}))


def rack_kind(standard: Standard) -> str:
    """Which of a client's racks an exercise takes its weights from."""
    if standard.pull in RACKS:
        return standard.pull
    return "dumbbell" if standard.held in ("dumbbell", "dumbbells") else "bar"


def rack_of(client: Client, standard: Standard) -> tuple[float, ...]:
    """The weights that a client has for an exercise, lightest first; empty where nobody noted
    them."""
    return tuple(sorted(set(client.rack_kg.get(rack_kind(standard), ()))))
