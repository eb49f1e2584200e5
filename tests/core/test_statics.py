"""Forces and moments against sums worked by hand, and against what must hold of any force."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import filmed
from guide_arc.core.mechanics.find_setup import Room, Wish, cost_of, find_setups
from guide_arc.core.mechanics.kit import (
    GRAVITY,
    AnchoredBar,
    Band,
    BodyWeight,
    Cable,
    Chain,
    FreeWeight,
    Machine,
    force_on,
)
from guide_arc.core.mechanics.path_load import load_along, own_kit
from guide_arc.core.mechanics.recorded_load import LANDMARKS, recorded_load
from guide_arc.core.mechanics.statics import ArmPoints, curve_of, elbow_axis, load_of, off_plane
from guide_arc.core.model.errors import BadInput
from guide_arc.core.review.assess import review_with_body
from guide_arc.core.simulate.on_path import path_of
from guide_arc.standards.loader import standard

UP = np.array([0.0, 1.0, 0.0])
SHARE = np.linspace(0.0, 1.0, 3)


def still(*points: tuple[float, float, float]) -> ArmPoints:
    """An arm that stands still for three frames: shoulder, elbow, wrist, grip."""
    shoulder, elbow, wrist, grip = (np.tile(np.array(p, dtype=float), (3, 1)) for p in points)
    return ArmPoints(shoulder, elbow, wrist, grip, grip)


# Upper arm hanging, forearm level ahead; the weight 0.28 m from the elbow.
LEVEL = still((0.2, 1.4, 0.0), (0.2, 1.08, 0.0), (0.2, 1.08, 0.25), (0.2, 1.08, 0.28))


def held(kit, arm=LEVEL, share=SHARE):
    force = force_on(kit, {"left": arm.grip}, share, {"left": np.tile(UP, (3, 1))})["left"]
    return load_of(arm, force, elbow_axis(arm, 1), "elbow", 75.0)


def test_a_ten_kilogram_dumbbell_on_a_level_forearm():
    load = held(FreeWeight(10.0, "dumbbell"))
    # 10 × 9.80665 N × 0.28 m = 27.46 N·m against the bend.
    assert load.against_nm[0] == pytest.approx(27.46, rel=5e-3)
    assert load.lever_m[0] == pytest.approx(0.28)
    assert load.force_n[0] == pytest.approx([0.0, -98.0665, 0.0])
    # About the shoulder, straight above the elbow, it is the same.
    assert load.shoulder_nm[0] == pytest.approx(load.elbow_nm[0])
    assert load.off_plane_deg[0] == pytest.approx(0.0, abs=1e-9)


def test_the_arms_own_weight():
    load = held(FreeWeight(0.0, "dumbbell"))
    assert load.limb_elbow_nm is not None
    assert load.limb_shoulder_nm is not None
    # Forearm 0.016 × 75 kg at 0.43 × 0.25 m; hand 0.006 × 75 kg at 0.25 + 0.506 × 0.03 m.
    by_hand = GRAVITY * (1.2 * 0.1075 + 0.45 * (0.25 + 0.506 * 0.03))
    assert np.linalg.norm(load.limb_elbow_nm[0]) == pytest.approx(by_hand, rel=5e-3)
    # The upper arm hangs under the shoulder and adds nothing.
    assert load.limb_shoulder_nm[0] == pytest.approx(load.limb_elbow_nm[0])


def test_a_cable_at_right_angles():
    # Straight down below the hand, 20 kg over a pulley that halves it: 98.07 N at 0.28 m.
    load = held(Cable(20.0, {"left": (0.2, 0.1, 0.28), "right": (0.2, 0.1, 0.28)}, ratio=2.0))
    assert load.against_nm[0] == pytest.approx(10.0 * GRAVITY * 0.28, rel=5e-3)
    # From 45° below and behind the lever is 0.28 × sin 45°.
    askew = held(Cable(20.0, {"left": (0.2, 0.08, -0.72), "right": (0.2, 0.08, -0.72)}, ratio=2.0))
    assert askew.against_nm[0] == pytest.approx(10.0 * GRAVITY * 0.28 * np.sin(np.pi / 4), rel=5e-3)


def test_a_band_at_a_hundred_and_fifty_percent():
    anchor = {"left": (0.2, 0.0, 0.28), "right": (0.2, 0.0, 0.28)}
    # 1.08 m long, 0.72 m at rest: half as long again, 0.36 m × 100 N/m.
    load = held(Band(anchor, 0.72, 100.0))  # type: ignore[arg-type]
    assert np.linalg.norm(load.force_n[0]) == pytest.approx(36.0, rel=5e-3)
    assert load.against_nm[0] == pytest.approx(36.0 * 0.28, rel=5e-3)
    table = Band(anchor, 0.72, table=((0.1, 12.0), (0.2, 20.0), (0.3, 26.0)))  # type: ignore[arg-type]
    # Past the table's end its last slope, 60 N/m, goes on.
    assert np.linalg.norm(held(table).force_n[0]) == pytest.approx(26.0 + 0.06 * 60.0, rel=5e-3)
    assert not held(Band(anchor, 1.2, 100.0)).force_n.any()  # type: ignore[arg-type]


def test_half_a_chain_lifted():
    # The hand 1.08 m over the floor lifts 1.08 of 2.16 m: 20 + 5 × 1.08 kg.
    load = held(Chain(20.0, 5.0, 2.16, 0.0))
    assert load.force_n[0, 1] == pytest.approx(-25.4 * GRAVITY, rel=5e-3)
    lies = held(Chain(20.0, 5.0, 2.16, 1.2))
    assert lies.force_n[0, 1] == pytest.approx(-20.0 * GRAVITY, rel=5e-3)


def test_a_bar_anchored_at_two_metres_twenty():
    # Pivot on the floor 1.92 m ahead of and 1.08 m under the hand: the bar is 2.203 m to the hand.
    bar = AnchoredBar((0.2, 0.0, 2.20), 20.0, 2.2, 10.0, 2.0)
    load = held(bar)
    level, reach = 1.92, np.hypot(1.92, 1.08)
    carried = GRAVITY * (20.0 * 1.1 + 10.0 * 2.0) * (level / reach) / reach
    assert np.linalg.norm(load.force_n[0]) == pytest.approx(carried, rel=5e-3)
    along = np.array([0.0, 1.08, -1.92]) / reach
    assert float(load.force_n[0] @ along) == pytest.approx(0.0, abs=1e-9)
    assert load.force_n[0, 1] < 0


def test_body_weight_and_a_machine():
    assert held(BodyWeight(80.0, 30.0, 0.9)).force_n[0] == pytest.approx([0.0, 45.0 * GRAVITY, 0.0])
    machine = held(Machine(((0.0, 100.0), (1.0, 200.0))))
    # Against the hand's way up, growing with the share.
    assert machine.force_n[:, 1] == pytest.approx([-100.0, -150.0, -200.0])


def test_two_hands_share_one_load_and_one_hand_has_it_all():
    grips = {"left": LEVEL.grip, "right": LEVEL.grip - np.array([0.4, 0.0, 0.0])}
    way = {s: np.tile(UP, (3, 1)) for s in grips}
    for kit, each in (
        (FreeWeight(40.0, "bar"), 20.0),
        (FreeWeight(10.0, "dumbbell"), 10.0),
        (Cable(40.0, {"left": (0.2, 0.0, 0.28), "right": (-0.2, 0.0, 0.28)}), 20.0),
        (Cable(40.0, {"left": (0.2, 0.0, 0.28), "right": (-0.2, 0.0, 0.28)}, each=True), 40.0),
    ):
        both = force_on(kit, grips, SHARE, way)  # type: ignore[arg-type]
        assert np.linalg.norm(both["left"][0]) == pytest.approx(each * GRAVITY)
        assert both["left"] == pytest.approx(both["right"])
    alone = force_on(FreeWeight(40.0, "bar"), {"left": LEVEL.grip}, SHARE, way)  # type: ignore[arg-type]
    assert np.linalg.norm(alone["left"][0]) == pytest.approx(40.0 * GRAVITY)


def test_face_down_on_a_bench_the_hardest_point_moves_up():
    upright, prone = (standard(i) for i in ("standing-barbell-curl", "prone-incline-curl"))
    hardest = [
        load_along(path_of(p), FreeWeight(10.0, "dumbbell")).curve.hardest for p in (upright, prone)
    ]
    assert hardest[0] is not None
    assert hardest[1] is not None
    assert hardest[1].share > hardest[0].share


numbers = st.floats(-2.0, 2.0, allow_nan=False)
points = st.tuples(numbers, numbers, numbers).map(np.array)


@settings(max_examples=60, deadline=None)
@given(points, points, points, points, st.floats(0.0, 6.28), points)
def test_what_must_hold_of_any_force(shoulder, elbow, grip, force, turn, shift):
    arm = ArmPoints(
        *(np.tile(p, (3, 1)) for p in (shoulder, elbow, 0.9 * grip + 0.1 * elbow, grip, grip))
    )
    axis = np.tile(UP, (3, 1))
    load = load_of(arm, np.tile(force, (3, 1)), axis, "elbow")
    # The moments about two joints differ by the force times what lies between them.
    assert load.shoulder_nm - load.elbow_nm == pytest.approx(
        np.cross(elbow - shoulder, force)[None].repeat(3, 0), abs=1e-9
    )
    # Twice the force, twice the moment.
    twice = load_of(arm, np.tile(2 * force, (3, 1)), axis, "elbow")
    assert twice.elbow_nm == pytest.approx(2 * load.elbow_nm, abs=1e-9)
    # Moving and turning the world changes no size.
    cos, sin = np.cos(turn), np.sin(turn)
    spin = np.array([[cos, 0, sin], [0, 1, 0], [-sin, 0, cos]])
    moved = ArmPoints(
        *(p @ spin.T + shift for p in (arm.shoulder, arm.elbow, arm.wrist, arm.grip, arm.knuckles))
    )
    turned = load_of(moved, np.tile(force, (3, 1)) @ spin.T, axis, "elbow")
    assert turned.elbow_nm == pytest.approx(load.elbow_nm @ spin.T, abs=1e-9)
    assert turned.against_nm == pytest.approx(load.against_nm, abs=1e-9)


@pytest.mark.parametrize(
    "id",
    ["cable-cross-raise-low", "rope-pushdown", "lateral-raise-dumbbell", "decline-machine-fly"],
)
def test_both_arms_of_a_mirrored_body_carry_the_same(id):
    plan = standard(id)
    path = path_of(plan)
    load = load_along(path, own_kit(plan, path), 75.0)
    assert load.loads["left"].against_nm == pytest.approx(load.loads["right"].against_nm, abs=1e-9)
    heavier = load_along(path, own_kit(plan, path, 20.0))
    assert heavier.curve.hardest is not None
    assert load.curve.hardest is not None
    assert heavier.curve.hardest.nm == pytest.approx(2 * load.curve.hardest.nm)


def test_a_straight_arm_has_no_plane_and_no_force_no_lever():
    straight = still((0, 1.4, 0), (0, 1.1, 0), (0, 0.85, 0), (0, 0.8, 0))
    assert np.isnan(off_plane(straight, np.tile([1.0, 0, 0], (3, 1)))).all()
    load = load_of(LEVEL, np.zeros((3, 3)), elbow_axis(LEVEL, 1), "elbow")
    assert np.isnan(load.lever_m).all()
    assert np.isnan(load.off_plane_deg).all()


def test_slack_lies_where_less_than_fifteen_percent_is_left():
    share = np.linspace(0, 1, 201)
    curve = curve_of(share, 100 * share, np.clip(share - 0.3, 0.0, None) / 0.7 * 50.0)
    # 15 % of 50 N·m is reached at 0.3 + 0.15 × 0.7.
    assert curve.slack == (pytest.approx((0.0, 0.405)),)
    assert curve.hardest is not None
    assert (curve.hardest.share, curve.hardest.nm) == pytest.approx((1.0, 50.0))
    assert curve.mean_nm == pytest.approx(0.5 * 0.7 * 50.0, rel=1e-2)
    assert curve.least_pct == 0.0
    turned = curve_of(share, share, 10.0 - 30.0 * share)
    assert turned.least_pct == 0.0


def test_a_recorded_set_carries_what_the_path_says():
    done = filmed("standing-barbell-curl", reps=3, noise=0.0)
    plan = standard("standing-barbell-curl")
    also = tuple(n for n in LANDMARKS if done.track.has(n))
    _review, body, repset = review_with_body(done.track, plan, also=also)
    found = recorded_load(body, repset, plan, FreeWeight(30.0, "bar"), 75.0)
    assert len(found.curves) == 3
    along = load_along(path_of(plan), FreeWeight(30.0, "bar")).curve
    for _rep, curve in found.curves:
        assert curve.hardest is not None
        assert along.hardest is not None
        assert curve.hardest.nm == pytest.approx(along.hardest.nm, rel=0.06)
        assert curve.hardest.share == pytest.approx(along.hardest.share, abs=0.05)


def test_a_dumbbell_raise_opposes_the_lift_in_lowering_as_well():
    done = filmed("lateral-raise-dumbbell", reps=2, noise=0.0)
    plan = standard("lateral-raise-dumbbell")
    _review, body, repset = review_with_body(done.track, plan)
    found = recorded_load(body, repset, plan, FreeWeight(8.0, "dumbbell"))
    rep = repset.reps[0]
    for span in (rep.lift, rep.lower):
        inside = (found.time_s > span.start_s + 0.1) & (found.time_s < span.end_s - 0.1)
        assert (found.loads["left"].against_nm[inside] > 0).mean() > 0.95


def test_a_picture_shows_no_forces():
    done = filmed("standing-barbell-curl", reps=2, view="left")
    plan = standard("standing-barbell-curl")
    _review, body, repset = review_with_body(done.track, plan)
    with pytest.raises(BadInput, match="in space"):
        recorded_load(body, repset, plan, FreeWeight(30.0, "bar"))


# Finding


def test_a_found_setup_is_never_worse_than_a_fine_grid_over_the_same_room():
    plan = standard("standing-cable-curl")
    path = path_of(plan)
    kit = own_kit(plan, path)
    assert isinstance(kit, Cable)
    room = Room((0.1, 0.6, 1.2), (0.3, 1.2), (-0.3, 0.3))
    wish = Wish("middle", True, True, (), room)
    best = find_setups({None: path}, kit, wish)[0]
    ahead = np.sign(kit.pulley_m["left"][2] - path.hips[2])
    grid = [
        cost_of(
            load_along(
                path,
                replace(
                    kit, pulley_m=dict.fromkeys(("left", "right"), (x, h, path.hips[2] + ahead * d))
                ),
            ),
            wish,
        )
        for h in room.pulley_heights_m
        for d in np.linspace(0.3, 1.2, 13)
        for x in np.linspace(-0.3, 0.3, 9)
    ]
    assert best.cost <= min(grid) + 0.01


def test_found_setups_lie_inside_the_room_on_its_notches():
    plan = standard("cable-cross-raise-low")
    room = Room((0.3, 0.9), (0.4, 1.0), (0.2, 0.6), (60.0, 75.0))
    wish = Wish("stretched", room=room)
    paths = {b: path_of(plan, bench_deg=b) for b in room.bench_deg}
    found = find_setups(paths, own_kit(plan, next(iter(paths.values()))), wish)  # type: ignore[arg-type]
    assert 1 <= len(found) <= 5
    assert [s.cost for s in found] == sorted(s.cost for s in found)
    for setup in found:
        assert setup.height_m in room.pulley_heights_m
        assert setup.bench_deg in room.bench_deg
        assert 0.4 - 1e-9 <= setup.distance_m <= 1.0 + 1e-9
        assert 0.2 - 1e-9 <= setup.side_m <= 0.6 + 1e-9
        assert isinstance(setup.kit, Cable)
        left, right = setup.kit.pulley_m["left"], setup.kit.pulley_m["right"]
        assert (left[0], left[1], left[2]) == pytest.approx((-right[0], right[1], right[2]))


def test_a_wish_that_can_not_be_met_says_how_near_it_comes():
    plan = standard("standing-cable-curl")
    path = path_of(plan)
    # A pulley straight over the head pulls with the lift: nothing resists.
    found = find_setups(
        {None: path},
        own_kit(plan, path),
        Wish("middle", room=Room((2.4,), (0.05, 0.1), (0.0, 0.0))),
    )
    assert found
    assert found[0].score < 0.6
