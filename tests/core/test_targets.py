"""End-points: each target found from a body built so that the answer is known."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
import pytest

from builders import filmed, reviewed, slow, verdicts
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.kinematics.endpoints import LEVELS, TARGETS, height_words
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards.loader import shipped, standard

TRUNK_M = 0.5


@dataclass
class Upright:
    """A body that stands still, half a metre of trunk, with its left hand and elbow where they are
    put."""

    hand: tuple[float, float, float]
    elbow: tuple[float, float, float] = (0.3, 1.2, 0.0)
    points: dict[str, np.ndarray] = field(init=False)

    def __post_init__(self) -> None:
        spots = {
            "left_hip": (0.1, 1.0, 0.0),
            "right_hip": (-0.1, 1.0, 0.0),
            "left_shoulder": (0.2, 1.5, 0.0),
            "right_shoulder": (-0.2, 1.5, 0.0),
            "left_ear": (0.08, 1.7, 0.0),
            "right_ear": (-0.08, 1.7, 0.0),
            "nose": (0.0, 1.68, 0.1),
            "left_knee": (0.12, 0.55, 0.1),
            "right_knee": (-0.12, 0.55, 0.1),
            "left_wrist": self.hand,
            "left_index": self.hand,
            "left_pinky": self.hand,
            "left_elbow": self.elbow,
            "right_wrist": (-0.3, 1.0, 0.0),
            "right_index": (-0.3, 1.0, 0.0),
            "right_pinky": (-0.3, 1.0, 0.0),
            "right_elbow": (-0.3, 1.2, 0.0),
        }
        self.points = {name: np.array([spot]) for name, spot in spots.items()}

    @property
    def trunk_frame(self) -> np.ndarray:
        return np.eye(3)[None]

    @property
    def trunk_m(self) -> np.ndarray:
        return np.array([TRUNK_M])


def missing(target: str, body: Upright, side: str = "left") -> float:
    return float(TARGETS[target].missing(body, side)[0])  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("target", "height_pct"),
    [
        ("navel", 18),
        ("above-navel", 36),
        ("lower-sternum", 62),
        ("nipple-line", 74),
        ("upper-chest", 82),
        ("chin", 122),
        ("beside-head", 138),
        ("top-of-head", 160),
    ],
)
def test_a_level_is_met_from_both_sides(target, height_pct):
    at = 1.0 + TRUNK_M * height_pct / 100.0
    assert missing(target, Upright((0.2, at, 0.3))) == pytest.approx(0.0, abs=1e-9)
    assert missing(target, Upright((0.2, at + 0.05, 0.3))) == pytest.approx(10.0)
    assert missing(target, Upright((0.2, at - 0.05, 0.3))) == pytest.approx(10.0)
    assert TARGETS[target].both_ways


@pytest.mark.parametrize(
    ("target", "short", "reached"),
    [
        ("nose-height", (0.2, 1.58, 0.3), (0.2, 1.70, 0.3)),
        ("eye-level", (0.2, 1.60, 0.3), (0.2, 1.75, 0.3)),
        ("midline", (0.1, 1.4, 0.3), (-0.05, 1.4, 0.3)),
        ("waist", (0.2, 1.1, 0.3), (0.2, 1.1, 0.05)),
        ("hips", (0.2, 1.1, 0.1), (0.2, 0.95, 0.1)),
        ("behind-head", (0.2, 1.7, 0.1), (0.2, 1.85, -0.1)),
        ("fist-short", (0.2, 1.2, 0.12), (0.2, 1.2, 0.3)),
    ],
)
def test_a_target_is_short_before_it_and_reached_past_it(target, short, reached):
    assert missing(target, Upright(short)) > 0
    assert missing(target, Upright(reached)) < 0


def test_elbow_targets_look_at_the_elbow():
    hand = (0.3, 1.0, 0.0)
    assert missing("upper-arm-level", Upright(hand, (0.5, 1.4, 0.0))) == pytest.approx(20.0)
    assert missing("upper-arm-level", Upright(hand, (0.5, 1.55, 0.0))) == pytest.approx(-10.0)
    assert missing("opposite-knee", Upright(hand, (0.13, 1.2, 0.3))) == pytest.approx(50.0)
    assert missing("opposite-knee", Upright(hand, (-0.12, 1.2, 0.3))) == pytest.approx(
        0.0, abs=1e-9
    )
    assert {t.part for t in TARGETS.values()} == {"hand", "elbow"}


def test_the_right_sides_midline_is_mirrored():
    body = Upright((0.2, 1.4, 0.3))
    assert missing("midline", body, "right") == pytest.approx(60.0)


def test_heights_have_words():
    assert height_words(17.0) == "the navel"
    assert height_words(200.0) == "above the head"
    assert [pct for pct, _ in LEVELS] == sorted(pct for pct, _ in LEVELS)


ASKING = [i for i in shipped() if standard(i).check("end-point")]


@slow
@pytest.mark.parametrize("id", ASKING)
def test_a_clean_end_is_in_its_place_and_a_wrong_one_is_told(id):
    rule = standard(id).check("end-point")
    review, _ = reviewed(id, reps=3, noise=0.002)
    assert set(verdicts(review, "end-point")) == {"ok"}
    faulty, _ = reviewed(id, reps=3, noise=0.002, faults={"end-point": 2.2 * rule.limit})
    off = [f for f in faulty.findings if f.rule.name == "end-point" and f.verdict == "off"]
    assert off
    assert max(f.value for f in off) == pytest.approx(2.2 * rule.limit, abs=0.45 * rule.limit)
    words = TARGETS[rule.target].words
    assert all(words in f.says for f in off)


def test_an_end_that_a_view_hides_is_not_guessed():
    plan = standard("dumbbell-diagonal-raise")
    done = perform(plan, Script(reps=3), Camera("left", 30.0, 1.0), 1)
    found = [f for f in review_set(done.track, plan).findings if f.rule.name == "end-point"]
    assert {f.verdict for f in found} == {"cannot-tell"}
    assert "film from the" in found[0].why


def test_a_start_is_looked_at_where_the_lift_starts():
    plan = standard("straight-arm-pulldown-bench")
    done = filmed(plan.id, reps=3, noise=0.002)
    left, _right = [f for f in review_set(done.track, plan).findings if f.rule.name == "end-point"]
    starts = [rep["lift"][0] for rep in done.truth["reps"]]
    assert min(abs(left.at_s - s) for s in starts) < 0.3


# What the camera must not do to people who lie, hang or stand on their toes


@pytest.mark.parametrize(
    "id",
    [
        "prone-incline-curl",
        "chest-supported-t-row",
        "arched-handle-push-up",
        "forward-lean-dip",
        "prone-high-row",
    ],
)
def test_a_body_that_is_no_level_does_not_tilt_the_picture(id):

    plan = standard(id)
    done = perform(plan, Script(reps=3), Camera("left", 30.0, 1.0), 1)
    body = Body(clean(done.track, done.track.names))
    lean = float(np.nanmedian(body.measure("trunk_lean").value))
    low, high = plan.trunk_lean_deg
    assert low - 8 <= lean <= high + 8
    assert not body.cleaned.roll.put_straight
