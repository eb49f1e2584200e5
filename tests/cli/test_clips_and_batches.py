"""The commands about clips, open forms, and many files at once."""

from __future__ import annotations

import json
import shutil
from pathlib import Path

import pytest

from builders import filmed, slow
from clips import SmallFilm, numbered_clip
from guide_arc.capture.video.clip import inspect_video
from guide_arc.cli.main import run
from guide_arc.formats.track_file import read_track, write_track
from guide_arc.library.batch import TrackFile, import_tracks, review_all
from guide_arc.library.place import remember
from guide_arc.library.searches import Searches
from guide_arc.library.store import Library


def _says(arguments: list[str], capsys: pytest.CaptureFixture[str]) -> tuple[int, str, str]:
    code = run(arguments)
    out, err = capsys.readouterr()
    return code, out, err


@slow
def test_a_film_with_its_truth(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    target = tmp_path / "f.mp4"
    arguments = [
        "simulate",
        "--standard",
        "rope-pushdown",
        "--reps",
        "1",
        "--view",
        "left",
        "--size",
        "480x270",
        "--video",
        str(target),
        "--shake",
        "1",
    ]
    assert _says(arguments, capsys)[:2] == (0, "")
    clip = inspect_video(target)
    assert (clip.width, clip.height) == (480, 270)
    truth = json.loads((tmp_path / "f.mp4.truth.json").read_text())
    assert len(truth["reps"]) == 1
    assert truth["pole_m"] == 1.0
    assert read_track(tmp_path / "f.mp4.track.csv").frames == clip.frames


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ([], "needs a view"),
        (["--view", "left", "--size", "big"], "WIDTHxHEIGHT"),
        (["--view", "left", "--light", "3"], "light"),
    ],
)
def test_an_impossible_film_is_one_line(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], more: list[str], words: str
) -> None:
    code, out, err = _says(
        ["simulate", "--standard", "rope-pushdown", "--video", str(tmp_path / "f.mp4"), *more],
        capsys,
    )
    assert (code, out) == (2, "")
    assert words in err
    assert err.count("\n") == 1


