"""The week of all clients: what each day was, who is due and overdue, and who comes first."""

from __future__ import annotations

from datetime import date, timedelta

from guide_arc.core.planning.practice import ClientFacts, due_on, practice_week
from guide_arc.drawings.practice_sheet import HEAD, ROW, practice_sheet, row_at

MONDAY = date(2031, 5, 5)
TODAY = date(2031, 5, 9)


def days(*numbers: int) -> frozenset[date]:
    return frozenset(date(2031, 5, 1) + timedelta(n - 1) for n in numbers)


def facts(name: str, trained: frozenset[date], planned: frozenset[date] = frozenset(), **more):
    return ClientFacts(name, trained, planned, **more)


def test_a_day_is_done_planned_or_missed():
    [week] = practice_week([facts("Ada", days(5, 7), days(5, 8, 10, 13))], MONDAY, TODAY)
    assert {d.day: state for d, state in week.days.items()} == {
        5: "done",
        7: "done",
        8: "missed",
        10: "planned",
    }
    assert week.due == date(2031, 5, 8)
    assert week.words == "1 day overdue"


def test_without_a_plan_the_next_session_is_due_as_far_apart_as_usual():
    assert due_on(facts("Ada", days(1, 3, 5)), TODAY) == date(2031, 5, 7)
    # After a long pause a week is taken for usual, not the pause.
    assert due_on(facts("Ada", days(1, 30)), TODAY) == date(2031, 6, 6)
    assert due_on(facts("Ada", days(5)), TODAY) == date(2031, 5, 12)
    assert due_on(facts("Ada", frozenset()), TODAY) is None
    # What was planned before the last session is no longer open.
    assert due_on(facts("Ada", days(1, 7), days(3)), TODAY) == date(2031, 5, 13)


def test_who_hurts_comes_first_then_who_is_late_then_who_waits():
    found = practice_week(
        [
            facts("Quiet", days(8)),
            facts("Waiting", days(8), waiting=2),
            facts("Late", days(1, 2)),
            facts("Sore", days(8), sore=("left elbow",)),
            facts("Hurt", days(8), pain=True, waiting=1),
        ],
        MONDAY,
        TODAY,
    )
    assert [w.name for w in found] == ["Hurt", "Sore", "Late", "Waiting", "Quiet"]
    assert [w.words for w in found] == [
        "pain was reported · 1 set to review",
        "left elbow sore",
        "6 days overdue",
        "2 sets to review",
        "",
    ]


def test_the_sheet_names_every_client_and_a_row_is_found_again():
    weeks = practice_week([facts(f"Client {n}", days(5)) for n in range(60)], MONDAY, TODAY)
    words = practice_sheet(980, weeks, MONDAY, TODAY, 3).words()
    assert {f"Client {n}" for n in range(60)} <= set(words)
    assert row_at(HEAD + 3.5 * ROW, len(weeks)) == 3
    assert row_at(HEAD - 2, len(weeks)) is None
    assert row_at(HEAD + 61 * ROW, len(weeks)) is None
