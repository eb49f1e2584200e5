"""One bad thing never stops the others: it is set aside with a sentence, and the rest goes on."""

from __future__ import annotations

import json
import os
from pathlib import Path

import pytest

from builders import filmed, slow
from guide_arc.app.services import intake_jobs
from guide_arc.app.services.set_jobs import review_each, review_missing
from guide_arc.cli.main import run
from guide_arc.formats.track_csv import csv_text
from guide_arc.formats.track_file import write_track
from guide_arc.library import batch, quarantine
from guide_arc.library.batch import TrackFile, review_all
from guide_arc.library.intake import Details
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.store import Library

PUSHDOWN = "rope-pushdown"
NO_NAMES: dict[str, str] = {}


def no_progress(_share: float) -> None:
    pass


def heap(folder: Path) -> list[Path]:
    """Good files among poison."""
    folder.mkdir(exist_ok=True)
    write_track(filmed(PUSHDOWN, reps=2, seed=1).track, folder / "ada.csv")
    write_track(filmed(PUSHDOWN, reps=3, seed=2).track, folder / "zoe.csv")
    (folder / "deep.json").write_text("[" * 200_000)
    (folder / "huge.json").write_text('{"landmark_track": 1, "time_s": [' + "9" * 6000 + "]}")
    (folder / "empty.csv").write_bytes(b"")
    (folder / "bytes.csv").write_bytes(bytes(range(256)) * 40)
    (folder / "film.mp4").write_bytes(b"no film")
    (folder / "set.zip").write_bytes(b"PK\x03\x04 no set")
    os.symlink(folder / "nowhere", folder / "gone.csv")
    (folder / os.fsdecode(b"fi\xff\x1b[31mnn.csv")).write_text(
        csv_text(filmed(PUSHDOWN, reps=1, seed=3).track)
    )
    return sorted(folder.iterdir())


def test_a_heap_comes_in_but_for_its_poison(library: Library, tmp_path: Path):
    paths = heap(tmp_path / "in")
    looked = intake_jobs.look(library, no_progress, tuple(paths), NO_NAMES)
    rows = tuple(
        (i, Details("Ada Quill", PUSHDOWN, "locked", None, None))
        for i in looked.good
        if not i.bundle
    )
    added = intake_jobs.add(
        library, no_progress, rows, tuple(i.bundle for i in looked.good if i.bundle)
    )
    assert len(added.ids) == 3
    quarantined = {one.name: one for one in quarantine.all_quarantined(library)}
    assert set(quarantined) == {
        "deep.json",
        "huge.json",
        "empty.csv",
        "bytes.csv",
        "film.mp4",
        "set.zip",
        "gone.csv",
    }
    assert all(one.why and one.path in paths for one in quarantined.values())
    names = {library.record(i).source_name for i in added.ids}
    assert "fi\ufffd [31mnn.csv" in names


def test_what_comes_in_later_leaves_the_quarantine(library: Library, tmp_path: Path):
    file = tmp_path / "ada.csv"
    file.write_text("nothing")
    intake_jobs.look(library, no_progress, (file,), NO_NAMES)
    assert [one.path for one in quarantine.all_quarantined(library)] == [file]
    write_track(filmed(PUSHDOWN, reps=2).track, file)
    looked = intake_jobs.look(library, no_progress, (file,), NO_NAMES)
    details = Details("Ada Quill", PUSHDOWN, "locked", None, None)
    added = intake_jobs.add(library, no_progress, ((looked.good[0], details),), ())
    assert added.settled == [file]
    assert quarantine.all_quarantined(library) == []


def test_a_set_that_can_not_be_reviewed_waits_aside_and_the_others_are(library: Library, add_set):
    first, second = add_set("Ada Quill", reps=2), add_set("Cleo Marsh", reps=3)
    with library.writing() as session:
        session.connection().exec_driver_sql("delete from review")
    (library.folder / "tracks" / f"{library.record(first).track_hash}.csv").write_text("broken")
    wrong = review_missing(library, no_progress)
    assert len(wrong) == 1
    assert library.kept_review(second) is not None
    (one,) = quarantine.all_quarantined(library)
    assert (one.set_id, one.name) == (first, "Ada Quill, standing barbell curl")
    assert review_missing(library, no_progress) == []  # it waits for the coach now
    track = filmed("standing-barbell-curl", reps=2).track
    (library.folder / "tracks" / f"{library.record(first).track_hash}.csv").write_text(
        csv_text(track)
    )
    assert review_each(library, no_progress, (first,)) == []
    assert quarantine.all_quarantined(library) == []


