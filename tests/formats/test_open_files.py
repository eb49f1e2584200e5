"""Open forms of other programs: what goes out comes back, and what is broken gets a sentence."""

from __future__ import annotations

import io
import json
import stat
import zipfile
from dataclasses import replace
from pathlib import Path

import ezc3d
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import filmed, measured_set, slow
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import KNOWN
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.formats.bundle import reading_bundle, write_bundle
from guide_arc.formats.cues_vtt import Subtitle, vtt_text
from guide_arc.formats.errors import BadFile
from guide_arc.formats.format import Asked
from guide_arc.formats.marker_names import UnknownMarkers, guess_landmark, named
from guide_arc.formats.reps_csv import reps_text
from guide_arc.formats.track_csv import csv_text
from guide_arc.formats.track_file import parse_track, read_track, write_track


@pytest.fixture(scope="module")
def in_space() -> LandmarkTrack:
    return filmed(
        "standing-barbell-curl",
        reps=1,
        noise=0.003,
        dropout=0.03,
        load_kg=30.0,
        recorded="2031-02-03",
    ).track


@pytest.fixture(scope="module")
def in_picture() -> LandmarkTrack:
    return filmed("standing-barbell-curl", view="left", reps=1, noise=1.0, dropout=0.03).track


@pytest.mark.parametrize("ending", ["c3d", "trc"])
def test_a_track_in_space_comes_back(tmp_path: Path, in_space: LandmarkTrack, ending: str) -> None:
    write_track(in_space, tmp_path / f"t.{ending}")
    again = read_track(tmp_path / f"t.{ending}")
    assert again.names == in_space.names
    assert np.array_equal(np.isnan(again.position), np.isnan(in_space.position))
    assert np.nanmax(np.abs(again.position - in_space.position)) < 1e-6
    assert np.abs(again.time_s - in_space.time_s).max() < 2e-5
    if ending == "c3d":  # TRC holds no facts of the set
        assert (again.facts.standard, again.facts.load_kg, again.facts.recorded) == (
            "standing-barbell-curl",
            30.0,
            "2031-02-03",
        )


def test_a_track_that_starts_late_and_goes_unevenly_keeps_its_times(tmp_path: Path) -> None:
    times = 2.0 + np.cumsum(np.random.default_rng(1).uniform(0.02, 0.05, 50))
    spots = np.random.default_rng(2).normal(1.0, 0.2, (50, 4, 3))
    names = ("left_shoulder", "right_shoulder", "left_hip", "right_hip")
    track = LandmarkTrack(times, names, spots, np.ones((50, 4)))
    write_track(track, tmp_path / "t.trc")
    assert np.array_equal(read_track(tmp_path / "t.trc").time_s, times)
    write_track(track, tmp_path / "t.c3d")
    even = read_track(tmp_path / "t.c3d")
    assert even.time_s[0] == pytest.approx(2.0 + (times[0] - 2.0), abs=1e-4)
    assert even.duration_s == pytest.approx(track.duration_s, abs=0.06)
    middle = np.interp(even.time_s[25], times, spots[:, 0, 0])
    assert even.position[25, 0, 0] == pytest.approx(middle, abs=0.02)


@given(st.integers(0, 2**32 - 1), st.integers(2, 9), st.floats(5.0, 240.0))
@settings(max_examples=25, deadline=None)
def test_any_trc_comes_back(
    tmp_path_factory: pytest.TempPathFactory, seed: int, frames: int, rate: float
) -> None:
    rng = np.random.default_rng(seed)
    names = (*rng.permutation(sorted(KNOWN))[:5], "left_shoulder", "left_hip")
    names = tuple(dict.fromkeys(str(n) for n in names))
    spots = rng.normal(0.0, 0.5, (frames, len(names), 3))
    spots[rng.random(spots.shape[:2]) < 0.2] = np.nan
    spots[0, 0] = 0.25
    track = LandmarkTrack(np.arange(frames) / rate, names, spots, np.ones(spots.shape[:2]))
    path = tmp_path_factory.mktemp("trc") / "t.trc"
    write_track(track, path)
    again = read_track(path)
    assert set(again.names) == set(names)
    order = [again.names.index(n) for n in names]
    # A trunk that lies or stands on its head is turned upright: then lengths stay as they were.
    long = np.linalg.norm(np.diff(again.position[:, order], axis=1), axis=-1)
    assert np.allclose(long, np.linalg.norm(np.diff(spots, axis=1), axis=-1), equal_nan=True)


