"""Around a sore place: the other arm goes on, what rests is not called for, and the way back."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import pytest

from guide_arc.core.model.client import Cleared, Client, SorePlace
from guide_arc.core.planning.dose import next_dose
from guide_arc.core.planning.history import DoneSet, History
from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.core.planning.one_arm import alike, can_be_alone, spared_arm
from guide_arc.core.planning.plan import Knowledge, Override, PlannedLine, dosed
from guide_arc.core.planning.scheme import PLAIN_SCHEME
from guide_arc.core.planning.timeline import advice, around_sore, regions_of
from guide_arc.core.planning.training_log import LoggedSet
from guide_arc.standards.loader import shipped, standard

TODAY = date(2031, 5, 10)
LEFT_ELBOW = SorePlace("left elbow", date(2031, 5, 9))
STANDARDS = {id: standard(id) for id in shipped()}
RAISE, CURL = "lateral-raise-dumbbell", "standing-barbell-curl"


def known(*sets: KeptSet, **more) -> Knowledge:
    client = Client("Ada Quill", sore=(LEFT_ELBOW,), **more)
    return Knowledge(
        client=client,
        standards=STANDARDS,
        schemes={PLAIN_SCHEME.id: PLAIN_SCHEME},
        sets=sets,
        today=TODAY,
        tired=(),
        preferences={},
        setups={},
    )


def noted(id: str, days: int, left: int, right: int, number: int = 1, **more) -> KeptSet:
    one = LoggedSet(id, TODAY - timedelta(days), 8.0, left, right, **more)
    return KeptSet.of_log(number, one, STANDARDS[id].school.id)


def line(id: str, **more) -> PlannedLine:
    return PlannedLine(id, STANDARDS[id].school.id, **more)


def test_the_arm_that_is_not_sore_is_offered_where_one_can_work_alone():
    sore = (LEFT_ELBOW,)
    assert spared_arm(STANDARDS[RAISE], sore) == "right"
    assert spared_arm(STANDARDS[CURL], sore) is None  # one bar in both hands
    assert not can_be_alone(STANDARDS[CURL])
    both = (LEFT_ELBOW, SorePlace("right wrist", date(2031, 5, 9)))
    assert spared_arm(STANDARDS[RAISE], both) is None
    assert spared_arm(STANDARDS[RAISE], (SorePlace("neck", date(2031, 5, 9)),)) is None
    assert spared_arm(STANDARDS[RAISE], ()) is None


def test_the_line_stops_for_both_arms_and_goes_on_for_the_other_one():
    there = known(noted(RAISE, 3, 12, 14))
    stopped = dosed(line(RAISE), there, TODAY)
    assert stopped.asked.ask_first
    assert stopped.cautions == ("left elbow",)
    alone = dosed(line(RAISE, arm="right"), there, TODAY)
    assert not alone.asked.ask_first
    assert alone.asked.load_kg == 8.0
    assert alone.cautions == ()
    assert alone.name == "Dumbbell lateral raise, right arm only"
    # The sore arm does not go on by itself.
    assert dosed(line(RAISE, arm="left"), there, TODAY).asked.ask_first


@pytest.mark.parametrize(
    ("felt", "stops"),
    [
        ("sharp in the left elbow", False),
        ("sharp in the right elbow", True),
        ("sharp in the elbow", True),
        ("left and right elbow ache", True),
    ],
)
def test_pain_of_the_other_arm_alone_does_not_stop_this_one(felt, stops):
    there = known(noted(RAISE, 3, 8, 12, felt=(felt,)))
    assert dosed(line(RAISE, arm="right"), there, TODAY).asked.ask_first is stops


def test_what_may_stand_in_comes_from_the_same_region_first():
    found = alike(
        STANDARDS["rope-pushdown"],
        [STANDARDS[CURL], STANDARDS["flat-bench-press"], STANDARDS["lying-triceps-extension"]],
    )
    assert found[0].id == "lying-triceps-extension"


def test_the_session_says_who_can_go_on_and_does_not_call_for_what_rests():
    neck_and_back = (LEFT_ELBOW, SorePlace("right elbow", date(2031, 5, 9)))
    there = known(noted("rope-pushdown", 40, 12, 12))
    there = replace(there, client=replace(there.client, sore=neck_and_back))
    [turn] = regions_of((), there, TODAY, ("triceps",))
    assert turn.resting
    assert not turn.neglected
    assert advice((), (turn,), there.client, 60.0, ()) == ()
    # Without the sore places it was left out for long, and is called for.
    well = replace(there, client=replace(there.client, sore=()))
    [turn] = regions_of((), well, TODAY, ("triceps",))
    assert advice((), (turn,), well.client, 60.0, ()) == (
        "Triceps had none for 40 days: give it a turn.",
    )
    one_side = known(noted(RAISE, 3, 12, 14))
    stopped = dosed(line(RAISE), one_side, TODAY)
    assert around_sore([stopped], one_side, TODAY).startswith(
        "Dumbbell lateral raise: the right arm can go on by itself (1). "
    )


def hurt(**more) -> History:
    return History(
        standard=STANDARDS[CURL],
        rack_kg=(10.0, 15.0, 17.5, 20.0, 25.0, 30.0),
        sets=(DoneSet(TODAY - timedelta(4), 30.0, 8, 8, pain=True, one_arm=True),),
        on=TODAY,
        **more,
    )


def test_once_cleared_the_coach_is_asked_to_begin_again_from_well_below():
    assert next_dose(hurt()).ask is None
    cleared = (Cleared("left elbow", TODAY - timedelta(1)),)
    dose = next_dose(hurt(cleared=cleared))
    assert (dose.change, dose.load_kg) == ("stop", None)
    assert dose.ask is not None
    assert dose.ask.load_kg == 17.5  # of 30 kg no more than 18
    helped = next_dose(hurt(cleared=cleared, assisted=True))
    assert helped.ask is None  # the rack has no 50 kg of help


def test_the_way_back_is_taken_only_by_the_coachs_yes():
    there = known(noted(CURL, 4, 8, 8, pain=True))
    cleared = (Cleared(None, TODAY - timedelta(1)),)
    there = replace(
        there,
        client=replace(
            there.client, sore=(), cleared=cleared, rack_kg={"bar": (2.5, 5.0, 7.5, 10.0)}
        ),
    )
    asked = dosed(line(CURL), there, TODAY)
    assert asked.asked.ask_first
    assert asked.proposed.ask.load_kg == 2.5
    other = dosed(line(CURL, override=Override(load_kg=7.5)), there, TODAY)
    assert other.asked.ask_first
    yes = dosed(line(CURL, override=Override(load_kg=2.5)), there, TODAY)
    assert (yes.asked.change, yes.asked.load_kg) == ("deload", 2.5)
