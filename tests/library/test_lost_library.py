"""A library that is gone, moved, empty or damaged: said at once, nothing made in its place, and a
way back."""

from __future__ import annotations

import shutil
from datetime import date, timedelta
from pathlib import Path

import pytest

from guide_arc.cli.main import run
from guide_arc.library.backups import backups, bring_back, daily
from guide_arc.library.checking import check, replaced_library
from guide_arc.library.errors import BadLibrary, LostLibrary
from guide_arc.library.listing_anew import CLIENT, list_recordings_again
from guide_arc.library.store import Library

TODAY = date(2031, 5, 20)


def test_what_is_written_after_the_folder_was_moved_is_refused_and_makes_nothing(
    library: Library, add_set, tmp_path: Path
):
    set_id = add_set(reps=1)
    notes = library.record(set_id).notes
    library.folder.rename(tmp_path / "moved")
    with pytest.raises(LostLibrary, match="moved, renamed"):
        library.keep_notes(set_id, notes)
    with pytest.raises(LostLibrary):
        Library.open(library.folder, make=False)
    assert not library.folder.exists()


def test_a_folder_that_was_put_back_goes_on(library: Library, add_set, tmp_path: Path):
    set_id = add_set(reps=1)
    library.folder.rename(tmp_path / "moved")
    with pytest.raises(LostLibrary):
        library.record(set_id)
    (tmp_path / "moved").rename(library.folder)
    assert library.record(set_id).id == set_id


def test_a_file_that_another_one_took_the_place_of_is_not_written(library: Library, add_set):
    add_set(reps=1)
    file = library.folder / "library.sqlite"
    shutil.copy(file, library.folder / "copy")
    (library.folder / "copy").replace(file)
    with pytest.raises(LostLibrary):
        library.keep_setting("coach", "Marit Engel")


@pytest.mark.parametrize("how", ["empty", "gone", "damaged"])
def test_a_lost_file_beside_recordings_is_listed_anew(library: Library, add_set, how: str):
    add_set("Cleo Marsh", reps=2, load_kg=30.0)
    library.close()
    file = library.folder / "library.sqlite"
    for end in ("-wal", "-shm"):
        Path(f"{file}{end}").unlink(missing_ok=True)
    if how == "gone":
        file.unlink()
    else:
        file.write_bytes(b"" if how == "empty" else b"no database at all, by far" * 400)
    with pytest.raises(LostLibrary) as error:
        Library.open(library.folder)
    assert error.value.lost == ("damaged" if how == "damaged" else "file")
    replaced_library(library.folder).close()
    again = Library.open(library.folder)
    listed = list_recordings_again(again, lambda _share: None)
    record = again.record(listed.sets[0])
    again.close()
    assert record.client == CLIENT
    assert (record.standard, record.load_kg) == ("standing-barbell-curl", 30.0)
    assert listed.refused == []
    kept = [p.read_bytes() for p in (library.folder / "backups").glob("damaged-*")]
    assert kept == (
        [] if how == "gone" else [b"" if how == "empty" else b"no database at all, by far" * 400]
    )


def test_a_backup_a_day_and_seven_of_them(library: Library, add_set):
    add_set(reps=1)
    days = [TODAY + timedelta(days=i) for i in range(9)]
    assert all(daily(library.folder, day) for day in days)
    assert daily(library.folder, days[-1]) is None
    names = [p.name for p in sorted((library.folder / "backups").iterdir())]
    assert names == [f"library-{day.isoformat()}.sqlite" for day in days[-7:]]
    assert {p.stat().st_mode & 0o777 for p in (library.folder / "backups").iterdir()} == {0o600}


def test_a_backup_is_brought_back_under_an_open_window_and_back_again(library: Library, add_set):
    set_id = add_set("Cleo Marsh", reps=1)
    daily(library.folder, TODAY)
    (copy,) = backups(library.folder)
    assert copy.what.startswith("1 set of 1 client")
    add_set("Ada Quill", reps=1, seed=8)
    library.keep_setting("coach", "Marit Engel")
    kept = bring_back(library.folder, copy.path, TODAY)
    assert library.clients() == ["Cleo Marsh"]
    assert library.record(set_id).client == "Cleo Marsh"
    assert library.setting("coach") == ""
    assert kept is not None
    bring_back(library.folder, kept, TODAY)
    assert sorted(library.clients()) == ["Ada Quill", "Cleo Marsh"]


