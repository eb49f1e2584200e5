"""Which marked points are pieces that turn together."""

from __future__ import annotations

from guide_arc.capture.tracking.limbs import is_trunk, limbs_between


def trunk(*names: str) -> list[str]:
    return [limb.b for limb in limbs_between(dict.fromkeys(names, (0,))) if is_trunk(limb)]


def test_only_a_side_view_has_a_trunk_that_turns_about_the_shoulder():
    side = ("left_shoulder", "left_hip", "left_ear", "left_elbow")
    assert trunk(*side) == ["left_hip", "left_ear"]
    assert trunk(*side, "right_shoulder", "right_hip") == []
    assert trunk("left_shoulder", "right_shoulder", "left_ear", "right_ear") == []
    assert trunk("left_shoulder", "left_ear", "left_elbow") == []
