"""A team's library on a real PostgreSQL server: coaches write, readers read, and nobody's work is
lost."""

from __future__ import annotations

import hashlib
import os
import pwd
import shutil
import subprocess
import tempfile
import threading
import time
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest

from builders import filmed
from conftest import adder
from guide_arc.cli.main import run
from guide_arc.core.model.client import Client
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.clients import Clients
from guide_arc.library.errors import BadLibrary
from guide_arc.library.queue_rows import QueueFilter
from guide_arc.library.records import Decision
from guide_arc.library.store import Library
from guide_arc.library.tables import SetRow
from guide_arc.library.taking_out import forget_own, remove_set, take_client_out, take_out
from guide_arc.library.undoing import take_back
from guide_arc.library.whole_records import take_in, write_library
from hands import Hands, take_apart

PUSHDOWN = "rope-pushdown"


def _program(name: str) -> str | None:
    there = sorted(Path("/usr/lib/postgresql").glob(f"*/bin/{name}"))
    return str(there[-1]) if there else shutil.which(name)


def _user() -> str | None:
    """A server refuses to run as the system's superuser."""
    if os.getuid():
        return None
    for name in ("postgres", "nobody"):
        try:
            return pwd.getpwnam(name).pw_name
        except KeyError:
            continue
    return None


@pytest.fixture(scope="module")
def server() -> Iterator[Path]:
    """The folder of the socket of a server that lasts as long as these tests."""
    pytest.importorskip("psycopg", reason="the extra 'team' is not installed")
    initdb, postgres = _program("initdb"), _program("pg_ctl")
    if initdb is None or postgres is None:
        pytest.skip("no PostgreSQL server is installed on this machine")
    folder = Path(tempfile.mkdtemp(prefix="team-"))
    user = _user()
    if user is not None:
        shutil.chown(folder, user)
    data = folder / "data"
    kept = {k: v for k, v in os.environ.items() if not k.startswith(("LD_", "PG"))}
    as_user: dict[str, Any] = {
        "user": user,
        "cwd": folder,
        "check": True,
        "capture_output": True,
        "env": kept,
    }
    subprocess.run([initdb, "-D", data, "-U", "keeper", "-A", "trust", "--no-sync"], **as_user)
    options = f"-c listen_addresses='' -k {folder} -c fsync=off"
    subprocess.run(
        [postgres, "-D", data, "-w", "-o", options, "-l", folder / "log", "start"], **as_user
    )
    yield folder
    subprocess.run([postgres, "-D", data, "-m", "immediate", "stop"], **as_user)
    shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture
def addresses(server: Path, tmp_path: Path) -> dict[str, str]:
    """The address of a new library for the keeper, two coaches and a reader."""
    import psycopg

    names = ("marit", "jonas", "lea")
    base = tmp_path.name.replace("-", "_").lower()[-40:]
    with psycopg.connect(f"host={server} user=keeper dbname=postgres", autocommit=True) as db:
        db.execute(f'create database "{base}"')
        for name in names:
            if db.execute("select 1 from pg_roles where rolname = %s", (name,)).fetchone() is None:
                db.execute(f'create role "{name}" login')
    rest = f"@/{base}?host={server}&recordings={tmp_path / 'shared'}"
    return {name: f"postgresql://{name}{rest}" for name in ("keeper", *names)}


@pytest.fixture
def team(addresses: dict[str, str]) -> dict[str, str]:
    made = run(
        ["team", addresses["keeper"], "--coach", "marit", "--coach", "jonas", "--reader", "lea"]
    )
    assert made == 0
    return addresses


@pytest.fixture
def marit(team: dict[str, str]) -> Iterator[Library]:
    opened = Library.open(team["marit"])
    yield opened
    opened.close()


def test_a_set_is_kept_found_erased_and_put_back(marit: Library):
    add = adder(marit)
    first = add("Cleo Marsh", reps=3, faults={"torso-swing": 20.0}, recorded="2031-05-01")
    second = add("Ada Quill", PUSHDOWN, reps=2, recorded="2031-05-02")
    marit.keep_notes(second, replace(marit.record(second).notes, note="slept badly", pain=True))
    assert [row.id for row in marit.queue()] == [second, first]  # pain first
    for words, found in (
        ("cleo", [first]),
        ("BADLY", [second]),
        ("pushdown ada", [second]),
        ("2031-05", [second, first]),
        ("swings", [first]),
        ("eo", []),
        ("a.*", []),
    ):
        assert [row.id for row in marit.queue(words=words)] == found, words
    track = marit.folder / "tracks" / f"{marit.record(first).track_hash}.csv"
    assert track.stat().st_mode & 0o777 == 0o660  # the team's group, and nobody else
    assert (marit.folder / "tracks").stat().st_mode & 0o777 == 0o770
    page = marit.page(QueueFilter(state=None, limit=1, after=1))
    assert [row.id for row in page.rows] == [first]
    assert page.waiting == 2
    removed = take_out(marit, [first])
    assert marit.clients() == ["Ada Quill"]
    take_back(marit, removed)
    assert marit.track(first).frames
    assert marit.kept_review(first) is not None
    remove_set(marit, first)
    assert marit.clients() == ["Ada Quill"]


