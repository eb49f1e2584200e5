"""Form against load, the weeks and the cues, against what follows by hand from made-up years."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import pytest

from guide_arc.core.model.client import Client, SorePlace
from guide_arc.core.planning.course import course_of, says
from guide_arc.core.planning.cues import followed, other_words, words_that_worked
from guide_arc.core.planning.felt_over_time import felt_spans
from guide_arc.core.planning.first_weight import first_weight
from guide_arc.core.planning.kept_set import CheckTrace, KeptSet, RepTrace, Said, SetTrace
from guide_arc.core.planning.weeks import Point, measures_of, slopes_of
from guide_arc.standards.loader import standard

FIRST = date(2031, 1, 8)
DRIFT = "upper-arm-drift"


def one(
    week: float,
    kg: float | None,
    reps: int = 12,
    broke_from: int | None = None,
    drift: float = 3.0,
    *,
    seen: bool = True,
    said: str = "",
    felt: tuple[str, ...] = (),
) -> KeptSet:
    """A set of one exercise in a week of the made-up year."""
    good = "held" if seen else "unseen"
    traces = tuple(
        (
            RepTrace("both", True, "broke", (DRIFT,))
            if broke_from and n >= broke_from
            else RepTrace("both", True, good)  # type: ignore[arg-type]
        )
        for n in range(1, reps + 1)
    )
    verdict = "off" if broke_from else "ok"
    checks = (
        CheckTrace(
            DRIFT,
            "both",
            verdict,  # type: ignore[arg-type]
            "effect",
            "Upper arm leaves its place",
            f"{drift:.0f}°",
            "Pin your elbows to your ribs.",
            "deg",
            12.0,
            drift,
            1.0,
        ),
    )
    trace = SetTrace(
        "none", "deg", traces, checks, (120.0, 0.6), (2.0, 0.05), None, 40.0, 2.0, 45.0
    )
    on = FIRST + timedelta(days=round(7 * week))
    return KeptSet(
        round(10 * week),
        "standing-barbell-curl",
        "locked-upper-arm",
        f"{on}T09:00",
        kg,
        trace,
        felt=felt,
        reviewed=True,
        said=(Said(f"{DRIFT}/both", said),) if said else (),
    )


YEAR = (
    one(0, 22.5),
    one(1, 25, 10),
    one(2, 25),
    one(3, 27.5, 12),
    one(4, 27.5, 12),
    one(5, 27.5, 12),
    one(6, 30, 10, 6, 25.0),
    one(7, 30, 10, 6, 25.0),
)


def test_what_was_held_and_where_it_breaks_is_said():
    course = course_of(YEAR)
    assert says(course) == (
        "Held 27.5 kg for 12, three weeks running.",
        "At 30 kg, from rep 6 each time: upper arm leaves its place (25° ± 1°, 12° allowed).",
    )
    assert course.best is not None
    assert (course.best.load_kg, course.best.full) == (27.5, 12)


def test_jumps_of_more_than_a_tenth_are_marked():
    jumps = {j.at: j.large for j in course_of(YEAR).jumps}
    # 22.5 to 25 is 11 %, 25 to 27.5 exactly a tenth, 27.5 to 30 is 9 %.
    assert jumps == {1: True, 3: False, 6: False}


def test_a_best_counts_only_where_form_held():
    broken = (*YEAR, one(8, 40, 12, 1, 30.0))
    assert course_of(broken).best == course_of(YEAR).best
    unseen = (*YEAR, one(8, 40, 12, seen=False))
    assert course_of(unseen).best == course_of(YEAR).best


def test_what_broke_since_at_the_same_weight_is_not_held():
    course = course_of((*YEAR, one(8, 27.5, 12, 3, 20.0)))
    assert course.run == ()
    assert says(course)[0].startswith("Held 27.5 kg for 12, last on 12 Feb")


def test_a_set_that_was_not_seen_well_neither_breaks_nor_makes_a_run():
    course = course_of((*YEAR[:6], one(6, 27.5, 12, seen=False)))
    assert len(course.run) == 3
    nothing_seen = course_of((one(0, 20, seen=False), one(1, 20, seen=False)))
    assert "none was seen well enough" in says(nothing_seen)[0]


def test_of_assisted_kit_less_is_harder():
    course = course_of((one(0, 30), one(1, 20), one(2, 10, 8, 2, 20.0)), assisted=True)
    assert course.best is not None
    assert course.best.load_kg == 20
    assert course.broke is not None
    assert course.broke.load_kg == 10


def slope_of(points):
    return slopes_of([points])[0]


def test_a_word_stands_only_where_the_slope_is_surer_than_its_doubt():
    rising = [Point(7 * i, 100.0 + 2.0 * i, 1.0, i) for i in range(8)]
    slope = slope_of(rising)
    assert slope is not None
    assert slope.sure
    assert slope.per_week == pytest.approx(2.0)
    # The same with measurements that may be 40 off says nothing.
    noisy = slope_of([replace(p, u=40.0) for p in rising])
    assert noisy is not None
    assert not noisy.sure
    assert slope_of(rising[:5]) is None
    assert slope_of([replace(p, day=3) for p in rising]) is None


def test_another_side_and_another_load_are_no_change():
    turned = [
        Point(7 * i, 100.0 if i < 6 else 120.0, 1.0, i, view="left" if i < 6 else "right")
        for i in range(12)
    ]
    heavier = [
        Point(7 * i, 100.0 if i < 6 else 80.0, 1.0, i, load_kg=20.0 if i < 6 else 30.0)
        for i in range(12)
    ]
    for points in (turned, heavier):
        slope = slope_of(points)
        assert slope is not None
        assert not slope.sure
        assert slope.per_week == pytest.approx(0.0, abs=1e-6)


def test_one_wild_set_does_not_make_a_trend():
    flat = [Point(7 * i, 100.0, 1.0, i) for i in range(8)]
    flat[6] = replace(flat[6], value=160.0)
    slope = slope_of(flat)
    assert slope is not None
    assert not slope.sure


def test_what_lately_went_past_its_limit_stands_first():
    measures = measures_of(YEAR)
    assert measures[0].name == "upper arm moves"
    assert measures[0].limit == 12.0
    assert "range" in {m.name for m in measures}
    work = next(m for m in measures if m.name.startswith("load"))
    # 30 kg for the five reps before the sixth broke.
    assert work.points[-1].value == pytest.approx(150.0)


def test_what_a_view_hides_has_no_value():
    hidden = one(8, 30)
    checks = (replace(hidden.trace.checks[0], verdict="cannot-tell", value=None, u=None),)
    hidden = replace(hidden, trace=replace(hidden.trace, checks=checks, range_=None))
    measures = {m.name: m for m in measures_of((*YEAR, hidden))}
    assert measures["upper arm moves"].points[-1].set_id == YEAR[-1].id
    assert measures["range"].points[-1].set_id == YEAR[-1].id


PIN, SPOT = "Pin your elbows to your ribs.", "Pick a spot for the elbow and leave it there."
# Said twice: nothing came of the first, much of the second.
SAID = (
    one(0, 30, 10, 6, 25.5),
    one(1, 30, 10, 6, 24.8),
    one(2, 30, 10, 6, 25.0, said=PIN),
    one(3, 30, 10, 6, 24.5),
    one(4, 30, 10, 6, 25.4),
    one(5, 30, 10, 6, 25.5, said=SPOT),
    one(6, 30, 10, drift=9.0),
    one(7, 30, 10, drift=8.4),
    one(8, 30, 10, drift=9.3),
)


def test_each_cue_is_followed_until_the_same_is_said_again():
    second, first = followed(SAID)
    assert (first.outcome, first.after) == ("no-change", (24.5, 25.4, 25.5))
    assert (second.outcome, second.after) == ("worked", (9.0, 8.4, 9.3))
    assert first.say_it_otherwise


def test_two_better_sets_are_too_few_to_say_that_a_cue_worked():
    assert followed(SAID[:8])[0].outcome == "too-soon"


def test_better_sets_at_a_lighter_load_are_not_the_cues():
    lighter = (*SAID[:6], *(one(6 + i, 20, 10, drift=8.0 + i) for i in range(4)))
    assert followed(lighter)[0].outcome == "too-soon"


def test_without_a_change_other_words_are_asked_for():
    same = SAID[:6]
    first = followed(same)[-1]
    assert first.say_it_otherwise
    words = (PIN, "Only the forearm moves.", SPOT)
    assert other_words(words, (first,), DRIFT) == ("Only the forearm moves.", SPOT)


def test_words_that_worked_are_remembered_and_come_first():
    every = followed(SAID)
    assert words_that_worked(every) == {DRIFT: (SPOT,)}
    assert other_words(("Only the forearm moves.",), every, DRIFT)[0] == SPOT


def test_a_cue_of_the_last_set_waits():
    assert followed(SAID[:3])[0].outcome == "waiting"


def test_what_was_felt_stands_beside_what_was_measured():
    sets = (
        one(0, 30, felt=("biceps",)),
        one(1, 30, 10, 6, 25.0, felt=("front shoulder",)),
        one(2, 30, 10, 6, 25.0, felt=("front shoulder",)),
        one(3, 30, felt=("biceps",)),
        one(4, 30, felt=("elbow, sharp",)),
    )
    client = Client("Cleo Marsh", sore=(SorePlace("lower back", FIRST),))
    spans = felt_spans(client, sets, "biceps")
    assert [s.kind for s in spans] == ["sore", "pain", "elsewhere", "on-target", "on-target"]
    shoulder = spans[2]
    assert shoulder.sets == 2
    assert shoulder.with_title == "Upper arm leaves its place"


def test_pain_that_was_marked_without_a_place_is_told():
    hurt = [replace(one(i, 30), pain=True) for i in (1, 2)]
    spans = felt_spans(Client("Dario Venn"), (one(0, 30), *hurt, one(3, 30)), "biceps")
    assert [(s.place, s.kind, s.sets) for s in spans] == [("pain, place not noted", "pain", 2)]
    assert (spans[0].since, spans[0].until) == (hurt[0].on, hurt[1].on)


def test_a_variant_starts_with_a_share_of_its_plain_lift():
    press = standard("rotating-dumbbell-press")
    held = (one(0, 20), one(1, 25, 12, 3, 20.0))
    # 40 % of the 20 kg that held; the 25 kg broke.
    assert first_weight(press, held, (4.0, 6.0, 8.0, 10.0))[0] == 8.0
    assert first_weight(press, (), (4.0, 6.0))[0] == 4.0
    helped = standard("upright-narrow-dip")
    assert first_weight(helped, (), (10.0, 20.0))[0] == 20.0


def test_every_check_has_at_least_three_ways_to_say_its_cue():
    from guide_arc.standards.loader import shipped

    for id in shipped():
        for rule in standard(id).checks:
            plain = {rule.cue, *rule.words_for("").other_cues}
            assert len(plain) >= 3, (id, rule.name)
            for way in rule.ways:
                words = rule.words_for(way.way)
                assert len({words.cue, *words.other_cues}) >= 3, (id, rule.name, way.way)
