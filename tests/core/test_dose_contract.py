"""The next dose by the contract's text: pain and what cleared it, steps that are asked for, weights
that break again and again, slips of the keyboard, and clients who do all that is asked of them."""

from __future__ import annotations

import json
import random
from dataclasses import replace
from datetime import date, timedelta
from pathlib import Path
from typing import Any

import pytest

from builders import slow, times
from guide_arc.cli.main import run
from guide_arc.core.model.client import Cleared
from guide_arc.core.model.prescription import Prescription
from guide_arc.core.planning.dose import next_dose
from guide_arc.core.planning.history import DoneSet, History, Seen
from guide_arc.core.simulate.training import any_history
from guide_arc.standards.loader import standard

CURL = standard("standing-barbell-curl")  # 8 to 12 reps, three sets
DAY = date(2031, 3, 3)
BARS = tuple(float(kg) for kg in range(10, 62, 2))
FIVES = tuple(float(kg) for kg in range(5, 65, 5))
HELD = (Seen("torso-swing", "ok", "spine"), Seen("shoulder-hike", "ok", "joint"))
SWUNG = (Seen("torso-swing", "off", "spine"), Seen("shoulder-hike", "ok", "joint"))


def done(
    reps: int | tuple[int, int],
    kg: float | None,
    day: int,
    seen: tuple[Seen, ...] = HELD,
    **more: Any,
) -> DoneSet:
    left, right = (reps, reps) if isinstance(reps, int) else reps
    return DoneSet(DAY + timedelta(day), kg, left, right, findings=seen, **more)


def dose(*sets: DoneSet, rack: tuple[float, ...] = BARS, **more: Any) -> Prescription:
    return next_dose(History(CURL, rack, sets, more.pop("on", sets[-1].on), **more))


# Pain, and the way back

HURT = done(12, 30.0, 0, pain=True)


@pytest.mark.parametrize(
    ("sets", "cleared", "change"),
    [
        ((HURT,), (), "stop"),
        ((HURT, done(12, 30.0, 4)), (), "same"),
        ((HURT, done(12, 30.0, 4), done(12, 30.0, 8)), (), "up"),
        # One clean session and a clinician's word are enough, as long as it is about this exercise
        # and came after.
        ((HURT, done(12, 30.0, 4)), (Cleared(None, DAY + timedelta(2)),), "up"),
        ((HURT, done(12, 30.0, 4)), (Cleared("left elbow", DAY + timedelta(2)),), "up"),
        ((HURT, done(12, 30.0, 4)), (Cleared("ankle", DAY + timedelta(2)),), "same"),
        ((HURT, done(12, 30.0, 4)), (Cleared(None, DAY - timedelta(9)),), "same"),
        ((HURT, done(12, 30.0, 4)), (Cleared(None, DAY + timedelta(30)),), "same"),
        # What was said in words counts as the flag does.
        ((done(12, 30.0, 0, felt=("left elbow twinge",)), done(12, 30.0, 4)), (), "same"),
        ((done(12, 30.0, 0, felt=("clicks and catches",)),), (), "stop"),
    ],
)
def test_after_pain_the_weight_waits(sets, cleared, change):
    found = dose(*sets, cleared=cleared)
    assert found.change == change, found.reasons
    assert (found.load_kg is None) == (change == "stop")


def test_a_session_with_pain_stops_even_when_it_was_cleared_and_says_how_to_begin():
    found = dose(HURT, on=DAY + timedelta(9), cleared=(Cleared("left elbow", DAY + timedelta(7)),))
    assert (found.change, found.load_kg) == ("stop", None)
    assert (
        found.then
        == "a light first session that the coach chooses, cleared on 10 Mar 2031, without pain"
    )


# A step of more than a tenth


def test_a_large_step_is_asked_for_after_two_sessions_of_a_quarter_more():
    # 12 and a quarter of 12 are 15; from 20 to 25 kg is a quarter.
    assert dose(done(12, 20.0, 0), rack=FIVES).reps == (12, 15)
    once = dose(done(15, 20.0, 0), rack=FIVES)
    assert (once.change, once.ask) == ("more-reps", None)
    twice = dose(done(15, 20.0, 0), done(15, 20.0, 3), rack=FIVES)
    assert (twice.change, twice.load_kg) == ("same", 20.0)
    assert twice.ask is not None
    assert twice.ask.load_kg == 25.0
    assert "two sessions" in twice.ask.why