def _laboratory(
    track: LandmarkTrack, path: Path, labels: dict[str, str], units: str = "mm"
) -> None:
    """The same set as a laboratory writes it: z up, x ahead, in millimetres, its own marker
    names."""
    position = track.position[..., [2, 0, 1]] * (1000.0 if units == "mm" else 1.0)
    out = ezc3d.c3d()
    out["parameters"]["POINT"]["LABELS"]["value"] = [labels.get(n, n) for n in track.names]
    out["parameters"]["POINT"]["UNITS"]["value"] = [units]
    out["parameters"]["POINT"]["RATE"]["value"] = [30.0]
    points = np.ones((4, len(track.names), track.frames))
    points[:3] = np.moveaxis(position, -1, 0).swapaxes(1, 2)
    out["data"]["points"] = points
    out.write(str(path))


def test_a_laboratory_s_axes_units_and_names_become_ours(
    tmp_path: Path, in_space: LandmarkTrack
) -> None:
    labels = {"left_shoulder": "LSHO", "right_hip": "R.Hip", "left_elbow": "subject:LeftElbow"}
    _laboratory(in_space, tmp_path / "lab.c3d", labels)
    again = read_track(tmp_path / "lab.c3d")
    assert again.names == in_space.names
    assert np.nanmax(np.abs(again.position - in_space.position)) < 1e-5


@slow
def test_markers_that_say_nothing_have_to_be_named(tmp_path: Path, in_space: LandmarkTrack) -> None:
    labels = {n: f"M{i:02d}" for i, n in enumerate(in_space.names)}
    _laboratory(in_space, tmp_path / "lab.c3d", labels)
    with pytest.raises(UnknownMarkers) as caught:
        read_track(tmp_path / "lab.c3d")
    assert caught.value.markers == tuple(labels.values())
    assert "which marker is which" in str(caught.value)
    names = {marker: name for name, marker in labels.items()}
    again = read_track(tmp_path / "lab.c3d", names)
    assert np.nanmax(np.abs(again.position - in_space.position)) < 1e-5


@pytest.mark.parametrize(
    ("marker", "landmark"),
    [
        ("LSHO", "left_shoulder"),
        ("r_elbow", "right_elbow"),
        ("RightWrist", "right_wrist"),
        ("LKNE", "left_knee"),
        ("Bench Head", "bench_head"),
        ("left_pulley", "left_pulley"),
        ("C7", None),
        ("LASI", None),
        ("shoulder", None),
    ],
)
def test_only_plain_names_are_guessed(marker: str, landmark: str | None) -> None:
    assert guess_landmark(marker) == landmark


def test_two_markers_for_one_landmark_are_refused() -> None:
    with pytest.raises(BadFile, match="both stand for left_hip"):
        named(Path("a.trc"), ["LHIP", "left_hip", "LSHO"], None)


def test_c3d_that_is_none_gets_a_sentence(tmp_path: Path, in_space: LandmarkTrack) -> None:
    write_track(in_space, tmp_path / "t.c3d")
    whole = (tmp_path / "t.c3d").read_bytes()
    for name, data, words in (
        ("empty.c3d", b"", "no C3D"),
        ("words.c3d", b"not a track " * 100, "no C3D"),
        ("cut.c3d", whole[:1000], "no whole C3D"),
    ):
        (tmp_path / name).write_bytes(data)
        with pytest.raises(BadFile, match=words) as caught:
            read_track(tmp_path / name)
        assert "\n" not in str(caught.value)


def test_a_picture_s_track_goes_into_no_form_of_space(
    tmp_path: Path, in_picture: LandmarkTrack, in_space: LandmarkTrack
) -> None:
    for ending in ("c3d", "trc"):
        with pytest.raises(BadInput, match="in space"):
            write_track(in_picture, tmp_path / f"t.{ending}")
    with pytest.raises(BadInput, match="picture"):
        write_track(in_space, tmp_path / "t.json", form="keypoints")
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (("PathFileType", "Path"), "no marker trajectory"),
        (("\tm\t", "\tpx\t"), "Units is 'px'"),
        (("Frame#\tTime", "Frame#\tMoment"), "row of markers"),
        (("\n1\t", "\n1\tx"), "not a number"),
        (("left_shoulder\t", "left_hip\t"), "no name of their own"),
    ],
)
def test_a_broken_trc_says_where(
    tmp_path: Path, in_space: LandmarkTrack, change: tuple[str, str], words: str
) -> None:
    write_track(in_space, tmp_path / "t.trc")
    text = (tmp_path / "t.trc").read_text()
    if change[1] == "left_hip\t":
        text = text.replace("left_shoulder", "left_hip", 1)
    else:
        assert change[0] in text
        text = text.replace(*change, 1)
    with pytest.raises(BadFile, match=words):
        parse_track(text.encode(), "t.trc")