def test_a_backup_that_is_not_whole_changes_nothing(library: Library, add_set, tmp_path: Path):
    add_set("Cleo Marsh", reps=1)
    bad = tmp_path / "bad.sqlite"
    bad.write_bytes(b"SQLite format 3\0" + bytes(6000))
    with pytest.raises(BadLibrary, match=r"bad\.sqlite"):
        bring_back(library.folder, bad, TODAY)
    assert library.clients() == ["Cleo Marsh"]


def test_recordings_newer_than_the_backup_are_found_by_the_check(library: Library, add_set):
    add_set("Cleo Marsh", reps=1)
    daily(library.folder, TODAY)
    add_set("Ada Quill", reps=1, seed=8)
    bring_back(library.folder, backups(library.folder)[0].path, TODAY)
    assert any("no set names it" in words for words in check(library.folder).wrong)
    assert check(library.folder, mend=True).wrong == []
    assert library.count() == 2
    assert check(library.folder).wrong == []


def test_the_check_tells_a_changed_a_lost_and_an_open_recording(library: Library, add_set):
    first, second, third = (add_set("Cleo Marsh", reps=1, seed=s) for s in (1, 2, 3))
    files = {
        i: library.folder / "tracks" / f"{library.record(i).track_hash}.csv"
        for i in (first, second, third)
    }
    files[first].write_bytes(files[first].read_bytes() + b"\n")
    files[second].unlink()
    files[third].chmod(0o644)
    found = check(library.folder)
    assert any(f"set {first} of Cleo Marsh" in w and "has changed" in w for w in found.wrong)
    assert any(f"set {second} of Cleo Marsh" in w and "is gone" in w for w in found.wrong)
    assert any("read by others" in w for w in found.wrong)
    check(library.folder, mend=True)
    assert files[third].stat().st_mode & 0o777 == 0o600


def test_a_row_that_can_not_be_read_hides_no_other_and_is_mended(library: Library, add_set):
    first, second = (add_set("Cleo Marsh", reps=1, seed=s) for s in (1, 2))
    with library.writing() as session:
        session.connection().exec_driver_sql(
            "update recorded_set set felt = 'no list' where id = ?", (first,)
        )
        session.connection().exec_driver_sql(
            "update review set glance = '{broken' where set_id = ?", (second,)
        )
    assert {row.id for row in library.queue()} == {first, second}
    with pytest.raises(BadLibrary, match="check --mend"):
        library.record(first)
    check(library.folder, mend=True)
    assert "no list" in library.record(first).notes.note


def test_the_command_says_whole_or_what_is_wrong(library: Library, add_set, capsys, tmp_path: Path):
    add_set("Cleo Marsh", reps=1)
    assert run(["check", "--library", str(library.folder)]) == 0
    assert "the library is whole" in capsys.readouterr().out
    next((library.folder / "tracks").iterdir()).unlink()
    assert run(["check", "--library", str(library.folder)]) == 1
    assert "its track is gone" in capsys.readouterr().out
    assert run(["check", "--library", str(tmp_path / "none")]) == 2
    assert not (tmp_path / "none").exists()


@pytest.mark.parametrize("name", ["a?b", "50%25 off", "set #3", "Über Größe", "двор", "mode=ro&x"])
def test_any_folder_s_name_works(tmp_path: Path, name: str):
    folder = tmp_path / name / "library"
    library = Library.open(folder)
    library.keep_setting("coach", "Marit Engel")
    daily(folder, TODAY)
    library.close()
    again = Library.open(folder, make=False)
    assert again.setting("coach") == "Marit Engel"
    assert len(backups(folder)) == 1
    again.close()
    assert [p.name for p in tmp_path.iterdir()] == [name]
