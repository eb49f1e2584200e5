"""`landmarks`: a clip's points as a track."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from builders import slow
from clips import SmallFilm
from guide_arc.cli.main import run
from guide_arc.core.model.marks import asked_points
from guide_arc.formats.track_file import read_track


def marks_file(film: SmallFilm, path: Path, **changed: Any) -> Path:
    names = asked_points("left")
    rows = [
        {
            "frame": 0,
            "point": n,
            "x": float(film.truth(n)[0, 0]),
            "y": float(film.truth(n)[0, 1]),
            **changed,
        }
        for n in names
    ]
    path.write_text(json.dumps({"marks": rows}))
    return path


@slow
def test_marks_are_followed_into_a_track(pushdown_film: SmallFilm, tmp_path: Path):
    marks = marks_file(pushdown_film, tmp_path / "m.json")
    out = tmp_path / "t.csv"
    assert (
        run(
            [
                "landmarks",
                str(pushdown_film.clip.path),
                "--view",
                "left",
                "--marks",
                str(marks),
                "--out",
                str(out),
            ]
        )
        == 0
    )
    track = read_track(out)
    assert (track.space, track.view, track.frames) == ("image", "left", pushdown_film.clip.frames)
    gap = np.hypot(*(track.point("left_wrist") - pushdown_film.truth("left_wrist")).T[:2])
    assert np.nanmedian(gap) < 1.5


@slow
def test_a_view_between_two_sides_is_written_as_it_was_said(
    pushdown_film: SmallFilm, tmp_path: Path
):
    marks, out = marks_file(pushdown_film, tmp_path / "m.json"), tmp_path / "t.csv"
    clip = str(pushdown_film.clip.path)
    asked = ["landmarks", clip, "--view", "front-left", "--marks", str(marks), "--out", str(out)]
    assert run(asked) == 0
    track = read_track(out)
    assert (track.stated_view, track.view) == ("front-left", "left")
    assert "# view: front-left\n" in out.read_text()


@pytest.mark.parametrize(
    ("changed", "words"),
    [
        ({"point": "left_wirst"}, "left_wrist"),
        ({"frame": 99999}, "last frame"),
        ({"x": 9000.0}, "picture is"),
        ({"colour": 1}, "colour"),
    ],
)
def test_marks_that_can_not_be_are_one_line(
    pushdown_film: SmallFilm, tmp_path: Path, capsys, changed, words
):
    marks = marks_file(pushdown_film, tmp_path / "m.json", **changed)
    code = run(["landmarks", str(pushdown_film.clip.path), "--view", "left", "--marks", str(marks)])
    out, err = capsys.readouterr()
    assert (code, out, err.count("\n")) == (2, "", 1)
    assert words in err


@pytest.mark.parametrize(
    ("more", "words"),
    [
        (["--view", "above", "--pose"], "'front', 'back'"),
        (["--view", "left"], "one of them"),
        (["--view", "left", "--pose", "--person", "1,2"], "four numbers"),
        (["--view", "left", "--pose", "--person", "5000,2,3,4"], "does not lie"),
    ],
)
def test_what_can_not_be_asked_is_one_line(pushdown_film: SmallFilm, capsys, more, words):
    code = run(["landmarks", str(pushdown_film.clip.path), *more])
    out, err = capsys.readouterr()
    assert (code, out, err.count("\n")) == (2, "", 1)
    assert words in err
