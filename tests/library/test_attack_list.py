"""What a second attack on the library found, one test each; undo and attribution have files of
their own."""

from __future__ import annotations

import csv
import json
import os
import sqlite3
import subprocess
import sys
import threading
import zipfile
from collections.abc import Iterator
from datetime import date, timedelta
from pathlib import Path

import pytest
from PyQt6.QtCore import QSettings

from builders import filmed, slow
from clips import numbered_clip
from guide_arc.capture.drop_folder import DropFolder
from guide_arc.core.model.client import Client
from guide_arc.core.model.errors import BadInput
from guide_arc.formats import track_csv, track_file
from guide_arc.formats.bundle import reading_bundle
from guide_arc.formats.csv_cells import text_cell
from guide_arc.formats.errors import BadFile
from guide_arc.formats.file_names import file_name_part, free_name
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.backups import KEPT, backups, bring_back, daily
from guide_arc.library.batch import review_all
from guide_arc.library.bundles import write_set
from guide_arc.library.checking import check
from guide_arc.library.clients import Clients
from guide_arc.library.clip_folder import ClipFolder
from guide_arc.library.errors import ReadOnly
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.records import Decision, SetNotes
from guide_arc.library.store import Library
from guide_arc.library.whole_records import take_in, write_client, write_library
from guide_arc.standards import loader
from hands import Hands, take_apart


def nothing(_share: float) -> None:
    pass


# Copies under a clock that was wrong


def test_a_new_copy_outlives_those_of_a_clock_that_was_ahead(library: Library, add_set):
    add_set("Ada Quill", reps=1)
    for day in range(8):
        assert daily(library.folder, date(2032, 1, 1) + timedelta(days=day)) is not None
    for day in range(KEPT + 2):
        made = daily(library.folder, date(2031, 5, 1) + timedelta(days=day))
        assert made is not None
        assert made.exists()
        assert len(backups(library.folder)) == KEPT
    names = sorted(b.day for b in backups(library.folder))
    assert names == [f"2031-05-0{n}" for n in range(3, 10)]  # those of the future went first


# A disk that can only be read


@pytest.fixture
def read_only(library: Library, add_set) -> Iterator[Path]:
    """A library that this process may read and not write, with changes that are still in its
    log."""
    add_set("Ada Quill", reps=1)
    library.change_set(1, load_kg=30.0)
    folder = library.folder
    mounted = (
        subprocess.run(
            ["mount", "--bind", folder, folder], capture_output=True, check=False
        ).returncode
        == 0
        and subprocess.run(
            ["mount", "-o", "remount,bind,ro", folder], capture_output=True, check=False
        ).returncode
        == 0
    )
    if not mounted:
        if os.geteuid() == 0:
            pytest.skip("this system lets no folder be mounted read-only")
        for path in (folder, *folder.rglob("*")):
            path.chmod(0o500 if path.is_dir() else 0o400)
    yield folder
    if mounted:
        subprocess.run(["umount", "-l", folder], check=True)
    else:
        for path in (folder, *folder.rglob("*")):
            path.chmod(0o700 if path.is_dir() else 0o600)


def test_a_library_on_a_read_only_disk_is_read_checked_and_exported(
    read_only: Path, tmp_path: Path
):
    opened = Library.open(read_only)
    assert opened.record(1).load_kg == 30.0  # from the log as well
    assert opened.track(1).frames
    with pytest.raises(ReadOnly, match="can only be read"):
        opened.change_set(1, load_kg=40.0)
    assert write_library(opened, tmp_path / "out", nothing) == 1
    opened.close()
    found = check(read_only)
    assert (found.sets, found.files, found.wrong) == (1, 1, [])
    assert "can only be read" in check(read_only, mend=True).wrong[0]
    other = Library.open(tmp_path / "other")
    assert len(take_in(other, tmp_path / "out", nothing).ids) == 1
    other.close()


def test_a_window_on_a_read_only_disk_shows_what_is_there(qtbot, read_only: Path, tmp_path: Path):
    settings = QSettings(str(tmp_path / "window.ini"), QSettings.Format.IniFormat)
    window = Hands(read_only, settings)
    assert "can only be read" in window.said
    assert [row.client for row in window.sets.doc.rows] == ["Ada Quill"]
    window.open_set(1)
    assert window.review.doc.record.load_kg == 30.0
    window.program.set_changes.erase(1, "Ada Quill")
    window.settle()
    assert "can only be read" in window.said
    assert window.undo_words is None
    window.do("go.clients")
    assert window.of("clients").model.doc.chosen == "Ada Quill"
    take_apart(window)
    again = Library.open(read_only)
    assert again.ids() == {1}
    again.close()


# One damaged row


