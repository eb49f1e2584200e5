"""A session or a week goes to another day or client without the weights of the first one."""

from __future__ import annotations

from datetime import date

from guide_arc.core.planning.copying import copied_session, copied_week, pasted
from guide_arc.core.planning.plan import Override, Plan, PlannedLine, PlannedSession

MONDAY = date(2031, 5, 5)
CURL = PlannedLine(
    "standing-barbell-curl",
    "locked-upper-arm",
    scheme="plain",
    pair="a",
    override=Override(load_kg=30.0, sets=4, why="stage week"),
    arm="left",
)
ROW = PlannedLine("seated-row-narrow-low", "to-the-navel", pair="a")
IDS = (CURL.standard, ROW.standard)


def test_sets_and_pairs_go_along_and_weights_stay():
    found = copied_session(PlannedSession(MONDAY, (CURL, ROW)), "Ada Quill")
    [(offset, (curl, row))] = found.sessions
    assert offset == 0
    assert curl.override == Override(sets=4)
    assert (curl.arm, curl.pair, curl.scheme) == (None, "a", "plain")
    assert row == ROW
    assert found.words == "Ada Quill’s session of 5 May"


def test_a_week_keeps_its_days_and_leaves_done_days_alone():
    days = (MONDAY, date(2031, 5, 8), date(2031, 5, 12))
    week = copied_week([PlannedSession(d, (CURL, ROW)) for d in days], MONDAY, "Ada Quill")
    assert [offset for offset, _lines in week.sessions] == [0, 3]
    plan, came = pasted(Plan(), week, date(2031, 5, 21), [date(2031, 5, 19)], IDS)
    assert came == [date(2031, 5, 22)]
    assert [s.on for s in plan.sessions] == came
    again, _came = pasted(plan, week, date(2031, 5, 26), (), IDS)
    assert [s.on.day for s in again.sessions] == [22, 26, 29]
    assert len({s.identity for s in again.sessions}) == 3


def test_an_exercise_that_is_gone_stays_out():
    found = copied_session(PlannedSession(MONDAY, (CURL, ROW)), "Ada Quill")
    plan, _came = pasted(Plan(), found, MONDAY, (), IDS[:1])
    assert [line.standard for line in plan.sessions[0].lines] == [CURL.standard]
    plan, came = pasted(Plan(), found, MONDAY, (), ())
    assert (plan, came) == (Plan(), [])
