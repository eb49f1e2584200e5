"""Drawings: what stands where, without any screen."""

from __future__ import annotations

import itertools

import numpy as np
import pytest

from builders import filmed, measured_set, slow
from guide_arc.core.kinematics.body import Body
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import BODY
from guide_arc.core.model.standard import Range, Tempo
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.model.units import amount, spread
from guide_arc.core.planning.weeks import Measure, Point
from guide_arc.core.review.assess import review_with_body
from guide_arc.drawings.days import day_words, moment_words
from guide_arc.drawings.dial import DialState, arc_dial, ring_at, worst_by_rep
from guide_arc.drawings.evidence import Level, Wedge, evidence, limit_on_dial
from guide_arc.drawings.mini_dial import mini_dial
from guide_arc.drawings.portrait import portrait
from guide_arc.drawings.pull import pull_at
from guide_arc.drawings.ribbon import RibbonState, tempo_ribbon, time_at, x_of
from guide_arc.drawings.shapes import Area, Disc, MarkShape, Stroke, Words, polar
from guide_arc.drawings.shelf import ShelfState, rep_shelf
from guide_arc.drawings.shelf import rep_at as shelf_rep_at
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.drawings.stage import StageState, band, stage
from guide_arc.drawings.weeks_sheet import weeks_sheet
from guide_arc.drawings.words import (
    next_words,
    phase_words,
    rep_list,
    sure_words,
    tempo_words,
    trust_lines,
)
from guide_arc.library.summary import summary_of
from guide_arc.standards.loader import standard


def find(measured, check, side="left"):
    return next(
        f for f in measured.review.findings if f.rule.name == check and f.side in (side, "both")
    )


def dial_state(measured, **more):
    drive = next(iter(measured.repset.drives.values()))
    return DialState("elbow", drive.intended, measured.rings, **more)


def angle(v):
    return np.degrees(np.arctan2(np.linalg.norm(np.cross(*v)), np.dot(*v)))


# The dial


def test_the_dial_has_a_ring_for_each_rep_in_the_right_place(curl):
    drawing = arc_dial(dial_state(curl), 280, 260)
    rings = [i for i in drawing.items if isinstance(i, Area) and i.role == "actual"]
    assert len(rings) == len(curl.review.reps)
    centre = np.array(next([i.x, i.y] for i in drawing.items if isinstance(i, Disc)))
    radii = [np.median(np.linalg.norm(r.points - centre, axis=1)) for r in rings]
    assert (np.diff(radii) > 0).all()  # first inside, last outside


def test_a_straight_joint_hangs_and_a_bent_one_goes_left_and_up():
    down, left, up = polar(0, 0, 1.0, np.array([0.0, 90.0, 180.0]))
    assert down == pytest.approx([0, 1])
    assert left == pytest.approx([-1, 0], abs=1e-9)
    assert up == pytest.approx([0, -1], abs=1e-9)


def test_the_shape_at_a_rings_end_is_the_reps_worst_verdict(curl):
    drawing = arc_dial(dial_state(curl), 280, 260)
    marks = [i.verdict for i in drawing.items if isinstance(i, MarkShape)]
    off = sum(v == "off" for v in worst_by_rep(curl.review).values())
    assert marks.count("off") == off == 5


@pytest.mark.parametrize("number", [1, 5, 10])
def test_a_click_finds_the_ring_under_it(curl, number):
    state = dial_state(curl)
    drawing = arc_dial(state, 280, 260)
    rings = [i for i in drawing.items if isinstance(i, Area) and i.role == "actual"]
    centre = next(i for i in drawing.items if isinstance(i, Disc))
    outline = rings[number - 1].points
    middle = 0.5 * (outline[12] + outline[-13])
    assert ring_at(state, 280, 260, float(middle[0]), float(middle[1])) == ("both", number)
    assert ring_at(state, 280, 260, centre.x, centre.y) is None


def test_a_slow_lowering_makes_a_thick_ring():
    slow = measured_set("standing-barbell-curl", reps=2)
    fast = measured_set("standing-barbell-curl", reps=2, faults={"too-fast-lower": 0.7})
    assert np.median(slow.rings[0].lower_s) > 2 * np.median(fast.rings[0].lower_s)


