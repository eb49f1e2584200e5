"""Scale and vertical from drawn lines, what they do to a review, and what their lack costs."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from builders import filmed, reviewed
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.calibrate import calibration_of
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.mechanics.off_plane import off_plane_in_picture
from guide_arc.core.mechanics.pull import pull_of
from guide_arc.core.model.calibration import Calibration
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.marks import Line, Mark, Marks, asked_points
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.rep import Span
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.review.assess import review_set, review_with_body
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.formats.track_csv import csv_text
from guide_arc.formats.track_file import parse_track
from guide_arc.formats.track_json import json_text
from guide_arc.standards.loader import standard


def test_a_known_length_gives_the_scale() -> None:
    known = calibration_of(
        Marks("left").with_line(Line("length", 10, 20, 10, 245, 0.45, "a large plate"))
    )
    assert known.px_per_m is not None
    assert known.px_per_m.value == pytest.approx(500.0)
    assert 0.03 < known.px_per_m.u / 500.0 < 0.04
    assert known.scale_from == "a large plate"
    assert known.vertical_deg is None


@pytest.mark.parametrize(
    "line",
    [
        Line("plumb", 100, 500, 117.46, 0),
        Line("plumb", 117.46, 0, 100, 500),
        Line("level", 0, 100, 500, 117.46),
        Line("level", 500, 117.46, 0, 100),
    ],
)
def test_a_line_says_how_the_vertical_leans_whichever_way_it_is_drawn(line: Line) -> None:
    vertical = calibration_of(Marks("front").with_line(line)).vertical_deg
    assert vertical is not None
    assert vertical.value == pytest.approx(2.0, abs=0.01)
    assert 0.2 < vertical.u < 1.0


def test_two_lines_are_surer_than_one() -> None:
    plumb = Line("plumb", 100, 500, 110, 0)
    level = Line("level", 0, 100, 500, 110)
    one = calibration_of(Marks("left").with_line(plumb)).vertical_deg
    two = calibration_of(Marks("left").with_line(plumb).with_line(level)).vertical_deg
    assert one is not None
    assert two is not None
    assert two.u < one.u


@pytest.mark.parametrize("view", ["left", "right", "front", "back"])
def test_a_drawn_vertical_takes_the_cameras_roll_out(view: str) -> None:
    plan = standard("standing-barbell-curl")
    camera = Camera(view, 30.0, 0.5, 0.0, 0.0, 6.0)  # type: ignore[arg-type]
    track = perform(plan, Script(reps=2), camera, 3).track
    drawn = replace(track, calibration=Calibration(None, Quantity(6.0, 0.3)))
    body = Body(clean(drawn))
    roll = body.cleaned.roll
    assert roll is not None
    assert abs(roll.deg) == pytest.approx(6.0)
    measure = "trunk_lean" if view in ("left", "right") else "trunk_side_lean"
    level = perform(plan, Script(reps=2), replace(camera, roll_deg=0.0), 3).track
    true = Body(clean(replace(level, calibration=Calibration(None, Quantity(0.0, 0.3)))))
    assert np.nanmedian(body.measure(measure).value) == pytest.approx(
        np.nanmedian(true.measure(measure).value), abs=0.5
    )


def test_without_a_plumb_line_leans_are_less_sure() -> None:
    track = filmed("standing-barbell-curl", view="left", noise=0.5, reps=2).track
    drawn = replace(track, calibration=Calibration(None, Quantity(0.0, 0.3)))
    guessed_u = np.nanmedian(Body(clean(track)).measure("trunk_lean").u)
    drawn_u = np.nanmedian(Body(clean(drawn)).measure("trunk_lean").u)
    assert guessed_u > drawn_u + 0.5


def test_the_trust_strip_says_what_is_missing_and_what_it_costs() -> None:
    review, _ = reviewed("standing-barbell-curl", view="left", noise=0.5, reps=2)
    assert len(review.trust.missing) == 2
    assert "no known length, so lengths ± 10 %" in review.trust.missing
    assert "no plumb line, so leans ±" in review.trust.missing[1]
    in_space, _ = reviewed("standing-barbell-curl", reps=2)
    assert in_space.trust.missing == ()


def test_a_known_length_scales_the_body() -> None:
    track = filmed("standing-barbell-curl", view="left", reps=2).track
    known = replace(track, calibration=Calibration(Quantity(300.0, 5.0), None, "a long bar"))
    body = Body(clean(known))
    assert body.cleaned.metres_per_px == pytest.approx(1 / 300)
    review = review_set(known, standard("standing-barbell-curl"))
    assert review.trust.scale == "scale from a long bar, ± 3 %"
    assert "no known length" not in " ".join(review.trust.missing)


def test_joints_near_the_picture_s_edge_are_told() -> None:
    track = filmed("overhead-press-dumbbell", view="front", reps=2).track
    low = float(np.nanmin(track.position[..., 1]))
    moved = replace(track, position=track.position - np.array([0.0, low - 4.0]))
    doubts = review_set(moved, standard("overhead-press-dumbbell")).trust.doubts
    assert any("near the picture's edge" in d and d.startswith("the hands") for d in doubts)
    assert not any(
        "edge" in d for d in review_set(track, standard("overhead-press-dumbbell")).trust.doubts
    )


@pytest.mark.parametrize("text_of", [csv_text, json_text])
def test_a_calibration_stays_with_its_track(text_of) -> None:
    track = filmed("standing-barbell-curl", view="left", reps=1).track
    known = Calibration(Quantity(311.5, 9.25), Quantity(-1.5, 0.4), "a large plate")
    again = parse_track(text_of(replace(track, calibration=known)).encode(), "t.csv")
    assert again.calibration == known
    assert again.facts.other == {}


def test_a_calibration_that_can_t_be_is_refused() -> None:
    with pytest.raises(BadInput):
        Calibration(Quantity(0.0, 1.0))
    with pytest.raises(BadInput):
        Calibration(None, Quantity(60.0, 1.0))


def _cable_moved(track: LandmarkTrack, aside_px: float) -> LandmarkTrack:
    position = track.position.copy()
    position[:, track.names.index("left_pulley"), 0] += aside_px
    return replace(track, position=position)


def test_a_cable_beside_the_arm_s_plane_is_measured_where_the_picture_shows_it() -> None:
    plan = standard("rope-pushdown")
    front = filmed("rope-pushdown", view="front", reps=2).track
    found = []
    for track in (front, _cable_moved(front, -120.0)):
        review, body, _ = review_with_body(track, plan, also=("left_pulley",))
        lifts = [r.lift for r in review.reps]
        lifts = lifts or [Span(2.0, 4.0)]
        found.append(off_plane_in_picture(body, plan, "left", pull_of(body, plan, "left"), lifts))
    assert found[0] is not None
    assert found[1] is not None
    assert found[1].value > found[0].value + 8.0
    side = filmed("rope-pushdown", view="left", reps=2).track
    review, body, _ = review_with_body(side, plan, also=("left_pulley",))
    pull = pull_of(body, plan, "left")
    assert off_plane_in_picture(body, plan, "left", pull, [r.lift for r in review.reps]) is None


def test_a_shrug_does_not_shorten_the_arm() -> None:
    """A raised shoulder lengthens what is seen of the trunk: the arm is not measured against
    that."""
    review, _ = reviewed(
        "lateral-raise-dumbbell", view="front", reps=6, faults={"shoulder-hike": 20.0}, fault_from=3
    )
    off = {f.rule.name for f in review.with_verdict("off")}
    assert off == {"shoulder-hike"}
    assert all(r.from_deg < 20 for r in review.reps)


def test_marks_are_one_document() -> None:
    marks = (
        Marks("left").with_mark("left_knee", Mark(9, 1, 2)).with_mark("left_knee", Mark(3, 5, 6))
    )
    assert [m.frame for m in marks.points["left_knee"]] == [3, 9]
    moved = marks.with_mark("left_knee", Mark(3, 7, 8))
    assert moved.count == 2
    assert moved.marked("left_knee", 3) == Mark(3, 7, 8)
    assert marks.marked("left_knee", 3) == Mark(3, 5, 6)
    assert "left_knee" not in moved.without_mark("left_knee", 3).without_mark("left_knee", 9).points
    lines = marks.with_line(Line("plumb", 0, 0, 0, 9)).with_line(Line("plumb", 1, 0, 1, 9))
    assert lines.lines == (Line("plumb", 1, 0, 1, 9),)
    assert lines.without_line("plumb").lines == ()


def test_the_joints_are_asked_for_from_the_head_down() -> None:
    assert asked_points("right")[0] == "right_ear"
    assert all(n.startswith("right_") for n in asked_points("right"))
    assert asked_points("front")[:2] == ("right_ear", "left_ear")
    assert asked_points("back")[:2] == ("left_ear", "right_ear")