def test_one_damaged_set_does_not_stop_the_reviews_of_the_others(library: Library, add_set, caplog):
    ids = [add_set("Ada Quill", reps=1, seed=n) for n in (1, 2, 3)]
    Clients(library).keep(Client("Ada Quill", goals="strength"))
    Clients(library).keep_words("Ada Quill", "torso-swing", "Stand tall.")
    with sqlite3.connect(library.folder / "library.sqlite") as db:
        db.execute("update recorded_set set felt = '{bad' where id = ?", (ids[0],))
        db.execute("update review set trace = '[1, 2' where set_id = ?", (ids[1],))
        db.execute("update client set profile = '[]'")
        db.execute("update kept set document = 'nothing'")
    db.close()
    out = review_all(library)
    assert sorted(out.done) == ids[1:]
    assert len(out.refused) == 1
    assert "--mend" in out.refused[0]
    assert not [r for r in caplog.records if r.exc_info]
    assert len(library.queue()) == 3
    found = check(library.folder, mend=True)
    assert any("stored document" in words for words in found.mended)
    assert check(library.folder).wrong == []


@slow
def test_a_command_shows_no_traceback_of_a_damaged_row(library: Library, add_set):
    set_id = add_set("Ada Quill", reps=1)
    library.close()
    with sqlite3.connect(library.folder / "library.sqlite") as db:
        db.execute("update recorded_set set corrections = '{' where id = ?", (set_id,))
    db.close()
    ran = subprocess.run(
        [sys.executable, "-m", "guide_arc", "review", "--all", "--library", str(library.folder)],
        capture_output=True,
        text=True,
        check=False,
    )
    assert "Traceback" not in ran.stderr
    assert "1 could not be" in ran.stdout


# Two first imports


@slow
def test_two_commands_make_one_new_library_at_the_same_time(tmp_path: Path):
    tracks = tmp_path / "in"
    tracks.mkdir()
    for n in range(3):
        text = csv_text(filmed("rope-pushdown", reps=1, seed=n).track)
        (tracks / f"{n}.csv").write_text(text)
    command = [
        sys.executable,
        "-m",
        "guide_arc",
        "import",
        str(tracks),
        "--library",
        str(tmp_path / "library"),
        "--client",
    ]
    both = [
        subprocess.Popen(
            [*command, name], stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True
        )
        for name in ("Ada Quill", "Ada Quill")
    ]
    ends = [one.communicate() for one in both]
    assert [one.returncode for one in both] == [0, 0], ends
    opened = Library.open(tmp_path / "library")
    assert opened.count() == 3
    opened.close()


def test_a_command_waits_for_a_long_write_of_another_one(library: Library, add_set):
    """The lock is held for as long as the first one wants; the second one goes on after it."""
    set_id = add_set("Ada Quill", reps=1)
    patient = Library.open(library.folder, patient=True)
    held, through = threading.Event(), threading.Event()

    def hold() -> None:
        own = Library.open(library.folder)
        with own.writing():
            held.set()
            through.wait(20)
        own.close()

    thread = threading.Thread(target=hold)
    thread.start()
    assert held.wait(20)
    threading.Timer(0.5, through.set).start()
    patient.change_set(set_id, load_kg=22.5)
    thread.join()
    assert patient.record(set_id).load_kg == 22.5
    waits = patient._database._engine.connect()
    assert waits.exec_driver_sql("pragma busy_timeout").scalar() == 600_000
    waits.close()
    patient.close()


# Names


def test_clients_whose_names_differ_in_a_sign_have_folders_of_their_own(
    library: Library, add_set, tmp_path: Path
):
    names = ["Ada/Quill", "Ada_Quill", "ada_quill", "../../etc/x", "con"]
    for n, name in enumerate(names):
        add_set(name, reps=1, seed=n)
    assert write_library(library, tmp_path / "out", nothing) == 5
    folders = [p for p in (tmp_path / "out").iterdir() if p.is_dir()]
    assert len({p.name.casefold() for p in folders}) == 5  # also on a disk that knows no capitals
    assert {json.loads((p / "known.json").read_text())["name"] for p in folders} == set(names)
    assert not (tmp_path / "etc").exists()
    # Written again, each goes into its own folder.
    for name in names:
        write_client(library, name, tmp_path / "out", nothing)
    assert len([p for p in (tmp_path / "out").iterdir() if p.is_dir()]) == 5


@pytest.mark.parametrize(
    ("name", "part"),
    [
        ("../../etc/x", "_.._etc_x"),
        ("a/b", "a_b"),
        ("  ..", "client"),
        ("CON", "CON_"),
        ("//", "client"),
        ("Ünal Đỗ", "Ünal Đỗ"),
        ("a\u202eb", "ab"),
        ("nul.txt", "nul.txt_"),
    ],
)
def test_no_name_is_a_path(name: str, part: str):
    assert file_name_part(name) == part
    assert len(file_name_part("ü" * 300).encode()) <= 120
    assert Path(file_name_part(name)).name == file_name_part(name)


def test_a_free_name_differs_in_more_than_capitals():
    assert free_name("Ada", ["ada", "ADA 2"]) == "Ada 3"


