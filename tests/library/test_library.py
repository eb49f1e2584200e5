"""The library: private, whole, searchable, and unharmed by a kill at any moment."""

from __future__ import annotations

import os
import signal
import sqlite3
import stat
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

import pytest

from builders import filmed, slow, some_of
from guide_arc.core.model.settings import Correction, Settings
from guide_arc.formats.errors import BadFile
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.database import NEWEST
from guide_arc.library.errors import BadLibrary
from guide_arc.library.records import Decision, SetNotes, SetPart
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library
from guide_arc.library.taking_out import remove_set


@pytest.fixture(scope="module")
def data() -> bytes:
    return csv_text(
        filmed("rope-pushdown", reps=2, load_kg=20.0, recorded="2031-03-01T18:00").track
    ).encode()


def add(library: Library, data: bytes, name: str = "set.csv", **more: Any) -> tuple[int, bool]:
    given = {"client": "Ada Quill", "standard": "rope-pushdown", "school": "locked", **more}
    return library.add_set(data, name, **given)


def test_only_its_person_can_read_it(library, data):
    set_id, _ = add(library, data)
    folder = library.folder
    assert stat.S_IMODE(folder.stat().st_mode) == 0o700
    assert stat.S_IMODE((folder / "tracks").stat().st_mode) == 0o700
    assert stat.S_IMODE((folder / "library.sqlite").stat().st_mode) == 0o600
    for file in (folder / "tracks").iterdir():
        assert stat.S_IMODE(file.stat().st_mode) == 0o600
    assert library.record(set_id).client == "Ada Quill"


def test_what_the_file_says_is_taken_over(library, data):
    set_id, _ = add(library, data)
    record = library.record(set_id)
    assert record.load_kg == 20.0
    assert record.recorded == "2031-03-01T18:00"
    assert library.track_bytes(set_id) == (data, "set.csv")


def test_the_same_file_twice_makes_one_set(library, data):
    first, new = add(library, data)
    second, again = add(library, data, "copy of set.csv")
    assert (first, new, again) == (second, True, False)
    assert library.count() == 1


def test_a_file_that_is_no_track_changes_nothing(library):
    with pytest.raises(BadFile):
        add(library, b"hello")
    assert library.count() == 0
    assert list((library.folder / "tracks").iterdir()) == []


def test_decisions_survive_a_new_computation(library, data):
    set_id, _ = add(library, data)
    review_and_keep(library, set_id)
    notes = SetNotes(
        {"torso-swing/both": Decision("reword", "Stand tall.", "Marit Engel", "2031-03-02")},
        "Good.",
    )
    library.keep_notes(set_id, notes)
    review_and_keep(library, set_id)
    assert library.record(set_id).notes == notes


def test_a_decision_taken_back_is_gone(library, data):
    set_id, _ = add(library, data)
    library.keep_notes(set_id, SetNotes({"a/both": Decision("keep"), "b/both": Decision("drop")}))
    library.keep_notes(set_id, SetNotes({"b/both": Decision("keep")}))
    assert {k: d.choice for k, d in library.record(set_id).notes.decisions.items()} == {
        "b/both": "keep"
    }


def test_most_in_need_comes_first(library, add_set):
    fine = add_set("Finn Adair", "rope-pushdown", reps=3)
    bad = add_set("Cleo Marsh", reps=3, noise=0.003, faults={"torso-swing": 25.0})
    hurt = add_set("Dario Venn", "seated-row-narrow-low", reps=3)
    library.keep_notes(hurt, SetNotes(pain=True))
    assert [row.id for row in library.queue()] == [hurt, bad, fine]


@pytest.mark.parametrize(
    ("words", "found"),
    [
        ("cleo", 1),
        ("pushdown", 1),
        ("torso swings", 1),
        ("CLEO curl", 1),
        ("cleo pushdown", 0),
        ("100%", 0),
        ("q_ill", 0),
    ],
)
def test_sets_are_found_by_any_word(add_set, library, words, found):
    add_set("Finn Adair", "rope-pushdown", reps=2)
    add_set("Cleo Marsh", reps=2, noise=0.003, faults={"torso-swing": 25.0})
    assert len(library.queue(words=words)) == found


