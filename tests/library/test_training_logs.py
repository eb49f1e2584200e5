"""Training that nobody filmed, in the library and on the command line."""

from __future__ import annotations

from datetime import date
from pathlib import Path

import pytest

from conftest import adder
from guide_arc.cli.main import run
from guide_arc.core.model.client import Client
from guide_arc.core.planning.training_log import LoggedSet
from guide_arc.library.clients import Clients
from guide_arc.library.pasts import past_of
from guide_arc.library.planning import knowledge, read_plan
from guide_arc.library.store import Library
from guide_arc.library.training_logs import change_day, logged_sets, note_sets
from guide_arc.library.undoing import do, take_back
from guide_arc.library.whole_records import record_folder, take_in, write_client
from guide_arc.standards.loader import standard

PUSHDOWN, CURL = "rope-pushdown", "standing-barbell-curl"
DAY = date(2031, 5, 4)


def noted(reps: int, kg: float = 40.0, on: date = DAY, id: str = PUSHDOWN) -> LoggedSet:
    return LoggedSet(id, on, kg, reps, reps)


@pytest.fixture
def clients(library: Library) -> Clients:
    found = Clients(library)
    found.keep(Client("Cleo Marsh"))
    found.keep(Client("Cleo"))
    return found


def note(library: Library, client: str, *sets: LoggedSet):
    return do(library, lambda session: note_sets(session, client, sets))


def test_what_is_noted_stays_is_taken_back_and_comes_again(library: Library, clients: Clients):
    first = note(library, "Cleo Marsh", noted(12), noted(10))
    second = note(library, "Cleo Marsh", noted(8))
    assert [s.left_reps for s in logged_sets(clients, "Cleo Marsh")] == [12, 10, 8]
    taken = take_back(library, second.changes)
    assert [s.left_reps for s in logged_sets(clients, "Cleo Marsh")] == [12, 10]
    take_back(library, taken.changes)
    assert [s.left_reps for s in logged_sets(clients, "Cleo Marsh")] == [12, 10, 8]
    assert first.result == 2


def test_a_day_that_two_windows_change_keeps_what_both_noted(library: Library, clients: Clients):
    note(library, "Cleo Marsh", noted(12))
    seen = logged_sets(clients, "Cleo Marsh")
    note(library, "Cleo Marsh", noted(9))  # another window
    do(library, lambda s: change_day(s, "Cleo Marsh", DAY, (noted(11),), seen))
    assert sorted(s.left_reps for s in logged_sets(clients, "Cleo Marsh")) == [9, 11]
    do(library, lambda s: change_day(s, "Cleo Marsh", DAY, (), (noted(9), noted(11))))
    assert logged_sets(clients, "Cleo Marsh") == ()


def test_joined_clients_keep_what_was_noted_of_both_on_one_day(library: Library, clients: Clients):
    note(library, "Cleo Marsh", noted(12))
    note(library, "Cleo", noted(9))
    clients.join("Cleo", "Cleo Marsh")
    assert sorted(s.left_reps for s in logged_sets(clients, "Cleo Marsh")) == [9, 12]


def test_a_whole_record_takes_the_log_along(library: Library, clients: Clients, tmp_path: Path):
    note(library, "Cleo Marsh", noted(12), noted(10, on=date(2031, 5, 6)))
    write_client(library, "Cleo Marsh", tmp_path, lambda _share: None)
    other = Library.open(tmp_path / "other")
    take_in(other, record_folder(tmp_path, "Cleo Marsh"), lambda _share: None)
    assert logged_sets(Clients(other), "Cleo Marsh") == logged_sets(clients, "Cleo Marsh")
    other.close()


def test_plan_and_review_rest_on_what_was_done_filmed_or_not(library: Library, clients: Clients):
    add = adder(library)
    early = add("Cleo Marsh", CURL, reps=12, recorded="2031-05-01", load_kg=30.0, seed=3)
    late = add("Cleo Marsh", CURL, reps=12, recorded="2031-05-08", load_kg=30.0, seed=4)
    # Of the first day two sets were noted, one of which is the recording.
    day = date(2031, 5, 1)
    note(library, "Cleo Marsh", noted(12, 30.0, day, CURL), noted(11, 30.0, day, CURL))
    note(library, "Cleo Marsh", noted(15, 42.5, date(2031, 5, 6)))
    sets = knowledge(library, "Cleo Marsh", date(2031, 5, 9)).sets
    assert [(s.on.day, s.standard, s.full, s.logged is None) for s in sets] == [
        (1, CURL, 11, False),
        (1, CURL, 12, True),
        (6, PUSHDOWN, 15, False),
        (8, CURL, 12, True),
    ]
    past = past_of(library, late, standard(CURL))
    assert [(d.filmed, d.left_reps) for d in past.sets] == [(False, 11), (True, 12)]
    assert past_of(library, early, standard(CURL)).sets == ()
    lines = read_plan(library, "Cleo Marsh", date(2031, 5, 10)).lines
    assert {line.plan.id for line in lines} >= {CURL, PUSHDOWN}
    pushdown = next(line for line in lines if line.plan.id == PUSHDOWN)
    assert pushdown.asked.load_kg == 42.5


