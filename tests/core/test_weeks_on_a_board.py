"""The weeks of a plan: the board, planning ahead, easier weeks and doses of days that lie far
off."""

from __future__ import annotations

from datetime import date, timedelta

from test_plan import CURL, FLY, PRESS, RAISE, ROW, TODAY, done, knows, line  # type: ignore[import-not-found]

from guide_arc.core.model.client import SorePlace
from guide_arc.core.planning.ahead import usual_sessions, with_weeks
from guide_arc.core.planning.balance import balance_of, balance_words, heads_of
from guide_arc.core.planning.board import board_of
from guide_arc.core.planning.plan import (
    Plan,
    PlannedSession,
    dosed,
    dosed_in,
    moved,
    proposed_session,
    weeks_ahead,
)
from guide_arc.core.planning.timeline import advice, around_sore, regions_of

# TODAY is a Thursday.
MONDAY = TODAY - timedelta(days=TODAY.weekday())


def days(count: int) -> date:
    return TODAY + timedelta(days=count)


def planned(*sessions: tuple[int, tuple[str, ...]]) -> Plan:
    return Plan(
        sessions=tuple(
            PlannedSession(days(n), tuple(line(id) for id in own)) for n, own in sessions
        )
    )


def every_week(count: int, *ids: str):
    return [done(id, 7 * i + 3, id=100 * k + i) for i in range(count) for k, id in enumerate(ids)]


def test_the_board_tells_done_planned_missed_and_proposed_apart():
    known = knows(done(CURL, 3), done(CURL, 3, id=2), done(ROW, 3, 40.0, id=3))
    plan = planned((-1, (ROW,)), (-3, (ROW,)), (4, (RAISE, ROW)))
    weeks = board_of(plan, known, proposed_session(known, days(2)))
    assert [w.monday for w in weeks] == [MONDAY + timedelta(weeks=i) for i in range(-2, 12)]
    cards = {(c.on - TODAY).days: c for w in weeks for c in w.cards}
    # What was done takes the place of what was planned for the same day.
    assert {n: c.state for n, c in cards.items()} == {
        -3: "done",
        -1: "missed",
        2: "proposed",
        4: "planned",
    }
    assert cards[-3].sets == 3
    assert cards[-3].length_s is None
    assert [(one.name, one.sets) for one in cards[-3].lines] == [
        ("Standing barbell curl", 2),
        ("Seated row, narrow and low", 1),
    ]
    assert cards[4].length_s > 600.0
    assert not cards[4].too_long
    short = board_of(plan, knows(done(CURL, 3), session_min=10))
    assert [c.too_long for w in short for c in w.cards if c.state == "planned"] == [True]


def test_a_sore_place_stops_its_lines_on_the_board():
    known = knows(
        done(CURL, 3),
        done(ROW, 3, 40.0, id=2),
        sore=(SorePlace("left elbow", TODAY - timedelta(5)),),
    )
    weeks = board_of(planned((4, (CURL,))), known)
    [card] = [c for w in weeks for c in w.cards if c.state == "planned"]
    assert [one.stopped for one in card.lines] == [True]
    assert card.sets == 0


def test_a_session_moves_to_a_free_day_and_changes_places_with_another():
    plan = planned((1, (CURL,)), (3, (ROW,)))
    free = moved(plan, days(1), days(2))
    assert [(s.on, s.lines[0].standard) for s in free.sessions] == [(days(2), CURL), (days(3), ROW)]
    swapped = moved(plan, days(1), days(3))
    assert [(s.on, s.lines[0].standard) for s in swapped.sessions] == [
        (days(1), ROW),
        (days(3), CURL),
    ]
    assert moved(swapped, days(3), days(1)) == plan
    assert moved(plan, days(9), days(1)) == plan