def test_reviewed_sets_leave_the_queue(library, add_set):
    set_id = add_set(reps=2)
    library.keep_notes(set_id, SetNotes(state="done"))
    assert library.queue() == []
    assert [row.id for row in library.queue(state="done")] == [set_id]
    assert [row.id for row in library.queue(state=None)] == [set_id]


def test_a_set_can_be_corrected_and_erased(library, add_set):
    set_id = add_set(reps=2)
    library.change_set(set_id, client="Esme Rook", school="rising-upper-arm", load_kg=12.5)
    record = library.record(set_id)
    assert (record.client, record.school, record.load_kg) == ("Esme Rook", "rising-upper-arm", 12.5)
    remove_set(library, set_id)
    assert library.count() == 0
    assert list((library.folder / "tracks").iterdir()) == []
    with pytest.raises(BadLibrary, match="no longer"):
        library.record(set_id)


def test_a_library_of_a_newer_program_is_refused_in_words(tmp_path):
    Library.open(tmp_path / "library").close()
    with sqlite3.connect(tmp_path / "library" / "library.sqlite") as connection:
        connection.execute("update alembic_version set version_num = '9999'")
    with pytest.raises(BadLibrary, match="newer version"):
        Library.open(tmp_path / "library")


def test_a_file_that_is_no_library_is_refused_in_words(tmp_path):
    folder = tmp_path / "library"
    folder.mkdir()
    (folder / "library.sqlite").write_bytes(b"this is not a database, not at all" * 50)
    with pytest.raises(BadLibrary, match="can't be read"):
        Library.open(folder)


def test_a_folder_that_can_not_be_made_is_refused_in_words(tmp_path):
    (tmp_path / "file").write_text("in the way")
    with pytest.raises(BadLibrary, match="can't be used"):
        Library.open(tmp_path / "file" / "library")


WORKER = """
import sys
from pathlib import Path
from guide_arc.core.model.settings import Correction, Settings
from guide_arc.library.records import Decision, SetNotes, SetPart
from guide_arc.library.store import Library

library = Library.open(Path(sys.argv[1]))
body = Path(sys.argv[2]).read_text()
n = 0
while True:
    data = body + f"# {n} {sys.argv[3]}\\n"
    data = data.replace("# view", f"# round: {n}-{sys.argv[3]}\\n# view", 1)
    lines = data.split("\\n")
    data = "\\n".join(one for one in lines if not one.startswith(("# 0 ", f"# {n} ")))
    set_id, new = library.add_set(data.encode(), f"set-{n}.csv", client="Ada Quill",
                                  standard="rope-pushdown", school="locked")
    library.keep_notes(set_id, SetNotes({"torso-swing/both": Decision("keep")}, f"note {n}"))
    sys.stdout.write(f"{set_id}\\n")
    sys.stdout.flush()
    n += 1
"""


@slow
@pytest.mark.parametrize("wait_s", some_of([0.041, 0.0, 0.013, 0.09]))
def test_a_kill_in_the_middle_loses_nothing_that_was_committed(tmp_path: Path, data, wait_s):
    """Really kills a process that adds and decides as fast as it can."""
    folder, body = tmp_path / "library", tmp_path / "body.csv"
    short = data.decode().splitlines()[:40]
    body.write_text("\n".join(short) + "\n")
    with subprocess.Popen(
        [sys.executable, "-c", WORKER, str(folder), str(body), str(wait_s)],
        stdout=subprocess.PIPE,
        text=True,
        env={**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)},
    ) as process:
        assert process.stdout is not None
        said = [process.stdout.readline()]  # it has started to commit
        end = time.monotonic() + wait_s
        while time.monotonic() < end:
            said.append(process.stdout.readline())
        process.send_signal(signal.SIGKILL)
        said += process.stdout.readlines()
    committed = [int(line) for line in said if line.strip().isdigit() and line.endswith("\n")]
    assert committed
    library = Library.open(folder)
    for set_id in committed:
        record = library.record(set_id)
        assert record.notes.decisions["torso-swing/both"].choice == "keep"
        assert library.track(set_id).frames > 2
    assert not list((folder / "tracks").glob(".*.part"))
    library.close()


