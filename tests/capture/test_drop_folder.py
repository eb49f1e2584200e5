"""The drop folder: half-written files wait, and nothing is given out twice."""

from __future__ import annotations

import os
from pathlib import Path

import pytest

from guide_arc.capture.drop_folder import QUIET_S, DropFolder
from guide_arc.capture.upload import Sent, send_over
from guide_arc.library.intake import inspect_files
from guide_arc.standards.catalogue import Catalogue


def test_a_file_is_given_out_once_it_is_quiet(tmp_path: Path) -> None:
    drop = DropFolder(tmp_path)
    file = tmp_path / "ada.csv"
    file.write_bytes(b"first half")
    assert drop.look(0.0) == []
    with file.open("ab") as more:
        more.write(b", second half")
    assert drop.look(1.0) == []
    assert drop.arriving == 1
    assert drop.look(1.0 + 0.9 * QUIET_S) == []
    assert drop.look(1.0 + QUIET_S) == [file]
    assert drop.look(60.0) == []


def test_a_file_that_grew_again_comes_again(tmp_path: Path) -> None:
    drop = DropFolder(tmp_path)
    file = tmp_path / "ada.csv"
    file.write_bytes(b"one")
    drop.look(0.0)
    assert drop.look(QUIET_S) == [file]
    file.write_bytes(b"another")
    os.utime(file, (5, 5))
    drop.look(10.0)
    assert drop.look(10.0 + QUIET_S) == [file]


def test_what_was_taken_last_time_is_remembered(tmp_path: Path) -> None:
    (tmp_path / "ada.csv").write_bytes(b"one")
    first = DropFolder(tmp_path)
    first.look(0.0)
    (given,) = first.look(QUIET_S)
    # Given out, and then the program ended before it was stored: the next one gives it again.
    after_a_kill = DropFolder(tmp_path, first.taken)
    after_a_kill.look(0.0)
    assert after_a_kill.look(QUIET_S) == [given]
    assert first.settle([given])
    assert not any("ada" in key for key in first.taken)
    again = DropFolder(tmp_path, first.taken)
    again.look(0.0)
    assert again.look(QUIET_S) == []
    of_before = DropFolder(tmp_path, frozenset({f"ada.csv|3|{given.stat().st_mtime_ns}"}))
    of_before.look(0.0)
    assert of_before.look(QUIET_S) == []


def test_other_files_and_unfinished_ones_are_left_alone(tmp_path: Path) -> None:
    for name in ("notes.txt", ".hidden.csv", "clip.mp4.part", "empty.csv"):
        (tmp_path / name).write_bytes(b"" if name == "empty.csv" else b"x")
    (tmp_path / "clip.mp4").write_bytes(b"x")  # its upload still has a part beside it
    drop = DropFolder(tmp_path)
    drop.look(0.0)
    assert drop.look(QUIET_S) == []
    (tmp_path / "clip.mp4.part").unlink()
    drop.look(4.0)
    assert [p.name for p in drop.look(4.0 + QUIET_S)] == ["clip.mp4"]


@pytest.mark.parametrize("name", ["set.avi", "SET.WMV", "phone.3gp"])
def test_a_clip_of_another_kind_is_told_what_to_do_with(tmp_path: Path, name: str) -> None:
    (tmp_path / name).write_bytes(b"RIFF")
    drop = DropFolder(tmp_path)
    drop.look(0.0)
    whole = drop.look(QUIET_S)
    assert [p.name for p in whole] == [name]
    for paths in (whole, [tmp_path]):
        good, bad = inspect_files(paths, [], Catalogue({}), lambda _share: None)
        assert not good
        [refused] = bad
        assert refused.name == name
        assert "save it as MP4" in refused.why


def test_an_evening_is_sent_bit_by_bit_in_its_order(tmp_path: Path) -> None:
    sizes: list[int] = []
    waited: list[float] = []

    def wait(seconds: float) -> None:
        waited.append(seconds)
        file = tmp_path / "in" / "late.csv"
        if file.exists():
            sizes.append(file.stat().st_size)

    told: list[str] = []
    sent = [Sent("late.csv", b"x" * 600, 0.9), Sent("early.csv", b"y" * 60, 0.1)]
    send_over(tmp_path / "in", sent, 10.0, told.append, wait)
    assert told == ["early.csv", "late.csv"]
    assert sizes == sorted(sizes)
    assert len(set(sizes)) > 3
    assert sum(w for w in waited if w > 0.5) > 8.0
    assert (tmp_path / "in" / "late.csv").read_bytes() == b"x" * 600


def test_one_bad_name_does_not_stop_the_others(tmp_path: Path):
    """A loop of links and a name as long as a disk takes: both are given out, to be set aside or
    taken in."""
    (tmp_path / "round.csv").symlink_to(tmp_path / "round.csv")
    (tmp_path / "nowhere.csv").symlink_to(tmp_path / "gone.csv")
    long = tmp_path / f"{'a' * 249}.csv"
    long.write_text("x")
    (tmp_path / "good.csv").write_text("x")
    drop = DropFolder(tmp_path)
    assert drop.look(0.0) == []
    assert {p.name for p in drop.look(3.0)} == {"round.csv", long.name, "good.csv"}
    assert drop.look(6.0) == []
