"""Clips in the real window: dropped, marked, followed, looked at, compared and exported."""

from __future__ import annotations

import json
import shutil
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QImage, QWheelEvent
from PyQt6.QtWidgets import QApplication

from builders import filmed, slow, some_of
from clips import SmallFilm, numbered_clip
from guide_arc.app.places.marking.document import drawn, placed
from guide_arc.app.places.marking.length_dialog import LengthDialog
from guide_arc.app.places.queue.incoming_dialog import IncomingDialog
from guide_arc.app.places.queue.names_dialog import NamesDialog
from guide_arc.app.places.review.export_dialog import ExportDialog
from guide_arc.app.services.destinations import ToMarking
from guide_arc.capture.tracking import pose
from guide_arc.capture.tracking.simulated import SimulatedTracker
from guide_arc.capture.video.clip import inspect_video
from guide_arc.formats.track_file import read_track, write_track
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library
from guide_arc.library.taking_out import remove_set
from guide_arc.reports.exports.export import Export
from guide_arc.reports.exports.registry import exports
from hands import Hands, dialog_of, drop, press

Key = Qt.Key
DETAILS = ClipDetails("Esme Rook", "rope-pushdown", "locked", "left", recorded="2031-03-28T11:45")


@pytest.fixture(autouse=True)
def _no_pose_model(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(pose, "pose_python", lambda: None)


@pytest.fixture(scope="session")
def one_clip(tmp_path_factory: pytest.TempPathFactory, pushdown_film: SmallFilm) -> Path:
    """A library with a clip that waits for landmarks (1) and one whose landmarks are found (2)."""
    folder = tmp_path_factory.mktemp("clip") / "library"
    library = Library.open(folder)
    sets = ClipSets(library)
    sets.add(pushdown_film.clip.path, DETAILS)
    copy = folder.parent / "finn-2031-03-29-rope-pushdown-left.mp4"
    copy.write_bytes(pushdown_film.clip.path.read_bytes() + bytes(8))  # another file, the same film
    found, _ = sets.add(
        copy, ClipDetails("Finn Adair", "rope-pushdown", "locked", "left", load_kg=20.0)
    )
    review_and_keep(library, found, sets.find_landmarks(found, SimulatedTracker()))
    for name in sets.folder.without_proxy():
        sets.folder.make_proxy(sets.folder.find(name))  # type: ignore[arg-type]
    library.close()
    return folder


@pytest.fixture
def library(one_clip: Path, tmp_path: Path):
    shutil.copytree(one_clip, tmp_path / "library")
    opened = Library.open(tmp_path / "library")
    yield opened
    opened.close()


@pytest.fixture
def marking(window: Hands, qtbot) -> Hands:
    window.open_set(1)
    qtbot.waitUntil(lambda: window.marking_place.view.frames.settled, timeout=10_000)
    return window


@pytest.fixture
def reviewing(window: Hands, qtbot) -> Hands:
    window.open_set(2)
    window.settle()
    qtbot.waitUntil(lambda: window.review_place.stage.frames.settled, timeout=10_000)
    return window


def _click(qtbot, window: Hands, spot) -> None:
    view = window.marking_place.view
    x, y = view.placed().to_sheet(np.asarray(spot))
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=QPoint(round(x), round(y)))
    window.settle()  # the mark is written beside the window


@slow
def test_a_clip_without_landmarks_says_so_and_opens_to_be_marked(marking: Hands) -> None:
    assert marking.place == "marking"
    assert marking.marking_place.what_next.text() == "Click the left ear."
    rows = {row.client: row for row in marking.sets.doc.rows}
    from guide_arc.app.places.queue.model import row_words

    assert "without landmarks yet" in row_words(rows["Esme Rook"])