def test_the_chosen_findings_limit_is_drawn_where_it_lies(curl):
    at = limit_on_dial(curl, find(curl, "range-short"))
    assert at == pytest.approx(132 - 14)
    with_limit = arc_dial(dial_state(curl, limit_deg=at, limit_u_deg=3.0), 280, 260)
    lines = [i for i in with_limit.items if isinstance(i, Stroke) and i.role == "off"]
    assert len(lines) == 1
    assert limit_on_dial(curl, find(curl, "torso-swing")) is None


def test_the_miniature_comes_from_the_summary_alone(curl):
    dial = mini_dial(summary_of(curl.review), 74, 56)
    assert [ring.off for ring in dial.rings] == [False] * 5 + [True] * 5
    assert all(0 <= x <= 74 and 0 <= y <= 56 for ring in dial.rings for x, y in ring.line)


# The ribbon


def ribbon_state(measured, **more):
    t = measured.time_s
    return RibbonState(
        float(t[-1] - t[0]),
        float(t[0]),
        measured.tracks,
        measured.review.tempo,
        worst_by_rep(measured.review),
        **more,
    )


def test_the_ribbon_numbers_its_reps_under_their_turn(curl):
    state = ribbon_state(curl)
    drawing = tempo_ribbon(state, 1100, 100)
    numbers = {i.text: i.x for i in drawing.items if isinstance(i, Words) and i.text.isdigit()}
    assert list(numbers) == [str(n) for n in range(1, 11)]
    rep = curl.review.reps[3]
    assert numbers["4"] == pytest.approx(x_of(state, 1100, rep.turn_s))


def test_time_and_place_on_the_ribbon_are_each_others_inverse(curl):
    state = ribbon_state(curl)
    for at in (1.0, 7.7, 20.0):
        assert time_at(state, 900, x_of(state, 900, at)) == pytest.approx(at)
    assert time_at(state, 900, -50) == state.start_s
    assert time_at(state, 900, 5000) == pytest.approx(state.end_s)


def test_the_asked_tempo_stands_behind_each_rep(curl):
    drawing = tempo_ribbon(ribbon_state(curl), 1100, 100)
    asked = [i for i in drawing.items if isinstance(i, Stroke) and i.dash and i.role == "guide"]
    assert len(asked) == 10


def test_a_finding_on_one_arm_marks_only_that_arms_reps():
    measured = measured_set(
        "front-raise-midline", reps=4, arms="alternating", faults={"left-right": 34.0}
    )
    short = next(
        f for f in measured.review.findings if f.rule.name == "range-short" and f.side == "right"
    )
    assert short.verdict == "off"
    about = {rep.side for rep in measured.review.reps if short.is_about(rep)}
    assert about == {"right"}
    drawing = arc_dial(
        dial_state(measured, marked=frozenset((s, n) for s, n in [("right", 1)])), 280, 260
    )
    strong = [
        i for i in drawing.items if isinstance(i, Area) and i.role == "actual" and i.opacity == 1.0
    ]
    assert len(strong) == 1


def test_arms_that_alternate_have_a_lane_each(front_raise_alternating):
    drawing = tempo_ribbon(ribbon_state(front_raise_alternating), 1100, 120)
    assert {"left", "right"} <= set(drawing.words())


# The stage and its evidence


def test_the_stage_says_where_we_are_and_the_live_angle(curl):
    rep = curl.review.reps[7]
    drawing = stage(StageState(curl, rep.turn_s, "left"), 540, 500)
    words = drawing.words()
    assert any(w.startswith("rep 8 · top hold") for w in words)
    assert any(w.startswith("elbow 13") for w in words)


def test_everything_on_the_stage_is_on_the_sheet(curl):
    drawing = stage(StageState(curl, 12.0, "left"), 540, 500)
    for item in drawing.items:
        if isinstance(item, Stroke | Area):
            assert item.points[:, 0].min() > -40
            assert item.points[:, 0].max() < 580