def test_keypoints_of_a_picture_come_back(tmp_path: Path, in_picture: LandmarkTrack) -> None:
    write_track(in_picture, tmp_path / "k.json", form="keypoints")
    again = read_track(tmp_path / "k.json")
    assert (again.view, again.image_size, again.facts.standard) == (
        "left",
        (1280, 720),
        "standing-barbell-curl",
    )
    assert np.array_equal(again.time_s, in_picture.time_s)
    for name in ("nose", "left_elbow", "right_ankle"):
        assert np.array_equal(again.point(name), in_picture.point(name), equal_nan=True)


def _entries(people: int = 1) -> list[dict[str, object]]:
    rng = np.random.default_rng(5)
    return [
        {
            "image_id": f"frame_{i:06d}.png",
            "track_id": p,
            "keypoints": [*np.round(rng.uniform(1, 600, 51), 2)],
        }
        for i in range(1, 7)
        for p in range(people)
        if not (p and i > 3)
    ]


def test_a_bare_list_of_keypoints_needs_its_view_and_takes_its_rate() -> None:
    text = json.dumps(_entries()).encode()
    with pytest.raises(BadFile, match="which side"):
        parse_track(text, "k.json")
    track = parse_track(text, "k.json", None, Asked("front", 25.0))
    assert track.frames == 6
    assert track.frame_rate_hz == pytest.approx(25.0)


def test_of_several_people_the_one_seen_most_is_taken() -> None:
    entries = _entries(2)
    track = parse_track(json.dumps(entries).encode(), "k.json", None, Asked("left"))
    first = [e for e in entries if e["track_id"] == 0]
    assert track.frames == len(first)
    assert track.point("nose")[0, 0] == first[0]["keypoints"][0]


@pytest.mark.parametrize(
    "entry",
    [
        {"image_id": 1, "keypoints": [1, 2, 3]},
        {"image_id": 1, "keypoints": ["x"] * 51},
        7,
        {"image_id": [], "keypoints": [1.0] * 51},
        {"image_id": 1, "keypoints": [1e9] * 51},
        {"image_id": 1, "keypoints": [float("nan")] * 51},
    ],
)
def test_broken_keypoints_say_which(entry: object) -> None:
    text = json.dumps({"info": {"view": "left"}, "annotations": [_entries()[0], entry]})
    if "keypoints" not in text:
        text = text.replace("annotations", "keypoints")
    with pytest.raises(BadFile, match=r"entry 2|no list"):
        parse_track(text.encode(), "k.json")


def test_subtitles_are_in_order_stay_long_enough_and_hold_no_markup() -> None:
    text = vtt_text([Subtitle(70.25, 70.5, "Elbows <still> & tight"), Subtitle(3.0, 6.5, "Slow")])
    lines = text.splitlines()
    assert lines[0] == "WEBVTT"
    assert lines[3] == "00:00:03.000 --> 00:00:06.500"
    assert lines[7] == "00:01:10.250 --> 00:01:11.450"
    assert lines[8] == "Elbows &lt;still&gt; &amp; tight"


def test_the_table_of_reps_has_a_row_for_each() -> None:
    measured = measured_set("standing-barbell-curl", reps=3, faults={"torso-swing": 25.0})
    rows = reps_text(measured.review).splitlines()
    assert len(rows) == 4
    head, first = rows[0].split(","), rows[1].split(",")
    row = dict(zip(head, first, strict=True))
    assert row["measure"] == "elbow_flexion"
    assert "torso-swing" in row["off"]
    assert float(row["range_deg"]) == pytest.approx(
        float(row["to_deg"]) - float(row["from_deg"]), abs=0.1
    )


# Bundles