def test_a_reader_reads_and_changes_nothing(team: dict[str, str], marit: Library):
    set_id = adder(marit)("Cleo Marsh", reps=2)
    reader = Library.open(team["lea"])
    assert reader.record(set_id).client == "Cleo Marsh"
    assert [row.id for row in reader.queue()] == [set_id]
    with pytest.raises(BadLibrary, match="read the team's library"):
        reader.keep_notes(set_id, replace(reader.record(set_id).notes, note="mine"))
    assert marit.record(set_id).notes.note == ""
    reader.close()


def test_two_coaches_on_one_set_lose_nothing(team: dict[str, str], marit: Library):
    set_id = adder(marit)("Cleo Marsh", reps=2)
    jonas = Library.open(team["jonas"])
    opened = marit.record(set_id).notes
    marit.keep_notes(set_id, replace(opened, pain=True), opened)
    out = jonas.keep_notes(set_id, replace(opened, note="steady"), opened)
    assert out.value == marit.record(set_id).notes == replace(opened, pain=True, note="steady")
    known = Client("Cleo Marsh", goals="strength")
    Clients(marit).keep(known)
    Clients(marit).keep(replace(known, room="hall"), known)
    assert "hall" in Clients(jonas).keep(replace(known, room="cellar"), known)
    jonas.close()


def test_many_writers_on_many_machines_lose_no_update(team: dict[str, str], marit: Library):
    set_id = adder(marit)("Cleo Marsh", reps=1)
    thing = Clients(marit).keep_thing("count", {"n": 0})
    errors: list[Exception] = []

    def write(name: str) -> None:
        own = Library.open(team[name])
        seen = own.record(set_id).notes
        try:
            for i in range(12):
                Clients(own).change_thing(thing, lambda d: {"n": d["n"] + 1})
                mine = {**seen.decisions, f"{name}-{i}/both": Decision("keep")}
                seen = own.keep_notes(set_id, replace(seen, decisions=mine), seen).value
        except Exception as error:
            errors.append(error)
        finally:
            own.close()

    threads = [threading.Thread(target=write, args=(name,)) for name in ("marit", "jonas")]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert errors == []
    ((_id, _name, document),) = Clients(marit).kept("count")
    assert document == {"n": 24}
    assert len(marit.record(set_id).notes.decisions) == 24


def test_what_can_not_be_opened_is_said(addresses: dict[str, str], tmp_path: Path):
    with pytest.raises(BadLibrary, match=r"no library yet|shared folder"):
        Library.open(addresses["marit"])
    assert run(["team", addresses["keeper"], "--coach", "marit"]) == 0
    with pytest.raises(BadLibrary, match="add \\?recordings="):
        Library.open(addresses["marit"].partition("&recordings")[0])
    with pytest.raises(BadLibrary, match="does not answer"):
        Library.open(f"postgresql://marit@/none?host={tmp_path}&recordings={tmp_path}")
    Library.open(addresses["marit"]).close()


def as_keeper(team: dict[str, str], *statements: str) -> None:
    keeper = Library.open(team["keeper"])
    with keeper.reading() as session:
        for statement in statements:
            session.connection().exec_driver_sql(statement)
        session.commit()
    keeper.close()


def test_a_team_library_of_an_older_form_is_brought_up_with_all_that_is_in_it(
    team: dict[str, str], capsys
):
    library = Library.open(team["marit"])
    set_id = adder(library)("Cleo Marsh", reps=2)
    library.close()
    as_keeper(team, "drop index review_by_set", "update alembic_version set version_num = '0006'")
    with pytest.raises(BadLibrary, match="older version of this program; 'guide-arc team'"):
        Library.open(team["marit"])
    assert run(["team", team["keeper"]]) == 0
    again = Library.open(team["marit"])
    assert again.record(set_id).client == "Cleo Marsh"
    with again.reading() as session:
        there = "select 1 from pg_indexes where indexname = 'review_by_set'"
        assert session.connection().exec_driver_sql(there).first() is not None
    again.close()
    as_keeper(team, "update alembic_version set version_num = '9999'")
    with pytest.raises(BadLibrary, match="newer version"):
        Library.open(team["marit"])
    assert run(["team", team["keeper"]]) == 2
    assert "newer version" in capsys.readouterr().err


