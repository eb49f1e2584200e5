"""Traces, paths, numbers, comparison and ghosts as drawings: what stands on them, and where."""

from __future__ import annotations

import numpy as np
import pytest

from builders import measured_set
from guide_arc.core.model.rep import Span
from guide_arc.core.model.settings import Correction, Settings
from guide_arc.core.review.compare import compare, whole_set
from guide_arc.drawings.comparison import ComparisonState, comparison
from guide_arc.drawings.ghost import Ghost, usual_rep
from guide_arc.drawings.numbers import ROW, NumbersState, lines_of, numbers
from guide_arc.drawings.paths import PathState, path_panel
from guide_arc.drawings.ribbon import RibbonState, edge_near, edges_of, tempo_ribbon, x_of
from guide_arc.drawings.shapes import Area, Disc, Drawing, Stroke, Words
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.drawings.stage import StageState, stage
from guide_arc.drawings.traces import TraceState, can_show, trace_words, traces, usual_traces
from guide_arc.drawings.words import rep_name


def inside(drawing: Drawing) -> bool:
    """Whether no word starts or ends outside its sheet."""
    return all(
        -1 <= w.x <= drawing.width + 1 and 0 <= w.y <= drawing.height + 1
        for w in drawing.items
        if isinstance(w, Words)
    )


def trace_state(measured: ShownSet, shown, **more) -> TraceState:
    return TraceState(measured, shown, 0.0, float(measured.time_s[-1]), **more)


def test_traces_are_stacked_with_their_uncertainty(curl):
    shown = usual_traces(curl)
    drawing = traces(trace_state(curl, shown, chosen=("both", 8)), 1100, 220)
    assert [trace_words(t) in drawing.words() for t in shown] == [True] * len(shown)
    assert sum("good to ±" in w for w in drawing.words()) == len(shown)
    bands = [i for i in drawing.items if isinstance(i, Area) and i.role == "guide-soft"]
    assert len(bands) == len(shown)
    assert inside(drawing)


def test_the_load_of_the_kit_is_a_trace_where_its_line_is_known(curl, raise_from_the_front):
    assert ("load", "left") in usual_traces(curl)
    words = traces(trace_state(curl, (("load", "left"),)), 1100, 120).words()
    assert "left load of the kit" in words
    assert any(" cm of lever" in w or " Nm" in w for w in words)
    assert ("load", "left") in can_show(raise_from_the_front)


def test_traces_of_alternating_arms_name_the_arm(front_raise_alternating):
    drawing = traces(
        trace_state(front_raise_alternating, usual_traces(front_raise_alternating)), 900, 200
    )
    assert {"1L", "1R", "4L", "4R"} <= set(drawing.words())


def test_a_picture_offers_only_what_it_shows(raise_from_the_front):
    offered = {measure for measure, _ in can_show(raise_from_the_front)}
    assert offered == {
        "shoulder_elevation",
        "trunk_side_lean",
        "shoulder_hike",
        "elbow_height",
        "load",
    }
    # From the side the arms go towards the camera, and their lever with them.
    side = measured_set("lateral-raise-dumbbell", reps=2, view="left", noise=1.0)
    assert "load" not in {measure for measure, _ in can_show(side)}
    assert (
        "choose measures to trace" in traces(trace_state(raise_from_the_front, ()), 400, 80).words()
    )


def test_the_path_panel_tells_how_far_and_which_way(curl):
    drawing = path_panel(PathState(curl, "left", ("both", 8)), 480, 480)
    words = " ".join(drawing.words())
    assert "elbow: 4" in words
    assert "of the arm ahead, at the turn" in words
    assert "seen from the front" in words
    assert "seen from the side" in words
    strong = [i for i in drawing.items if isinstance(i, Stroke) and i.width > 2.0]
    assert len(strong) >= 4
    assert inside(drawing)


def test_one_view_has_one_plot_and_no_words_over_each_other(raise_from_the_front):
    drawing = path_panel(PathState(raise_from_the_front, "left", ("both", 2)), 470, 480)
    assert "seen from the side" not in drawing.words()
    assert inside(drawing)


def test_an_arm_that_is_not_seen_has_no_path():
    one = measured_set("one-arm-dumbbell-row", reps=3, arms="left")
    drawing = path_panel(PathState(one, "right"), 400, 400)
    assert drawing.words() == ["The path of the right arm is not seen in this recording."]