class Dies:
    """Reads as the import does, but ends its process on one file."""

    def __init__(self, name: str) -> None:
        self.name = name

    def __call__(self, job):
        if job[0].path.name == self.name:
            os._exit(9)
        return batch._read(job)


@slow
def test_a_worker_that_dies_takes_no_other_file_along(
    library: Library, tmp_path: Path, monkeypatch
):
    files = []
    for i in range(4):
        path = tmp_path / f"{i}.csv"
        write_track(filmed(PUSHDOWN, reps=1, seed=i, load_kg=10.0 + i).track, path)
        files.append(TrackFile(path, "Ada Quill", PUSHDOWN))
    jobs = [(f, library.folder) for f in files]
    monkeypatch.setattr(batch.os, "cpu_count", lambda: 2)  # type: ignore[attr-defined]
    made = {job[0].path.name: out for job, out in batch._each(Dies("3.csv"), jobs, 1)}
    assert set(made) == {f"{i}.csv" for i in range(4)}
    assert made["3.csv"].startswith("3.csv: the program that worked on it ended")
    assert sum(isinstance(out, str) for out in made.values()) == 1


def test_an_own_standard_that_is_no_standard_hides_no_other(library: Library, add_set):
    set_id = add_set(reps=1)
    place = library.folder / "standards"
    place.mkdir(exist_ok=True)
    (place / "deep.toml").write_text("a = " + "[" * 100_000)
    (place / "numbers.toml").write_text("a = " + "9" * 6000)
    os.symlink(place / "nowhere", place / "gone.toml")
    (place / "folder.toml").mkdir()
    catalogue = OwnStandards(library).catalogue()
    assert "rope-pushdown" in catalogue
    assert {"deep", "numbers"} <= set(catalogue.problems)
    assert review_each(library, no_progress, (set_id,)) == []


def test_a_folder_with_poison_is_imported_but_for_that(tmp_path: Path, capsys):
    heap(tmp_path / "in")
    code = run(
        [
            "import",
            str(tmp_path / "in"),
            "--library",
            str(tmp_path / "l"),
            "--standard",
            PUSHDOWN,
            "--client",
            "Ada",
        ]
    )
    said = capsys.readouterr().out
    assert code == 0
    assert said.startswith("3 sets added")
    assert not any(c < " " and c != "\n" for c in said)


def test_review_of_all_goes_on_past_a_broken_set_and_sets_it_aside(library: Library, add_set):
    first = add_set("Ada Quill", reps=2)
    add_set("Cleo Marsh", reps=3)
    (library.folder / "tracks" / f"{library.record(first).track_hash}.csv").unlink()
    out = review_all(library)
    assert (len(out.done), len(out.refused)) == (1, 1)
    assert [one.set_id for one in quarantine.all_quarantined(library)] == [first]
    assert not (library.folder / "review-all.done").exists()


def test_no_command_prints_what_a_file_hides(tmp_path: Path, capsys):
    track = filmed(PUSHDOWN, reps=1).track
    name = os.fsdecode(b"a\x1b]0;title\x07\xff.csv")
    (tmp_path / name).write_text(
        csv_text(track).replace("# view", "# tool: \x1b[2J\x9b31m\n# view", 1)
    )
    run(["review", str(tmp_path / name), "--standard", "\x1b[31mnone"])
    run(["review", str(tmp_path / name), "--standard", PUSHDOWN])
    run(["convert", str(tmp_path / name), str(tmp_path / "a.xyz")])
    run(["review", str(tmp_path / f"{name}-none")])
    out, err = capsys.readouterr()
    assert len(out) > 100
    assert not any(
        (c < " " and c != "\n") or "\x7f" <= c <= "\x9f" or "\ud800" <= c <= "\udfff"
        for c in out + err
    )


def test_every_command_prints_through_the_one_way():
    for file in (Path(__file__).resolve().parents[2] / "src/guide_arc/cli").glob("*.py"):
        if file.name != "terminal.py":
            assert "sys.stdout" not in file.read_text(), file.name


@pytest.mark.parametrize("kind", ["json", "csv"])
def test_numbers_of_any_length_get_a_sentence(tmp_path: Path, capsys, kind: str):
    track = filmed(PUSHDOWN, reps=1, rate=10.0).track
    path = tmp_path / f"a.{kind}"
    write_track(track, path)
    text = path.read_text()
    first = json.loads(text)["time_s"][1] if kind == "json" else track.time_s[1]
    path.write_text(text.replace(f"{first:g}", "9" * 6000, 1))
    assert run(["review", str(path), "--standard", PUSHDOWN]) == 2
    assert len(capsys.readouterr().err.splitlines()) == 1