def test_a_coach_who_is_connected_works_on_while_the_library_is_brought_up(team: dict[str, str]):
    """Another coach brings the team's library up from form 0007 while this one has it open and
    writes."""
    marit = Library.open(team["marit"])
    set_id = adder(marit)("Cleo Marsh", reps=2)
    as_keeper(team, "update alembic_version set version_num = '0007'")
    with marit.reading() as session:
        assert session.get(SetRow, set_id) is not None
        assert run(["team", team["keeper"]]) == 0
    marit.change_set(set_id, load_kg=22.5)
    jonas = Library.open(team["jonas"])
    assert jonas.record(set_id).load_kg == 22.5
    jonas.close()
    marit.close()


def test_a_refused_reader_and_a_kill_leave_no_recording_without_a_set(team: dict[str, str]):
    reader = Library.open(team["lea"])
    data = csv_text(filmed("rope-pushdown", reps=1).track).encode()
    with pytest.raises(BadLibrary, match="read the team's library"):
        reader.add_set(data, "a.csv", client="Ada Quill", standard="rope-pushdown", school="locked")
    folder = reader.folder
    reader.close()
    assert not list((folder / "tracks").glob("*.csv"))
    # A kill between the file and its row: swept once nobody can be writing it any more.
    key = hashlib.sha256(data).hexdigest()
    (folder / "tracks" / f"{key}.csv").write_bytes(data)
    (folder / "coming").mkdir(exist_ok=True)
    marker = folder / "coming" / key
    marker.touch()
    Library.open(team["marit"]).close()
    assert (folder / "tracks" / f"{key}.csv").exists()  # it may be somebody's write under way
    os.utime(marker, (time.time() - 7200,) * 2)
    Library.open(team["marit"]).close()
    assert not (folder / "tracks" / f"{key}.csv").exists()


def test_a_team_library_is_checked(team: dict[str, str], capsys):
    marit = Library.open(team["marit"])
    set_id = adder(marit)("Cleo Marsh", reps=2)
    key = marit.record(set_id).track_hash
    folder = marit.folder
    marit.close()
    assert run(["check", "--library", team["marit"]]) == 0
    assert "the library is whole" in capsys.readouterr().out
    (folder / "tracks" / f"{key}.csv").unlink()
    assert run(["check", "--library", team["lea"]]) == 1
    assert "its track is gone" in capsys.readouterr().out
    assert run(["check", "--backups", "--library", team["marit"]]) == 2
    assert "whoever runs its server" in capsys.readouterr().err


def test_what_is_erased_leaves_no_recording_in_the_team_s_folder(team: dict[str, str]):
    marit = Library.open(team["marit"])
    set_id = adder(marit)("Cleo Marsh", reps=2)
    key = str(marit.record(set_id).track_hash)
    erased = take_out(marit, [set_id])
    take_back(marit, erased)
    assert marit.track(set_id).frames
    take_client_out(marit, "Cleo Marsh")
    assert forget_own(marit) == ["Cleo Marsh"]
    left = [
        p
        for p in marit.folder.rglob("*")
        if key in p.name or (p.is_file() and b"Cleo" in p.read_bytes())
    ]
    assert left == []
    marit.close()


def test_commands_and_a_whole_library_go_to_the_server(
    team: dict[str, str], library: Library, add_set, tmp_path: Path, capsys
):
    add_set("Cleo Marsh", reps=2)
    set_id = add_set("Ada Quill", reps=3)
    library.keep_notes(set_id, replace(library.record(set_id).notes, note="slept badly"))
    write_library(library, tmp_path / "out", lambda _s: None)
    assert run(["import", str(tmp_path / "out"), "--library", team["marit"]]) == 0
    assert run(["review", "--all", "--library", team["marit"]]) == 0
    assert "2 sets reviewed" in capsys.readouterr().out
    assert run(["export", str(tmp_path / "back"), "--library", team["lea"]]) == 0
    back = Library.open(tmp_path / "there")
    assert len(take_in(back, tmp_path / "back", lambda _s: None).ids) == 2
    assert [row.client for row in back.queue(words="badly")] == ["Ada Quill"]
    back.close()


def test_the_window_works_on_a_team_s_library(
    qtbot, team: dict[str, str], marit: Library, settings
):
    set_id = adder(marit)("Cleo Marsh", reps=3, faults={"torso-swing": 20.0})
    window = Hands(team["jonas"], settings)
    assert [row.id for row in window.sets.doc.rows] == [set_id]
    window.open_set(set_id)
    window.review.write_note("steady")
    window.settle()
    assert marit.record(set_id).notes.note == "steady"
    assert not window.can("file.restore")
    window.sets.search("cleo")
    window.settle()
    assert len(window.sets.doc.rows) == 1
    window.program.set_changes.erase(set_id, "Cleo Marsh")
    window.settle()
    assert marit.count() == 0
    window.undo()
    assert marit.count() == 1
    take_apart(window)
    assert csv_text(filmed(PUSHDOWN, reps=1).track)
    assert not (marit.folder / "window.ini").exists()
