"""A form of a track more, or an export more, is one file: reading, converting and the export dialog
follow."""

from __future__ import annotations

import sys

import numpy as np
import pytest
from typer.testing import CliRunner

from guide_arc.cli.main import application
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.formats.registry import formats, suffixes
from guide_arc.formats.track_file import read_track, write_track
from guide_arc.reports.exports.registry import exports
from guide_arc.standards.loader import standard
from toys import one_file_more

LINES = '''"""Lines of a landmark, a time and three numbers."""

import numpy as np

from guide_arc.core.model.track import LandmarkTrack
from guide_arc.formats.errors import BadFile
from guide_arc.formats.format import Format


def read(source):
    rows = [line.split() for line in source.text.splitlines()[1:]]
    if not rows:
        raise BadFile("there is no sample", path=source.path, line=1, right="name time x y z")
    names = tuple(dict.fromkeys(row[0] for row in rows))
    times = list(dict.fromkeys(float(row[1]) for row in rows))
    place = np.full((len(times), len(names), 3), np.nan)
    for name, at_s, *xyz in rows:
        place[times.index(float(at_s)), names.index(name)] = [float(v) for v in xyz]
    return LandmarkTrack(np.array(times), names, place, np.ones(place.shape[:2]), "world")


def write(track, _name):
    lines = ["LINES 1"]
    for i, at_s in enumerate(track.time_s):
        for j, name in enumerate(track.names):
            place = (repr(float(v)) for v in track.position[i, j])
            lines.append(" ".join([name, repr(float(at_s)), *place]))
    return ("\\n".join(lines) + "\\n").encode()


FORMAT = Format(
    "lines", "Lines", "one sample a line", (".lines",), read, write, "world",
    claims=lambda text: text.startswith("LINES 1"), order=60,
)
'''


ONE_WORD = '''"""One word."""

from guide_arc.reports.exports.export import Export


def write(_leaving, target, _progress):
    target.write_text("held")


EXPORT = Export("one-word", "One word", "said of the set", ((".word", "A word"),), write, order=90)
'''


@pytest.fixture
def track():
    plan = standard("standing-barbell-curl")
    return perform(plan, Script(reps=1), Camera("none", 25.0, 0.002), 1).track


@pytest.fixture
def lines(tmp_path):
    with one_file_more(tmp_path, "guide_arc.formats", "lines", LINES, (formats,)):
        yield
    assert ".lines" not in suffixes()


def test_a_track_is_written_read_and_known_by_its_words(lines, track, tmp_path):
    there = tmp_path / "set.lines"
    write_track(track, there)
    assert ".lines" in suffixes()
    again = read_track(there)
    assert again.names == track.names
    np.testing.assert_allclose(again.position, track.position)
    there.rename(tmp_path / "set.csv")  # by its words, whatever it is called
    assert read_track(tmp_path / "set.csv").names == track.names


def test_convert_writes_it_by_its_ending_and_by_its_name(lines, track, tmp_path):
    write_track(track, tmp_path / "set.csv")
    for target, more in (("a.lines", []), ("b.lines", ["--form", "lines"])):
        words = ["convert", str(tmp_path / "set.csv"), str(tmp_path / target), *more]
        done = CliRunner().invoke(application(words), words)
        assert done.exit_code == 0, done.output
        assert (tmp_path / target).read_text().startswith("LINES 1\n")


def test_it_stands_in_the_list_of_what_can_leave(lines):
    sys.modules.pop("guide_arc.reports.exports.tracks", None)
    exports.cache_clear()
    try:
        (leaves,) = (e for e in exports() if e.id == "lines")
        assert leaves.words == "Lines"
        assert leaves.files == ((".lines", "Lines"),)
    finally:
        sys.modules.pop("guide_arc.reports.exports.tracks", None)
        exports.cache_clear()


def test_an_export_is_one_file_too(tmp_path):
    with one_file_more(tmp_path, "guide_arc.reports.exports", "one_word", ONE_WORD, (exports,)):
        (leaves,) = (e for e in exports() if e.id == "one-word")
        leaves.write(None, tmp_path / "a.word", lambda _share: None)  # type: ignore[arg-type]
        assert (tmp_path / "a.word").read_text() == "held"
    assert "one-word" not in {e.id for e in exports()}
