"""What leaves a set with a clip: slow at the faults, faces covered, cues at their moments."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from builders import measured_set, slow
from clips import SmallFilm, small_film
from guide_arc.capture.tracking.landmarks import landmark_track
from guide_arc.capture.tracking.simulated import SimulatedTracker
from guide_arc.capture.video.clip import inspect_video
from guide_arc.capture.video.frames import FrameReader
from guide_arc.capture.video.paint_over import cover, paint_over
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import ALL
from guide_arc.core.model.marks import Marks
from guide_arc.core.model.track import SetFacts
from guide_arc.core.review.assess import review_with_body
from guide_arc.drawings.on_picture import Placed, cased, person_in, picture_frame
from guide_arc.drawings.palette import PICTURE
from guide_arc.drawings.shapes import Area, Disc, Drawing, MarkShape, Stroke, Words
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.library.records import Decision, SetNotes
from guide_arc.reports.annotated import AnnotationOptions, annotated_clip, annotated_frame, frame_of
from guide_arc.reports.cues import said_cues, subtitles
from guide_arc.reports.still import write_still
from guide_arc.standards.loader import standard


@pytest.fixture(scope="module")
def shrugged(tmp_path_factory: pytest.TempPathFactory) -> tuple[SmallFilm, ShownSet]:
    film = small_film(
        tmp_path_factory.mktemp("out") / "f.mp4",
        "lateral-raise-dumbbell",
        "front",
        reps=1,
        faults={"shoulder-hike": 24.0},
    )
    found = SimulatedTracker().track(film.clip, Marks("front"), lambda _s: None)
    track = landmark_track(found, film.clip, Marks("front"), SetFacts(), points_from="pose")
    return film, ShownSet(*review_with_body(track, standard("lateral-raise-dumbbell"), also=ALL))


@slow
def test_the_body_lies_on_the_picture_where_it_was_found(
    shrugged: tuple[SmallFilm, ShownSet],
) -> None:
    film, measured = shrugged
    frame = picture_frame(measured.body, Placed(10.0, 20.0, 2.0))
    assert frame is not None
    for name in ("left_elbow", "right_shoulder"):
        at = frame.place(measured.body.points[name])
        error = np.hypot(*(at - (np.array([10.0, 20.0]) + 2.0 * film.truth(name))).T)
        assert np.nanmedian(error) < 5.0


def test_a_body_in_space_has_no_place_in_a_picture() -> None:
    measured = measured_set("standing-barbell-curl", reps=1)
    assert picture_frame(measured.body, Placed(0, 0, 1)) is None
    assert person_in(measured.body) is None


@slow
def test_the_clip_is_shown_about_the_person(shrugged: tuple[SmallFilm, ShownSet]) -> None:
    film, measured = shrugged
    x0, y0, x1, y1 = person_in(measured.body)  # type: ignore[misc]
    every = np.concatenate(
        [film.truth(n) for n in ("left_wrist", "right_wrist", "left_ear", "left_ankle")]
    )
    assert x0 < every[:, 0].min()
    assert every[:, 0].max() < x1
    assert y0 < every[:, 1].min()
    assert (x1 - x0) < 0.8 * film.clip.width
    assert y1 <= film.clip.height


def test_the_proposed_cues_are_said_as_long_as_nothing_is_decided(
    shrugged: tuple[SmallFilm, ShownSet],
) -> None:
    _film, measured = shrugged
    [cue] = said_cues(measured, SetNotes())
    assert cue.finding.rule.name == "shoulder-hike"
    key = cue.finding.key
    assert (
        said_cues(measured, SetNotes({key: Decision("reword", "Ears far away.")}))[0].words
        == "Ears far away."
    )
    assert said_cues(measured, SetNotes({key: Decision("drop")}))[:1] != (cue,)


def test_subtitles_stand_under_every_rep_in_the_clips_time() -> None:
    measured = measured_set("lateral-raise-dumbbell", reps=2, faults={"shoulder-hike": 24.0})
    said = subtitles(said_cues(measured, SetNotes()), measured)
    assert len(said) == 2
    slow = subtitles(said_cues(measured, SetNotes()), measured, 4.0)
    assert slow[0].end_s == pytest.approx(4 * said[0].end_s)


@slow
def test_the_annotated_clip_is_slow_at_the_fault_and_holds_there(
    shrugged: tuple[SmallFilm, ShownSet], tmp_path: Path
) -> None:
    film, measured = shrugged
    cues = said_cues(measured, SetNotes())
    annotated_clip(tmp_path / "slow.mp4", film.clip, measured, cues)
    annotated_clip(
        tmp_path / "plain.mp4", film.clip, measured, cues, AnnotationOptions(slow_at_faults=False)
    )
    slow, plain = inspect_video(tmp_path / "slow.mp4"), inspect_video(tmp_path / "plain.mp4")
    assert slow.frames == plain.frames
    # 1.4 s at a third of the speed, and 1.2 s still.
    assert slow.duration_s - plain.duration_s == pytest.approx(2 * 1.4 + 1.2, abs=0.4)
    assert plain.duration_s < film.clip.duration_s + 0.1
    assert np.diff(slow.time_s).max() > 1.0


def test_the_drawing_is_burnt_in_and_the_face_covered(shrugged: tuple[SmallFilm, ShownSet]) -> None:
    film, measured = shrugged
    number = film.clip.frames // 2
    at_s = float(film.clip.time_s[number])
    plain = frame_of(film.clip, number)
    drawn = annotated_frame(plain.copy(), film.clip, measured, at_s, None, cover_face=False)
    covered = annotated_frame(plain.copy(), film.clip, measured, at_s, None, cover_face=True)
    x, y = film.truth("left_elbow")[number].astype(int)
    assert (
        np.abs(
            drawn[y - 4 : y + 5, x - 4 : x + 5].astype(int) - plain[y - 4 : y + 5, x - 4 : x + 5]
        ).max()
        > 60
    )
    nx, ny = film.truth("nose")[number].astype(int)
    head = np.s_[ny - 12 : ny + 6, nx - 9 : nx + 10]
    assert covered[head].astype(float).std() < 0.6 * plain[head].astype(float).std()


def test_a_set_whose_landmarks_are_not_of_the_clip_is_refused(
    shrugged: tuple[SmallFilm, ShownSet], tmp_path: Path
) -> None:
    film, _ = shrugged
    with pytest.raises(BadInput, match="not of its clip"):
        annotated_clip(
            tmp_path / "a.mp4", film.clip, measured_set("standing-barbell-curl", reps=1), ()
        )
    assert list(tmp_path.iterdir()) == []


def test_a_still_of_a_figure_without_a_clip(tmp_path: Path) -> None:
    measured = measured_set("standing-barbell-curl", reps=1)
    for name in ("a.png", "a.svg"):
        write_still(tmp_path / name, measured, 2.0, "left", None, None)
    assert (tmp_path / "a.png").read_bytes().startswith(b"\x89PNG")
    assert b"<svg" in (tmp_path / "a.svg").read_bytes()
    assert b"<image" not in (tmp_path / "a.svg").read_bytes()


def test_every_shape_is_laid_over_where_it_stands() -> None:
    picture = np.zeros((200, 200, 3), np.uint8)
    drawing = Drawing(100, 100)
    square = np.array([[60.0, 10.0], [90.0, 10.0], [90.0, 40.0], [60.0, 40.0]])
    drawing.add(
        Stroke(np.array([[5.0, 50.0], [95.0, 50.0]]), "ink", 3.0),
        Area(square, "off", 1.0),
        Disc(20, 20, 8, fill="guide"),
        MarkShape(80, 80, "off", 12),
        Words(10, 90, "words", "ink", 14),
    )
    paint_over(picture, drawing, PICTURE, 2.0)
    assert picture[100, 100].tolist() == [255, 255, 255]
    assert picture[50, 150].tolist() == [0xFF, 0x8A, 0x57]
    assert picture[40, 40].tolist() == [0x6F, 0xDC, 0xDC]
    assert picture[162, 160].tolist() == [0xFF, 0x8A, 0x57]
    assert picture[155:185, 20:80].max() > 200
    assert picture[190:, 190:].max() == 0


def test_lines_over_a_picture_have_a_dark_edge_and_words_a_ground() -> None:
    drawing = Drawing(10, 10)
    drawing.add(Stroke(np.zeros((2, 2)), "ink", 2.0), Words(0, 0, "a"), Disc(1, 1, 1))
    under, line, words, disc = cased(drawing).items
    assert isinstance(under, Stroke)
    assert under.role == "panel"
    assert under.width > line.width
    assert isinstance(words, Words)
    assert words.clear
    assert disc == drawing.items[2]


def test_a_covered_part_can_t_be_told() -> None:
    rng = np.random.default_rng(0)
    picture = rng.integers(0, 255, (100, 100, 3), dtype=np.uint8)
    before = picture.copy()
    cover(picture, 50, 50, 20)
    assert picture[40:60, 40:60].astype(float).std() < 25
    assert np.array_equal(picture[:25], before[:25])
    cover(picture, -500, -500, 10)  # beside the picture: nothing to cover


def test_a_reader_gives_the_frame_of_a_still(shrugged: tuple[SmallFilm, ShownSet]) -> None:
    film, _ = shrugged
    with FrameReader(film.clip) as reader:
        assert np.array_equal(frame_of(film.clip, 7), reader.at(7))
