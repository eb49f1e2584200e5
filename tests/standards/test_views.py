"""From each view that a standard recommends, a clean set is counted whole and nothing is called
off; what the view can't judge is said with the recording that would show it."""

from __future__ import annotations

import pytest

from builders import few_of, off_checks, some_of
from faults_from_views import OTHER_VIEWS, PIXELS, RECOMMENDED, REPS, clean_from, told_from
from guide_arc.core.review.assess import review_set
from guide_arc.standards.loader import shipped, standard

# One noise a view, another one each time; `bench/proof_from_views.py` tries all three of every
# view.
CASES = [(id, view, PIXELS[i % 3]) for i, (id, view) in enumerate(RECOMMENDED)]


@pytest.mark.parametrize(("id", "view", "pixels"), some_of(CASES))  # type: ignore[arg-type]
def test_a_clean_set_from_a_recommended_view_is_counted_and_nothing_is_off(id, view, pixels):
    plan = standard(id)
    review = review_set(clean_from(plan, view, pixels), plan)
    assert [rep.full for rep in review.reps] == [True] * REPS
    assert off_checks(review) == set()
    for finding in review.with_verdict("cannot-tell"):
        assert finding.why
        assert f"from the {view}; film from the {view}" not in finding.why


def test_a_raise_from_the_side_is_told_to_be_filmed_from_the_front():
    plan = standard("lateral-raise-dumbbell")
    review = review_set(clean_from(plan, "left", 1.0), plan)
    [near, far] = sorted(
        (f for f in review.findings if f.rule.name == "range-over"), key=lambda f: f.side != "left"
    )
    assert near.verdict != "off"
    assert "film from the front" in (far.why or "") or "from the right side" in (far.why or "")
    assert "range-over" in {
        f.rule.name for f in review_set(clean_from(plan, "front", 1.0), plan).with_verdict("ok")
    }


@pytest.mark.parametrize(("id", "view"), few_of(OTHER_VIEWS[::4]))
def test_a_clean_set_from_a_view_that_is_not_recommended_is_not_called_off(id, view):
    """Every fourth; `bench/proof_from_views.py` goes through all of them."""
    plan = standard(id)
    assert off_checks(review_set(clean_from(plan, view, 1.0), plan)) == set()


@pytest.mark.parametrize(
    ("id", "view", "nth"), few_of([(id, view, i) for i, (id, view) in enumerate(RECOMMENDED)][::2])
)
def test_a_fault_at_twice_the_limit_is_never_called_fine_from_a_recommended_view(id, view, nth):
    """One check of every second pair, another one each time; `bench/proof_from_views.py` goes
    through all of them."""
    plan = standard(id)
    check = plan.checks[(7 * nth) % len(plan.checks)].name
    told = told_from(plan, view, check)
    # A path that goes off towards the camera or away from it is on its arc as far as shows, and
    # said so.
    assert told in ("off", "near", "cannot-tell") or (told == "ok" and check == "elbow-path")


def test_every_standard_can_be_filmed_with_one_phone():
    assert {id for id, _view in RECOMMENDED} == set(shipped())
