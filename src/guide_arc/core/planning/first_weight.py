"""The first weight of an exercise that a client has not done yet."""

from __future__ import annotations

from collections.abc import Sequence

from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.kept_set import KeptSet


def first_weight(
    standard: Standard, parent_sets: Sequence[KeptSet], rack_kg: Sequence[float]
) -> tuple[float | None, str]:
    """A weight to start with, and why: a share of the weight of the basic lift, up to which form
    was seen to hold; otherwise the lightest available weight. None if no weight is known.

    parent_sets : the client's sets of the plain lift
    """
    if standard.dose.of_parent is not None:
        _parent, share = standard.dose.of_parent
        held = [s.load_kg for s in parent_sets if s.held and s.load_kg]
        if held:
            most = max(held)
            fits = [kg for kg in rack_kg if kg <= share * most + 1e-9]
            load = fits[-1] if fits else (rack_kg[0] if rack_kg else None)
            return load, f"{100 * share:.0f} % of the {most:g} kg held in the plain lift"
    if not rack_kg:
        return (
            None,
            (
                "no weight is known: start with the lightest, and go through the motion without"
                " weight first"
            ),
        )
    lightest = rack_kg[-1] if standard.pull == "assisted" else rack_kg[0]
    words = "the most help" if standard.pull == "assisted" else "the lightest"
    return lightest, f"a new exercise starts with {words}"
