"""Clips in the library: copied once, gone on with after a kill, marked, followed, exported and
erased."""

from __future__ import annotations

import fcntl
import json
import os
import signal
import sqlite3
import stat
import subprocess
import sys
import time
from dataclasses import asdict, replace
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from test_library import first_form  # type: ignore[import-not-found]

from builders import slow, some_of
from clips import SmallFilm, number_in, numbered_clip
from guide_arc.capture.tracking.following import MarkedPoints
from guide_arc.capture.tracking.simulated import SimulatedTracker
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.marks import Line, Mark, Marks
from guide_arc.formats.errors import BadFile
from guide_arc.library.bundles import take_bundle, write_set
from guide_arc.library.clip_folder import PICTURE, ClipFolder, PendingClip
from guide_arc.library.clip_sets import ClipDetails, ClipSets, marks_of, marks_text
from guide_arc.library.errors import BadLibrary
from guide_arc.library.intake import inspect_clip
from guide_arc.library.listing_anew import unlisted
from guide_arc.library.records import Decision, SetNotes
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library
from guide_arc.library.taking_out import forget_own, remove_set, take_out
from guide_arc.library.undoing import take_back
from guide_arc.standards.catalogue import Catalogue

DETAILS = ClipDetails(
    "Esme Rook", "rope-pushdown", "locked", "left", load_kg=12.5, recorded="2031-03-28T11:45"
)


@pytest.fixture
def sets(library: Library) -> ClipSets:
    return ClipSets(library)


def _quiet(_share: float) -> None:
    pass


def test_other_landmarks_wait_for_a_review_of_their_own(
    sets: ClipSets, pushdown_film: SmallFilm
) -> None:
    set_id, _new = sets.add(pushdown_film.clip.path, DETAILS)
    for by in ("marked points", "pose model"):
        sets.keep_track(set_id, pushdown_film.filmed.truth, by)
        assert sets.library.without_review() == [set_id]
        review_and_keep(sets.library, set_id)
        assert sets.library.without_review() == []


def test_a_clip_becomes_a_set_that_waits_for_landmarks(
    sets: ClipSets, pushdown_film: SmallFilm
) -> None:
    set_id, new = sets.add(pushdown_film.clip.path, DETAILS)
    record = sets.library.record(set_id)
    assert new
    assert record.waits_for_landmarks
    assert (record.client, record.view, record.load_kg) == ("Esme Rook", "left", 12.5)
    assert record.frames == pushdown_film.clip.frames
    row = sets.library.queue()[0]
    assert (row.has_clip, row.has_track, row.view, row.summary) == (True, False, "left", None)
    assert sets.library.without_review() == []
    with pytest.raises(BadLibrary, match="mark them first"):
        sets.library.track(set_id)


def test_the_original_is_not_changed_and_only_its_person_can_read_the_copy(
    sets: ClipSets, tmp_path: Path
) -> None:
    source = numbered_clip(tmp_path / "mine.mp4")
    before, stamp = source.read_bytes(), source.stat().st_mtime_ns
    set_id, _ = sets.add(source, DETAILS)
    assert (source.read_bytes(), source.stat().st_mtime_ns) == (before, stamp)
    clip = sets.clip(set_id)
    assert clip is not None
    assert clip.path.read_bytes() == before
    for file in (sets.library.folder / "clips").rglob("*"):
        assert stat.S_IMODE(file.stat().st_mode) & 0o077 == 0
    assert not list(sets.folder.coming.glob("*"))


def test_the_same_clip_twice_makes_one_set(sets: ClipSets, tmp_path: Path) -> None:
    source = numbered_clip(tmp_path / "a.mp4")
    copy = tmp_path / "copy of a.mp4"
    copy.write_bytes(source.read_bytes())
    first, new = sets.add(source, DETAILS)
    second, again = sets.add(copy, DETAILS)
    assert (first, new, again) == (second, True, False)
    assert len(list((sets.library.folder / "clips").glob("*.mp4"))) == 1


class Stop(Exception):
    pass


def _stop_at(share: float):
    def progress(done: float) -> None:
        if done >= share:
            raise Stop

    return progress


