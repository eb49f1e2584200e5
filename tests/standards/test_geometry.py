"""Where the pull comes from, computed: it opposes the hand over the lift, and pulleys stand where
the words say."""

from __future__ import annotations

import numpy as np
import pytest

from guide_arc.core.kinematics.vectors import Array, unit
from guide_arc.core.model.standard import Standard
from guide_arc.standards.loader import shipped, standard
from guide_arc.standards.proof import cycle_of

# Where a lift ends with the hands over the shoulders, what hangs from them no longer pulls back.
LEVEL_AT_THE_END = {"chain-fly": 0.2}
# A lift sets off sideways before the pull bites: so much of the hand's way may go along with it.
MOST_HELP = 0.06
PULLED = [id for id in shipped() if standard(id).pull in ("cable", "band", "free-weight", "chain")]
MARKED = [id for id in PULLED if standard(id).pull == "cable"]


def lifted(plan: Standard) -> tuple[dict[str, Array], slice]:
    """The body over one lift, and the frames of the lift."""
    cycle = cycle_of(plan)
    start, end = next((a, b) for name, a, b in cycle.phases if name == "lift")
    first, last = np.searchsorted(cycle.time_s, (start, end))
    return cycle.points, slice(int(first), int(last))


def hand_of(points: dict[str, Array], lift: slice) -> Array:
    return 0.5 * (points["left_index"] + points["left_pinky"])[lift]


def pulls_along(plan: Standard, points: dict[str, Array], lift: slice, hand: Array) -> Array:
    """(F, 3) the direction in which the kit pulls the left hand."""
    if plan.pull == "cable":
        return unit(points["left_pulley"][lift] - hand)
    if plan.anchor_m is not None:
        feet = 0.5 * (points["left_ankle"] + points["right_ankle"])[lift].mean(axis=0)
        feet[1] = 0.0
        return unit(feet + np.array(plan.anchor_m) - hand)
    return np.tile(np.array([0.0, -1.0, 0.0]), (len(hand), 1))


@pytest.mark.parametrize("id", PULLED)
def test_the_pull_opposes_the_lift(id):
    plan = standard(id)
    points, lift = lifted(plan)
    hand = hand_of(points, lift)
    way = np.diff(hand, axis=0)
    along = (pulls_along(plan, points, lift, hand)[1:] * way).sum(axis=1)
    helped = np.linalg.norm(way, axis=1)[along > 0].sum() / np.linalg.norm(way, axis=1).sum()
    assert helped <= LEVEL_AT_THE_END.get(id, MOST_HELP)


@pytest.mark.parametrize("id", MARKED)
def test_a_high_pulley_stands_above_the_hands_and_a_low_one_below_the_shoulders(id):
    plan = standard(id)
    points, lift = lifted(plan)
    height = points["left_pulley"][lift][0, 1]
    if "high pulley" in plan.setup.lower() or id.startswith("lat-pulldown"):
        assert height > hand_of(points, lift)[:, 1].max()
    if "low pulley" in plan.setup.lower():
        assert height < points["left_shoulder"][lift][:, 1].min()