KILLED_IN_BETWEEN = """
import os, signal, sys
from pathlib import Path
from alembic import op
from sqlalchemy import event
from guide_arc.library.store import Library
from guide_arc.library.tables import Base

real, made = op.create_table, []

def count(*given, **more):
    made.append(given[0])
    if len(made) == int(sys.argv[2]):
        os.kill(os.getpid(), signal.SIGKILL)

def create(*given, **more):
    count(*given)
    return real(*given, **more)

op.create_table = create
for table in Base.metadata.tables.values():
    event.listen(table, "before_create", count)
Library.open(Path(sys.argv[1]))
"""


def killed_at_table(folder: Path, table: int) -> None:
    done = subprocess.run(
        [sys.executable, "-c", KILLED_IN_BETWEEN, str(folder), str(table)],
        env={**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)},
        capture_output=True,
    )
    assert done.returncode == -signal.SIGKILL


@slow
@pytest.mark.parametrize("table", some_of([4, 1, 8]))
def test_a_kill_while_the_library_is_made_leaves_one_that_opens(tmp_path: Path, data, table):
    killed_at_table(tmp_path / "library", table)
    library = Library.open(tmp_path / "library")
    assert add(library, data)[1]
    assert library.count() == 1
    library.close()


@slow
@pytest.mark.parametrize("table", some_of([2, 1]))
def test_a_kill_while_an_old_library_is_brought_up_leaves_one_that_opens(tmp_path, data, table):
    first_form(tmp_path / "old", data)
    killed_at_table(tmp_path / "old", table)
    library = Library.open(tmp_path / "old")
    assert library.record(7).notes.note == "Sore last week."
    library.close()


def test_what_the_coach_adds_is_kept_apart_from_the_review(library, data):
    set_id, _ = add(library, data)
    review_and_keep(library, set_id)
    found = library.kept_review(set_id)
    settings = Settings(
        (Correction("delete", 3.0), Correction("edge", 5.0, 5.5, edge="lift-start")),
        2,
        ("triceps",),
    )
    library.keep_notes(set_id, SetNotes(settings=settings))
    assert library.record(set_id).notes.settings == settings
    assert library.kept_review(set_id) == found


def test_one_recording_as_two_sets_is_erased_set_by_set(library, data):
    first, _ = add(library, data)
    review_and_keep(library, first)
    assert library.without_review() == []
    parts = [
        SetPart("rope-pushdown", "locked", Correction("bounds", 0.0, 4.0)),
        SetPart("standing-barbell-curl", "locked-upper-arm", Correction("bounds", 4.0, 9.0)),
    ]
    ids = library.split_set(first, parts)
    assert ids[0] == first
    assert library.record(ids[1]).standard == "standing-barbell-curl"
    assert library.record(ids[1]).notes.settings.bounds == (4.0, 9.0)
    assert library.without_review() == ids
    remove_set(library, first)
    assert library.track(ids[1]).frames
    remove_set(library, ids[1])
    assert not list((library.folder / "tracks").iterdir())