def test_convert_reads_one_form_and_writes_another(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    write_track(filmed("rope-pushdown", reps=1).track, tmp_path / "a.csv")
    for source, target in (("a.csv", "a.c3d"), ("a.c3d", "a.trc"), ("a.trc", "a.json")):
        assert run(["convert", str(tmp_path / source), str(tmp_path / target)]) == 0
    assert read_track(tmp_path / "a.json").frames == read_track(tmp_path / "a.csv").frames
    for arguments, words in (
        (["a.csv", "a.txt"], "its ending must be one of"),
        (["a.csv", "a.json", "--keypoints"], "picture"),
        (["none.csv", "b.csv"], "no such file"),
    ):
        paths = [str(tmp_path / a) if "." in a else a for a in arguments]
        code, _out, err = _says(["convert", *paths], capsys)
        assert code == 2
        assert words in err


def test_markers_are_named_in_a_file(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    track = filmed("rope-pushdown", reps=1).track
    write_track(track, tmp_path / "a.trc")
    text = (tmp_path / "a.trc").read_text()
    for i, name in enumerate(track.names):
        text = text.replace(name + "\t", f"P{i:02d}\t", 1)
    (tmp_path / "a.trc").write_text(text)
    code, _out, err = _says(["convert", str(tmp_path / "a.trc"), str(tmp_path / "a.csv")], capsys)
    assert code == 2
    assert "which marker is which landmark" in err
    names = {f"P{i:02d}": n for i, n in enumerate(track.names)}
    (tmp_path / "names.json").write_text(json.dumps(names))
    given = [
        "convert",
        str(tmp_path / "a.trc"),
        str(tmp_path / "a.csv"),
        "--names",
        str(tmp_path / "names.json"),
    ]
    assert run(given) == 0
    (tmp_path / "names.json").write_text(json.dumps({"P00": "left_tail"}))
    assert "no landmark" in _says(given, capsys)[2]


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """Two good tracks, one bad one, a clip, and a file that is none of these."""
    out = tmp_path / "in"
    out.mkdir()
    for i, name in enumerate(("finn", "ada")):
        write_track(filmed("rope-pushdown", reps=2, seed=i).track, out / f"{name}.csv")
    (out / "bad.csv").write_text("# landmark-track: 1\nnothing")
    (out / "notes.txt").write_text("no set")
    (out / "old.avi").write_bytes(b"RIFF")
    numbered_clip(out / "esme-rope-pushdown-left.mp4")
    same = (out / "esme-rope-pushdown-left.mp4").read_bytes()
    (out / "esme-rope-pushdown-left-again.mp4").write_bytes(same)
    return out


def test_a_folder_is_imported_again_and_again(
    folder: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    library = tmp_path / "library"
    code, out, _err = _says(["import", str(folder), "--library", str(library)], capsys)
    assert code == 0
    assert out.startswith("3 sets added, 1 known already, 2 refused")
    assert "bad.csv" in out
    assert "old.avi" in out
    assert "save it as MP4" in out
    opened = Library.open(library)
    rows = {opened.record(r.id).source_name: r for r in opened.queue()}
    assert rows["finn.csv"].summary is not None
    [clip] = [row for name, row in rows.items() if name.startswith("esme")]
    assert clip.view == "left"
    opened.close()
    assert _says(["import", str(folder), "--library", str(library)], capsys)[1].startswith(
        "0 sets added, 4 known"
    )


def test_clips_are_searched_as_they_are_imported(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], pushdown_film: SmallFilm
) -> None:
    folder, library = tmp_path / "in", tmp_path / "library"
    folder.mkdir()
    (folder / "esme-rope-pushdown-left.mp4").write_bytes(pushdown_film.clip.path.read_bytes())
    numbered_clip(folder / "finn-rope-pushdown-left.mp4")  # nothing here finds a body in this one
    code, out, _err = _says(
        ["import", str(folder), "--library", str(library), "--no-search"], capsys
    )
    first, whose = out.splitlines()
    assert (code, first) == (0, "2 sets added, 0 known already, 0 refused")
    assert "2 sets have no client's name in the file's name" in whose
    opened = Library.open(library)
    Searches(opened).want([row.id for row in opened.queue()])  # as a run that was cut off left it
    opened.close()
    code, out, _err = _says(["import", str(folder), "--library", str(library)], capsys)
    assert code == 0
    assert "Landmarks found in one clip, which can be reviewed now." in out
    opened = Library.open(library)
    assert [row.summary is not None for row in opened.queue()].count(True) == 1
    opened.close()


def test_import_of_nothing_useful_is_one_line(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    (tmp_path / "empty").mkdir()
    for target, words in (("none", "no such folder"), ("empty", "no track and no clip")):
        code, out, err = _says(
            ["import", str(tmp_path / target), "--library", str(tmp_path / "l")], capsys
        )
        assert (code, out) == (2, "")
        assert words in err
    (tmp_path / "empty" / "bad.csv").write_text("x")
    code, _out, err = _says(
        ["import", str(tmp_path / "empty"), "--library", str(tmp_path / "l")], capsys
    )
    assert code == 2
    assert "none of 1 files" in err


def test_a_clip_that_says_nothing_is_told_what_is_missing(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    numbered_clip(tmp_path / "IMG_0001.mp4")
    code, _out, err = _says(
        ["import", str(tmp_path / "IMG_0001.mp4"), "--library", str(tmp_path / "l")], capsys
    )
    assert code == 2
    assert "--standard" in err
    given = [
        "import",
        str(tmp_path / "IMG_0001.mp4"),
        "--library",
        str(tmp_path / "l"),
        "--standard",
        "rope-pushdown",
        "--view",
        "right",
        "--client",
        "Ada Quill",
    ]
    assert _says(given, capsys)[1].startswith("1 sets added")


@slow
def test_every_set_is_reviewed_and_a_cut_off_run_is_gone_on_with(
    folder: Path, tmp_path: Path
) -> None:
    library = Library.open(tmp_path / "library")
    files = [TrackFile(folder / f"{n}.csv", n.capitalize(), None) for n in ("finn", "ada")]
    added = import_tracks(library, files).done
    assert len(added) == 2

    class Stop(Exception):
        pass

    def stop(share: float) -> None:
        if share > 0:
            raise Stop

    with pytest.raises(Stop):
        review_all(library, stop)
    out = review_all(library)
    assert len(out.done) + out.known == 2
    assert out.known == 1
    assert len(review_all(library).done) == 2
    shutil.rmtree(tmp_path / "library" / "tracks")
    again = review_all(library, fresh=True)
    assert (again.done, len(again.refused)) == ([], 2)
    library.close()


def test_review_of_all_or_of_one(
    tmp_path: Path, folder: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    library = str(tmp_path / "library")
    run(["import", str(folder), "--library", library])
    capsys.readouterr()
    code, out, _err = _says(["review", "--all", "--library", library], capsys)
    assert (code, out) == (0, "2 sets reviewed, 0 could not be\n")
    assert "not both" in _says(["review", str(folder / "ada.csv"), "--all"], capsys)[2]
    assert "no track is given" in _says(["review"], capsys)[2]


def test_no_command_makes_a_library_where_none_is_or_where_one_was(
    tmp_path: Path, folder: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    place = tmp_path / "library"
    for command in (
        ["review", "--all"],
        ["export", str(tmp_path / "out")],
        ["report", "Ada Quill"],
        ["check"],
    ):
        code, _out, err = _says([*command, "--library", str(place)], capsys)
        assert (code, f"there is no library in {place}" in err) == (2, True), command
    assert not place.exists()
    remember(place)  # as the window does: it was opened there, and its disk is gone
    assert _says(["import", str(folder), "--library", str(place)], capsys)[0] == 2
    assert not place.exists()


def test_clients_send_their_sets_over_an_evening(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    arguments = [
        "simulate-upload",
        str(tmp_path / "drop"),
        "--sets",
        "2",
        "--clips",
        "0",
        "--seconds",
        "0",
        "--twice",
    ]
    code, out, _err = _says(arguments, capsys)
    assert code == 0
    files = sorted((tmp_path / "drop").iterdir())
    assert len(files) == 3
    assert out.count("sent ") == 3
    assert len({p.read_bytes() for p in files}) == 2
    assert read_track(files[0]).facts.standard
