"""What the trackers share: the interface, joining hands and models, and the pose model's own
process."""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np
import pytest

from clips import SmallFilm, numbered_clip
from guide_arc.capture.tracking import pose
from guide_arc.capture.tracking.landmarks import joined, landmark_track
from guide_arc.capture.tracking.pose import PLACES, PoseModel
from guide_arc.capture.tracking.simulated import SimulatedTracker
from guide_arc.capture.tracking.tracker import Tracked
from guide_arc.capture.video.clip import inspect_video
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import KNOWN
from guide_arc.core.model.marks import Line, Marks
from guide_arc.core.model.track import SetFacts
from guide_arc.core.review.assess import review_set
from guide_arc.standards.loader import standard

# A stand-in for the model: finds a body of a fifth of the picture in its middle, lower from picture
# to picture.
_FAKE = """
import sys, struct
sys.stdout.buffer.write(b"R"); sys.stdout.buffer.flush()
i = 0
while len(head := sys.stdin.buffer.read(12)) == 12:
    width, height, how = struct.unpack("<III", head)
    sys.stdin.buffer.read(width * height * 3)
    i += 1
    if BREAK and i > 5:
        sys.exit(3)
    lower, seen = (0.8 if LOW else 0.0), (0.0 if NOBODY else 0.9)
    body = [
        (0.45 + 0.03 * (k % 3), 0.2 + i / 200 + 0.2 * k / 32 + (lower if k >= 25 else 0.0), seen)
        for k in range(33)
    ]
    sys.stdout.buffer.write(struct.pack("99f", *(v for point in body for v in point)))
    sys.stdout.buffer.flush()
"""


def _fake_python(
    folder: Path, *, breaks: bool = False, nobody: bool = False, low: bool = False
) -> str:
    """An interpreter that runs the stand-in whatever it is asked to run."""
    script = folder / "worker.py"
    script.write_text(
        _FAKE.replace("BREAK", str(breaks)).replace("NOBODY", str(nobody)).replace("LOW", str(low))
    )
    python = folder / "python"
    python.write_text(f"#!/bin/sh\nexec {sys.executable} {script}\n")
    python.chmod(0o755)
    return str(python)


def _none(_share: float) -> None:
    pass


def test_the_simulated_tracker_reads_films_only(pushdown_film: SmallFilm, tmp_path: Path) -> None:
    tracker = SimulatedTracker()
    found = tracker.track(pushdown_film.clip, Marks("left"), _none)
    elbow = found.names.index("left_elbow")
    error = np.hypot(*(found.position[:, elbow] - pushdown_film.truth("left_elbow")).T)
    assert 0.3 < np.nanmedian(error) < 4.0
    assert not set(found.names) & {"left_pulley", "right_pulley"}  # no tracker sees kit
    other = inspect_video(numbered_clip(tmp_path / "a.mp4"))
    assert "simulated camera" in (tracker.why_not(other, Marks("left")) or "")
    with pytest.raises(BadInput):
        tracker.track(other, Marks("left"), _none)


def test_a_followed_film_is_reviewed_as_it_was_performed(pushdown_film: SmallFilm) -> None:
    found = SimulatedTracker().track(pushdown_film.clip, Marks("left"), _none)
    facts = SetFacts(standard="rope-pushdown", load_kg=15.0)
    track = landmark_track(found, pushdown_film.clip, Marks("left"), facts, points_from="pose")
    review = review_set(track, standard("rope-pushdown"))
    assert len(review.reps) == 2
    assert "no known length" in review.trust.missing[0]
    assert review.reps[0].lift.start_s == pytest.approx(
        pushdown_film.filmed.document["reps"][0]["lift"][0], abs=0.12
    )


def test_one_mark_stands_for_both_knuckles(pushdown_film: SmallFilm) -> None:
    frames = pushdown_film.clip.frames
    spots = np.full((frames, 2, 2), 50.0)
    tracked = Tracked(
        ("left_knuckles", "left_wrist"),
        spots,
        np.full((frames, 2), 0.9),
        np.zeros((frames, 2), bool),
    )
    tracked.doubted[4:6, 1] = True
    tracked.confidence[5, 1] = 0.1
    line = Line("length", 0, 0, 100, 0, 1.0, "a pole")
    track = landmark_track(
        tracked, pushdown_film.clip, Marks("left").with_line(line), SetFacts(), points_from="marks"
    )
    assert track.names == ("left_index", "left_pinky", "left_wrist")
    assert set(track.names) <= KNOWN
    assert track.confidence[4:6, 2].tolist() == [0.2, 0.0]
    assert track.calibration.px_per_m is not None
    assert track.calibration.px_per_m.value == pytest.approx(100.0)