def test_pain_that_was_only_noted_stops_the_plan(library: Library, clients: Clients):
    sharp = LoggedSet(PUSHDOWN, DAY, 40.0, 8, 8, felt=("sharp in the elbow",))
    note(library, "Cleo Marsh", sharp)
    [line] = read_plan(library, "Cleo Marsh", date(2031, 5, 6)).lines
    assert line.asked.ask_first
    assert line.asked.load_kg is None


def test_pain_noted_of_a_set_that_was_filmed_as_well_stops_plan_and_review(library, clients):
    filmed = adder(library)("Cleo Marsh", CURL, reps=12, recorded="2031-05-01", load_kg=30.0)
    day = date(2031, 5, 1)
    note(library, "Cleo Marsh", LoggedSet(CURL, day, 30.0, 12, 12, pain=True))
    known = knowledge(library, "Cleo Marsh", date(2031, 5, 2))
    assert [(s.id, s.hurt) for s in known.sets] == [(filmed, True)]
    [line] = read_plan(library, "Cleo Marsh", date(2031, 5, 3)).lines
    assert line.asked.ask_first
    assert any(s.hurt for s in past_of(library, filmed, standard(CURL)).sets)


def cli(library: Library, *words: str) -> int:
    return run(["log", *words, "--library", str(library.folder)])


def test_the_command_notes_lines_and_prints_them_as_a_table(library, clients, capsys):
    asked = ("Cleo Marsh", "rope pushdown 40x12x2 @1", "standing barbell curl 30x8/7")
    assert cli(library, *asked, "--on", "2031-05-04") == 0
    assert "3 sets noted" in capsys.readouterr().out
    assert cli(library, "Cleo Marsh") == 0
    assert capsys.readouterr().out.splitlines() == [
        "date,exercise,weight,reps,sets,reserve,note",
        "2031-05-04,Rope pushdown,40,12,2,1,",
        "2031-05-04,Standing barbell curl,30,8/7,1,,",
    ]


def test_a_table_from_a_phone_s_notes_is_taken_in_once(library, clients, tmp_path, capsys):
    table = tmp_path / "notes.csv"
    table.write_text(
        "\ufeffDay;Name;kg;Reps;Sets;RIR;Notes\n"
        "2031-05-04;rope pushdown;37,5;12;3;2;\n"
        "2031-05-06;rope pushdown;40;10/9;;;sharp in the left elbow\n",
        encoding="utf-8",
    )
    for wanted in ("4 sets noted", "0 sets noted"):
        assert cli(library, "Cleo Marsh", "--csv", str(table)) == 0
        assert wanted in capsys.readouterr().out
    sets = logged_sets(clients, "Cleo Marsh")
    assert [(s.on.day, s.load_kg, s.left_reps, s.right_reps, s.in_reserve) for s in sets] == [
        (4, 37.5, 12, 12, 2),
        (4, 37.5, 12, 12, 2),
        (4, 37.5, 12, 12, 2),
        (6, 40.0, 10, 9, None),
    ]
    assert sets[-1].hurt
    assert cli(library, "Cleo Marsh") == 0
    again = tmp_path / "again.csv"
    again.write_text(capsys.readouterr().out)
    assert cli(library, "Cleo Marsh", "--csv", str(again)) == 0
    assert "0 sets noted" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("rows", "says"),
    [
        ("", "the file is empty"),
        ("date,weight,reps\n", "no column “exercise”"),
        ("date,exercise,reps\n04.05.2031,rope pushdown,8\n", "line 2: “04.05.2031” is no day"),
        ("date,exercise,reps\n2031-05-04,zither,8\n", "line 2: no exercise is found by “zither”"),
        ("date,exercise,reps\n2031-05-04,rope pushdown,many\n", "write 27.5 and 12"),
        ("date,exercise,reps,sets\n2031-05-04,rope pushdown,8,-1\n", "“-1” sets"),
    ],
)
def test_a_table_that_can_not_be_used_is_one_line_and_notes_nothing(
    library, clients, tmp_path, capsys, rows, says
):
    table = tmp_path / "notes.csv"
    table.write_text(rows)
    assert cli(library, "Cleo Marsh", "--csv", str(table)) == 2
    told = capsys.readouterr().err
    assert says in told
    assert told.count("\n") == 1
    assert logged_sets(clients, "Cleo Marsh") == ()


def test_one_wrong_line_notes_none_and_an_unknown_client_is_named(library, clients, capsys):
    assert cli(library, "Cleo Marsh", "rope pushdown 40x12", "curl") == 2
    assert logged_sets(clients, "Cleo Marsh") == ()
    capsys.readouterr()
    assert cli(library, "Cleo Mars", "rope pushdown 40x12") == 2
    assert "Cleo Marsh" in capsys.readouterr().err


def test_a_damaged_entry_hides_no_other(library: Library, clients: Clients):
    note(library, "Cleo Marsh", noted(12), noted(10))
    [(day, document)] = clients.kept_about("done", "Cleo Marsh")
    document["sets"][0]["left_reps"] = "many"
    clients.keep_thing("done", document, client="Cleo Marsh", about=day, name="log")
    assert [s.left_reps for s in logged_sets(clients, "Cleo Marsh")] == [10]
