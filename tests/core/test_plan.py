"""Plans: doses on their days, order, time to scale, what to drop, regions, weeks, missed
sessions."""

from __future__ import annotations

import itertools
from dataclasses import replace
from datetime import date, timedelta
from typing import Any

import pytest

from guide_arc.core.model.client import Client, SorePlace
from guide_arc.core.planning.kept_set import CheckTrace, KeptSet, RepTrace, SetTrace
from guide_arc.core.planning.plan import (
    Knowledge,
    Override,
    Plan,
    PlannedLine,
    PlannedSession,
    dosed,
    jump_of,
    length_of,
    merged_into,
    missed,
    ordered,
    proposed_session,
    session_of,
    shifted,
    stepped,
    to_drop,
    warm_up_words,
    weeks_ahead,
)
from guide_arc.core.planning.session import figures_of_session
from guide_arc.core.planning.timeline import advice, regions_of, slots_of
from guide_arc.standards.loader import shipped, standard
from guide_arc.standards.schemes import parse_schemes, shipped_schemes

TODAY = date(2031, 4, 3)
STANDARDS = {id: standard(id) for id in shipped()}
CURL, PRESS, RAISE, ROW, FLY = (
    "standing-barbell-curl",
    "overhead-press-dumbbell",
    "lateral-raise-dumbbell",
    "seated-row-narrow-low",
    "cross-cable-rear-fly",
)


FINE = CheckTrace(
    "torso-swing", "both", "ok", "spine", "Torso swings", "torso swings 2°", "Stand.", "deg", 10.0
)


def done(standard_id: str, days_ago: int, kg: float = 30.0, reps: int = 12, id: int = 1) -> KeptSet:
    held = tuple(RepTrace("both", True, "held") for _ in range(reps))
    trace = SetTrace("none", "deg", held, (FINE,), (120.0, 0.5), (2.0, 0.05), None, 40.0, 1.0, 45.0)
    at = (TODAY - timedelta(days_ago)).isoformat()
    return KeptSet(id, standard_id, STANDARDS[standard_id].school.id, at, kg, trace)


def knows(*sets: KeptSet, **client: Any) -> Knowledge:
    person = Client("Ada Quill", **client)
    return Knowledge(person, STANDARDS, shipped_schemes(), sorted(sets, key=lambda s: s.at), TODAY)


def line(id: str, **more: Any) -> PlannedLine:
    return PlannedLine(id, STANDARDS[id].school.id, **more)


def lines_of(known: Knowledge, *ids: str):
    return [dosed(line(id), known, TODAY) for id in ids]


def test_a_line_is_dosed_from_what_was_done_before_its_day():
    known = knows(done(CURL, 7), done(CURL, 0, 60.0))
    got = dosed(line(CURL), known, TODAY)
    # 12 of 8 to 12 at 30 kg held a week ago; what is done on the day itself is not before it.
    assert (got.proposed.change, got.proposed.load_kg) == ("up", 32.5)


def test_the_coach_overrides_and_that_is_marked():
    known = knows(done(CURL, 7))
    own = Override(load_kg=27.5, sets=4, why="a long week")
    got = dosed(line(CURL, override=own), known, TODAY)
    assert got.changed
    assert (got.asked.load_kg, got.asked.sets, got.proposed.load_kg) == (27.5, 4, 32.5)


def test_pain_and_sore_places_can_not_be_overridden():
    sore = (SorePlace("left elbow", TODAY - timedelta(3)),)
    for known in (knows(done(CURL, 7), sore=sore), knows(sore=sore)):
        got = dosed(line(CURL, override=Override(load_kg=20.0)), known, TODAY)
        assert got.asked.ask_first
        assert got.asked.load_kg is None
        assert got.cautions == ("left elbow",)
        assert stepped(got, 1, known) is None


def test_steps_are_those_of_the_rack_and_a_large_one_is_known():
    known = knows(done(CURL, 7), rack_kg={"bar": (25.0, 30.0, 40.0)})
    got = dosed(line(CURL), known, TODAY)
    assert got.proposed.load_kg == 30.0  # 40 is a jump of a third: reps first
    up = stepped(got, 1, known)
    assert up is not None
    assert up.load_kg == 40.0
    assert jump_of(dosed(line(CURL, override=up), known, TODAY)) == pytest.approx(1 / 3)
    assert stepped(dosed(line(CURL, override=up), known, TODAY), 1, known) is None


