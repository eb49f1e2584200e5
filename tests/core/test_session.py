"""A session's length and rests, worked by hand."""

from __future__ import annotations

from dataclasses import replace

import pytest

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.standard import Tempo
from guide_arc.core.planning.session import Session, SessionLine, figures_of_session
from guide_arc.standards.loader import standard

CURL, RAISE, PRESS = (
    standard(id)
    for id in ("standing-barbell-curl", "lateral-raise-dumbbell", "overhead-press-dumbbell")
)
FOUR_S = Tempo(3.0, 0.0, 1.0, 0.0)


def line(plan=CURL, sets=3, reps=10, tempo=FOUR_S, rest=60.0, **more):
    return SessionLine(plan, sets, reps, tempo, rest, **more)


def test_one_line_is_its_sets_and_the_rests_between_them():
    found = figures_of_session(Session((line(),)))
    assert found.work_s == (120.0,)  # 3 sets of 10 reps of 4 s
    assert found.rest_s == 120.0  # after the first and the second
    assert found.length_s == 240.0
    assert found.under_tension_s == 120.0


def test_arms_one_after_the_other_take_twice_as_long_under_the_same_tension():
    for arms in ("one-after-other", "alternating"):
        found = figures_of_session(Session((line(arms=arms),)))
        assert found.work_s == (240.0,)
        assert found.under_tension_s == 120.0
        assert found.length_s == 360.0


def test_a_phase_without_demand_counts_a_second():
    found = figures_of_session(Session((line(sets=1, reps=5, tempo=Tempo(2.0, None, 1.0, None)),)))
    assert found.length_s == 25.0  # 5 reps of 2 + 1 + 1 + 1 s


def test_warm_up_and_changes_are_counted():
    found = figures_of_session(
        Session((line(), line(RAISE), line(PRESS)), warm_up_s=300.0, change_s=90.0)
    )
    assert found.length_s == 300.0 + 3 * 240.0 + 2 * 90.0


def test_a_pair_takes_turns_and_rests_after_each_round_but_the_last():
    pair = (line(RAISE, rest=30.0, pair="a"), line(PRESS, rest=90.0, pair="a"))
    found = figures_of_session(Session(pair))
    assert found.rest_s == 180.0  # two rounds are followed by the longer rest
    assert found.length_s == 240.0 + 180.0


def test_sets_left_over_in_a_pair_rest_as_their_own_line_does():
    pair = (line(RAISE, sets=5, rest=30.0, pair="a"), line(PRESS, sets=2, rest=90.0, pair="a"))
    found = figures_of_session(Session(pair))
    assert found.rest_s == 90.0 + 3 * 30.0  # one between two rounds, then before each of three sets


def test_a_pair_is_one_line_for_changes_wherever_its_second_line_stands():
    lines = (line(RAISE, pair="a"), line(CURL), line(PRESS, pair="a"))
    found = figures_of_session(Session(lines, change_s=100.0))
    assert found.length_s == 3 * 120.0 + 2 * 60.0 + 2 * 60.0 + 100.0


def test_a_pair_of_one_or_of_three_is_refused():
    for count, words in ((1, "1 line"), (3, "3 lines")):
        with pytest.raises(BadInput, match=words):
            figures_of_session(Session(tuple(line(pair="a") for _ in range(count))))


def test_regions_are_counted_in_sets_and_a_lopsided_session_is_said():
    row = standard("bent-over-row")
    lines = (line(PRESS, sets=6), line(standard("flat-bench-press"), sets=4), line(row, sets=2))
    found = figures_of_session(Session(lines))
    assert found.regions == {"front-shoulder": 6, "chest-lower": 4, "back": 2}
    assert any(
        "10 sets for the front of the shoulders and 2 for the back" in w for w in found.warnings
    )
    assert any("no warm-up" in w for w in found.warnings)


def test_two_bent_over_lines_in_a_row_are_said():
    rows = (line(standard("bent-over-row")), line(standard("dead-stop-row")))
    assert any("lower back" in w for w in figures_of_session(Session(rows)).warnings)
    apart = (rows[0], line(CURL), rows[1])
    assert not any("lower back" in w for w in figures_of_session(Session(apart)).warnings)


# Circuits, and what is too much of one thing


def test_a_circuit_is_gone_through_in_rounds():
    """Three rounds of curl (10 × 4 s) and raise (10 × 4 s), 60 s between the rounds, then a
    pushdown after one change: 6 sets of 40 s, two rests of 60 s, one change of 90 s, one set of 40
    s."""
    tempo = Tempo(2.0, 0.0, 2.0, 0.0)
    curl, lateral, push = (
        standard(id) for id in ("standing-barbell-curl", "lateral-raise-dumbbell", "rope-pushdown")
    )
    lines = (
        SessionLine(curl, 3, 10, tempo, 15.0, circuit="a"),
        SessionLine(lateral, 3, 10, tempo, 60.0, circuit="a"),
        SessionLine(push, 1, 10, tempo, 60.0),
    )
    found = figures_of_session(Session(lines, 120.0))
    assert found.rest_s == 120.0
    assert found.length_s == 120.0 + 7 * 40.0 + 120.0 + 90.0
    with pytest.raises(BadInput, match="a pair and in a circuit"):
        figures_of_session(Session((replace(lines[0], pair="x"), replace(lines[1], pair="x"))))


def test_too_much_of_one_thing_is_warned_of():
    tempo = Tempo(2.0, 0.0, 1.0, 0.0)

    def warnings(*asked: tuple[str, int]) -> str:
        lines = tuple(SessionLine(standard(id), sets, 10, tempo, 90.0) for id, sets in asked)
        return " · ".join(figures_of_session(Session(lines, 60.0)).warnings)

    assert "5 sets for the front of the shoulder, 2 for the rear" in warnings(
        ("front-raise-midline", 5), ("face-pull", 2)
    )
    assert "for the rear" not in warnings(("front-raise-midline", 4), ("face-pull", 2))
    assert "elbow flexors: 13 sets" in warnings(("standing-barbell-curl", 7), ("preacher-curl", 6))
    assert "13 sets" not in warnings(("standing-barbell-curl", 6), ("preacher-curl", 6))
    presses = [
        ("overhead-press-barbell", 2),
        ("overhead-press-dumbbell", 2),
        ("rotating-dumbbell-press", 2),
    ]
    assert "3 overhead presses follow one another" in warnings(*presses, ("face-pull", 3))
    parted = (*presses[:2], ("face-pull", 3), presses[2])
    assert "overhead presses" not in warnings(*parted)