@slow
def test_clicks_mark_the_joints_one_after_the_other(
    qtbot, marking: Hands, pushdown_film: SmallFilm
) -> None:
    for name in marking.marking.doc.joints:
        assert marking.marking.doc.point == name
        _click(qtbot, marking, pushdown_film.truth(name)[0])
    assert marking.marking.doc.point == "left_ankle"
    mark = marking.marking.doc.marks.marked("left_elbow", 0)
    assert mark is not None
    assert (mark.x, mark.y) == pytest.approx(tuple(pushdown_film.truth("left_elbow")[0]), abs=2.0)
    assert (
        ClipSets(marking.program.library.library).marks(1) == marking.marking.doc.marks
    )  # kept at once
    press(qtbot, marking, Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert "left_ankle" not in marking.marking.doc.marks.points
    press(qtbot, marking, Key.Key_Y, Qt.KeyboardModifier.ControlModifier)
    assert "left_ankle" in marking.marking.doc.marks.points


@slow
def test_a_mark_is_dragged_taken_away_and_stepped_over(qtbot, marking: Hands) -> None:
    view = marking.marking_place.view
    _click(qtbot, marking, (300.0, 100.0))
    at = [view.placed().to_sheet(np.array(p)) for p in ((300.0, 100.0), (340.0, 130.0))]
    start, end = (QPoint(round(x), round(y)) for x, y in at)
    qtbot.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(view, end)
    qtbot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=end)
    mark = marking.marking.doc.marks.marked("left_ear", 0)
    assert mark is not None
    assert (mark.x, mark.y) == pytest.approx((340.0, 130.0), abs=2.0)
    assert marking.marking.doc.marks.count == 1
    press(qtbot, marking, Key.Key_Backspace)
    assert marking.marking.doc.marks.count == 0
    press(qtbot, marking, Key.Key_Down)
    assert marking.marking.doc.point == "left_shoulder"


def test_a_clip_filmed_as_in_a_mirror_is_turned_back_with_its_marks(
    qtbot, marking: Hands, library: Library
) -> None:
    _click(qtbot, marking, (300.0, 100.0))
    width = marking.marking.doc.clip.width
    before = marking.marking_place.view.frames.picture.copy()
    qtbot.mouseClick(marking.marking_place.mirror, Qt.MouseButton.LeftButton)
    marking.settle()
    qtbot.waitUntil(lambda: marking.marking_place.view.frames.settled, timeout=10_000)
    mark = marking.marking.doc.marks.marked("left_ear", 0)
    assert mark is not None
    assert mark.x == pytest.approx(width - 1 - 300.0, abs=1.0)
    after = marking.marking_place.view.frames.picture
    assert after == before.mirrored(True, False)
    assert library.record(1).mirrored
    marking.undo()
    qtbot.waitUntil(lambda: marking.marking_place.view.frames.settled, timeout=10_000)
    assert not library.record(1).mirrored
    assert marking.marking.doc.marks.marked("left_ear", 0).x == pytest.approx(300.0, abs=1.0)
    assert marking.marking_place.view.frames.picture == before


def test_what_a_model_found_in_a_mirrored_clip_changes_sides(
    reviewing: Hands, library: Library
) -> None:
    from guide_arc.app.services.clip_jobs import turn_back

    before = library.track(2)
    turn_back(library, lambda _share: None, 2, True)
    after = library.track(2)
    width = before.image_size[0]
    assert after.point("right_elbow")[:, 0] == pytest.approx(
        width - 1 - before.point("left_elbow")[:, 0], abs=0.01, nan_ok=True
    )
    turn_back(library, lambda _share: None, 2, False)
    assert library.track(2).point("left_elbow") == pytest.approx(
        before.point("left_elbow"), abs=0.01, nan_ok=True
    )