@pytest.mark.parametrize(
    "first",
    [
        done(14, 20.0, 0),
        done((15, 14), 20.0, 0),
        done(15, 15.0, 0),
        done(15, 20.0, 0, (Seen("torso-swing", "near", "spine"),)),
        done(15, 20.0, 0, (*HELD, Seen("elbow-path", "off", "effect"))),
    ],
)
def test_a_large_step_is_not_asked_for_before_both_sessions_held(first):
    found = dose(first, done(15, 20.0, 3), rack=FIVES)
    assert (found.change, found.ask) == ("more-reps", None)


def test_the_body_alone_is_a_load():
    rack = (0.0, 5.0, 10.0)
    assert dose(done(12, 0.0, 0), rack=rack).load_kg == 0.0
    found = dose(done(15, 0.0, 0), done(15, 0.0, 3), rack=rack)
    assert (found.change, found.load_kg) == ("same", 0.0)
    assert found.ask is not None
    assert found.ask.load_kg == 5.0


# What breaks again and again


def test_a_weight_that_broke_twice_of_three_goes_down_and_the_one_held_is_told():
    found = dose(
        done(12, 28.0, 0), done(10, 32.0, 3, SWUNG), done(10, 32.0, 6), done(10, 32.0, 9, SWUNG)
    )
    assert (found.change, found.load_kg) == ("down", 30.0)
    told = " ".join(found.reasons)
    assert "“torso swings” at 32 kg in 2 of the last 3 sessions" in told
    assert "28 kg was held last" in told


def test_one_break_at_a_weight_keeps_it():
    found = dose(done(10, 32.0, 0), done(10, 32.0, 3), done(10, 32.0, 6, SWUNG))
    assert (found.change, found.load_kg) == ("same", 32.0)


# Away


@pytest.mark.parametrize(("weeks", "load_kg", "sets"), [(4, 54.0, 3), (12, 48.0, 3), (52, 36.0, 2)])
def test_the_longer_away_the_lighter_the_start(weeks, load_kg, sets):
    # 60 kg less a tenth, a fifth, two fifths; after half a year two of three sets.
    found = dose(done(12, 60.0, 0), on=DAY + timedelta(7 * weeks))
    assert (found.change, found.load_kg, found.sets) == ("down", load_kg, sets)


# Slips of the keyboard

BEFORE = (done(10, 26.0, 0), done(10, 26.0, 3), done(10, 26.0, 6))


@pytest.mark.parametrize(
    ("odd", "words"),
    [
        (done(12, 260.0, 9), "ten times the usual 26 kg: is it 26 kg?"),
        (done(12, 2.6, 9), "a tenth of the usual 26 kg: is it 26 kg?"),
        (done(12, 57.0, 9), "are these pounds (25.9 kg)?"),
        (done((12, 0), 26.0, 9), "did the right arm not work"),
        (done((0, 12), 26.0, 9), "did the left arm not work"),
    ],
)
def test_an_odd_entry_is_asked_about_and_gives_nothing_heavier(odd, words):
    found = dose(*BEFORE, odd)
    assert len(found.questions) == 1
    assert words in found.questions[0]
    assert found.change != "up"
    assert found.load_kg is not None
    assert found.load_kg <= 26.0


def test_a_load_typed_ten_times_is_left_out_until_it_is_answered():
    without, with_it = dose(*BEFORE), dose(*BEFORE, done(12, 260.0, 9))
    assert (with_it.change, with_it.load_kg, with_it.reps) == (
        without.change,
        without.load_kg,
        without.reps,
    )
    assert dose(done(12, 250.0, 0), done(10, 26.0, 3), done(10, 26.0, 6)).questions


def test_a_set_of_next_year_is_asked_about():
    found = dose(*BEFORE, done(12, 28.0, 365), on=DAY + timedelta(9))
    assert "4" not in found.reasons[0] or found.load_kg == 26.0
    assert found.load_kg == 26.0
    assert "after today" in found.questions[0]


def test_pain_in_an_odd_entry_still_stops():
    found = dose(*BEFORE, done(12, 260.0, 9, pain=True))
    assert (found.change, found.load_kg) == ("stop", None)
    assert found.questions


