"""From each view that a standard recommends, a clean set is counted whole and nothing is called off; what the view
can't judge is said with the recording that would show it."""

from __future__ import annotations

import pytest

from builders import filmed, off_checks
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.standard import Standard
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.perform import ArmsAtWork
from guide_arc.standards.loader import shipped, standard

PIXELS = (0.0, 1.0, 2.0)
RECOMMENDED = [(id, view) for id in shipped() for view in standard(id).views]
CASES = [(id, view, PIXELS[i % 3]) for i, (id, view) in enumerate(RECOMMENDED)]


def near_arm(plan: Standard, view: str) -> ArmsAtWork | None:
    """One arm at a time is filmed from its own side."""
    return view if plan.arms == "one" and view in SIDES else None  # type: ignore[return-value]


@pytest.mark.parametrize(("id", "view", "pixels"), CASES)
def test_a_clean_set_from_a_recommended_view_is_counted_and_nothing_is_off(id, view, pixels):
    plan = standard(id)
    done = filmed(id, view=view, noise=pixels, reps=5, seed=3, arms=near_arm(plan, view))
    review = review_set(done.track, plan)
    assert sum(rep.full for rep in review.reps) == len(review.reps) == 5
    assert off_checks(review) == set()
    for finding in review.with_verdict("cannot-tell"):
        assert finding.why
        assert f"from the {view}; film from the {view}" not in finding.why


def test_every_standard_can_be_filmed_with_one_phone():
    assert {id for id, _view in RECOMMENDED} == set(shipped())
