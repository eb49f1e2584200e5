"""The simulated client in every posture: what the definitions measure is what the standard asks
for."""

from __future__ import annotations

import itertools

import numpy as np
import pytest

from builders import every_school, filmed, reviewed, verdicts
from guide_arc.core.checks.registry import follows, shows_also
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.kinematics.guide import poses_back, returns_elsewhere, trunk_along
from guide_arc.core.kinematics.measures.trunk_lean import trunk_lean
from guide_arc.core.kinematics.measures.trunk_rotation import trunk_rotation
from guide_arc.core.kinematics.measures.trunk_side_lean import trunk_side_lean
from guide_arc.core.mechanics.fibres import FIBRES, along_pct
from guide_arc.core.model.standard import Tempo
from guide_arc.core.review.assess import review_set
from guide_arc.core.review.rank import proposed_cues
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards.loader import shipped, standard
from guide_arc.standards.proof import BRISK, cycle_of, judged_from


def exact(id: str, school: str | None = None, **script):
    done = filmed(id, school, **{"reps": 1, **script})
    return done, {n: done.exact[:, i] for i, n in enumerate(done.track.names)}


@pytest.mark.parametrize(("id", "school"), every_school())
def test_the_truth_of_a_clean_rep_is_the_standards_own_range(id, school):
    plan = standard(id, school)
    done, points = exact(id, school)
    (rep,) = done.truth["reps"]
    assert rep["range"]["from_deg"] == pytest.approx(plan.range.from_deg, abs=1.5)
    assert rep["range"]["to_deg"] == pytest.approx(plan.range.to_deg, abs=1.5)
    feet = np.concatenate([points[f"{s}_foot"][:, 1] for s in ("left", "right")])
    assert feet.min() > -0.35  # nobody sinks into the floor by more than a toe's reach


@pytest.mark.parametrize(
    "id", ["cable-rotation-crunch", "swiss-ball-side-turn", "leaning-lateral-raise"]
)
@pytest.mark.parametrize("arm", ["left", "right"])
def test_a_trunk_that_leans_and_turns_is_mirrored_for_the_other_arm(id, arm):
    plan = standard(id)
    _done, points = exact(id, arms=arm)
    _lean, aside, twist, *_ = trunk_along(plan, np.array([1.0]))[0]
    sign = 1.0 if arm == "left" else -1.0
    turned, leaned = trunk_rotation(points), trunk_side_lean(points)
    extreme = int(np.argmax(np.abs(turned))) if twist else 0
    if twist:
        assert turned[extreme] == pytest.approx(sign * twist, abs=2.0)
    if aside:
        assert np.sign(np.nanmedian(leaned)) == np.sign(sign * aside)


@pytest.mark.parametrize("id", ["forward-lean-dip", "upright-narrow-dip", "arched-handle-push-up"])
def test_hands_that_carry_the_body_stay_where_they_are(id):
    _done, points = exact(id, reps=2)
    wrists = 0.5 * (points["left_wrist"] + points["right_wrist"])
    assert np.ptp(wrists[:, 1:], axis=0).max() < 0.01
    assert np.ptp(points["left_shoulder"][:, 1]) > 0.12


def test_a_push_up_keeps_its_feet_and_its_line():
    _done, points = exact("forward-hand-push-up")
    lean = trunk_lean(points)
    assert 4.0 < np.ptp(lean) < 40.0
    assert np.ptp(points["left_shoulder"][:, 1]) > 0.15
    assert np.ptp(points["left_ankle"][:, 1]) < 0.12


def test_a_band_goes_up_one_way_and_comes_down_another():
    plan = standard("band-up-and-over")
    assert returns_elsewhere(plan)
    done, _points = exact("band-up-and-over")
    body = Body(clean(done.track, done.track.names))
    plane, elevation = (
        body.measure(m, "left").value for m in ("shoulder_plane", "shoulder_elevation")
    )
    (rep,) = done.truth["reps"]
    half = 0.5 * (plan.range.from_deg + plan.range.to_deg)
    at = []
    for a, b in (rep["lift"], rep["lower"]):
        inside = (body.time_s >= a) & (body.time_s <= b)
        at.append(plane[inside][int(np.argmin(np.abs(elevation[inside] - half)))])
    assert at[1] - at[0] > 40.0
    assert poses_back(plan, np.array([0.5]))[0, 1] > 80.0
    assert not returns_elsewhere(standard("standing-barbell-curl"))


def test_an_anchored_bar_passes_from_side_to_side():
    done, points = exact("anchored-bar-arc", reps=4)
    hands = 0.5 * (points["left_wrist"] + points["right_wrist"])[:, 0]
    ends = [float(np.interp(r["lift"][0], done.track.time_s, hands)) for r in done.truth["reps"]]
    assert all(np.sign(a) != np.sign(b) for a, b in itertools.pairwise(ends))
    review, _ = reviewed("anchored-bar-arc", reps=4, noise=0.003)
    assert [r.full for r in review.reps] == [True] * 4