def test_the_usual_weekdays_and_exercises_are_planned_ahead():
    monday, thursday = (CURL, ROW, RAISE), (PRESS, FLY)
    sets = [done(id, 3 + 7 * i, id=10 * i + k) for i in range(3) for k, id in enumerate(monday)]
    sets += [done(id, 7 * i, id=50 + 10 * i + k) for i in range(3) for k, id in enumerate(thursday)]
    usual = usual_sessions(knows(*sets))
    assert {w: set(own) for w, own in usual.items()} == {0: set(monday), 3: set(thursday)}
    assert {
        o.standard
        for s in with_weeks(Plan(), knows(*sets), 1).sessions
        if s.on == days(4)
        for o in s.lines
    } == set(monday)
    plan = with_weeks(planned((4, (FLY,))), knows(*sets), 4)
    by_day = {(s.on - TODAY).days: {o.standard for o in s.lines} for s in plan.sessions}
    assert sorted(by_day) == [4, 7, 11, 14, 18, 21, 25, 28]
    # What is planned already stays, and Mondays go on as the coach has that one.
    assert by_day[4] == by_day[11] == {FLY}
    assert by_day[28] == set(thursday)


def test_the_weeks_go_on_as_the_coach_has_the_first_session():
    """Around a sore elbow: the coach takes the curl out and the shrug in, once, and the weeks
    follow."""
    known = knows(*every_week(3, CURL), sore=(SorePlace("left elbow", TODAY),))
    plan = with_weeks(planned((4, ("shrug",))), known, 3)
    assert [((s.on - TODAY).days, [o.standard for o in s.lines]) for s in plan.sessions] == [
        (4, ["shrug"]),
        (11, ["shrug"]),
        (18, ["shrug"]),
    ]
    assert all(
        dosed_in(plan, s.lines[0], known, s.on).asked.change != "stop" for s in plan.sessions
    )


def test_a_single_recording_on_another_day_is_no_session_of_its_own():
    sets = [done(id, 3, id=k) for k, id in enumerate((CURL, ROW, RAISE))]
    usual = usual_sessions(knows(*sets, done(PRESS, 1, id=9)))
    assert list(usual) == [0]
    assert set(usual[0]) == {CURL, ROW, RAISE, PRESS}
    assert usual_sessions(knows()) == {}
    # Without anything done there is nothing to plan from.
    assert with_weeks(Plan(), knows(), 4) == Plan()
    assert [w.cards for w in board_of(Plan(), knows())] == [()] * 14


def test_the_programme_of_a_far_day_is_that_of_today():
    known = knows(done(CURL, 5), done(ROW, 12, 40.0, id=2))
    near, far = (proposed_session(known, days(n)) for n in (3, 60))
    assert [o.standard for o in near.lines] == [o.standard for o in far.lines]


def test_a_far_day_with_sessions_before_it_is_no_layoff():
    known = knows(done(CURL, 3))
    alone = dosed(line(CURL), known, days(40))
    assert alone.asked.load_kg < 30.0
    assert "weeks have passed" in alone.asked.reason
    weekly = planned(*((n, (CURL,)) for n in range(4, 40, 7)))
    kept = dosed_in(weekly, line(CURL), known, days(39))
    assert kept.asked.load_kg == dosed(line(CURL), known, days(4)).asked.load_kg
    assert "weeks have passed" not in kept.asked.reason
    # Sessions of something else keep nothing up.
    other = planned(*((n, (ROW,)) for n in range(4, 40, 7)))
    assert dosed_in(other, line(CURL), known, days(40)).asked == alone.asked


def test_the_doses_of_an_easier_week_are_easier():
    known = knows(*every_week(5, CURL))
    easy = [monday for monday, easier in weeks_ahead(known, 12) if easier]
    plan = with_weeks(Plan(), known, 8)
    doses = {s.on: dosed_in(plan, s.lines[0], known, s.on).asked for s in plan.sessions}
    easier = {day for day, asked in doses.items() if asked.change == "deload"}
    assert easier == {day for day in doses if day - timedelta(days=day.weekday()) in easy}
    assert len(easier) == 1
    [day] = easier
    plain = doses[min(doses)]
    assert (doses[day].load_kg, doses[day].sets) == (27.5, 2)
    assert (plain.load_kg, plain.sets) == (30.0, 3) or plain.load_kg > 30.0