def test_a_cue_is_no_formula(library: Library, add_set, tmp_path: Path):
    set_id = add_set("Ada Quill", reps=3, faults={"torso-swing": 25.0})
    formula = '=HYPERLINK("http://example.org","x")'
    decided = {"torso-swing/both": Decision("reword", formula)}
    library.keep_notes(set_id, SetNotes(decided, state="done"))
    write_client(library, "Ada Quill", tmp_path, nothing)
    with (tmp_path / "Ada Quill" / "sets.csv").open(newline="") as file:
        (row,) = csv.DictReader(file)
    assert row["said"] == f"'{formula}"
    assert [text_cell(t) for t in ("+1", "-1", "@x", "\tx", "fine", "")] == [
        "'+1",
        "'-1",
        "'@x",
        "'\tx",
        "fine",
        "",
    ]


# Limits that are checked before memory is spent


def test_a_bundle_that_swells_is_refused_before_it_is_unpacked(
    library: Library, add_set, tmp_path: Path
):
    set_id = add_set("Ada Quill", reps=3)
    write_set(library, set_id, tmp_path / "set.zip")
    with reading_bundle(tmp_path / "set.zip") as bundle:
        assert bundle.track is not None  # what this program writes is far from the limit
    with zipfile.ZipFile(tmp_path / "set.zip") as given:
        meta = given.read("set.json")
        track = given.read("track.csv").decode()
    head, _, row = track.rstrip("\n").rpartition("\n")
    same = row.partition(",")[2]
    with zipfile.ZipFile(tmp_path / "swollen.zip", "w", zipfile.ZIP_DEFLATED) as out:
        out.writestr("set.json", meta)
        rows = "\n".join(f"{100 + n / 60:.4f},{same}" for n in range(60_000))
        out.writestr("track.csv", f"{head}\n{rows}\n")
    with pytest.raises(BadFile, match="would unpack to"), reading_bundle(tmp_path / "swollen.zip"):
        pass


def test_a_track_beyond_its_limits_is_refused_before_it_is_read(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
):
    large = tmp_path / "large.csv"
    with large.open("wb") as out:
        out.truncate(track_file.LARGEST_TRACK_BYTES + 1)  # takes no room on the disk
    with pytest.raises(BadFile, match="400 MB"):
        track_file.read_track(large)
    text = csv_text(filmed("rope-pushdown", reps=1).track)
    monkeypatch.setattr(track_csv, "_MOST_CELLS", 1000)
    with pytest.raises(BadFile, match="million cells"):
        track_csv.parse_csv(text, Path("a.csv"))


# A recording that is written to without end


def test_a_clip_that_grows_while_it_is_copied_is_left_and_said(tmp_path: Path):
    source = numbered_clip(tmp_path / "grows.mp4", 20)
    more = source.read_bytes()

    def grow(_share: float) -> None:
        with source.open("ab") as out:
            out.write(more)

    with pytest.raises(BadFile, match="changed while it was copied"):
        ClipFolder(tmp_path / "library").take(source, {}, grow)


def test_a_file_that_grows_in_the_drop_folder_is_not_given_out(tmp_path: Path):
    growing = tmp_path / "grows.mp4"
    drop = DropFolder(tmp_path)
    for second in range(0, 60, 3):
        with growing.open("ab") as out:
            out.write(b"more")
        assert drop.look(float(second)) == []
    assert drop.look(58.0) == []
    assert drop.look(61.0) == [growing]


# A copy brought back while others work


def test_a_copy_is_brought_back_while_other_threads_write_and_read(library: Library, add_set):
    ids = [add_set("Ada Quill", reps=1, seed=n) for n in (1, 2)]
    copy = daily(library.folder, date(2031, 5, 1))
    assert copy is not None
    over = threading.Event()
    wrong: list[BaseException] = []

    def work() -> None:
        try:
            own = Library.open(library.folder, make=False)
            load = 20.0
            while not over.is_set():
                load += 0.5
                own.change_set(ids[0], load_kg=load)
                own.record(ids[1])
                own.queue()
            own.close()
        except BaseException as error:
            wrong.append(error)

    threads = [threading.Thread(target=work) for _ in range(2)]
    for thread in threads:
        thread.start()
    for _ in range(6):
        bring_back(library.folder, copy, date(2031, 5, 2))
    over.set()
    for thread in threads:
        thread.join(30)
    assert wrong == []
    assert library.ids() == frozenset(ids)
    library.close()
    assert check(library.folder).wrong == []


# A standard of the coach's own that is gone


def test_a_standard_that_was_removed_by_hand_stops_only_its_own_sets(library: Library, add_set):
    own = OwnStandards(library)
    text = (Path(loader.__file__).parent / "data" / "triceps" / "rope-pushdown.toml").read_text()
    own.save("own-pushdown", text.replace('id = "rope-pushdown"', 'id = "own-pushdown"', 1))
    left, other = add_set("Ada Quill", reps=1, seed=1), add_set("Ada Quill", reps=1, seed=2)
    library.change_set(left, standard="own-pushdown")
    with pytest.raises(BadInput, match="1 set follows this standard"):
        own.remove("own-pushdown")
    (own.folder / "own-pushdown.toml").unlink()
    out = review_all(library, fresh=True)
    assert out.done == [other]
    assert "own-pushdown" in out.refused[0]
    assert len(library.queue()) == 2
    assert Clients(library).exercises("Ada Quill")
