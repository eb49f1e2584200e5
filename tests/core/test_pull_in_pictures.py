"""What a picture tells of a cable: its slack and how far off the arm's plane it runs, as far as the
view allows."""

from __future__ import annotations

from dataclasses import replace

import pytest

from builders import filmed
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.review.assess import review_set
from guide_arc.standards.loader import standard


def found(track: LandmarkTrack, plan: Standard, check: str) -> dict[str, Finding]:
    return {f.side: f for f in review_set(track, plan).findings if f.rule.name == check}


def without_pulleys(track: LandmarkTrack) -> LandmarkTrack:
    kept = [i for i, name in enumerate(track.names) if not name.endswith("_pulley")]
    return replace(
        track,
        names=tuple(track.names[i] for i in kept),
        position=track.position[:, kept],
        confidence=track.confidence[:, kept],
    )


@pytest.mark.parametrize(
    ("id", "view"),
    [
        ("rope-pushdown", "left"),
        ("standing-cable-curl", "right"),
        ("straight-arm-pulldown", "left"),
    ],
)
def test_slack_shows_from_the_side_where_the_pulley_is_marked(id, view):
    plan = standard(id)
    clean = found(filmed(id, reps=4, view=view, noise=1.0).track, plan, "slack-zone")
    assert clean[view].verdict == "ok"
    other = {"left": "right", "right": "left"}[view]
    assert clean[other].verdict == "cannot-tell"
    assert clean[other].why.startswith(f"hidden from the {view}; film from the {other} side")
    slack = filmed(id, reps=4, view=view, noise=1.0, faults={"slack-zone": 55.0}).track
    told = found(slack, plan, "slack-zone")[view]
    assert told.verdict == "off"
    assert told.value == pytest.approx(55.0, abs=max(told.uncertainty, 5.0))


def test_a_kept_setup_stands_in_for_a_pulley_that_is_not_marked():
    usual = standard("rope-pushdown")
    track = without_pulleys(filmed("rope-pushdown", reps=4, view="left", noise=1.0).track)
    unknown = found(track, usual, "slack-zone")["left"]
    assert unknown.verdict == "cannot-tell"
    assert unknown.why.startswith("the picture does not show where the cable comes from")
    kept = replace(usual, kit_kept=True)
    assert found(track, kept, "slack-zone")["left"].verdict == "ok"
    # A pulley at the floor pulls the rope down, with the lift: hardly anything resists.
    out, _up, ahead = usual.pulley_m  # type: ignore[misc]
    low = replace(kept, pulley_m=(out, 0.1, ahead))
    told = found(track, low, "slack-zone")["left"]
    assert told.verdict == "off"
    assert told.value > 80.0


def test_the_depth_that_a_picture_hides_is_part_of_the_doubt():
    plan = standard("rope-pushdown")
    film = {"reps": 4, "faults": {"slack-zone": 55.0}}
    flat = found(filmed(plan.id, view="left", noise=1.0, **film).track, plan, "slack-zone")["left"]  # type: ignore[arg-type]
    space = found(filmed(plan.id, noise=0.002, **film).track, plan, "slack-zone")["left"]  # type: ignore[arg-type]
    assert flat.uncertainty > space.uncertainty
    assert abs(flat.value - space.value) <= flat.uncertainty + space.uncertainty


def test_off_the_plane_shows_where_the_plane_is_seen_edge_on_and_the_cable_lies_in_the_picture():
    plan = standard("cross-cable-rear-fly")
    rule = plan.check("line-of-pull")

    def told(view: str, amount: float) -> set[str]:
        faults = {"line-of-pull": amount} if amount else {}
        track = filmed(plan.id, reps=4, view=view, noise=1.0, faults=faults).track
        return {f.verdict for f in found(track, plan, "line-of-pull").values()}

    assert told("front", 0.0) == {"ok"}
    assert told("front", 2.0 * rule.limit) == {"off"}
    # From the side the cables run through the picture: how far off they are can't be told, and
    # isn't called off.
    assert told("left", 0.0) == {"cannot-tell"}
