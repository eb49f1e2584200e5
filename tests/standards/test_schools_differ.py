"""Every school of an exercise asks something that a recording can show and that its neighbours do
not ask."""

from __future__ import annotations

from itertools import combinations

import pytest

from across_schools import PAIRS, told_across
from guide_arc.core.model.standard import Standard
from guide_arc.core.review.schools import differs_words, what_differs
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


@pytest.mark.parametrize(("id", "own", "other"), PAIRS)
def test_a_set_of_one_school_judged_by_another_is_told_what_differs(id, own, other):
    here, there = standard(id, own), standard(id, other)
    what = what_differs(here, there)
    assert what
    # Each way there is one way back, and nothing is said that is the same in both.
    assert len(what_differs(there, here)) == len(what)
    assert not any("nan" in w or w.count("(") != w.count(")") for w in what)
    assert here.school.name in differs_words(here, there)


@pytest.mark.parametrize(
    ("id", "own", "other", "said"),
    [
        ("bent-over-row", "to-the-navel", "loose-last", "“torso rocks”, limit 14° (10°)"),
        (
            "lat-pulldown-close",
            "plain",
            "opening-stretch",
            "a stretch before the first lift of 10 s (none)",
        ),
        ("front-raise-midline", "controlled-lowering", "slow-lowering", "lowering 3 s (at will)"),
        (
            "over-bar-hang-curl",
            "primed",
            "every-rep",
            "holds on every rep (the first and the last rep)",
        ),
        ("flat-bench-press", "lockout", "constant-tension", "the elbow's bend to 32° (6°)"),
        ("chain-fly", "kept-bend", "straight", "the elbow's bend 6° throughout (24°)"),
        ("reverse-machine-fly", "palms-in", "palms-up", "underhand grip (neutral)"),
        ("shrug", "trap-bar", "bar-behind", "the arm's sweep −60° throughout (30°)"),
        (
            "standing-barbell-curl",
            "locked-upper-arm",
            "rising-upper-arm",
            "judged as well, to nose height",
        ),
        ("lateral-raise-dumbbell", "stops-level", "overhead-sweep", "“raised too high” not judged"),
    ],
)
def test_what_two_schools_ask_in_the_words_of_a_coach(id, own, other, said):
    assert said in differs_words(standard(id, own), standard(id, other))