def test_the_numbers_of_the_chosen_rep_with_their_uncertainty(curl):
    lines = lines_of(curl.figures)
    drawing = numbers(NumbersState(lines, ("both", 8)), 320)
    assert drawing.height >= ROW * len(lines)
    told = dict(zip(drawing.words(), drawing.words()[1:], strict=False))
    assert told["range"].startswith("12")
    assert "±" in told["range"]
    assert told["upper arm moved, left"].startswith("24°") or told[
        "upper arm moved, left"
    ].startswith("25°")
    large = [i for i in drawing.items if isinstance(i, Disc) and i.fill == "guide"]
    assert len(large) == len([line for line in lines if dict(line.values)[("both", 8)] is not None])


def test_numbers_without_a_chosen_rep_give_the_span(curl):
    words = numbers(NumbersState(lines_of(curl.figures)), 320).words()
    assert any(" to " in w for w in words)
    assert numbers(NumbersState(()), 320).words() == ["No reps to measure."]


def test_a_comparison_says_what_changed_first(curl):
    before = measured_set("standing-barbell-curl", reps=8, seed=40)
    taken = [whole_set(m.review, m.body, m.figures) for m in (before, curl)]
    state = ComparisonState(compare(*taken), "the set before", "this set")
    words = comparison(state, 330).words()
    assert words.index("Changed") < words.index("Unchanged within the uncertainty")
    assert any(w.startswith("moves more: ") for w in words)
    same = [taken[0], taken[0]]
    assert (
        "No change is larger than its uncertainty."
        in comparison(ComparisonState(compare(*same), "a", "b"), 330).words()
    )


def test_a_ghost_stands_on_the_same_hips_at_the_same_point_of_its_rep(curl):
    first, eighth = curl.review.reps[0], curl.review.reps[7]
    ghost = Ghost(curl, first, rep_name(first), own=True)
    pose = ghost.pose(curl, eighth.turn_s)
    here = curl.pose(eighth.turn_s)
    hips = 0.5 * (pose["left_hip"] + pose["right_hip"])
    assert hips == pytest.approx(0.5 * (here["left_hip"] + here["right_hip"]), abs=1e-6)
    # At the turn both arms are bent; only the late rep's elbow has come forward.
    assert here["left_elbow"][2] - pose["left_elbow"][2] > 0.08
    assert ghost.pose(curl, 0.0) is None
    drawing = stage(StageState(curl, eighth.turn_s, "left", ghost=ghost), 500, 500)
    assert "ghost: rep 1" in drawing.words()
    outside = stage(StageState(curl, 0.0, "left", ghost=ghost), 500, 500)
    assert "ghost: rep 1 (within reps only)" in outside.words()


def test_another_body_as_ghost_is_as_large(curl):
    small = measured_set("standing-barbell-curl", reps=3, stature_m=1.55)
    rep = usual_rep(small)
    pose = Ghost(small, rep, "the set before", own=False, set_id=2).pose(  # type: ignore[arg-type]
        curl, curl.review.reps[0].turn_s
    )
    trunk = np.linalg.norm(pose["left_shoulder"] - pose["left_hip"])
    own = curl.pose(curl.review.reps[0].turn_s)
    assert trunk == pytest.approx(np.linalg.norm(own["left_shoulder"] - own["left_hip"]), rel=0.05)


def ribbon_of(measured: ShownSet, **more) -> RibbonState:
    return RibbonState(
        float(measured.time_s[-1]), 0.0, measured.tracks, measured.review.tempo, {}, **more
    )


def test_only_the_chosen_reps_boundaries_can_be_held(curl):
    state = ribbon_of(curl, chosen=("both", 3))
    rep = curl.review.reps[2]
    for edge, at_s in edges_of(rep):
        held = edge_near(state, 1000, x_of(state, 1000, at_s) + 1)
        assert held is not None
        assert held[0] is rep
        assert abs(held[2] - at_s) < 0.3, edge
    other = curl.review.reps[6].lift.start_s
    assert edge_near(state, 1000, x_of(state, 1000, other)) is None
    assert edge_near(ribbon_of(curl), 1000, x_of(state, 1000, rep.lift.start_s)) is None


def test_what_lies_outside_the_set_is_covered_and_doubts_are_marked(curl):
    state = ribbon_of(curl, bounds=Span(5.0, 20.0), doubts=(12.0,))
    drawing = tempo_ribbon(state, 1000, 110)
    covers = [i for i in drawing.items if isinstance(i, Area) and i.role == "paper"]
    assert len(covers) == 2
    assert "?" in drawing.words()


def test_corrected_reps_are_drawn_as_corrected(curl):
    fewer = curl.with_settings(Settings((Correction("delete", curl.review.reps[0].turn_s),)))
    assert len(fewer.review.reps) == len(curl.review.reps) - 1
    assert len(fewer.rings) == len(curl.rings) - 1
    assert sum(len(t.reps) for t in fewer.tracks) == len(fewer.review.reps)
