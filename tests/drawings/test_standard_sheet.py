"""The standard's figure: turning it, what is drawn on it, and what a dragged ring asks for."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from builders import every_school
from guide_arc.drawings.figure import Frame, nearest_look
from guide_arc.drawings.shapes import Area, Disc, Drawing, Stroke, Words
from guide_arc.drawings.standard_sheet import (
    LOOK_DEG,
    SheetState,
    dragged,
    film,
    handles,
    phase_bar,
    sheet,
    shown_part,
    stays,
)
from guide_arc.standards.loader import shipped, standard
from guide_arc.standards.proof import BRISK, Cycle, cycle_of

SIZE = (380.0, 520.0)


def state_of(cycle: Cycle, at_s: float = 0.8, turn: float | None = None, **more: Any) -> SheetState:
    look = LOOK_DEG[cycle.standard.views[0]] if turn is None else turn
    return SheetState(cycle.standard, cycle.pose(at_s), cycle.extent, look, **more)


def places(drawing: Drawing) -> np.ndarray:
    rows = [i.points for i in drawing.items if isinstance(i, (Stroke, Area))]
    rows += [np.array([[i.x, i.y]]) for i in drawing.items if isinstance(i, Disc)]
    return np.concatenate(rows)


@pytest.fixture(scope="module")
def curl() -> Cycle:
    return cycle_of(standard("standing-barbell-curl"), BRISK)


@pytest.fixture(scope="module")
def raised() -> Cycle:
    return cycle_of(standard("lateral-raise-dumbbell"), BRISK)


@pytest.mark.parametrize(("id", "school"), every_school())
def test_every_school_is_drawn_whole_and_can_be_filmed(id, school):
    plan = standard(id, school)
    cycle = cycle_of(plan, BRISK)
    drawn = sheet(state_of(cycle), *SIZE)
    spots = places(drawn)
    assert np.isfinite(spots).all()
    body = np.concatenate(
        [i.points for i in drawn.items if isinstance(i, Stroke) and i.role == "actual"]
    )
    assert (body >= -25).all()
    assert (body[:, 0] <= SIZE[0] + 25).all()
    assert (body[:, 1] <= SIZE[1] + 25).all()
    moving = film(plan, cycle.time_s, cycle.points, cycle.extent, 142.0, 100.0)
    assert len(moving.head) > 8
    assert {len(line) for line in (*moving.bones, *moving.arcs)} == {len(moving.head)}
    lines = np.concatenate([b.reshape(-1, 2) for b in moving.bones])
    assert np.isfinite(lines).all()
    assert lines[:, 0].min() > -12
    assert lines[:, 0].max() < 154


def test_a_film_goes_round_at_its_own_pace(curl):
    moving = film(curl.standard, curl.time_s, curl.points, curl.extent, 142.0, 100.0)
    assert moving.index(0.0) == 0
    assert moving.index(moving.frame_s * 3.5) == 3
    assert moving.index(curl.length_s + 0.01) == 0
    wrist = moving.bones[0][:, 2]
    assert np.ptp(wrist[:, 1]) > 8


def test_turning_keeps_heights_and_swaps_sides(curl):
    pose = curl.pose(0.0)
    front, back = (Frame("front", 100.0, 0.0, 0.0, turn) for turn in (0.0, 180.0))
    left = pose["left_shoulder"]
    assert front.place(left)[1] == pytest.approx(back.place(left)[1])
    assert front.place(left)[0] == pytest.approx(-back.place(left)[0])
    straight = Frame("left", 100.0, 0.0, 0.0)
    assert Frame("left", 100.0, 0.0, 0.0, 90.0).place(left) == pytest.approx(straight.place(left))


@pytest.mark.parametrize(
    ("turn", "look"),
    [(0, "front"), (80, "left"), (100, "left"), (190, "back"), (-80, "right"), (350, "front")],
)
def test_the_nearest_straight_look(turn, look):
    assert nearest_look(turn) == look


def test_a_far_arm_is_faint_only_straight_from_the_side():
    straight, oblique = Frame("left", 1.0, 0, 0, 90.0), Frame("left", 1.0, 0, 0, 65.0)
    assert straight.far("right")
    assert not straight.far("left")
    assert not oblique.far("right")
    assert oblique.oblique


def test_the_sheet_says_what_must_stay_and_where_it_ends(curl):
    said = sheet(state_of(curl), *SIZE).words()
    legend = " ".join(said)
    for name in ("upper-arm-drift", "torso-swing", "shoulder-hike", "wrist-bend"):
        assert stays()[name].words in legend
    assert {"start", "turn"} <= set(said)
    marked = sheet(state_of(curl, marked="torso-swing"), *SIZE)
    strong = [i for i in marked.items if isinstance(i, Words) and i.bold]
    assert [w.text for w in strong] == ["torso stays"]
    rising = cycle_of(standard("standing-barbell-curl", "rising-upper-arm"), BRISK)
    assert "hand at nose height" in sheet(state_of(rising), *SIZE).words()


def test_a_way_back_is_drawn_broken_beside_the_way_up():
    band = cycle_of(standard("band-up-and-over"), BRISK)
    broken = [
        i
        for i in sheet(state_of(band), *SIZE).items
        if isinstance(i, Stroke) and i.role == "guide" and i.dash and i.width > 1.2
    ]
    assert len(broken) == 2
    plain = cycle_of(standard("dumbbell-diagonal-raise"), BRISK)
    assert not [
        i
        for i in sheet(state_of(plain), *SIZE).items
        if isinstance(i, Stroke) and i.role == "guide" and i.dash and i.width > 1.2
    ]


def test_what_is_shown_follows_the_joint_that_works(curl, raised):
    assert shown_part(curl.standard) == "wrist"
    assert shown_part(raised.standard) == "elbow"
    assert set(handles(state_of(curl), *SIZE)) == {"start", "turn"}
    assert set(handles(state_of(raised), *SIZE)) == {"start", "turn", "corridor"}
    crunch = cycle_of(standard("kneeling-cable-crunch"), BRISK)
    assert handles(state_of(crunch), *SIZE) == {}
    assert handles(state_of(curl, rings=False), *SIZE) == {}


@pytest.mark.parametrize(
    "id", [i for i in shipped() if standard(i).drive in ("elbow_flexion", "shoulder_elevation")]
)
def test_a_ring_dragged_to_where_it_is_changes_nothing(id):
    plan = standard(id)
    state = state_of(cycle_of(plan, BRISK), 0.0, LOOK_DEG[plan.views[0]])
    found = handles(state, *SIZE)
    for handle, end in (("start", plan.start), ("turn", plan.turn)):
        if handle not in found:
            continue
        value = end.elbow_deg if plan.drive == "elbow_flexion" else end.elevation_deg
        asked = dragged(state, handle, *found[handle], *SIZE)  # type: ignore[call-arg]
        assert min(abs(v - value) for v in asked.values()) < 8.0


def test_a_ring_dragged_along_the_arc_asks_for_that_angle(raised):
    state = state_of(raised, 0.0, 0.0)
    found = handles(state, *SIZE)
    half = dragged(state, "turn", *(0.35 * found["start"] + 0.65 * found["turn"]), *SIZE)  # type: ignore[call-arg]
    assert set(half) == {"range.to_deg", "pose.turn.arm.elevation_deg"}
    assert 45 < half["range.to_deg"] < 75
    wide = dragged(state, "corridor", *(found["corridor"] + np.array([30.0, -10.0])), *SIZE)  # type: ignore[call-arg]
    narrow = dragged(  # type: ignore[call-arg]
        state, "corridor", *(0.5 * (found["start"] + found["turn"]) + np.array([9.0, 4.0])), *SIZE
    )
    (key,) = wide
    assert key == "check.elbow-path.limit_pct"
    assert wide[key] > 30 > narrow[key]


def test_a_wider_corridor_is_drawn_wider(raised):
    def breadth(limit: float) -> float:
        plan = raised.standard
        checks = tuple(
            replace(c, limit=limit) if c.name == "elbow-path" else c for c in plan.checks
        )
        state = replace(state_of(raised, 0.0, 0.0), standard=replace(plan, checks=checks))
        area = next(i for i in sheet(state, *SIZE).items if isinstance(i, Area))
        return float(np.ptp(area.points[:, 0]))

    assert breadth(60.0) > breadth(20.0) + 10


def test_the_phases_are_in_true_proportion():
    drawn = phase_bar(
        (("lift", 0.0, 1.0), ("top_hold", 1.0, 2.0), ("lower", 2.0, 5.0)), 5.0, 2.5, 516.0, 46.0
    )
    widths = [np.ptp(i.points[:, 0]) for i in drawn.items if isinstance(i, Area)]
    assert widths == pytest.approx([100.0, 100.0, 300.0])
    assert drawn.words() == ["lift 1.0 s", "hold 1.0 s", "lower 3.0 s"]
    (clock,) = [i for i in drawn.items if isinstance(i, Stroke)]
    assert clock.points[0, 0] == pytest.approx(258.0)
