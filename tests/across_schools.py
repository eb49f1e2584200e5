"""A set done in one school of an exercise and judged by another; for tests and
`bench/proof_from_views.py`."""

from __future__ import annotations

from itertools import permutations

from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards.loader import shipped, standard

# (standard, the school it is done in, the school it is judged by)
PAIRS = [
    (id, a, b) for id in shipped() for a, b in permutations((s.id for s in standard(id).schools), 2)
]


def told_across(pair: tuple[str, str, str]) -> list[str]:
    """The checks that are off or near their limit in the school that judges, in the order of their
    names."""
    id, done, judged = pair
    track = perform(standard(id, done), Script(reps=5), Camera("none", 20.0, 0.0023), 5).track
    plan = standard(id, judged)
    return sorted(
        {f.rule.name for f in review_set(track, plan).findings if f.verdict in ("off", "near")}
    )