@pytest.mark.parametrize(
    "sets",
    [
        # A warm-up, a lighter week, a heavier one, and arms that work one by one are no slips.
        (done(10, 26.0, 0), done(10, 4.0, 3), done(10, 26.0, 3)),
        (done(10, 40.0, 0), done(10, 20.0, 3), done(10, 42.0, 7)),
        (done((12, 0), 26.0, 0, one_arm=True), done((0, 12), 26.0, 0, one_arm=True)),
    ],
)
def test_what_is_usual_is_not_asked_about(sets):
    assert dose(*sets).questions == ()


# Clients who do all that is asked


@slow
@pytest.mark.parametrize("step", [1.0, 2.0, 2.5, 5.0])
@pytest.mark.parametrize("start", [5.0, 10.0, 22.5, 40.0])
def test_who_does_all_that_is_asked_is_never_left_standing(step, start):
    rack = tuple(sorted({start} | {round(step * i, 3) for i in range(1, 60)}))
    sets, waited, day, heaviest = [done(8, start, 0)], 0, 0, start
    for _ in range(104):
        if sets[-1].load_kg == rack[-1]:
            break  # there is nothing harder
        found = dose(*sets, rack=rack)
        moved = found.change in ("up", "deload") or found.ask is not None or bool(found.look_for)
        waited = 0 if moved else waited + 1
        assert waited <= 3, (sets[-1], found)
        assert found.load_kg in rack
        load = found.ask.load_kg if found.ask else found.load_kg
        day += 3
        sets += [done(found.reps[1], load, day)] * found.sets
        heaviest = max(heaviest, load)
    assert heaviest >= 1.4 * start


def test_a_worse_set_never_gives_a_heavier_next_one_the_idle_arm_included():
    random_ = random.Random(36)
    for _ in range(times(6_000)):
        given = any_history(random_, CURL)
        *before, last = given.sets
        worse = random_.choice(
            (
                replace(last, right_reps=0),
                replace(last, left_reps=max(last.left_reps - 4, 0)),
                replace(last, findings=(*last.findings, Seen("torso-lean", "off", "spine"))),
                replace(last, left_reps=min(last.left_reps, 3), right_reps=min(last.right_reps, 3)),
            )
        )
        a, b = next_dose(given), next_dose(replace(given, sets=(*before, worse)))
        if a.load_kg is not None and b.load_kg is not None:
            heavier = b.load_kg < a.load_kg if given.assisted else b.load_kg > a.load_kg
            assert not heavier, (last, worse, a, b)


# The document


def test_the_command_prints_what_is_asked_and_what_the_coach_decides(tmp_path: Path, capsys):
    seen = [{"check": "torso-swing", "verdict": "ok", "harm": "spine"}]
    one = {"load_kg": 20, "left_reps": 15, "right_reps": 15, "findings": seen, "in_reserve": 1}
    document = {
        "standard": "standing-barbell-curl",
        "school": None,
        "rack_kg": {"from": 5, "to": 60, "step": 5},
        "on": "2031-03-09",
        "cleared": [{"place": "left elbow", "on": "2031-02-01"}],
        "sets": [
            {"on": "2031-03-03", **one},
            {"on": "2031-03-06", **one},
            {"on": "2031-03-06", **one, "load_kg": 200},
        ],
    }
    path = tmp_path / "history.json"
    path.write_text(json.dumps(document))
    assert run(["dose", str(path), "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert found["ask"]["load_kg"] == 25
    assert len(found["questions"]) == 1
    assert run(["dose", str(path)]) == 0
    words = capsys.readouterr().out
    assert "your decision: 25 kg next?" in words
    assert "question: 200 kg on 6 Mar 2031 is about ten times the usual 20 kg" in words
    document["cleared"] = [{"place": "elbwo", "on": "2031-02-01"}]
    path.write_text(json.dumps(document))
    assert run(["dose", str(path)]) == 2
    assert "cleared.0.place" in capsys.readouterr().err


def test_of_two_rules_that_go_lighter_the_body_alone_is_the_lightest():
    # Two breaks of three ask for the next lighter weight, four weeks away for a tenth less: both
    # come to the body alone.
    found = dose(
        done(10, 5.0, 0, SWUNG), done(10, 5.0, 3, SWUNG), rack=(0.0, 5.0), on=DAY + timedelta(33)
    )
    assert (found.change, found.load_kg) == ("down", 0.0)