def test_a_grip_turns_the_knuckles_and_nothing_else():
    plan = standard("turn-over-curl")
    done, points = exact(plan.id)
    (rep,) = done.truth["reps"]
    time = done.track.time_s
    line = points["left_index"] - points["left_pinky"]
    line /= np.linalg.norm(line, axis=1)[:, None]
    at = [int(np.searchsorted(time, 0.5 * (a + b))) for a, b in (rep["lift"], rep["lower"])]
    assert line[at[0]] @ line[at[1]] < -0.8
    assert rep["range"]["to_deg"] == pytest.approx(126.0, abs=1.0)


def test_holds_are_asked_of_the_reps_that_the_scheme_names():
    review, truth = reviewed("over-bar-hang-curl", reps=5, noise=0.003)
    held = [r["top_hold"][1] - r["top_hold"][0] if r["top_hold"] else 0.0 for r in truth["reps"]]
    assert [h > 9.0 for h in held] == [True, False, False, False, True]
    assert verdicts(review, "hold-missing") == ["ok"]
    plain = filmed("over-bar-hang-curl", reps=5, noise=0.003, tempo=Tempo(2.0, None, 1.0, None))
    assert verdicts(review_set(plain.track, standard("over-bar-hang-curl")), "hold-missing") == [
        "off"
    ]


def test_an_opening_stretch_is_measured():
    plan = standard("lat-pulldown-close")
    review, _ = reviewed(plan.id, reps=3, noise=0.003)
    (found,) = [f for f in review.findings if f.rule.name == "hold-missing"]
    assert found.verdict == "ok"
    assert found.value == pytest.approx(11.0, abs=0.6)
    short = perform(plan, Script(reps=3, faults={"hold-missing": 3.0}), Camera(noise=0.003), 3)
    (found,) = [f for f in review_set(short.track, plan).findings if f.rule.name == "hold-missing"]
    assert (found.verdict, found.says) == ("off", "opening stretch 3.1 s, asked 10 s") or (
        found.verdict == "off" and found.value == pytest.approx(3.0, abs=0.5)
    )


def test_a_shrug_is_counted_and_measured_in_percent():
    review, truth = reviewed("shrug", reps=7, noise=0.003)
    assert len(review.reps) == len(truth["reps"]) == 7
    assert review.reps[0].measure == "shoulder_hike"
    (short,) = {f.unit for f in review.findings if f.rule.name == "range-short"}
    assert short == "pct"


def test_what_only_shows_another_fault_again_takes_no_cue():
    review, _ = reviewed(
        "lateral-raise-dumbbell",
        reps=6,
        noise=0.003,
        faults={"left-right": 34.0, "torso-swing": 22.0},
    )
    off = {f.rule.name for f in review.with_verdict("off")}
    assert {"left-right", "range-short", "torso-swing"} <= off
    cues = [f.rule.name for f in proposed_cues(review.findings)]
    assert cues.index("left-right") < cues.index("range-short")
    assert follows("range-short", "left-right")
    assert not follows("left-right", "range-short")
    assert all(name not in also for name, also in shows_also().items())


@pytest.mark.parametrize("id", shipped())
def test_each_exercise_runs_along_its_fibres_or_turns_its_joint(id):
    plan = standard(id)
    share = along_pct(plan)
    assert plan.line in FIBRES
    if share is not None:
        assert 0.0 < share <= 100.0


def test_the_figure_shows_the_movement_at_any_pace():
    own, brisk = (
        cycle_of(standard("over-bar-hang-curl")),
        cycle_of(standard("over-bar-hang-curl"), BRISK),
    )
    assert own.length_s > 12.0 > brisk.length_s
    assert [p[0] for p in own.phases][:3] == ["lift", "top_hold", "lower"]
    assert own.phase_at(own.phases[1][1] + 1.0) == "top_hold"
    assert own.phase_at(-1.0) == "ready"
    assert set(own.pose(0.5)) == set(own.points)
    assert len(cycle_of(standard("anchored-bar-arc")).phases) > 4


def test_views_judge_what_they_show():
    judged = judged_from(standard("standing-barbell-curl"))
    assert all(judged["none"].values())
    assert judged["left"]["upper-arm-drift"]
    assert not judged["front"]["torso-swing"]
    assert judged_from(standard("lateral-raise-dumbbell"))["front"]["shoulder-hike"]
    assert not judged["left"]["left-right"]
    sideways = judged_from(standard("cross-cable-rear-fly"))["left"]
    assert {n for n, told in sideways.items() if told} >= {
        "torso-swing",
        "torso-lean",
        "neutral-back",
        "elbow-low",
        "range-short",
        "momentum",
    }
    assert not sideways["line-of-pull"]
