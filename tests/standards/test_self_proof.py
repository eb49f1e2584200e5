"""Each standard proves itself: its clean performance is all `ok` in every school, and each of its
faults at twice the limit is found by its own check and by no other that could tell them apart."""

from __future__ import annotations

import pytest

from builders import FIRST_NINE, every_school, some_of
from faults_from_views import twice_the_limit
from guide_arc.core.checks.registry import shows_also
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import Standard, Tempo
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards.loader import standard

# A tracked recording in space: 4 mm root mean square, 2.3 mm on each axis.
CAMERA = Camera("none", 20.0, 0.0023)
PATHS = (
    "elbow-path",
    "elbow-low",
    "elbow-high",
    "elbow-bend-change",
    "hand-path",
    "range-over",
    "left-right",
)
TIMED = (
    "hold-missing",
    "too-fast-lower",
    "too-fast-lift",
    "too-slow-lower",
    "too-slow-lift",
    "momentum",
)


def every_fault() -> list[tuple[str, str, str]]:
    """Each check of each standard once for every limit and pace that its schools ask for."""
    asked: dict[object, tuple[str, str, str]] = {}
    for id, school in every_school():
        plan = standard(id, school)
        for rule in plan.checks:
            pace = (plan.tempo, plan.holds) if rule.name in TIMED else ()
            if pace and id not in FIRST_NINE and rule.name != "hold-missing":
                continue  # a pace is measured alike in all of them
            asked.setdefault((id, rule.name, rule.limit, pace), (id, school, rule.name))
    return list(asked.values())


def performed(
    plan: Standard, tempo: Tempo, faults: dict[str, float], seed: int
) -> tuple[Review, set[str]]:
    """The review, and whether the fault has the lowering really last too short: an arm led off its
    arc may have its angle changed in less time than the rep takes."""
    # A trend needs five reps, a path three that go the same way; everything else shows in two.
    reps = 2
    if not faults or "fatigue-drift" in faults:
        reps = 5
    elif not faults.keys().isdisjoint(PATHS):
        reps = 3
    done = perform(plan, Script(reps=reps, tempo=tempo, opening_s=1.4, faults=faults), CAMERA, seed)
    shortest = min(rep["lower"][1] - rep["lower"][0] for rep in done.truth["reps"])
    limit = next((c.limit for c in plan.checks if c.name == "too-fast-lower"), 0.0)
    really = shortest < 0.01 * limit * (tempo.lower_s or 0.0)
    return review_set(done.track, plan, tempo), {"too-fast-lower"} if really else set()


@pytest.mark.parametrize(("id", "school"), some_of(every_school()))  # type: ignore[arg-type]
def test_a_clean_performance_is_ok_in_every_check(id, school):
    plan = standard(id, school)
    review, really = performed(plan, plan.tempo, {}, 21)
    assert not really
    assert [rep.full for rep in review.reps] == [True] * 5
    assert {f.rule.name for f in review.findings} == {c.name for c in plan.checks}
    # Where one arm works there is no other to compare it with, and no cable where nothing is
    # marked.
    assert [(f.rule.name, f.says) for f in review.findings if f.verdict != "ok"] == []


@pytest.mark.parametrize(("id", "school", "check"), some_of(every_fault()))  # type: ignore[arg-type]
def test_a_fault_is_found_by_its_own_check(id, school, check):
    plan = standard(id, school)
    tempo, amount = twice_the_limit(plan, check)
    review, really = performed(plan, tempo, {check: amount}, 5)
    off = {f.rule.name for f in review.with_verdict("off")}
    assert check in off
    assert off - {check} - really <= set(shows_also().get(check, ()))