def test_kit_by_hand_joins_a_body_by_the_model() -> None:
    def of(names: tuple[str, ...], value: float) -> Tracked:
        shape = (3, len(names))
        return Tracked(names, np.full((*shape, 2), value), np.ones(shape), np.zeros(shape, bool))

    by_model = of(("left_wrist", "left_index", "left_pinky", "left_elbow"), 1.0)
    both = joined(of(("left_pulley", "left_knuckles"), 2.0), by_model)
    assert both.names == ("left_pulley", "left_knuckles", "left_wrist", "left_elbow")
    assert both.position[0, :, 0].tolist() == [2.0, 2.0, 1.0, 1.0]
    assert joined(None, by_model) is by_model


def test_the_model_has_a_place_for_each_landmark() -> None:
    assert set(PLACES) <= KNOWN
    assert len(set(PLACES.values())) == len(PLACES) == 25
    assert PLACES["left_elbow"] == 13
    assert PLACES["right_elbow"] == 14


def test_without_the_extra_it_says_what_it_adds_and_how(
    monkeypatch: pytest.MonkeyPatch, pushdown_film: SmallFilm
) -> None:
    monkeypatch.setattr(pose, "pose_python", lambda: None)
    why = PoseModel().why_not(pushdown_film.clip, Marks("left"))
    assert why is not None
    assert "./run add-pose" in why
    with pytest.raises(BadInput, match="add-pose"):
        PoseModel().track(pushdown_film.clip, Marks("left"), _none)


def test_the_model_works_in_its_own_process(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setenv("GUIDE_ARC_POSE_PYTHON", _fake_python(tmp_path))
    clip = inspect_video(numbered_clip(tmp_path / "a.mp4", 30, size=(1440, 720)))
    told: list[float] = []
    found = PoseModel().track(clip, Marks("left"), told.append)
    assert found.position.shape == (30, 25, 2)
    elbow = found.names.index("left_elbow")  # the model's 13th
    assert found.position[9, elbow] == pytest.approx(
        (0.48 * 1440, (0.25 + 0.2 * 13 / 32) * 720), abs=1.0
    )
    assert found.confidence.min() == pytest.approx(0.9, abs=0.01)
    assert told == sorted(told)


def test_the_model_looks_at_the_person_that_is_meant(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setenv("GUIDE_ARC_POSE_PYTHON", _fake_python(tmp_path))
    clip = inspect_video(numbered_clip(tmp_path / "a.mp4", 30, size=(720, 360)))
    found = PoseModel().track(clip, Marks("left", person=(0, 400.0, 50.0, 500.0, 300.0)), _none)
    assert 400.0 < found.position[0, 0, 0] < 500.0  # in the middle of the box, not of the picture


def test_nobody_in_view_is_said_as_that(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("GUIDE_ARC_POSE_PYTHON", _fake_python(tmp_path, nobody=True))
    clip = inspect_video(numbered_clip(tmp_path / "a.mp4", 30))
    with pytest.raises(BadInput, match="nobody is in view"):
        PoseModel().track(clip, Marks("left"), _none)


def test_what_the_model_puts_beside_the_picture_was_not_seen(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setenv("GUIDE_ARC_POSE_PYTHON", _fake_python(tmp_path, low=True))
    found = PoseModel().track(
        inspect_video(numbered_clip(tmp_path / "a.mp4", 30)), Marks("left"), _none
    )
    knee, hip = (found.names.index(f"left_{part}") for part in ("knee", "hip"))
    assert np.isnan(found.position[:, knee]).all()
    assert not found.confidence[:, knee].any()
    assert np.isfinite(found.position[:, hip]).all()


def test_a_model_that_breaks_off_is_a_sentence(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setenv("GUIDE_ARC_POSE_PYTHON", _fake_python(tmp_path, breaks=True))
    clip = inspect_video(numbered_clip(tmp_path / "a.mp4", 30))
    with pytest.raises(BadInput, match="model stopped; try again"):
        PoseModel().track(clip, Marks("left"), _none)


def test_the_model_can_be_stopped(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("GUIDE_ARC_POSE_PYTHON", _fake_python(tmp_path))
    clip = inspect_video(numbered_clip(tmp_path / "a.mp4", 30))

    def stop(_share: float) -> None:
        raise InterruptedError

    with pytest.raises(InterruptedError):
        PoseModel().track(clip, Marks("left"), stop)