META = {"client": "Ada Quill", "standard": "standing-barbell-curl"}


def test_a_bundle_comes_back_whole(tmp_path: Path, in_picture: LandmarkTrack) -> None:
    (tmp_path / "a.mov").write_bytes(bytes(range(256)) * 40)
    write_bundle(
        tmp_path / "set.zip", META, (csv_text(in_picture).encode(), ".csv"), tmp_path / "a.mov"
    )
    with reading_bundle(tmp_path / "set.zip") as bundle:
        assert bundle.meta["client"] == "Ada Quill"
        assert bundle.track is not None
        assert bundle.track.frames == in_picture.frames
        assert bundle.clip is not None
        assert bundle.clip.read_bytes() == (tmp_path / "a.mov").read_bytes()
        kept = bundle.clip
    assert not kept.exists()


def _zip(path: Path, files: dict[str, bytes], meta: object = {"set_bundle": 1, **META}) -> Path:
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as out:
        out.writestr("set.json", json.dumps(meta))
        for name, data in files.items():
            out.writestr(name, data)
    return path


@pytest.mark.parametrize(
    "name", ["../evil.csv", "/etc/evil", "clip.mp4/../../x", "track.csv/", "clip.", "other.txt"]
)
def test_a_bundle_with_other_paths_is_refused(tmp_path: Path, name: str) -> None:
    with pytest.raises(BadFile), reading_bundle(_zip(tmp_path / "b.zip", {name: b"x"})):
        pass
    assert [p.name for p in tmp_path.iterdir()] == ["b.zip"]


def test_a_bomb_is_refused_before_it_is_unpacked(tmp_path: Path) -> None:
    bomb = _zip(tmp_path / "b.zip", {"track.csv": b"0" * 60_000_000})
    assert bomb.stat().st_size < 100_000
    with pytest.raises(BadFile, match="60 MB"), reading_bundle(bomb):
        pass


def test_a_bundle_that_lies_about_its_size_is_refused(tmp_path: Path) -> None:
    path = _zip(tmp_path / "b.zip", {"track.csv": b"0" * 100_000})
    data = bytearray(path.read_bytes())
    size = (100_000).to_bytes(4, "little")
    for _ in range(2):
        at = data.rindex(size)
        data[at : at + 4] = (50).to_bytes(4, "little")
    path.write_bytes(bytes(data))
    with pytest.raises(BadFile), reading_bundle(path):
        pass


def test_links_doubles_and_other_kinds_are_refused(tmp_path: Path) -> None:
    link = zipfile.ZipInfo("track.csv")
    link.external_attr = (stat.S_IFLNK | 0o777) << 16
    with zipfile.ZipFile(tmp_path / "link.zip", "w") as out:
        out.writestr("set.json", json.dumps({"set_bundle": 1}))
        out.writestr(link, "/etc/passwd")
    with pytest.raises(BadFile, match="plain file"), reading_bundle(tmp_path / "link.zip"):
        pass
    with (
        pytest.raises(BadFile, match="twice"),
        reading_bundle(_zip(tmp_path / "d.zip", {"clip.mp4": b"a", "clip.mov": b"b"})),
    ):
        pass
    with (
        pytest.raises(BadFile, match="set_bundle 1"),
        reading_bundle(_zip(tmp_path / "k.zip", {}, {"set_bundle": 2})),
    ):
        pass
    with pytest.raises(BadFile, match="neither"), reading_bundle(_zip(tmp_path / "n.zip", {})):
        pass
    (tmp_path / "words.zip").write_bytes(b"no zip")
    with pytest.raises(BadFile, match="no whole ZIP"), reading_bundle(tmp_path / "words.zip"):
        pass
    half = io.BytesIO()
    with zipfile.ZipFile(half, "w") as out:
        out.writestr("set.json", "{}")
    (tmp_path / "half.zip").write_bytes(half.getvalue()[:-12])
    with pytest.raises(BadFile), reading_bundle(tmp_path / "half.zip"):
        pass


def test_a_standard_that_a_track_names_survives_every_form(
    tmp_path: Path, in_space: LandmarkTrack
) -> None:
    for ending in ("csv", "json", "c3d"):
        write_track(replace(in_space, extra={}), tmp_path / f"t.{ending}")
        assert read_track(tmp_path / f"t.{ending}").facts.standard == "standing-barbell-curl"