def test_a_copy_that_was_cut_off_is_gone_on_with(
    sets: ClipSets, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("guide_arc.library.clip_folder._CHUNK", 2000)
    source = numbered_clip(tmp_path / "a.mp4", 80, size=(640, 480))
    with pytest.raises(Stop):
        sets.add(source, DETAILS, _stop_at(0.4))
    [coming] = sets.folder.pending()
    part = coming.slip.with_suffix(".part")
    half = part.stat().st_size
    assert 0 < half < source.stat().st_size
    told: list[float] = []
    set_id, new = sets.resume(coming, told.append)
    assert new
    assert told[0] > 0.3  # it did not begin anew
    assert sets.clip(set_id).path.read_bytes() == source.read_bytes()
    assert sets.library.record(set_id).client == "Esme Rook"
    assert sets.folder.pending() == []


def test_a_clip_that_is_being_copied_is_left_to_who_copies_it(
    sets: ClipSets, tmp_path: Path
) -> None:
    source = numbered_clip(tmp_path / "a.mp4")
    with pytest.raises(Stop):
        sets.add(source, DETAILS, _stop_at(0.0))
    [coming] = sets.folder.pending()
    with coming.slip.with_suffix(".part").open("a+b") as copying:
        fcntl.flock(copying, fcntl.LOCK_EX)
        assert sets.folder.pending() == []
        with pytest.raises(BadFile, match="being copied already"):
            sets.add(source, DETAILS)
    assert sets.folder.pending() == [coming]
    assert sets.resume(coming)[1]


def test_a_write_that_is_under_way_is_not_swept_by_another_opening(library: Library) -> None:
    under_way = library.folder / "tracks" / ".x.csv.abc.part"
    under_way.write_bytes(b"half")
    Library.open(library.folder).close()
    assert under_way.exists()
    library.close()
    Library.open(library.folder).close()
    assert not under_way.exists()


def test_a_torn_copy_is_mended(
    sets: ClipSets, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("guide_arc.library.clip_folder._CHUNK", 2000)
    source = numbered_clip(tmp_path / "a.mp4", 80, size=(640, 480))
    with pytest.raises(Stop):
        sets.add(source, DETAILS, _stop_at(0.6))
    [coming] = sets.folder.pending()
    part = coming.slip.with_suffix(".part")
    data = bytearray(part.read_bytes())
    data[-100:] = bytes(100)  # a power cut left zeros
    part.write_bytes(bytes(data))
    set_id, _ = sets.resume(coming)
    assert sets.clip(set_id).path.read_bytes() == source.read_bytes()


def test_a_clip_whose_source_is_gone_is_given_up_in_words(sets: ClipSets, tmp_path: Path) -> None:
    source = numbered_clip(tmp_path / "a.mp4")
    with pytest.raises(Stop):
        sets.add(source, DETAILS, _stop_at(0.0))
    source.unlink()
    [coming] = sets.folder.pending()
    with pytest.raises(BadFile, match=r"a\.mp4"):
        sets.resume(coming)
    assert sets.folder.pending() == []


def copied_whole(sets: ClipSets, source: Path) -> PendingClip:
    """A kill came after the copying and before the set."""
    sets.folder.take(source, asdict(DETAILS))
    [coming] = sets.folder.pending()
    return coming


def clips_left(sets: ClipSets) -> set[str]:
    return {f.name.partition(".")[0] for f in sets.folder.folder.iterdir() if f.is_file()}


def test_a_clip_that_was_copied_whole_becomes_a_set_without_the_file_it_came_from(
    sets: ClipSets, tmp_path: Path
) -> None:
    source = numbered_clip(tmp_path / "a.mp4")
    coming = copied_whole(sets, source)
    source.unlink()
    half = coming.slip.with_suffix(".part")  # as a cut of power may leave it
    half.write_bytes(b"half a clip")
    set_id, new = sets.resume(coming)
    assert new
    assert not half.exists()
    assert sets.clip(set_id) is not None
    assert sets.folder.pending() == []


def test_a_clip_on_its_way_to_an_erased_client_goes_with_them(
    sets: ClipSets, tmp_path: Path
) -> None:
    other = sets.add(numbered_clip(tmp_path / "b.mp4", 9), DETAILS)[0]
    copied_whole(sets, numbered_clip(tmp_path / "a.mp4"))
    take_out(sets.library, [other])
    forget_own(sets.library)
    assert sets.folder.pending() == []
    assert clips_left(sets) == set()


def test_a_clip_that_undo_needs_stays_when_another_copy_of_it_is_given_up(
    sets: ClipSets, tmp_path: Path
) -> None:
    source = numbered_clip(tmp_path / "a.mp4")
    set_id, _ = sets.add(source, DETAILS)
    other_window = Library.open(sets.library.folder)
    changes = take_out(other_window, [set_id])
    coming = copied_whole(sets, source)
    sets.abandon(coming)
    take_back(other_window, changes)
    assert sets.clip(set_id) is not None
    other_window.close()


def test_a_clip_that_was_removed_while_it_came_makes_no_set_without_a_picture(
    sets: ClipSets, tmp_path: Path
) -> None:
    source = numbered_clip(tmp_path / "a.mp4")
    name, clip, slip = sets.folder.take(source, asdict(DETAILS))
    [coming] = sets.folder.pending()
    sets.abandon(coming)
    with pytest.raises(BadFile, match="add it again"):
        sets.arrive(name, clip, slip, source, DETAILS)
    assert sets.library.clients() == []


def test_slips_that_can_t_be_read_are_swept(sets: ClipSets) -> None:
    sets.folder.coming.mkdir(parents=True)
    (sets.folder.coming / "x.json").write_text("{half a")
    (sets.folder.coming / "y.part").write_bytes(b"orphan")
    assert sets.folder.pending() == []
    assert list(sets.folder.coming.iterdir()) == []


def test_what_is_no_clip_leaves_nothing_behind(sets: ClipSets, tmp_path: Path) -> None:
    (tmp_path / "bad.mp4").write_bytes(b"no clip" * 100)
    (tmp_path / "empty.mp4").write_bytes(b"")
    for name in ("bad.mp4", "empty.mp4"):
        with pytest.raises(BadFile, match=name):
            sets.add(tmp_path / name, DETAILS)
    assert sets.library.count() == 0
    assert not list((sets.library.folder / "clips").rglob("*.mp4"))
    assert sets.folder.pending() == []


def test_too_large_for_the_disk_is_said_before_copying(
    sets: ClipSets, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    class Disk:
        free = 1000

    monkeypatch.setattr("shutil.disk_usage", lambda _folder: Disk)
    with pytest.raises(BadFile, match="GB are free"):
        sets.add(numbered_clip(tmp_path / "a.mp4"), DETAILS)


def test_details_that_can_t_be_are_refused() -> None:
    with pytest.raises(BadInput, match="view"):
        replace(DETAILS, view="above")
    with pytest.raises(BadInput, match="capture rate"):
        replace(DETAILS, capture_hz=1.0)


@pytest.mark.parametrize(
    ("name", "view"),
    [
        ("Esme_Rook_rope-pushdown_front-left.mp4", "front-left"),
        ("Esme Rook rope-pushdown left back.mp4", "back-left"),
        ("Esme_Rook_rope-pushdown_right.mp4", "right"),
        ("Esme_Rook_front_rope-pushdown_left.mp4", "front"),
        ("Esme_Rook_rope-pushdown.mp4", None),
    ],
)
def test_the_view_is_read_from_a_clips_name(
    pushdown_film: SmallFilm, tmp_path: Path, name: str, view: str | None
) -> None:
    path = tmp_path / name
    path.write_bytes(pushdown_film.clip.path.read_bytes())
    assert inspect_clip(path, [], Catalogue()).view == view


def test_landmarks_follow_a_view_that_is_said_later(
    sets: ClipSets, pushdown_film: SmallFilm
) -> None:
    set_id, _new = sets.add(pushdown_film.clip.path, DETAILS)
    sets.keep_track(set_id, pushdown_film.filmed.truth, "marked points")
    sets.keep_marks(set_id, Marks("front-right"), scale=True)
    track = sets.library.track(set_id)
    assert (track.stated_view, track.view) == ("front-right", "right")
    assert sets.library.record(set_id).view == "front-right"
    assert sets.library.queue()[0].view == "front-right"


def test_marks_are_kept_and_read_back(sets: ClipSets, tmp_path: Path) -> None:
    set_id, _ = sets.add(numbered_clip(tmp_path / "a.mp4"), DETAILS)
    marks = Marks(
        "right",
        {"right_knee": (Mark(3, 10.5, 20.25),)},
        (Line("length", 0, 0, 0, 90, 0.45, "plate"),),
        (2, 1.0, 2.0, 30.0, 40.0),
    )
    sets.keep_marks(set_id, marks)
    assert sets.marks(set_id) == marks
    assert sets.library.record(set_id).view == "right"
    assert marks_of(marks_text(marks), "right") == marks


def test_landmarks_are_found_followed_and_joined(sets: ClipSets, pushdown_film: SmallFilm) -> None:
    set_id, _ = sets.add(pushdown_film.clip.path, DETAILS)
    with pytest.raises(BadInput, match="nothing is marked"):
        sets.find_landmarks(set_id, MarkedPoints())
    sets.keep_marks(set_id, pushdown_film.marks(0, "left_pulley"))
    track = sets.find_landmarks(set_id, SimulatedTracker())
    assert {"left_pulley", "left_elbow"} <= set(track.names)
    record = sets.library.record(set_id)
    assert record.tracked_by == "simulated tracker"
    assert record.duration_s == pytest.approx(pushdown_film.clip.duration_s, abs=0.05)
    assert len(review_and_keep(sets.library, set_id).reps) == 2


@slow
def test_new_landmarks_take_the_place_of_old_ones_and_decisions_stay(
    sets: ClipSets, pushdown_film: SmallFilm
) -> None:
    set_id, _ = sets.add(pushdown_film.clip.path, DETAILS)
    sets.find_landmarks(set_id, SimulatedTracker())
    review_and_keep(sets.library, set_id)
    sets.library.keep_notes(set_id, SetNotes({"torso-swing/both": Decision("keep")}, "Good."))
    sets.keep_marks(set_id, pushdown_film.marks())
    sets.find_landmarks(set_id, MarkedPoints())
    assert sets.library.kept_review(set_id) is None
    notes = sets.library.record(set_id).notes
    assert (notes.note, set(notes.decisions)) == ("Good.", {"torso-swing/both"})
    assert len(list((sets.library.folder / "tracks").glob("*.csv"))) == 1


def test_a_line_drawn_later_goes_into_the_track(sets: ClipSets, pushdown_film: SmallFilm) -> None:
    set_id, _ = sets.add(pushdown_film.clip.path, DETAILS)
    sets.find_landmarks(set_id, SimulatedTracker())
    (ax, ay), (bx, by) = pushdown_film.filmed.pole
    marks = Marks("left").with_line(Line("length", ax, ay, bx, by, 1.0, "a measuring pole"))
    sets.keep_marks(set_id, marks, scale=True)
    known = sets.library.track(set_id).calibration
    assert known.px_per_m is not None
    assert known.px_per_m.value == pytest.approx(float(abs(ay - by)), rel=0.01)
    before = sets.library.record(set_id).track_hash
    sets.keep_marks(set_id, marks, scale=True)
    assert sets.library.record(set_id).track_hash == before


def test_slow_motion_is_measured_in_true_time(sets: ClipSets, pushdown_film: SmallFilm) -> None:
    slowed = replace(DETAILS, capture_hz=80.0)
    set_id, _ = sets.add(pushdown_film.clip.path, slowed)
    assert sets.library.record(set_id).duration_s == pytest.approx(
        pushdown_film.clip.duration_s / 4, rel=0.02
    )
    sets.find_landmarks(set_id, SimulatedTracker())
    assert sets.library.track(set_id).frame_rate_hz == pytest.approx(80.0, rel=0.01)


def test_an_erased_clip_can_be_put_back_until_it_is_forgotten(
    sets: ClipSets, pushdown_film: SmallFilm
) -> None:
    library = sets.library
    set_id, _ = sets.add(pushdown_film.clip.path, DETAILS)
    sets.find_landmarks(set_id, SimulatedTracker())
    library.keep_notes(set_id, SetNotes({"torso-swing/both": Decision("drop")}, "Note"))
    removed = take_out(library, [set_id])
    assert library.count() == 0
    assert unlisted(library) == []  # held for undo, so not offered as a lost recording
    take_back(library, removed)
    assert library.record(set_id).notes.note == "Note"
    assert library.record(set_id).notes.decisions["torso-swing/both"].choice == "drop"
    assert sets.clip(set_id) is not None
    assert library.track(set_id).frames
    remove_set(library, set_id)
    assert not [
        p for p in library.folder.rglob("*") if p.suffix in (".mp4", ".npz", ".csv", ".jpg")
    ]


def test_a_clip_has_a_small_picture_to_know_it_by(sets: ClipSets, tmp_path: Path) -> None:
    set_id, _ = sets.add(numbered_clip(tmp_path / "a.mp4"), DETAILS)
    clip = sets.clip(set_id)
    assert clip is not None
    file = sets.folder.folder / f"{clip.path.stem}{PICTURE}"
    assert stat.S_IMODE(file.stat().st_mode) == 0o600
    with Image.open(file) as picture:
        assert number_in(np.asarray(picture)) == 18  # of 40: where the set is under way
    file.unlink()  # a library from before there were pictures
    sets.folder.make_proxy(clip)
    assert file.exists()


def test_a_mirrored_set_goes_to_another_library_as_it_is(
    sets: ClipSets, pushdown_film: SmallFilm, tmp_path: Path
) -> None:
    set_id, _ = sets.add(pushdown_film.clip.path, DETAILS)
    marks = Marks("left", {"left_wrist": (Mark(3, 100.0, 50.0),)})
    sets.keep_marks(set_id, marks)
    sets.turn_back(set_id, True)
    write_set(sets.library, set_id, tmp_path / "set.zip")
    other = Library.open(tmp_path / "other")
    new_id, _ = take_bundle(other, tmp_path / "set.zip")
    assert other.record(new_id).mirrored
    assert ClipSets(other).marks(new_id) == marks.mirrored(pushdown_film.clip.width)
    other.close()


def test_a_lost_index_is_made_again(sets: ClipSets, tmp_path: Path) -> None:
    set_id, _ = sets.add(numbered_clip(tmp_path / "a.mp4"), DETAILS)
    index = next((sets.library.folder / "clips").glob("*.npz"))
    index.write_bytes(b"damaged")
    assert sets.clip(set_id).frames == 40
    index.unlink()
    assert sets.clip(set_id).frames == 40
    assert index.exists()


def test_a_small_copy_is_made_once(sets: ClipSets, tmp_path: Path) -> None:
    set_id, _ = sets.add(numbered_clip(tmp_path / "a.mp4"), DETAILS)
    clip = sets.clip(set_id)
    assert clip is not None
    assert sets.folder.without_proxy() == [clip.path.stem]
    assert sets.folder.proxy(clip) is None
    sets.folder.make_proxy(clip)
    assert sets.folder.without_proxy() == []
    assert sets.folder.proxy(clip) is not None
    assert sets.folder.find(clip.path.stem).frames == 40


def test_a_whole_set_goes_to_another_library(
    sets: ClipSets, pushdown_film: SmallFilm, tmp_path: Path
) -> None:
    set_id, _ = sets.add(pushdown_film.clip.path, DETAILS)
    sets.keep_marks(set_id, pushdown_film.marks(0, "left_pulley"))
    sets.find_landmarks(set_id, SimulatedTracker())
    write_set(sets.library, set_id, tmp_path / "set.zip")
    other = Library.open(tmp_path / "other")
    there, new = take_bundle(other, tmp_path / "set.zip")
    again = take_bundle(other, tmp_path / "set.zip")
    assert (new, again) == (True, (there, False))
    record = other.record(there)
    assert (record.client, record.load_kg, record.source_name) == (
        "Esme Rook",
        12.5,
        pushdown_film.clip.path.name,
    )
    assert other.track(there).frames == sets.library.track(set_id).frames
    assert set(ClipSets(other).marks(there).points) == {"left_pulley"}
    other.close()


def test_a_set_without_a_clip_goes_too(library: Library, add_set, tmp_path: Path) -> None:
    set_id = add_set(reps=2)
    write_set(library, set_id, tmp_path / "set.zip")
    other = Library.open(tmp_path / "other")
    there, _ = take_bundle(other, tmp_path / "set.zip")
    assert other.record(there).track_hash == library.record(set_id).track_hash
    other.close()


def test_a_bundle_of_an_unknown_exercise_is_refused(
    library: Library, add_set, tmp_path: Path
) -> None:
    set_id = add_set(reps=2)
    library.change_set(set_id, standard="hand-stand-curl")
    write_set(library, set_id, tmp_path / "set.zip")
    with pytest.raises(BadFile, match="hand-stand-curl"):
        take_bundle(library, tmp_path / "set.zip")


def test_a_library_from_before_clips_is_brought_up(tmp_path: Path, sets: ClipSets) -> None:
    from builders import filmed
    from guide_arc.formats.track_csv import csv_text

    data = csv_text(filmed("rope-pushdown", reps=2).track).encode()
    first_form(tmp_path / "old", data)
    library = Library.open(tmp_path / "old")
    record = library.record(7)
    assert (record.clip_hash, record.waits_for_landmarks, record.view) == (None, False, "none")
    added, _ = ClipSets(library).add(numbered_clip(tmp_path / "a.mp4"), DETAILS)
    assert library.record(added).waits_for_landmarks
    with sqlite3.connect(tmp_path / "old" / "library.sqlite") as file:
        assert file.execute("pragma foreign_key_check").fetchall() == []
    library.close()


_ADDING = """
import sys
from pathlib import Path
import guide_arc.library.clip_folder as folder
folder._CHUNK = 4096
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.store import Library
sets = ClipSets(Library.open(Path(sys.argv[1])))
print("ready", flush=True)
for coming in sets.folder.pending():
    sets.resume(coming)
for path in sorted(Path(sys.argv[2]).glob("*.mp4")):
    sets.add(path, ClipDetails("Esme Rook", "rope-pushdown", "locked", "left"))
print("done", flush=True)
"""


@slow
def test_a_kill_in_the_middle_of_copying_loses_nothing(tmp_path: Path) -> None:
    for i in range(3):
        numbered_clip(tmp_path / f"{i}.mp4", 60 + i, size=(640, 480))
    folder = tmp_path / "library"
    command = [sys.executable, "-c", _ADDING, str(folder), str(tmp_path)]
    for delay_s in some_of([0.02, 0.004, 0.05]):
        running = subprocess.Popen(command, stdout=subprocess.PIPE)
        assert running.stdout is not None
        running.stdout.readline()
        time.sleep(delay_s)  # a moment of the work, whichever it is: all must be survived
        os.kill(running.pid, signal.SIGKILL)
        running.communicate()
        opened = Library.open(folder)
        for row in opened.queue():
            assert ClipSets(opened).clip(row.id) is not None
        opened.close()
    assert subprocess.run(command, check=True, capture_output=True).stdout.split() == [
        b"ready",
        b"done",
    ]
    opened = Library.open(folder)
    assert opened.count() == 3
    assert ClipFolder(folder).pending() == []
    originals = {p.read_bytes() for p in tmp_path.glob("*.mp4")}
    assert {p.read_bytes() for p in (folder / "clips").glob("*.mp4")} == originals
    opened.close()


def test_marks_from_a_damaged_text_are_an_error_not_a_guess() -> None:
    with pytest.raises((ValueError, KeyError, TypeError)):
        marks_of(json.dumps({"points": 3}), "left")
    assert marks_of("", "left") == Marks("left")