def test_earlier_sets_of_the_same_client_and_exercise(library):
    def one(day: str, seed: int, **more: Any) -> int:
        track = filmed("rope-pushdown", reps=1, seed=seed).track
        return add(library, csv_text(track).encode(), f"{seed}.csv", recorded=day, **more)[0]

    march, january, may = one("2031-03-01", 1), one("2031-01-05", 2), one("2031-05-01", 3)
    february = one("2031-02-01", 4)
    one("2031-02-15", 5, client="Finn Adair")
    one("2031-02-16", 6, standard="standing-barbell-curl", school="locked-upper-arm")
    assert [s.id for s in library.earlier_sets(march)] == [february, january, may]


def first_form(folder: Path, data: bytes) -> None:
    """A library with one set as the first version of the program made it."""
    import hashlib

    from alembic import command
    from alembic.config import Config
    from sqlalchemy import create_engine

    import guide_arc.library.migrations as migrations

    (folder / "tracks").mkdir(parents=True)
    key = hashlib.sha256(data).hexdigest()
    (folder / "tracks" / f"{key}.csv").write_bytes(data)
    config = Config()
    config.set_main_option("script_location", str(Path(next(iter(migrations.__path__)))))
    engine = create_engine(f"sqlite:///{folder / 'library.sqlite'}")
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0001")
        for row in (
            "insert into client (id, name) values (1, 'Ada Quill')",
            f"insert into track values ('{key}', '{key}.csv', 100, 9.0, 'none')",
            (
                "insert into recorded_set (id, client_id, track_hash, source_name, standard,"
                f" school, recorded, note) values (7, 1, '{key}', 'ada.csv', 'rope-pushdown',"
                " 'locked', '2031-03-01', 'Sore last week.')"
            ),
            (
                "insert into decision (set_id, finding, choice, decided_by, decided_at) "
                "values (7, 'torso-swing/both', 'keep', 'Marit Engel', '2031-03-02')"
            ),
        ):
            connection.exec_driver_sql(row)
    engine.dispose()


def test_a_library_of_the_first_form_is_brought_up(tmp_path, data):
    """Sets of an older program are there afterwards, with a copy of the file from before."""
    folder = tmp_path / "old"
    first_form(folder, data)
    again = Library.open(folder)
    notes = again.record(7).notes
    assert notes.note == "Sore last week."
    assert notes.decisions["torso-swing/both"].decided_by == "Marit Engel"
    assert notes.settings == Settings()
    assert again.track(7).frames
    assert list(folder.glob("library-before-*.sqlite"))
    parts = [SetPart("rope-pushdown", "locked", Correction("bounds", 0.0, t)) for t in (4.0, 9.0)]
    assert len(again.split_set(7, parts)) == 2
    again.close()


def made_by_hand(library: Library) -> set[tuple[str, str]]:
    """Indices, triggers and the full-text index, as their statements without spacing."""
    ask = (
        "select name, sql from sqlite_master where (name like 'set_by%' or name like 'words%') and"
        " sql is not null"
    )
    with library.reading() as session:
        rows = session.connection().exec_driver_sql(ask)
        return {(name, "".join(sql.split()).lower().replace('"', "")) for name, sql in rows}


def not_the_index(_object: object, name: str, kind: str, *_more: object) -> bool:
    """The full-text index, and indices of a direction, which can't be compared by name; see what
    follows."""
    by_hand = ("set_by_need", "set_by_all_need")
    return not (name in by_hand if kind == "index" else name.startswith("words"))


def test_the_tables_are_what_the_migrations_make(tmp_path, data, library):
    """A new library is made at once, an old one step by step: both come to the same."""
    from alembic.autogenerate import compare_metadata
    from alembic.migration import MigrationContext

    from guide_arc.library.tables import Base

    first_form(tmp_path / "old", data)
    brought_up = Library.open(tmp_path / "old")
    for one in (brought_up, library):
        with one.reading() as session:
            connection = session.connection()
            context = MigrationContext.configure(connection, opts={"include_object": not_the_index})
            assert compare_metadata(context, Base.metadata) == []
            assert context.get_current_revision() == NEWEST
    assert made_by_hand(brought_up) == made_by_hand(library)
    brought_up.close()
