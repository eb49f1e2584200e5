"""Landmark tracks: what is read, what is refused and with which words, and that nothing is lost."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from builders import filmed, slow
from guide_arc.core.model.landmarks import BODY, KIT
from guide_arc.core.model.track import LandmarkTrack, SetFacts
from guide_arc.formats.errors import BadFile
from guide_arc.formats.track_csv import csv_text
from guide_arc.formats.track_file import parse_track, read_track, write_track
from guide_arc.formats.track_json import json_text

HEAD = "# landmark-track: 1\n# space: world\n# units: m\n# view: none\n"
COLUMNS = "time_s,nose_x,nose_y,nose_z,nose_c\n"
GOOD = HEAD + COLUMNS + "0.0,0.1,1.6,0.0,0.9\n0.033,0.1,1.6,0.0,0.9\n"


def parsed(text: str, name: str = "set.csv") -> LandmarkTrack:
    return parse_track(text.encode(), name)


def refusal(text: str | bytes, name: str = "set.csv") -> str:
    with pytest.raises(BadFile) as caught:
        parse_track(text if isinstance(text, bytes) else text.encode(), name)
    words = str(caught.value)
    assert "\n" not in words
    assert words.startswith(name)
    return words


def test_a_plain_track_is_read():
    track = parsed(GOOD)
    assert track.names == ("nose",)
    assert track.position[1].tolist() == [[0.1, 1.6, 0.0]]
    assert track.confidence[0, 0] == 0.9


@pytest.mark.parametrize(
    ("text", "line", "words"),
    [
        ("# space: world\n# units: m\n# view: none\n" + COLUMNS, 1, "no landmark-track number"),
        (GOOD.replace("track: 1", "track: 2"), 1, "landmark-track is '2'"),
        (GOOD.replace("space: world", "space: wrld"), 2, "did you mean 'world'"),
        (GOOD.replace("# space: world\n", ""), 1, "the key space is missing"),
        (GOOD.replace("units: m", "units: px"), 3, "units is 'px'"),
        (GOOD.replace("view: none", "view: front"), 4, "view is 'front'"),
        (GOOD.replace("nose_z,", ""), 5, "no nose_z"),
        (GOOD.replace("nose_z", "nose_y"), 5, "nose_y stands twice"),
        (GOOD.replace("time_s", "times"), 5, "no time_s"),
        (GOOD.replace("0.0,0.1,1.6,0.0,0.9", "0.0,0.1,1.6,0.9"), 6, "4 cells and the header 5"),
        (GOOD.replace("0.033,0.1", "0.0,0.1"), 7, "equals the one before"),
        (GOOD.replace("0.033,0.1", "-1,0.1"), 7, "negative"),
        (GOOD.replace("0.0,0.1,1.6", "0.5,0.1,1.6"), 7, "falls below"),
        (GOOD.replace("0.033,0.1", "0.033,nan"), 7, "'nan' is not a finite number"),
        (GOOD.replace("0.033,0.1", "0.033,inf"), 7, "not a finite number"),
        (GOOD.replace("0.033,0.1", "0.033,left"), 7, "'left' is not a finite number"),
        (GOOD.replace("0.033,0.1", "0.033,1_0"), 7, "not a finite number"),
        (GOOD.replace("0.033,0.1", "0.033,1e999"), 7, "number is too large"),
        (GOOD.replace("0.033,0.1", ",0.1"), 7, "time is empty"),
        (GOOD.replace("0.033,0.1,1.6,0.0,0.9", "0.033,0.1,1.6,0.0,1.5"), 7, "outside 0 to 1"),
    ],
)
def test_a_malformed_file_is_refused_with_its_line(text, line, words):
    said = refusal(text)
    assert f"line {line}" in said
    assert words in said


@pytest.mark.parametrize(
    ("text", "words"),
    [
        (GOOD.replace(",0.1,1.6,0.0,", ",100,1600,0,"), "metres"),
        (
            HEAD
            + "time_s,nose_x,nose_y,nose_z,left_foot_x,left_foot_y,left_foot_z\n0,0,17,0,0,0.1,0\n",
            "17 m large",
        ),
        (HEAD + COLUMNS + "0,,,,\n0.1,,,,\n", "no landmark has any sample"),
        (HEAD + "time_s,foo_x\n0,1\n", "no landmark has any sample"),
        (HEAD, "no header row"),
        ("", "no landmark-track number"),
        (GOOD + '0.066,"0.1,1.6,0.0,0.9\n', "can't be split"),
        (GOOD.replace("# view: none", "# view: none\n# load_kg: heavy"), "load_kg is 'heavy'"),
        (GOOD.replace("# view: none", "# view: none\n# recorded: soon"), "recorded is 'soon'"),
        (GOOD.replace("# view: none", "# view: none\n# view: none"), "stands twice"),
    ],
)
def test_other_bad_files_get_a_sentence_too(text, words):
    assert words in refusal(text)


def test_a_file_that_is_not_utf8_is_refused_with_its_line():
    assert "line 7: the file is not UTF-8" in refusal(
        GOOD.encode()[:-20] + b"\xff\xfe" + GOOD.encode()[-20:]
    )


def test_image_tracks_need_the_size_of_the_picture():
    text = GOOD.replace("world", "image").replace("units: m", "units: px").replace("none", "left")
    text = text.replace("nose_z,", "").replace(",0.0,0.9", ",0.9")
    assert "image_size is missing" in refusal(text)
    assert "WIDTHxHEIGHT" in refusal(text.replace("# units", "# image_size: big\n# units"))
    track = parsed(text.replace("# units", "# image_size: 640x480\n# units"))
    assert track.image_size == (640, 480)
    assert track.position.shape == (2, 1, 2)


def test_empty_cells_are_missing_samples_and_a_lacking_confidence_is_one():
    text = HEAD + "time_s,nose_x,nose_y,nose_z\n0,1,1,1\n0.1,,,\n0.2,1,,1\n"
    track = parsed(text)
    assert np.isnan(track.position[1:]).all()
    assert (track.confidence == 1.0).all()


def test_unknown_columns_are_kept_and_written_again():
    text = GOOD.replace("nose_c\n", "nose_c,mood,stick_x\n").replace("0.9\n", "0.9,good,7\n")
    track = parsed(text)
    assert track.extra["mood"] == ("good", "good")
    again = parsed(csv_text(track))
    assert again.extra == track.extra


def test_column_order_line_ends_and_a_byte_order_mark_do_not_matter():
    shuffled = (
        HEAD + "nose_y,time_s,nose_c,nose_z,nose_x\n1.6,0.0,0.9,0.0,0.1\n1.6,0.033,0.9,0.0,0.1\n"
    )
    plain = parsed(GOOD)
    for text in (shuffled, GOOD.replace("\n", "\r\n"), "\ufeff" + GOOD):
        np.testing.assert_array_equal(parsed(text).position, plain.position)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"landmark_track": 2}, "landmark_track is '2'"),
        ({"space": "word"}, "did you mean 'world'"),
        ({"time_s": [0.0]}, "2 samples and time_s 1"),
        ({"time_s": [0.0, 0.0]}, "does not rise"),
        ({"time_s": [0.0, "x"]}, "'x'"),
        ({"points": None}, "points is missing"),
        ({"points": {"nose": {"x": [1, 1], "y": [1, 1]}}}, "has no z"),
        ({"points": {"nose": {"x": [1, True], "y": [1, 1], "z": [1, 1]}}}, "'True'"),
        (
            {"points": {"nose": {"x": [1, 1], "y": [1, 1], "z": [1, 1], "c": [2, 0]}}},
            "outside 0 to 1",
        ),
        (
            {"points": {"nose": {"x": [None, None], "y": [None, None], "z": [None, None]}}},
            "no landmark",
        ),
        ({"meta": []}, "no landmark_track"),
    ],
)
def test_malformed_json_gets_a_sentence(change, words):
    document = {
        "landmark_track": 1,
        "space": "world",
        "units": "m",
        "view": "none",
        "meta": {},
        "time_s": [0.0, 0.1],
        "points": {"nose": {"x": [0, 0], "y": [1, 1], "z": [0, 0]}},
    }
    if change == {"meta": []}:
        document = {"meta": []}
    document.update(change)
    assert words in refusal(json.dumps(document), "set.json")


@pytest.mark.parametrize("text", ["{", '{"a": NaN}', "[1, 2]", '{"a": 1, "a": 2}', "{" * 5000])
def test_what_is_no_json_object_gets_a_sentence(text):
    refusal(text, "set.json")


def test_json_is_known_by_its_first_character_too():
    assert parse_track(json_text(parsed(GOOD)).encode(), "set.txt").names == ("nose",)


names = st.lists(st.sampled_from(BODY + KIT), min_size=1, max_size=4, unique=True)


@st.composite
def tracks(draw) -> LandmarkTrack:
    chosen = tuple(draw(names))
    frames = draw(st.integers(1, 6))
    image = draw(st.booleans())
    axes = 2 if image else 3
    finite = st.floats(-1.5, 1.5, allow_nan=False, width=64)
    position = draw(arrays(np.float64, (frames, len(chosen), axes), elements=finite))
    lost = draw(arrays(np.bool_, (frames, len(chosen))))
    lost[0, 0] = False
    position[lost] = np.nan
    steps = draw(arrays(np.float64, (frames,), elements=st.floats(0.001, 0.1)))
    facts = SetFacts(
        standard=draw(st.sampled_from([None, "rope-pushdown"])),
        load_kg=draw(st.one_of(st.none(), st.floats(0, 200))),
        subject_height_m=draw(st.one_of(st.none(), st.floats(1.2, 2.2))),
        recorded=draw(st.sampled_from([None, "2031-02-03", "2031-02-03T18:30:00"])),
    )
    return LandmarkTrack(
        time_s=np.cumsum(steps),
        names=chosen,
        position=position,
        confidence=draw(arrays(np.float64, (frames, len(chosen)), elements=st.floats(0, 1))),
        space="image" if image else "world",
        view="left" if image else "none",
        image_size=(1280, 720) if image else None,
        facts=facts,
    )


@given(tracks(), st.sampled_from([".csv", ".json"]))
@settings(max_examples=60, deadline=None)
def test_write_then_read_is_the_same_to_the_last_digit(track, suffix):
    text = json_text(track) if suffix == ".json" else csv_text(track)
    again = parse_track(text.encode(), f"set{suffix}")
    np.testing.assert_array_equal(again.position, track.position)
    np.testing.assert_array_equal(again.time_s, track.time_s)
    np.testing.assert_array_equal(again.confidence, track.confidence)
    assert again.names == track.names
    assert again.facts == track.facts
    assert (again.space, again.view, again.image_size) == (
        track.space,
        track.view,
        track.image_size,
    )


@given(st.binary(max_size=400))
@settings(max_examples=150, deadline=None)
def test_no_bytes_at_all_make_a_traceback(data):
    try:
        parse_track(data, "noise.csv")
    except BadFile as error:
        assert "\n" not in str(error)


@given(st.integers(0, len(GOOD) - 1), st.characters(codec="utf-8"))
@settings(max_examples=150, deadline=None)
@slow
def test_one_wrong_character_makes_a_track_or_a_sentence(at, character):
    try:
        parse_track((GOOD[:at] + character + GOOD[at + 1 :]).encode(), "set.csv")
    except BadFile as error:
        assert str(error).startswith("set.csv")


def test_files_are_written_whole_or_not_at_all(tmp_path: Path):
    track = filmed("rope-pushdown", reps=1).track
    target = tmp_path / "set.csv"
    write_track(track, target)
    np.testing.assert_array_equal(read_track(target).position, track.position)
    assert [p.name for p in tmp_path.iterdir()] == ["set.csv"]
    with pytest.raises(BadFile, match="can't be written"):
        write_track(track, tmp_path / "nowhere" / "set.csv")


def test_a_folder_and_a_missing_file_are_refused(tmp_path: Path):
    with pytest.raises(BadFile, match="folder"):
        read_track(tmp_path)
    with pytest.raises(BadFile, match="no such file"):
        read_track(tmp_path / "gone.csv")


@pytest.mark.parametrize("suffix", [".csv", ".json"])
def test_who_said_where_the_joints_are_is_kept(tmp_path: Path, suffix: str):
    done = replace(filmed("rope-pushdown", reps=1, view="left").track, points_from="marks")
    file = tmp_path / f"a{suffix}"
    write_track(done, file)
    assert read_track(file).points_from == "marks"


def test_points_from_nobody_knows_whom_are_refused(tmp_path: Path):
    file = tmp_path / "a.csv"
    write_track(replace(filmed("rope-pushdown", reps=1).track, points_from="marks"), file)
    file.write_text(file.read_text().replace("points_from: marks", "points_from: guessing"))
    with pytest.raises(BadFile, match="points_from"):
        read_track(file)
