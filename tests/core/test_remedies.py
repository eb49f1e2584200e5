"""What a view hides is said with the recording that shows it, and that recording does show it."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest

from builders import few_of, filmed, slow
from guide_arc.core.review.assess import review_set
from guide_arc.core.review.remedy import ONLY_SPACE
from guide_arc.standards.loader import shipped, shown_from, standard
from guide_arc.standards.proof import shown_from as tried

# Different kinds: seen from the side, from the front, from nowhere, with one arm, lying, leaning.
PLANS = (
    "standing-barbell-curl",
    "lateral-raise-dumbbell",
    "chest-pad-high-row",
    "cross-body-curl",
    "flat-bench-press",
    "bent-rear-raise",
    "lat-pulldown-wide",
    "cable-short-lever-lift",
)
VIEWS = ("front", "back", "left", "right")


def hidden_from(id, view, seed=7):
    plan = standard(id)
    track = filmed(id, reps=6, view=view, noise=1.0, seed=seed).track
    return plan, [f for f in review_set(track, plan).findings if f.by_view]


@slow
@pytest.mark.parametrize("id", few_of(PLANS))
def test_who_films_as_advised_gets_a_verdict(id):
    one_arm = standard(id).arms == "one"  # the simulated client's left one
    asked = {}
    for view in ("front", "back", "left") if one_arm else VIEWS:
        for finding in hidden_from(id, view)[1]:
            for place in re.findall(
                r"(?:the|either) (front|back|left|right|side)", finding.why.split("; ")[-1]
            ):
                where = "left" if place == "side" else place
                asked.setdefault(where, set()).add((finding.rule.name, finding.side))
    assert asked or id == "chest-pad-high-row"
    for where, wanted in asked.items():
        track = filmed(id, reps=6, view=where, noise=1.0, seed=11).track
        told = [f for f in review_set(track, standard(id)).findings if f.verdict != "cannot-tell"]
        for name, side in wanted:
            if not (one_arm and side == "right"):
                assert name in {f.rule.name for f in told if f.side in (side, "both", where)}, where


@slow
@pytest.mark.parametrize("id", few_of(PLANS))
def test_only_space_is_said_where_no_view_shows_it(id):
    for view in VIEWS:
        for finding in hidden_from(id, view)[1]:
            if ONLY_SPACE in finding.why:
                letters = standard(id).shown_from[finding.rule.name]
                assert "S" in letters
                assert not set(letters) & {"F", "B"}


def test_every_check_of_every_school_was_tried():
    for id in shipped():
        for school in standard(id).schools:
            plan = standard(id, school.id)
            assert set(plan.shown_from) == {rule.name for rule in plan.checks}, (id, school.id)
    assert set(shown_from()) == set(shipped())


@slow
@pytest.mark.parametrize("id", few_of(["standing-barbell-curl", "bent-rear-raise"]))
def test_the_table_is_what_is_tried_today(id):
    plan = standard(id)
    assert tried(plan) == dict(plan.shown_from), "made again by tools/shown_from.py"


def test_a_standard_of_ones_own_names_the_views_that_it_recommends():
    plan = replace(standard("standing-barbell-curl"), shown_from={}, views=("left", "front"))
    found = review_set(
        filmed("standing-barbell-curl", reps=5, view="back", noise=1.0).track, plan
    ).findings
    told = {f.why for f in found if f.by_view and f.rule.name == "torso-swing"}
    assert told == {"hidden from the back; film from the side or the front"}
