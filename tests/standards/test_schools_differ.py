"""Every school of an exercise asks something that a recording can show and that its neighbours do not ask."""

from __future__ import annotations

from itertools import combinations

import pytest

from across_schools import told_across
from guide_arc.core.model.standard import Standard
from guide_arc.standards.loader import shipped, standard

NEIGHBOURS = [
    (id, a, b) for id in shipped() for a, b in combinations((s.id for s in standard(id).schools), 2)
]


def asked(plan: Standard) -> tuple[object, ...]:
    """What a school's checks hold a set against."""
    rules = {(r.name, r.limit, r.target, r.at) for r in plan.checks}
    return rules, plan.range, plan.tempo, plan.holds, plan.trunk_lean_deg, plan.arms


@pytest.mark.parametrize(("id", "a", "b"), NEIGHBOURS)
def test_neighbouring_schools_differ_in_what_a_recording_shows(id, a, b):
    if asked(standard(id, a)) == asked(standard(id, b)):
        # Then what they ask for is another pose, and a set done in one is not fine in the other.
        assert told_across((id, a, b))
        assert told_across((id, b, a))
