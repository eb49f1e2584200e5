"""The simulated year: sums worked by hand, and what a year by the dose engine has to come to."""

from __future__ import annotations

from datetime import date, timedelta

import pytest

from builders import few_of
from guide_arc.core.model.prescription import Prescription
from guide_arc.core.planning.dose import next_dose
from guide_arc.core.planning.history import DoneSet, History, Seen
from guide_arc.core.simulate.fixed_policy import FixedPolicy, best_of
from guide_arc.core.simulate.training import (
    ONE_PHONE,
    START,
    SimulatedClient,
    Trained,
    trained_year,
)
from guide_arc.core.simulate.year_figures import (
    longest_stall,
    progress_kg,
    sessions_to_recover,
    share_held,
)
from guide_arc.standards.loader import standard
from guide_arc.standards.schemes import scheme

CURL = standard("standing-barbell-curl")  # 8 to 12 reps, three sets
RACK = (20.0, 22.0, 24.0, 30.0)
HELD = (Seen("torso-swing", "ok", "spine"),)
BROKE = (Seen("torso-swing", "off", "spine"),)


def asked(load_kg: float, reps: tuple[int, int] = (8, 12)) -> Prescription:
    return Prescription(
        change="same",
        load_kg=load_kg,
        reps=reps,
        sets=3,
        tempo=CURL.tempo,
        rest_s=90,
        reasons=("by hand",),
    )


def session(day: int, load_kg: float, reps: int, *, held: bool = True) -> Trained:
    on = START + timedelta(day)
    sets = tuple(
        DoneSet(on, load_kg, reps, reps, findings=HELD if held else BROKE) for _ in range(3)
    )
    return Trained(on, asked(load_kg), sets, 60.0, 60.0 + day / 10.0, held)


def test_a_fixed_policy_steps_up_after_full_sessions_and_down_after_a_break():
    policy = FixedPolicy(RACK, (8, 12), in_reserve=2, held=2, easier_every=0)
    once = (session(0, 20.0, 12),)
    twice = (*once, session(3, 20.0, 12))
    assert policy(once, START + timedelta(3)).load_kg == 20.0
    assert policy(twice, START + timedelta(7)).load_kg == 22.0
    broke = (*twice, session(7, 22.0, 12, held=False))
    assert policy(broke, START + timedelta(10)).load_kg == 20.0
    assert policy(twice, START + timedelta(7)).in_reserve == 2


def test_a_fixed_policy_takes_no_large_step_before_a_quarter_more_reps():
    policy = FixedPolicy(RACK, (8, 12), in_reserve=2, held=1, easier_every=0)
    twelve = (session(0, 24.0, 12), session(3, 24.0, 12))
    assert policy(twelve, START + timedelta(7)).load_kg == 24.0
    assert policy(twelve, START + timedelta(7)).reps == (8, 15)
    fifteen = (session(0, 24.0, 15), session(3, 24.0, 15))
    assert policy(fifteen, START + timedelta(7)).load_kg == 30.0


def test_figures_of_a_year_worked_by_hand():
    year = (
        session(0, 20.0, 12),
        session(3, 20.0, 12),
        session(7, 20.0, 12, held=False),
        session(10, 20.0, 9),
        session(70, 20.0, 9),
        session(73, 20.0, 10),
        session(77, 22.0, 8),
    )
    assert share_held(year) == pytest.approx(6 / 7)
    assert progress_kg(year) == pytest.approx(7.7)
    # Two whole sessions in a row were each followed by the same weight and reps.
    assert longest_stall(year) == 2
    assert sessions_to_recover(year, START + timedelta(60)) == 2
    assert sessions_to_recover(year[:6], START + timedelta(60)) == 3


def history(*breaks: bool) -> History:
    sets = tuple(
        DoneSet(date(2031, 3, 3) + timedelta(3 * i), 30.0, 10, 10, findings=BROKE if b else HELD)
        for i, b in enumerate(breaks)
    )
    return History(CURL, tuple(float(kg) for kg in range(10, 62, 2)), sets, sets[-1].on)


def test_a_set_leaves_two_reps_and_three_for_two_months_after_form_broke():
    assert next_dose(history(False)).in_reserve == 2
    assert next_dose(history(False)).reserve_words == (
        "Stop each set when you could do 2 more clean reps."
    )
    assert next_dose(history(True, False)).in_reserve == 3
    assert next_dose(history(True, *[False] * 15)).in_reserve == 3
    assert next_dose(history(True, *[False] * 16)).in_reserve == 2


def test_a_client_who_is_to_leave_more_reps_trains_farther_from_failure():
    def spared(in_reserve: int) -> float:
        client = SimulatedClient(60.0, seed=4)
        left = []
        for week in range(30):
            dose = Prescription(
                change="same",
                load_kg=42.0,
                reps=(8, 30),
                sets=3,
                tempo=CURL.tempo,
                rest_s=90,
                reasons=("by hand",),
                in_reserve=in_reserve,
            )
            client.train(START + timedelta(7 * week), dose, 42.0)
            left.append(client.truly_held)
        return sum(left) / len(left)

    assert spared(0) < 0.3
    assert spared(4) > 0.95


SCHEMES = [
    ("double-progression", 2.0),
    ("twelve-and-a-minute", 2.5),
    ("fifteens", 1.0),
    ("finisher", 2.5),
]


@pytest.mark.parametrize(("id", "step_kg"), few_of(SCHEMES))
def test_a_year_by_the_engine_holds_form_and_comes_near_the_best_fixed_policy(id, step_kg):
    """One phone, missed sessions, a sore elbow, four weeks away. docs/planning.md has all."""
    rack = tuple(10.0 + step_kg * i for i in range(int(80 / step_kg) + 1))
    chosen = scheme(id)

    def client() -> SimulatedClient:
        return SimulatedClient(60.0, seed=11, misses=0.08, sore_days=10, phone=ONE_PHONE)

    away = (30, 34)
    year = trained_year(client(), CURL, rack, chosen, layoff=away)
    _policy, best = best_of([client], CURL, rack, chosen, away, 0.85)
    assert share_held(year) >= 0.8
    assert progress_kg(year) >= 0.85 * best
    assert longest_stall(year) <= 3
    assert sessions_to_recover(year, START + timedelta(weeks=away[1])) <= 5


def test_nothing_is_trained_while_the_elbow_is_sore():
    client = SimulatedClient(60.0, seed=2, sore_days=10, sore_week=5)
    year = trained_year(client, CURL, RACK, weeks=10)
    assert client.sore is not None
    assert not [t for t in year if client.sore.on(t.on)]
    assert [t for t in year if t.on > START + timedelta(weeks=7)]


def test_one_phone_films_one_set_and_says_nothing_of_what_it_hides():
    client = SimulatedClient(60.0, seed=3, phone=ONE_PHONE)
    year = trained_year(client, CURL, RACK, weeks=20)
    filmed = [s for t in year for s in t.done if s.filmed]
    assert 0 < len(filmed) <= len(year)
    hidden = [f for s in filmed for f in s.findings if f.check == "elbow-path"]
    assert hidden
    assert all(f.verdict == "cannot-tell" and f.eye for f in hidden)