@pytest.mark.parametrize(
    ("order", "weak", "first"),
    [
        ("weak-first", ("rear-shoulder",), FLY),
        ("weak-first", (), ROW),
        ("biggest-first", ("rear-shoulder",), ROW),
        ("raises-before-presses", (), FLY),
        ("as-set", (), CURL),
    ],
)
def test_the_order_follows_its_rule(order, weak, first):
    known = knows(weak=weak)
    got = ordered(lines_of(known, CURL, PRESS, RAISE, ROW, FLY), order, known.client)
    assert got[0].plan.id == first
    if order == "raises-before-presses":
        ids = [d.plan.id for d in got]
        assert ids.index(RAISE) < ids.index(PRESS)


def test_a_pair_stays_together():
    known = knows(weak=("side-shoulder",))
    own = [
        dosed(line(RAISE, pair="A"), known, TODAY),
        *lines_of(known, ROW),
        dosed(line(PRESS, pair="A"), known, TODAY),
    ]
    ids = [d.plan.id for d in ordered(own, "weak-first", known.client)]
    assert ids == [RAISE, PRESS, ROW]


def test_time_to_scale_sums_to_the_sessions_length():
    known = knows(done(CURL, 7), done(ROW, 7, 40.0))
    own = [
        *lines_of(known, CURL),
        dosed(line(RAISE, pair="A"), known, TODAY),
        dosed(line(PRESS, pair="A", override=Override(sets=5)), known, TODAY),
    ]
    session = session_of(own)
    assert session is not None
    slots = slots_of(own)
    assert slots[-1].end_s == pytest.approx(figures_of_session(session).length_s)
    assert all(a.end_s == pytest.approx(b.start_s) for a, b in itertools.pairwise(slots))
    sets = [s for s in slots if s.kind == "set"]
    assert len(sets) == sum(d.asked.sets for d in own)
    assert slots[0].kind == "warm-up"


def test_what_does_not_fit_is_left_out_from_the_end_and_weak_regions_last():
    known = knows(weak=("elbow-flexors",), session_min=20)
    own = lines_of(known, ROW, PRESS, RAISE, FLY, CURL)
    dropped = to_drop(own, known.client, 20 * 60.0)
    assert dropped
    assert STANDARDS[CURL].name not in dropped
    kept = [d for d in own if d.plan.name not in dropped]
    kept = [
        (
            replace(d, asked=replace(d.asked, sets=d.asked.sets - 1))
            if f"one set of {d.plan.name}" in dropped
            else d
        )
        for d in kept
    ]
    assert length_of(kept) <= 20 * 60.0
    assert to_drop(own, known.client, 1e6) == ()


def test_regions_tell_what_was_done_is_planned_and_forgotten():
    known = knows(done("shrug", 19, 60.0), done(ROW, 3, 40.0), neglect_days=14)
    own = lines_of(known, ROW, PRESS)
    turns = {
        t.region: t
        for t in regions_of(own, known, TODAY, ("traps", "back", "front-shoulder", "trunk"))
    }
    assert (turns["traps"].days, turns["traps"].neglected) == (19, True)
    assert (turns["back"].done, turns["back"].planned) == (1, own[0].asked.sets)
    assert turns["trunk"].days is None
    said = advice(own, list(turns.values()), known.client, 60.0, ())
    assert any("Traps had none for 19 days" in words for words in said)
    assert not any("Trunk" in words for words in said)


def test_a_weak_region_without_a_line_is_told_of():
    known = knows(weak=("rear-shoulder",))
    assert (
        "Rear shoulder comes first" in advice(lines_of(known, ROW), (), known.client, 60.0, ())[0]
    )


def test_cables_that_want_two_heights_do_not_take_turns():
    known = knows()
    own = [
        dosed(line("rope-pushdown", pair="A"), known, TODAY),
        dosed(line("standing-cable-curl", pair="A"), known, TODAY),
    ]
    assert any("two heights" in words for words in advice(own, (), known.client, 60.0, ()))


def test_two_weights_on_one_bar_do_not_take_turns():
    def told(curl_kg, press_kg):
        known = knows(done(CURL, 3, curl_kg), done("flat-bench-press", 3, press_kg))
        own = [dosed(line(id, pair="A"), known, TODAY) for id in (CURL, "flat-bench-press")]
        return any("take turns on one bar" in w for w in advice(own, (), known.client, 60.0, ()))

    assert told(30.0, 60.0)
    assert not told(30.0, 30.0)


