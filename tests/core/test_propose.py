"""Whole sessions are proposed from what the client did, what waits, the kit, and what is sore."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import pytest

from guide_arc.core.model.client import Client, SorePlace
from guide_arc.core.planning.goals import goals_of
from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.core.planning.plan import Knowledge, PlannedLine, length_of
from guide_arc.core.planning.propose import ProposedSession, best_of, next_best, proposals, replaced
from guide_arc.core.planning.scheme import PLAIN_SCHEME
from guide_arc.core.planning.training_log import LoggedSet
from guide_arc.standards.loader import shipped, standard

TODAY = date(2031, 5, 10)
STANDARDS = {id: standard(id) for id in shipped()}


def noted(id: str, days: int, number: int) -> KeptSet:
    one = LoggedSet(id, TODAY - timedelta(days), 20.0, 10, 10)
    return KeptSet.of_log(number, one, STANDARDS[id].school.id)


def known(*done: tuple[str, int], **client) -> Knowledge:
    return Knowledge(
        client=Client("Ada Quill", **client),
        standards=STANDARDS,
        schemes={PLAIN_SCHEME.id: PLAIN_SCHEME},
        sets=tuple(noted(id, days, n) for n, (id, days) in enumerate(done, 1)),
        today=TODAY,
    )


def ids(session: ProposedSession) -> list[str]:
    return [line.dosed.plan.id for line in session.lines]


def regions(session: ProposedSession) -> list[str]:
    return [line.dosed.plan.region for line in session.lines]


def test_a_client_of_one_exercise_gets_a_whole_session_that_fits_the_time():
    there = known(("standing-barbell-curl", 3), session_min=45)
    found = proposals(there, TODAY)
    assert len(found) == 2
    for session in found:
        assert len(session.lines) >= 4
        assert session.length_s <= 45 * 60
        assert session.length_s == length_of([line.dosed for line in session.lines])
        assert len(set(ids(session))) == len(ids(session))
        assert all(line.reason for line in session.lines)
    assert "standing-barbell-curl" in ids(found[1])


def test_what_is_overdue_comes_in_and_says_for_how_long():
    done = [("seated-row-narrow-low", 40), ("flat-bench-press", 2), ("rope-pushdown", 2)]
    [first, *_] = proposals(known(*done, session_min=40), TODAY)
    row = next(line for line in first.lines if line.dosed.plan.region == "back")
    assert row.dosed.plan.id == "seated-row-narrow-low"  # what was done before
    assert row.reason == "back had none for 40 days; last 20 kg on 31 Mar"
    assert "triceps" not in regions(first)


def test_a_region_that_comes_first_has_two_exercises():
    there = known(("standing-barbell-curl", 3), weak=("rear-shoulder",))
    weak = next(p for p in proposals(there, TODAY) if p.title == "What comes first")
    assert regions(weak).count("rear-shoulder") == 2
    assert weak.lines[0].dosed.plan.region == "rear-shoulder"
    assert weak.lines[0].reason.startswith("rear shoulder comes first")


def test_neither_front_nor_rear_outweighs_the_other():
    front = ("front-shoulder", "chest-upper", "chest-lower")
    rear = ("rear-shoulder", "back", "traps")
    for minutes in (30, 45, 60, 90):
        for session in proposals(known(session_min=minutes, weak=("chest-upper",)), TODAY):
            sets = {
                part: sum(p.dosed.asked.sets for p in session.lines if p.dosed.plan.region in part)
                for part in (front, rear)
            }
            if all(sets.values()):
                assert max(sets.values()) <= 2 * min(sets.values()), (minutes, ids(session))


def test_only_what_the_kit_and_sore_places_allow_is_proposed():
    sore = (SorePlace("neck", TODAY - timedelta(1)),)
    there = known(("standing-barbell-curl", 3), kit=("cable",), sore=sore)
    for session in proposals(there, TODAY):
        filled = [p for p in session.lines if p.dosed.plan.id != "standing-barbell-curl"]
        assert filled
        assert {p.dosed.plan.pull for p in filled} == {"cable"}
        assert all(p.dosed.cautions == () for p in filled)


def test_a_line_is_replaced_by_the_next_best_round_and_round():
    there = known(("rope-pushdown", 3))
    offered = best_of("triceps", there, TODAY)
    assert offered[0].id == "rope-pushdown"
    second = next_best(there, TODAY, "rope-pushdown", ["rope-pushdown"])
    assert second is not None
    assert second.id == offered[1].id
    last = next_best(there, TODAY, offered[-1].id, [offered[-1].id])
    assert last is not None
    assert last.id == "rope-pushdown"
    assert next_best(there, TODAY, "rope-pushdown", [p.id for p in offered]) is None
    line = replace(PlannedLine("rope-pushdown", "locked"), pair="a", arm="left")
    assert replaced(line, second) == PlannedLine(second.id, second.school.id, pair="a")


def test_who_begins_is_not_sent_to_what_asks_for_an_easier_one_first():
    harder = [p for p in STANDARDS.values() if p.easier and p.region == "triceps"]
    assert harder
    assert not best_of("triceps", known(), TODAY)[0].easier


@pytest.mark.parametrize(
    ("goals", "wanted"),
    [
        ("wider shoulders", ["side-shoulder", "rear-shoulder"]),
        ("upper chest for the aerial act", ["chest-upper"]),
        ("bigger arms; stronger back", ["elbow-flexors", "triceps", "back"]),
        ("both arms alike again", []),
        ("strength first", []),
        ("no chest, more triceps", ["triceps"]),
        ("lower back pain; abs", ["trunk"]),
        ("steady tempo", []),
        ("", []),
    ],
)
def test_goals_name_regions(goals, wanted):
    assert [g.region for g in goals_of(goals)] == wanted


def test_a_session_is_proposed_for_what_the_goals_name():
    there = known(("standing-barbell-curl", 3), goals="Wider shoulders", session_min=60)
    session = next(s for s in proposals(there, TODAY) if s.title == "What the goals name")
    assert {"side-shoulder", "rear-shoulder"} <= set(regions(session))
    side = next(line for line in session.lines if line.dosed.plan.region == "side-shoulder")
    assert "for the goal “wider shoulders”" in side.reason
    assert all(s.title != "What the goals name" for s in proposals(known(), TODAY))
