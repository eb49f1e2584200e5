"""From which side a body is seen, left and right of a model that guesses, and clips filmed as in a
mirror."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from builders import filmed, some_of
from clips import SmallFilm, numbered_clip
from guide_arc.capture.tracking.sides import sides_by_view
from guide_arc.capture.tracking.tracker import Tracked
from guide_arc.capture.video.clip import index_bytes, inspect_video, with_index
from guide_arc.capture.video.frames import FrameReader
from guide_arc.core.kinematics.facing import side_seen
from guide_arc.core.model.landmarks import on_other_side
from guide_arc.core.model.marks import Line, Mark, Marks
from guide_arc.core.model.track import IMAGE_VIEWS, LandmarkTrack
from guide_arc.core.review.assess import review_set
from guide_arc.standards.loader import shipped, standard


@pytest.mark.parametrize("id", some_of(sorted(shipped())))  # type: ignore[arg-type]
@pytest.mark.parametrize("view", IMAGE_VIEWS)
def test_no_exercise_is_surely_seen_from_a_side_that_it_was_not_filmed_from(
    id: str, view: str
) -> None:
    track = filmed(id, reps=2, view=view, noise=3.0, seed=5).track
    seen = side_seen(track.names, track.position[::4], track.confidence[::4])
    if seen is not None and seen.sure:
        assert seen.view == view
    else:
        assert id in {
            "prone-high-row",
            "prone-incline-curl",
            "swiss-ball-side-turn",
            "incline-y-raise",
            "bent-rear-raise",
            "kneeling-cable-crunch",
            "cable-rotation-crunch",
            "feet-high-overhead-dip",
        }


def test_a_body_turned_over_is_seen_from_the_other_side() -> None:
    """An edited picture, not another simulated one: left to right, the names as they were."""
    track = filmed("rope-pushdown", reps=2, view="left", noise=2.0).track
    flipped = track.position * (-1.0, 1.0) + (1280.0, 0.0)
    seen = side_seen(track.names, flipped, track.confidence)
    assert seen is not None
    assert (seen.view, seen.sure) == ("right", True)


def test_without_face_feet_and_shoulders_nothing_is_told() -> None:
    track = filmed("rope-pushdown", reps=2, view="left").track
    confidence = track.confidence.copy()
    for i, name in enumerate(track.names):
        if name.endswith(("nose", "ear", "foot", "heel")):
            confidence[:, i] = 0.2
    assert side_seen(track.names, track.position, confidence) is None
    confidence[:] = 0.1
    assert side_seen(track.names, track.position, confidence) is None


# Left and right of a model


def _tracked(track: LandmarkTrack, *, exchanged: bool = False, face: float = 0.95) -> Tracked:
    names = tuple(on_other_side(n) for n in track.names) if exchanged else track.names
    sure = track.confidence.copy()
    for i, name in enumerate(names):
        if name.endswith(("nose", "ear")):
            sure[:, i] = face
    return Tracked(names, track.position, sure, np.zeros(sure.shape, bool))


@pytest.mark.parametrize(
    ("view", "face", "mended"),
    [("back", 0.3, True), ("back", 0.95, False), ("front", 0.95, True), ("front", 0.3, False)],
)
def test_exchanged_sides_are_mended_unless_the_face_speaks_for_them(
    view: str, face: float, mended: bool
) -> None:
    track = filmed("overhead-press-dumbbell", reps=2, view=view).track
    out = sides_by_view(_tracked(track, exchanged=True, face=face), view)  # type: ignore[arg-type]
    assert (out.names == track.names) is mended
    assert sides_by_view(_tracked(track, face=face), view).names == track.names  # type: ignore[arg-type]


def test_the_arm_that_a_side_view_shows_is_the_near_one() -> None:
    track = filmed("rope-pushdown", reps=2, view="left").track
    right = _tracked(track, exchanged=True)
    sure = np.where([n.startswith("right") for n in right.names], 0.95, 0.4)
    wrong = replace(right, confidence=np.broadcast_to(sure, right.confidence.shape))
    assert sides_by_view(wrong, "left").names == track.names
    assert sides_by_view(wrong, "right").names == wrong.names


def test_a_side_view_from_the_other_side_is_told_in_the_trust_strip() -> None:
    track = filmed("rope-pushdown", reps=3, view="left").track
    plan = standard("rope-pushdown")
    assert not any("faces the other way" in m for m in review_set(track, plan).trust.doubts)
    names = tuple(on_other_side(n) for n in track.names)
    told = review_set(replace(track, view="right", names=names), plan).trust.doubts
    assert any("the clip may be mirrored, or filmed from the other side" in m for m in told)


# As in a mirror


def test_a_mirrored_clip_is_shown_turned_back(pushdown_film: SmallFilm) -> None:
    clip = pushdown_film.clip
    with FrameReader(clip) as plain, FrameReader(replace(clip, mirrored=True)) as turned:
        assert np.array_equal(turned.at(5), plain.at(5)[:, ::-1])
        assert np.array_equal(turned.at(5, 120, raw=True), plain.at(5, 120, raw=True)[:, ::-1])


def test_marks_are_turned_back_with_it() -> None:
    marks = Marks(
        "left",
        {"left_wrist": (Mark(3, 100.0, 50.0),)},
        (Line("plumb", 10.0, 0.0, 20.0, 100.0),),
        (3, 40.0, 5.0, 90.0, 200.0),
    )
    turned = marks.mirrored(640)
    assert turned.points["left_wrist"] == (Mark(3, 539.0, 50.0),)
    assert turned.person == (3, 549.0, 5.0, 599.0, 200.0)
    assert turned.mirrored(640) == marks


# Cut off in the file


def test_a_clip_that_was_cut_off_on_its_way_says_how_much_is_missing(tmp_path: Path) -> None:
    whole = numbered_clip(tmp_path / "whole.mkv", 240, key_every=10)
    assert inspect_video(whole).missing_s == 0.0
    cut = tmp_path / "cut.mkv"
    data = whole.read_bytes()
    cut.write_bytes(data[: int(0.55 * len(data))])
    found = inspect_video(cut)
    assert 1.5 < found.missing_s < 6.0
    index = tmp_path / "cut.npz"
    index.write_bytes(index_bytes(found))
    assert with_index(cut, index).missing_s == found.missing_s


def test_slow_motion_and_uneven_clips_are_whole(tmp_path: Path) -> None:
    times = np.cumsum(np.random.default_rng(4).uniform(0.02, 0.05, 60))
    assert inspect_video(numbered_clip(tmp_path / "a.mp4", 60, times=times)).missing_s == 0.0
    slow = inspect_video(numbered_clip(tmp_path / "b.mp4", 60, noted_rate="240"))
    assert replace(slow, capture_hz=240.0).missing_s == 0.0