def test_a_week_of_half_the_sets_was_an_easier_one():
    full = [done(CURL, 7 * i + 3, id=10 * i + k) for i in range(9) for k in range(4)]
    # This week began as any other: the next one is due.
    assert [easier for _m, easier in weeks_ahead(knows(*full), 3)] == [False, True, False]
    # Last week only half was done: eight whole weeks come after it, this one the first.
    lighter = [s for s in full if not (s.id // 10 == 1 and s.id % 10 > 1)]
    got = [easier for _m, easier in weeks_ahead(knows(*lighter), 9)]
    assert got.index(True) == 8


def test_pain_stops_in_an_easier_week_too():
    known = knows(*every_week(9, CURL), sore=(SorePlace("left elbow", TODAY),))
    assert weeks_ahead(known, 2)[1][1]
    assert dosed_in(Plan(), line(CURL), known, days(7)).asked.change == "stop"


def test_only_the_first_session_after_many_weeks_is_the_easier_one():
    known = knows(*every_week(13, CURL))
    plan = with_weeks(Plan(), known, 4)
    told = [dosed_in(plan, s.lines[0], known, s.on).asked.change for s in plan.sessions]
    assert told[0] == "deload"
    assert "deload" not in told[1:]


def test_around_a_sore_place_what_leaves_it_alone_is_named():
    sore = (SorePlace("left elbow", TODAY - timedelta(5)),)
    known = knows(done(RAISE, 7, 6.0), sore=sore, weak=("side-shoulder",))
    lines = [dosed(line(RAISE), known, TODAY)]
    said = around_sore(lines, known, TODAY)
    first = "Dumbbell lateral raise: the right arm can go on by itself (1). "
    assert said.startswith(first)
    assert said.endswith("leave the left elbow alone (A adds one).")
    told = advice(lines, regions_of(lines, known, TODAY, ("side-shoulder",)), known.client, 0.0, ())
    assert "Side shoulder comes first for Ada, and waits for a clinician's word." in told
    assert around_sore([dosed(line(RAISE), knows(), TODAY)], knows(), TODAY) == ""
    both = knows(sore=(*sore, SorePlace("neck", TODAY), SorePlace("lower back", TODAY)))
    assert (
        around_sore([dosed(line(CURL), both, TODAY)], both, TODAY)
        == "No other exercise leaves the left elbow and the lower back alone."
    )


def test_tension_counts_for_every_muscle_and_head_that_is_named():
    """Done sets hold 40 s each; the planned time is that of the session's own figures."""
    known = knows(
        done(RAISE, 3, 6.0),
        done(PRESS, 3, 9.0, id=2),
        done(FLY, 2, 5.0, id=3),
        done(CURL, 40, id=4),
    )
    lines = [dosed(line(RAISE), known, TODAY)]
    found = balance_of(lines, known, TODAY)
    told = {h.muscle: (h.done_s, h.planned_s) for h in found.heads}
    planned = lines[0].as_line().under_tension_s
    # The press names front and side shoulder; what lies outside the two weeks does not count.
    assert told == {
        "side shoulder": (80.0, planned),
        "front shoulder": (40.0, 0.0),
        "rear shoulder": (40.0, 0.0),
    }
    assert found.arms == (36, 36)
    assert balance_words(found).startswith("Shoulders: front 0:40, side ")
    assert balance_words(found).endswith("rear 0:40. Arms: left 36 reps, right 36.")
    assert heads_of("mid-back and lats") == ("mid-back", "lats")
    assert heads_of("biceps, long head") == ("biceps, long head",)
    assert heads_of("upper chest and front shoulder") == ("upper chest", "front shoulder")