def test_the_next_session_is_what_was_done_in_the_last_weeks():
    known = knows(done(CURL, 40), done(ROW, 5, 40.0), done(RAISE, 3, 6.0), weak=("side-shoulder",))
    got = proposed_session(known, TODAY)
    assert [one.standard for one in got.lines] == [RAISE, ROW]
    assert proposed_session(knows(), TODAY).lines == ()


def test_an_easier_week_is_due_after_eight_in_a_row():
    every_week = [done(CURL, 7 * i + 1, id=i) for i in range(1, 9)]
    weeks = weeks_ahead(knows(*every_week), 12)
    assert [i for i, (_monday, easier) in enumerate(weeks) if easier] == [0, 9]
    assert not any(easier for _monday, easier in weeks_ahead(knows(done(CURL, 3)), 6))


def test_a_missed_session_shifts_or_merges():
    first, second = TODAY - timedelta(2), TODAY + timedelta(1)
    plan = Plan(
        sessions=(
            PlannedSession(first, (line(CURL), line(ROW))),
            PlannedSession(second, (line(ROW),)),
        )
    )
    assert [s.on for s in missed(plan, knows())] == [first]
    assert missed(plan, knows(done(CURL, 2))) == ()
    later = shifted(plan, first, TODAY)
    assert [s.on for s in later.sessions] == [TODAY, second + timedelta(2)]
    merged = merged_into(plan, first, second)
    assert [s.on for s in merged.sessions] == [second]
    assert [one.standard for one in merged.sessions[0].lines] == [ROW, CURL]


def test_a_scheme_lays_the_sets_out():
    known = knows(done(CURL, 7, 30.0, 10))
    heavy = dosed(line(CURL, scheme="top-and-back-off"), known, TODAY)
    assert heavy.asked.reps == (6, 10)
    assert heavy.asked.back_off is not None
    # 80 % of 32.5 kg is 26 kg: the next weight below is 25.
    assert (heavy.asked.load_kg, heavy.asked.back_off.load_kg, heavy.asked.back_off.sets) == (
        32.5,
        25.0,
        2,
    )
    crunch = "kneeling-cable-crunch"
    circuit = dosed(
        line(crunch, scheme="circuit-plus-five"), knows(done(crunch, 3, 25.0, 25)), TODAY
    )
    assert (circuit.asked.change, circuit.asked.reps, circuit.asked.load_kg) == (
        "more-reps",
        (20, 30),
        25.0,
    )
    held = dosed(line(CURL, scheme="slow-and-held"), known, TODAY)
    assert (held.asked.tempo.lower_s, held.asked.tempo.top_s) == (3.0, 3.0)


def test_what_forbids_slow_lowering_keeps_its_own_in_every_scheme():
    slow = shipped_schemes()["slow-and-held"]
    forbids = [p for p in STANDARDS.values() if p.check("too-slow-lower") is not None]
    assert forbids
    assert all(slow.tempo(p).lower_s == p.tempo.lower_s for p in forbids)


def test_a_scheme_that_can_not_be_is_refused_with_its_key():
    for text, words in (
        ("[x]\nname = 'abc'\n", "x.why"),
        (
            "[x]\nname='abc'\nwhy='because of it'\nheld_by='all'\nlimits='none known'\nreps=[9, 2]",
            "lower to the upper",
        ),
        ("[x", "TOML"),
    ):
        with pytest.raises(Exception, match=words):
            parse_schemes(text, "schemes.toml")


def test_a_warm_up_is_lighter_than_the_work_and_has_more_help():
    (curl,) = lines_of(knows(done(CURL, 7, 30.0, reps=9)), CURL)
    rack = tuple(2.5 * i for i in range(1, 30))
    # At most 40, 60 and 80 % of 30 kg: 12, 18 and 24.
    words = warm_up_words(curl, rack)
    assert words.endswith("10 kg × 8, 17.5 kg × 5, 22.5 kg × 2")
    (dip,) = lines_of(knows(done("upright-narrow-dip", 7, 40.0, reps=9)), "upright-narrow-dip")
    assert dip.asked.load_kg == 40.0
    # 60, 40 and 20 % more help than 40 kg, as far as the machine has it.
    words = warm_up_words(dip, tuple(4.0 * i for i in range(1, 21)))
    assert words.endswith("64 kg of help × 8, 56 kg of help × 5, 48 kg of help × 2")
    assert warm_up_words(dip, (20.0, 40.0)).endswith("with the most help there is")
