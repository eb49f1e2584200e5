"""A standard made from a model set: what moved, what stayed, and the same set against it."""

from __future__ import annotations

from dataclasses import replace

import pytest

from builders import few_of, filmed, slow
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import ALL
from guide_arc.core.model.standard import Tempo
from guide_arc.core.review.assess import review_set
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.from_set.propose import Proposal, propose
from guide_arc.standards.loader import build, parse_toml, shipped, standard
from guide_arc.standards.writing import as_toml

CATALOGUE = Catalogue()
PASSES_ASIDE = "anchored-bar-arc"
# Where hand and elbow both turn far, the program may count by the other one of them.
ANY_DRIVE = "standing-low-row"


def modelled(id: str, school: str | None = None, like: str | None = None, **film) -> Proposal:
    done = filmed(id, school, **{"reps": 5, "noise": 0.0023, "seed": 3, **film})
    body = Body(clean(done.track, tuple(n for n in ALL if n in done.track.names)))
    return propose(body, CATALOGUE, id="model", name="A model set", like=like)


@pytest.mark.parametrize("id", few_of([i for i in shipped() if i != PASSES_ASIDE][::6]))
def test_a_model_set_of_any_standard_gives_it_back_and_is_ok_against_it(id):
    plan, found = standard(id), modelled(id, like=id)
    assert len(found.reps) == 5
    assert [f.rule.name for f in found.review.findings if f.verdict != "ok"] == []
    if id != ANY_DRIVE:
        assert found.standard.drive == plan.drive
        span = found.standard.range
        near = 3.0 if plan.drive_unit == "pct" else 6.0
        assert span.from_deg == pytest.approx(plan.range.from_deg, abs=near)
        assert span.to_deg == pytest.approx(plan.range.to_deg, abs=near)
    assert parse_toml(as_toml(found.raw), "model") == found.raw


@slow
@pytest.mark.parametrize("id", ["preacher-curl", "face-pull", "seated-dip-machine"])
def test_the_nearest_standard_lends_the_rest(id):
    found = modelled(id)
    assert found.like.id == id
    assert found.standard.muscle == standard(id).muscle
    assert found.standard.cautions == standard(id).cautions


@slow
def test_what_stayed_becomes_a_check_and_what_moved_does_not():
    curl = modelled("standing-barbell-curl")
    assert {"upper-arm-drift", "torso-swing", "shoulder-hike"} <= set(curl.stayed)
    assert "elbow-bend-change" not in curl.stayed
    raised = modelled("lateral-raise-dumbbell")
    assert "elbow-bend-change" in raised.stayed
    assert "upper-arm-drift" not in raised.stayed
    rising = modelled("standing-barbell-curl", "rising-upper-arm")
    assert "upper-arm-drift" not in rising.stayed


def test_another_set_with_a_fault_is_off_against_it():
    found = modelled("standing-barbell-curl")
    faulty = filmed("standing-barbell-curl", reps=5, noise=0.0023, faults={"upper-arm-drift": 40.0})
    off = {f.rule.name for f in review_set(faulty.track, found.standard).with_verdict("off")}
    assert "upper-arm-drift" in off


def test_the_models_own_pace_and_holds_are_asked_for():
    found = modelled("rope-pushdown", tempo=Tempo(3.0, 0.0, 1.5, 2.0))
    tempo = found.standard.tempo
    assert tempo.lower_s == pytest.approx(3.0, abs=0.5)
    assert tempo.lift_s == pytest.approx(1.5, abs=0.5)
    assert tempo.top_s == pytest.approx(2.0, abs=0.5)
    assert tempo.bottom_s is None


@slow
def test_a_path_that_bends_and_a_way_back_become_poses():
    press = modelled("rotating-dumbbell-press")
    assert [share for share, _pose in press.standard.ways] == [0.5]
    band = modelled("band-up-and-over")
    assert band.standard.backs
    assert not modelled("standing-barbell-curl").standard.ways


def test_a_picture_gives_what_it_shows_and_says_what_it_took_over():
    found = modelled("standing-barbell-curl", view="left", noise=1.0)
    assert found.standard.range.to_deg == pytest.approx(132.0, abs=6.0)
    assert "one plane" in found.notes[0]
    told = [f for f in found.review.findings if f.verdict != "cannot-tell"]
    assert {f.verdict for f in told} == {"ok"}


def test_a_picture_that_hides_what_counts_the_reps_says_how_to_film():
    with pytest.raises(BadInput, match="film from the left side"):
        modelled("standing-barbell-curl", view="front", noise=1.0, like="standing-barbell-curl")


def test_a_pass_from_side_to_side_and_a_still_set_are_refused_with_a_remedy():
    with pytest.raises(BadInput, match="copy 'Anchored-bar arc' and change it"):
        modelled(PASSES_ASIDE)
    still = filmed("standing-barbell-curl", reps=1, opening_s=6.0).track
    few = replace(
        still,
        time_s=still.time_s[:120],
        position=still.position[:120],
        confidence=still.confidence[:120],
    )
    with pytest.raises(BadInput, match="nothing moves enough"):
        propose(Body(clean(few, ALL)), CATALOGUE, id="m", name="Mine", like="standing-barbell-curl")


def test_one_rep_is_enough_and_says_so():
    found = modelled("lateral-raise-dumbbell", reps=1)
    assert len(found.reps) == 1
    assert "1 rep say little" in found.notes[-1] or "says little" in found.notes[-1]


def test_the_coach_chooses_the_reps():
    done = filmed(
        "standing-barbell-curl", reps=5, noise=0.0023, faults={"range-short": 30.0}, fault_from=4
    )
    body = Body(clean(done.track, tuple(n for n in ALL if n in done.track.names)))
    found = propose(body, CATALOGUE, id="m", name="Mine", chosen=lambda rep: rep.number <= 3)
    assert [r.number for r in found.reps] == [1, 2, 3]
    assert found.standard.range.to_deg == pytest.approx(132.0, abs=4.0)


def test_it_is_built_like_any_other_file():
    found = modelled("one-arm-dumbbell-row", arms="right")
    assert found.standard.arms == "one"
    assert build(found.raw, "model.toml") == found.standard