def test_the_drifting_arm_is_shown_as_a_wedge_of_its_size(curl):
    finding = find(curl, "upper-arm-drift")
    found = evidence(curl, finding, finding.at_s)
    assert isinstance(found, Wedge)
    wedge = angle((found.actual - found.joint, found.wanted - found.joint))
    assert wedge == pytest.approx(finding.value, abs=2.0)
    allowed = angle((found.limit - found.joint, found.wanted - found.joint))
    assert allowed == pytest.approx(finding.limit, abs=0.1)
    words = stage(StageState(curl, finding.at_s, "left", finding), 540, 500).words()
    assert "limit" in words
    assert any("allowed 12°" in w for w in words)


CASES = [
    ("standing-barbell-curl", None, "torso-swing", 20.0, Wedge),
    ("standing-barbell-curl", None, "range-short", 30.0, Wedge),
    ("standing-barbell-curl", None, "shoulder-hike", 18.0, Level),
    ("standing-barbell-curl", None, "wrist-bend", 80.0, Wedge),
    ("standing-barbell-curl", "rising-upper-arm", "end-point", 24.0, Level),
    ("lateral-raise-dumbbell", None, "elbow-bend-change", 32.0, Wedge),
    ("lateral-raise-dumbbell", None, "range-over", 32.0, Wedge),
    ("overhead-press-dumbbell", None, "left-right", 34.0, Wedge),
    ("overhead-press-dumbbell", None, "torso-lean", 12.0, Wedge),
    ("cable-cross-raise-low", None, "end-point", 12.0, Level),
    ("cross-cable-rear-fly", None, "elbow-low", 70.0, Level),
    ("cross-cable-rear-fly", None, "range-short", 32.0, Wedge),
]


@pytest.mark.parametrize(("id", "school", "check", "size", "kind"), CASES)
def test_each_fault_that_can_be_seen_is_drawn(id, school, check, size, kind):
    measured = measured_set(id, school, reps=3, faults={check: size})
    finding = next(
        f for f in measured.review.findings if f.rule.name == check and f.verdict == "off"
    )
    found = evidence(measured, finding, finding.at_s)  # type: ignore[arg-type]
    assert isinstance(found, kind)
    plain = stage(StageState(measured, finding.at_s, measured.looking), 540, 500)  # type: ignore[arg-type]
    shown = stage(StageState(measured, finding.at_s, measured.looking, finding), 540, 500)  # type: ignore[arg-type]
    assert len(shown.items) > len(plain.items)
    picture = portrait(measured, finding, 190, 220)
    assert any(getattr(i, "role", "") == "off" for i in picture.items)


def test_tempo_is_shown_as_bars_against_the_limit():
    measured = measured_set("rope-pushdown", reps=4, faults={"too-fast-lower": 0.6})
    finding = find(measured, "too-fast-lower")
    assert evidence(measured, finding, finding.at_s) is None
    picture = portrait(measured, finding, 190, 220)
    bars = [i for i in picture.items if isinstance(i, Area)]
    assert len(bars) == 4
    assert all(b.role == "off" for b in bars)


def test_a_finding_without_a_verdict_says_how_to_film(raise_from_the_front):
    finding = find(raise_from_the_front, "torso-swing")
    words = stage(StageState(raise_from_the_front, 3.0, "front", finding), 540, 500).words()
    assert any("film from the side" in w for w in words)


def test_the_lever_of_a_free_weight_is_its_level_distance(curl):
    rep = curl.review.reps[0]
    at = curl.index(0.5 * (rep.lift.start_s + rep.lift.end_s))
    pull = pull_at(curl, "left", at)
    assert pull.toward[1] < pull.hand[1]
    assert pull.toward[0] == pull.hand[0]
    assert pull.lever_m == pytest.approx(np.hypot(*(pull.hand - pull.joint)[[0, 2]]))
    assert pull.lever_m > 0.25


def test_a_cable_pulls_toward_its_pulley():
    measured = measured_set("rope-pushdown", reps=2)
    pull = pull_at(measured, "left", measured.index(measured.review.reps[0].start_s))
    assert pull.toward[1] > pull.hand[1]
    assert not pull.assumed
    along = (pull.toward - pull.hand) / np.linalg.norm(pull.toward - pull.hand)
    assert np.dot(pull.foot - pull.joint, along) == pytest.approx(0.0, abs=1e-6)