def test_frames_are_stepped_and_zoomed(qtbot, marking: Hands) -> None:
    press(qtbot, marking, Key.Key_Right)
    press(qtbot, marking, Key.Key_Period)
    assert marking.marking.doc.frame == 2
    press(qtbot, marking, Key.Key_Left)
    assert marking.marking.doc.frame == 1
    view = marking.marking_place.view
    spot = QPointF(view.width() / 3, view.height() / 3)
    under = view.placed().to_picture(spot.x(), spot.y())
    wheel = QWheelEvent(
        spot,
        spot,
        QPoint(),
        QPoint(0, 240),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    view.wheelEvent(wheel)
    assert view.zoom > 1.4
    assert view.placed().to_picture(spot.x(), spot.y()) == pytest.approx(under, abs=0.5)
    press(qtbot, marking, Key.Key_0)
    assert view.zoom == 1.0


@slow
def test_marks_are_followed_and_the_set_is_reviewed(
    qtbot, marking: Hands, pushdown_film: SmallFilm
) -> None:
    for name in marking.marking.doc.asked:
        x, y = pushdown_film.truth(name)[0]
        marking.marking.show(marking.marking.doc.choosing(name))
        marking.marking.change(placed(marking.marking.doc, float(x), float(y)))
    press(qtbot, marking, Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    marking.settle()
    assert marking.place == "review"
    assert len(marking.review.doc.measured.review.reps) == 2
    assert marking.program.library.library.record(1).tracked_by == "marked points"


@slow
def test_two_windows_that_mark_one_clip_keep_what_both_marked(marking: Hands, open_window) -> None:
    other = open_window()
    other.program.go(ToMarking(set_id=1))
    other.settle()
    one = marking.marking
    one.change(placed(one.doc, 100.0, 120.0, point="left_shoulder"))
    marking.settle()
    other.marking.change(placed(other.marking.doc, 90.0, 180.0, point="left_elbow"))
    other.settle()
    kept = ClipSets(marking.program.library.library)
    assert set(kept.marks(1).points) == {"left_shoulder", "left_elbow"}
    assert set(other.marking.doc.marks.points) == {"left_shoulder", "left_elbow"}
    assert "Another window also marked this clip" in other.said
    marking.undo()
    assert set(kept.marks(1).points) == {"left_elbow"}
    other.undo()
    assert kept.marks(1).points == {}
    assert other.marking.doc.marks.points == {}


def test_a_mark_on_a_clip_that_another_window_turned_left_to_right_comes_to_the_same_spot(
    marking: Hands, open_window
) -> None:
    other = open_window()
    other.program.go(ToMarking(set_id=1))
    other.settle()
    sets = ClipSets(marking.program.library.library)
    width = sets.clip(1).width
    marking.marking.change(placed(marking.marking.doc, 100.0, 120.0, point="left_shoulder"))
    marking.settle()
    sets.turn_back(1, True)  # as the first window's box does
    other.marking.change(placed(other.marking.doc, 90.0, 180.0, point="left_elbow"))
    other.settle()
    kept = sets.marks(1).points
    assert kept["left_shoulder"][0].x == width - 1 - 100.0
    assert kept["left_elbow"][0].x == width - 1 - 90.0
    shown = other.marking.doc.marks.points  # its picture is as it was when it was opened
    assert (shown["left_shoulder"][0].x, shown["left_elbow"][0].x) == (100.0, 90.0)


def test_following_nothing_is_refused_in_words(qtbot, marking: Hands) -> None:
    press(qtbot, marking, Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    assert "Nothing is marked" in marking.said
    press(qtbot, marking, Key.Key_Q)
    assert "nothing to look at again" in marking.said


@slow
def test_a_doubt_is_gone_to_and_mended_by_a_click(
    qtbot, marking: Hands, pushdown_film: SmallFilm
) -> None:
    sets = ClipSets(marking.program.library.library)
    sets.keep_marks(1, pushdown_film.marks())
    track = sets.find_landmarks(1, SimulatedTracker())
    confidence = track.confidence.copy()
    confidence[40:52, track.names.index("left_wrist")] = 0.1
    confidence[45, track.names.index("left_wrist")] = 0.0
    from dataclasses import replace

    sets.keep_track(1, replace(track, confidence=confidence), "marked points")
    marking.program.measuring.open_marks(1)
    marking.settle()
    assert len(marking.marking.doc.doubts) == 1
    press(qtbot, marking, Key.Key_Q)
    assert (marking.marking.doc.point, marking.marking.doc.frame) == ("left_wrist", 45)
    assert marking.marking_place.what_next.text().startswith("Is the left wrist here?")
    _click(qtbot, marking, pushdown_film.truth("left_wrist")[45])
    assert marking.marking.doc.doubts == ()
    assert marking.marking.doc.marks.marked("left_wrist", 45) is not None


def test_a_known_length_is_drawn_and_named(qtbot, marking: Hands, pushdown_film: SmallFilm) -> None:
    press(qtbot, marking, Key.Key_1, Qt.KeyboardModifier.ControlModifier)
    assert marking.marking_place.what_next.text().startswith("Draw the line")
    view = marking.marking_place.view
    ends = [view.placed().to_sheet(np.asarray(p)) for p in pushdown_film.filmed.pole]
    start, end = (QPoint(round(x), round(y)) for x, y in ends)
    qtbot.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(view, end)
    qtbot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=end)
    dialog = dialog_of(marking, LengthDialog)
    dialog.what.setCurrentText("a measuring pole")
    assert dialog.metres.value() == 1.0
    dialog.ok.click()
    line = marking.marking.doc.marks.line("length")
    assert line is not None
    assert line.what == "a measuring pole"
    assert "px a metre" in marking.marking_place.told["length"].text()
    marking.marking_place.clear["length"].click()
    assert marking.marking.doc.marks.line("length") is None


def test_a_line_that_is_too_short_is_refused(marking: Hands) -> None:
    marking.marking.show(marking.marking.doc.using("plumb"))
    marking.marking.change(drawn(marking.marking.doc, (10.0, 10.0), (12.0, 14.0)))
    assert "too short" in marking.said
    marking.marking.show(marking.marking.doc.using("person"))
    marking.marking.change(drawn(marking.marking.doc, (10.0, 10.0), (200.0, 300.0)))
    assert marking.marking.doc.marks.person == (0, 10.0, 10.0, 200.0, 300.0)


def test_another_side_asks_for_other_joints(marking: Hands) -> None:
    box = marking.marking_place.seen_from
    box.setCurrentIndex(box.findData("right"))
    box.activated.emit(box.currentIndex())
    assert marking.marking.doc.point == "right_ear"
    marking.settle()
    assert marking.program.library.library.record(1).view == "right"


def test_the_place_says_what_the_pose_model_would_add(marking: Hands) -> None:
    from PyQt6.QtWidgets import QLabel

    words = [label.text() for label in marking.marking_place.findChildren(QLabel)]
    assert any("./run add-pose" in w for w in words)


def test_the_clip_is_under_the_drawing_and_can_be_taken_away(qtbot, reviewing: Hands) -> None:
    stage = reviewing.review_place.stage
    assert stage.shows_picture()
    assert stage.zoom > 1.2  # the person, not the room
    picture = stage.grab().toImage()
    press(qtbot, reviewing, Key.Key_R)
    assert not stage.shows_picture()
    assert stage.grab().toImage() != picture
    press(qtbot, reviewing, Key.Key_R)
    press(qtbot, reviewing, Key.Key_0)
    assert stage.zoom == 1.0
    press(qtbot, reviewing, Key.Key_0)
    assert stage.zoom > 1.2


def test_the_frame_follows_the_clock(qtbot, reviewing: Hands) -> None:
    stage = reviewing.review_place.stage
    reviewing.review.playback.go_to(2.0)
    qtbot.waitUntil(
        lambda: stage.frames.number == stage.frames.clip.index(2.0) and stage.frames.settled,
        timeout=10_000,
    )
    press(qtbot, reviewing, Key.Key_Right)
    qtbot.waitUntil(lambda: stage.frames.number == stage.frames.clip.index(2.0) + 1, timeout=10_000)


def test_speeds_go_from_an_eighth_to_double(qtbot, reviewing: Hands) -> None:
    press(qtbot, reviewing, Key.Key_8)
    assert reviewing.review.playback.speed == 0.125
    assert "an eighth of the speed" in reviewing.review_place.clock.text()
    for _ in range(9):
        reviewing.shell.actions_by_id["play.faster"].trigger()
    assert reviewing.review.playback.speed == 2.0
    reviewing.shell.actions_by_id["play.slower"].trigger()
    assert reviewing.review.playback.speed == 1.5


def test_two_reps_play_side_by_side_at_the_same_phase(qtbot, reviewing: Hands) -> None:
    review = reviewing.review
    first, second = reviewing.shown.review.reps
    review.show_ghost(review.doc.own_ghost(first.key))
    beside = reviewing.review_place.stages.beside
    assert beside.isVisible()
    assert abs(beside.width() - reviewing.review_place.stage.width()) <= 4
    review.playback.go_to(second.lift.start_s + 0.5 * second.lift.length_s)
    shown = beside.shown()
    assert shown is not None
    at_s = shown[1]
    assert at_s == pytest.approx(first.lift.start_s + 0.5 * first.lift.length_s, abs=0.1)
    qtbot.waitUntil(lambda: beside.frames.number == beside.frames.clip.index(at_s), timeout=10_000)
    assert beside.frames is not reviewing.review_place.stage.frames
    review.show_ghost(None)
    assert not beside.isVisible()


def test_marks_can_be_looked_at_from_the_review(qtbot, reviewing: Hands) -> None:
    press(qtbot, reviewing, Key.Key_F5)
    assert reviewing.place == "marking"
    assert reviewing.marking.doc.where_found
    press(qtbot, reviewing, Key.Key_F3)
    assert reviewing.place == "review"
    assert reviewing.review.doc.record.id == 2


def test_another_set_can_be_opened_from_the_marks(qtbot, marking: Hands) -> None:
    press(qtbot, marking, Key.Key_F3)
    assert marking.place == "marking"
    assert "nothing to review yet" in marking.said
    marking.open_set(2)
    marking.settle()
    assert (marking.place, marking.review.doc.record.id) == ("review", 2)


def test_clips_are_dropped_asked_about_and_copied(
    window: Hands, tmp_path: Path, library: Library
) -> None:
    source = numbered_clip(
        tmp_path / "ada-2031-04-01-overhead-press-dumbbell-front.mp4", size=(320, 240)
    )
    drop(window, source)
    dialog = dialog_of(window, IncomingDialog)
    [(item, form)] = dialog.forms
    assert (item.standard, item.view, item.recorded) == (
        "overhead-press-dumbbell",
        "front",
        "2031-04-01",
    )
    form.client.setEditText("Ada Quill")
    form.view.setCurrentIndex(0)
    dialog.ok.click()
    assert "from which side" in dialog.wrong.text()
    form.view.setCurrentIndex(form.view.findData("back"))
    form.capture.setCurrentIndex(form.capture.findData(120.0))
    dialog.ok.click()
    window.settle()
    assert "1 clip added" in window.said
    row = window.sets.doc.rows[[r.client for r in window.sets.doc.rows].index("Ada Quill")]
    record = library.record(row.id)
    assert (record.view, record.capture_hz, record.recorded) == ("back", 120.0, "2031-04-01")
    assert ClipSets(window.program.library.library).folder.without_proxy() == []
    window.undo()
    assert "Ada Quill" not in [r.client for r in window.sets.doc.rows]


@slow
def test_tracks_and_clips_come_in_together(window: Hands, tmp_path: Path, library: Library) -> None:
    write_track(filmed("rope-pushdown", reps=2, seed=31).track, tmp_path / "finn-1.csv")
    numbered_clip(tmp_path / "finn-rope-pushdown-left.mp4", size=(320, 240))
    before = library.count()
    drop(window, tmp_path / "finn-1.csv", tmp_path / "finn-rope-pushdown-left.mp4")
    dialog_of(window, IncomingDialog).ok.click()
    window.settle()
    assert library.count() == before + 2
    assert "1 clip added" in window.said


def test_what_is_no_clip_is_refused_in_the_dialog(window: Hands, tmp_path: Path) -> None:
    (tmp_path / "bad.mp4").write_bytes(b"no clip" * 99)
    drop(window, tmp_path / "bad.mp4")
    dialog = dialog_of(window, IncomingDialog)
    from PyQt6.QtWidgets import QLabel

    assert any("bad.mp4" in label.text() for label in dialog.findChildren(QLabel))
    dialog.reject()


def test_a_clip_that_was_cut_off_last_time_is_gone_on_with(
    open_window, library: Library, tmp_path: Path
) -> None:
    source = numbered_clip(tmp_path / "a.mp4", size=(320, 240))

    class Stop(Exception):
        pass

    def stop(_share: float) -> None:
        raise Stop

    with pytest.raises(Stop):
        ClipSets(library).add(
            source, ClipDetails("Ada Quill", "rope-pushdown", "locked", "left"), stop
        )
    window = open_window()
    window.settle()
    assert "Ada Quill" in [r.client for r in window.sets.doc.rows]


def test_erasing_a_clip_is_undone_with_its_landmarks(window: Hands, library: Library) -> None:
    window.sets.choose(2)
    window.program.set_changes.erase(2, "Finn Adair")
    window.settle()
    assert 2 not in [r.id for r in window.sets.doc.rows]
    window.undo()
    assert library.record(2).tracked_by == "simulated tracker"
    assert ClipSets(window.program.library.library).clip(2) is not None


def _kind(name: str) -> Export:
    return next(e for e in exports() if e.id == name)


def test_the_export_dialog_offers_what_the_set_has(qtbot, reviewing: Hands) -> None:
    press(
        qtbot,
        reviewing,
        Key.Key_E,
        Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier,
    )
    dialog = dialog_of(reviewing, ExportDialog)
    offered = [e for e in exports() if e.needs != "world"]
    assert dialog.kinds.count() == len(offered)
    assert dialog.face.isVisible()
    dialog.kinds.setCurrentRow(2)
    assert not dialog.face.isVisible()
    dialog.reject()
    in_space = [e.id for e in exports() if e.fits(has_clip=False, in_space=True)]
    assert "c3d" in in_space
    assert not {"clip", "keypoints"} & set(in_space)


@slow
@pytest.mark.parametrize(
    ("kind", "name"),
    some_of(
        [
            ("clip", "a.mp4"),
            ("still", "s.png"),
            ("still", "s.svg"),
            ("reps", "r.csv"),
            ("measures", "m.csv"),
            ("json", "t.json"),
            ("keypoints", "k.json"),
            ("bundle", "b.zip"),
        ]
    ),
)
def test_everything_can_leave(reviewing: Hands, tmp_path: Path, kind: str, name: str) -> None:
    target = tmp_path / name
    over_clip = reviewing.of("review").stage.shows_picture()
    reviewing.of("review").asking.leaving.export(
        _kind(kind), target, face=True, over_clip=over_clip
    )
    assert reviewing.shell.foot.work.isVisible()
    reviewing.settle()
    assert reviewing.said == f"Saved {name}."
    assert not reviewing.shell.foot.work.isVisible()
    if name == "s.png":
        assert QImage(str(target)).width() == 640
    elif kind == "clip":
        assert inspect_video(target).frames > 60
    elif name == "s.svg":
        assert b"<image" in target.read_bytes()
    elif kind in ("json", "keypoints"):
        assert read_track(target).frames == reviewing.review.doc.record.frames
    else:
        assert target.stat().st_size > 10


def test_subtitles_need_a_cue(reviewing: Hands, tmp_path: Path) -> None:
    assert not reviewing.review.doc.measured.review.with_verdict("off")
    reviewing.of("review").asking.leaving.export(_kind("subtitles"), tmp_path / "c.vtt")
    reviewing.settle()
    assert reviewing.said == "There is no cue to write; keep a finding first."
    assert list(tmp_path.glob("*.vtt")) == []


def test_an_export_can_be_stopped(reviewing: Hands, tmp_path: Path) -> None:
    reviewing.of("review").asking.leaving.export(_kind("clip"), tmp_path / "a.mp4")
    reviewing.shell.foot.work.stop.click()
    reviewing.settle()
    assert "nothing was written" in reviewing.said
    assert list(tmp_path.glob("*.mp4")) == []


@slow
def test_a_bundle_that_is_dropped_becomes_its_set(
    window: Hands, tmp_path: Path, library: Library
) -> None:
    from guide_arc.library.bundles import write_set

    write_set(library, 2, tmp_path / "set.zip")
    remove_set(library, 2)
    window.sets.refresh()
    drop(window, tmp_path / "set.zip")
    window.settle()
    assert "Finn Adair" in [r.client for r in window.sets.doc.rows]


@slow
def test_markers_are_named_once_and_remembered(
    window: Hands, tmp_path: Path, library: Library
) -> None:
    track = filmed("rope-pushdown", reps=2, noise=0.002).track
    write_track(track, tmp_path / "finn-lab.trc")
    text = (tmp_path / "finn-lab.trc").read_text()
    for i, name in enumerate(track.names):
        text = text.replace(name + "\t", f"P{i:02d}\t", 1)
    (tmp_path / "finn-lab.trc").write_text(text)
    drop(window, tmp_path / "finn-lab.trc")
    dialog = dialog_of(window, NamesDialog)
    dialog.ok.click()
    assert "shoulder" in dialog.wrong.text()
    for i, name in enumerate(track.names):
        box = dialog.choices[f"P{i:02d}"]
        box.setCurrentIndex(box.findData(name))
    dialog.ok.click()
    window.settle()
    assert json.loads(library.setting("marker-names"))["P00"] == track.names[0]
    [(item, _form)] = dialog_of(window, IncomingDialog).forms
    assert item.frames == track.frames
    dialog_of(window, IncomingDialog).reject()
    drop(window, tmp_path / "finn-lab.trc")  # not asked again
    assert dialog_of(window, IncomingDialog).forms[0][0].name == "finn-lab.trc"
    dialog_of(window, IncomingDialog).reject()


def _look(window: Hands, *at_s: float) -> None:
    """Let the drop folder be looked into at these times."""

    class Clock:
        now = 0.0

        def elapsed(self) -> float:
            return 1000.0 * self.now

    clock = Clock()
    window.program.drop_folder.clock = clock  # type: ignore[assignment]
    for moment in at_s:
        clock.now = moment
        window.program.drop_folder.look()
        window.settle()


def test_the_drop_folder_takes_in_what_says_all_and_keeps_the_rest(
    window: Hands, tmp_path: Path, library: Library
) -> None:
    folder = tmp_path / "drop"
    folder.mkdir()
    window.program.drop_folder.choose(str(folder))
    window.settle()
    window.program.drop_folder.timer.stop()  # looked into by hand here
    write_track(filmed("rope-pushdown", reps=2, seed=9).track, folder / "finn-adair-2031-04-01.csv")
    write_track(filmed("rope-pushdown", reps=2, seed=10).track, folder / "unknown.csv")
    _look(window, 0.0, 5.0, 10.0)
    names = [library.record(r.id).source_name for r in window.sets.doc.rows]
    assert "finn-adair-2031-04-01.csv" in names
    assert "unknown.csv" not in names
    assert [p.name for p in window.program.drop_folder.asked] == ["unknown.csv"]
    before = library.count()
    shutil.copy(folder / "finn-adair-2031-04-01.csv", folder / "finn-adair-again.csv")
    _look(window, 20.0, 25.0, 30.0)
    assert library.count() == before  # the same bytes make one set
    window.do("file.dropped")
    window.settle()
    assert dialog_of(window, IncomingDialog).forms[0][0].name == "unknown.csv"
    dialog_of(window, IncomingDialog).reject()
    assert window.program.drop_folder.asked == []


def test_a_drop_folder_that_is_gone_is_said(window: Hands, tmp_path: Path) -> None:
    folder = tmp_path / "drop"
    folder.mkdir()
    window.program.drop_folder.choose(str(folder))
    window.settle()
    folder.rmdir()
    _look(window, 0.0)
    assert "can't be read" in window.said
    QApplication.processEvents()


def test_a_clip_from_between_two_sides_says_so_all_the_way(marking: Hands) -> None:
    box = marking.marking_place.seen_from
    box.setCurrentIndex(box.findText("Seen from back left"))
    box.activated.emit(box.currentIndex())
    marking.settle()
    library = marking.program.library.library
    assert library.record(1).view == "back-left"
    assert {"left_wrist", "left_hip", "right_shoulder", "right_hip"} <= set(
        marking.marking.doc.joints
    )
    assert "right_wrist" not in marking.marking.doc.joints
    assert {row.id: row.view for row in library.queue()}[1] == "back-left"
    marking.undo()
    marking.settle()
    assert library.record(1).view == "left"