def test_a_pulley_that_was_not_marked_stands_where_the_standard_puts_it():
    measured = measured_set("rope-pushdown", reps=2)
    points = {n: p for n, p in measured.body.points.items() if not n.endswith("pulley")}
    marked = pull_at(measured, "left", 60)
    bare = Body(measured.body.cleaned)
    bare.__dict__["points"] = points
    guessed = pull_at(ShownSet(measured.review, bare, measured.repset), "left", 60)
    assert guessed.assumed
    assert guessed.toward == pytest.approx(marked.toward, abs=0.05)


def test_a_strip_along_a_path_is_as_wide_as_asked():
    path = np.stack((np.linspace(0, 100, 20), np.zeros(20)), axis=-1)
    outline, (a, b) = band(path, 6.0)
    assert np.abs(a - b)[:, 1] == pytest.approx(12.0)
    assert len(outline) == 40


def test_the_shelf_has_a_cell_for_each_rep(curl):
    state = ShelfState(curl, ("both", 2), frozenset({("both", 6), ("both", 7)}))
    drawing = rep_shelf(state, 280, 110)
    numbers = [i for i in drawing.items if isinstance(i, Words)]
    assert [n.text for n in numbers] == [str(i) for i in range(1, 11)]
    for i, item in enumerate(numbers):
        assert shelf_rep_at(state, 280, 110, item.x, item.y - 20).number == i + 1
    assert shelf_rep_at(state, 280, 110, 5000, 50) is None


# Words


def test_numbers_in_words():
    assert amount(17.4, "deg") == "17°"
    assert amount(1.44, "s") == "1.4 s"
    assert spread(0.2, "deg") == "1°"
    assert rep_list((3,)) == "rep 3"
    assert rep_list((1, 4, 5, 6)) == "reps 1, 4–6"
    assert day_words("2031-02-03T18:30") == "3 Feb 2031"
    assert day_words("someday") == "someday"
    assert moment_words("2031-02-03T18:30") == "3 Feb 2031, 18:30"
    assert moment_words("2031-02-03") == "3 Feb 2031"
    assert moment_words("some other long ago day") == "some other long ago day"


def test_moments_in_words(curl):
    review = curl.review
    first = review.reps[0]
    assert phase_words(review, 0.1).startswith("before the first lift")
    assert phase_words(review, first.lift.start_s + 0.1) == "rep 1 · lift · 0.10 s"
    assert "lower" in phase_words(review, first.lower.start_s + 0.2)
    assert phase_words(review, review.reps[-1].end_s + 0.5).startswith("after the set")


def test_findings_and_trust_in_words(curl, raise_from_the_front):
    drift = find(curl, "upper-arm-drift")
    assert sure_words(drift) == f"± {spread(drift.uncertainty, 'deg')}, allowed 12° · reps 6–10"
    first, second = trust_lines(curl.review)
    assert first.startswith("Recorded in 3D · true lengths · noise 5 mm")
    assert second == ""
    assert "Can't tell from here: torso swings" in trust_lines(raise_from_the_front.review)[1]
    assert next_words(curl.review.next_time) == "3 × 8–12, 2 s lowering"
    assert tempo_words(curl.review.tempo) == "2 s lower · 1 s lift"


def test_an_intended_range_knows_its_direction():
    assert Range(10, 130, 12).direction == 1
    assert Range(100, 10, 12).direction == -1


def test_a_track_of_arms_and_trunk_alone_is_reviewed_and_drawn():
    """No head, no hands, no legs: what rests on them can't be told, the rest can."""
    done = filmed("standing-barbell-curl", reps=4, noise=0.003, faults={"torso-swing": 20.0})
    names = [
        n for n in done.track.names if n.partition("_")[2] in ("shoulder", "elbow", "wrist", "hip")
    ]
    at = [done.track.names.index(n) for n in names]
    track = LandmarkTrack(
        time_s=done.track.time_s,
        names=tuple(names),
        position=done.track.position[:, at],
        confidence=done.track.confidence[:, at],
    )
    measured = ShownSet(*review_with_body(track, standard("standing-barbell-curl"), also=BODY))
    verdict = {f.rule.name: f.verdict for f in measured.review.findings}
    assert len(measured.review.reps) == 4
    assert verdict["torso-swing"] == "off"
    assert verdict["shoulder-hike"] == verdict["wrist-bend"] == "cannot-tell"
    for finding in measured.review.findings:
        words = stage(StageState(measured, finding.at_s or 3.0, "left", finding), 540, 500).words()
        assert words
    assert portrait(measured, find(measured, "torso-swing"), 190, 220).items


@slow
def test_a_long_set_has_as_many_cells_and_numbers_as_there_is_room_for():
    many = measured_set("rope-pushdown", reps=60, tempo=Tempo(1.0, 0.0, 0.6, 0.0))
    state = ShelfState(many, ("both", 37))
    drawing = rep_shelf(state, 280, 110)
    numbers = [i for i in drawing.items if isinstance(i, Words)]
    assert len(numbers) <= 12
    assert {"1", "37", "60"} <= {n.text for n in numbers}
    middle = next(n for n in numbers if n.text == "37")
    assert shelf_rep_at(state, 280, 110, middle.x, middle.y - 10).number == 37
    ribbon = RibbonState(
        float(many.time_s[-1]), 0.0, many.tracks, many.review.tempo, {}, chosen=("both", 37)
    )
    told = sorted(
        (w.x, w.text) for w in tempo_ribbon(ribbon, 600, 110).items if isinstance(w, Words)
    )
    assert any(text == "37" for _, text in told)
    assert all(b[0] - a[0] > 18 for a, b in itertools.pairwise(told))


def test_a_lever_arm_is_as_sure_as_the_pictures_scale(
    curl: ShownSet, raise_from_the_front: ShownSet
) -> None:
    def levers(measured: ShownSet, looking: str) -> list[str]:
        at_s = measured.review.reps[0].turn_s
        words = stage(StageState(measured, at_s, looking), 540, 500).words()  # type: ignore[arg-type]
        return [w for w in words if w.endswith(" cm")]

    assert all("±" not in w for w in levers(curl, "left"))
    [lever] = levers(raise_from_the_front, "front")
    assert "±" in lever


def test_a_finding_that_holds_is_not_drawn_as_a_fault(curl: ShownSet):
    swing = next(f for f in curl.review.findings if f.rule.name == "torso-swing")
    drift = next(f for f in curl.review.findings if f.rule.name == "upper-arm-drift")
    assert (swing.verdict, drift.verdict) == ("ok", "off")

    def roles(finding: Finding, at_s: float) -> set[str]:
        out = stage(StageState(curl, at_s, "left", finding), 540, 500)
        return {item.role for item in out.items if isinstance(item, Stroke | Area)}

    assert "off" in roles(drift, drift.at_s or 0.0)
    assert "off" not in roles(swing, swing.at_s or curl.review.reps[0].turn_s)
    # The first reps hold: their verdict counts, not the set's.
    assert "off" not in roles(drift, curl.review.reps[0].turn_s)


@pytest.mark.parametrize("width", [300, 480, 900])
def test_over_the_weeks_no_dot_lies_on_words(width):
    points = tuple(Point(7 * i, 20.0 + 9 * (-1) ** i, 4.0, i, off=i == 2) for i in range(9))
    words = "too early to tell: it takes 6 like sets"
    measures = [
        Measure("between the arms", "deg", points, None, "29° ± 4°", words, limit)
        for limit in (None, 15.0, 60.0)
    ]
    sheet = weeks_sheet(width, measures, chosen=8)
    marks = [
        (s.points.min(axis=0), s.points.max(axis=0))
        for s in sheet.items
        if isinstance(s, (Stroke, Area)) and np.ptp(np.asarray(s.points)[:, 0]) < 12
    ]
    marks += [
        (np.array((d.x - d.radius, d.y - d.radius)), np.array((d.x + d.radius, d.y + d.radius)))
        for d in sheet.items
        if isinstance(d, Disc)
    ]
    assert len(marks) > 3 * 9
    for said in (s for s in sheet.items if isinstance(s, Words)):
        low = np.array((said.x, said.y - 0.75 * said.size))
        high = np.array((said.x + 0.55 * said.size * len(said.text), said.y + 0.2 * said.size))
        assert high[0] <= width
        on_it = [m for m in marks if (m[0] < high).all() and (m[1] > low).all()]
        assert not on_it, said.text
