"""Clients in the library: known, renamed, joined, erased without residue, and their years read
back."""

from __future__ import annotations

import sqlite3
from dataclasses import replace
from datetime import date
from pathlib import Path

import pytest

from builders import slow
from conftest import adder
from guide_arc.core.model.client import Cleared, Client, SorePlace
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.prescription import Prescription
from guide_arc.library.client_sheet import read_sheet
from guide_arc.library.clients import Clients, join_clients
from guide_arc.library.errors import BadLibrary
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.pasts import past_of
from guide_arc.library.records import Decision, SetNotes
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library
from guide_arc.library.taking_out import forget_own, take_client_out
from guide_arc.library.undoing import do, take_back
from guide_arc.library.whole_records import write_client
from guide_arc.standards.loader import standard

KNOWN = Client(
    "Cleo Marsh",
    1.68,
    "strength first",
    ("back",),
    (SorePlace("left elbow", date(2031, 3, 1)),),
    rack_kg={"bar": (20.0, 22.5, 30.0)},
    room="rehearsal hall",
    dominant="left",
    covers_face=True,
    words="pin works",
    weight="lb",
    neglect_days=10,
    session_min=45,
)


@pytest.fixture
def clients(library: Library) -> Clients:
    return Clients(library)


def test_what_is_known_is_there_again(library: Library, clients: Clients):
    clients.keep(KNOWN)
    assert Clients(library).client("Cleo Marsh") == KNOWN
    with pytest.raises(BadInput, match="needs a name"):
        clients.keep(Client("  "))
    with pytest.raises(BadLibrary, match="no client"):
        clients.client("Nobody")


def test_a_profile_that_can_not_be_read_loses_no_client(library: Library, clients: Clients):
    clients.keep(KNOWN)
    with sqlite3.connect(library.folder / "library.sqlite") as db:
        db.execute("update client set profile = '{\"dominant\": 7}'")
    db.close()
    assert clients.client("Cleo Marsh") == Client("Cleo Marsh", 1.68)


def test_renamed_and_joined(library: Library, clients: Clients):
    add = adder(library)
    a, b = add("Cleo", recorded="2031-03-01"), add("Cleo Marsh", recorded="2031-03-08", seed=2)
    clients.keep(KNOWN)
    with pytest.raises(BadInput, match="join the two"):
        clients.rename("Cleo", "Cleo Marsh")
    clients.keep_words("Cleo", "torso-swing", "Ribs down.")
    day = date(2031, 3, 9)
    cleared, tired = (Cleared("left elbow", day),), (day,)
    clients.keep(replace(clients.client("Cleo"), cleared=cleared, tired=tired))
    joined = do(library, lambda session: join_clients(session, "Cleo", "Cleo Marsh"))
    assert joined.result == [a]
    assert clients.own_words("Cleo Marsh") == {"torso-swing": "Ribs down."}
    assert library.clients() == ["Cleo Marsh"]
    assert [s.id for s in clients.sets("Cleo Marsh")] == [a, b]
    assert clients.client("Cleo Marsh") == replace(KNOWN, cleared=cleared, tired=tired)
    assert take_back(library, joined.changes).left == ""
    assert clients.own_words("Cleo") == {"torso-swing": "Ribs down."}
    assert clients.own_words("Cleo Marsh") == {}
    assert clients.client("Cleo Marsh") == KNOWN
    assert sorted(library.clients()) == ["Cleo", "Cleo Marsh"]
    assert library.record(a).client == "Cleo"
    with pytest.raises(BadInput, match="itself"):
        clients.join("Cleo", "Cleo")
    clients.rename("Cleo", "Cleo Reed")
    assert library.record(a).client == "Cleo Reed"


def test_erased_without_residue_and_back_until_it_closes(library: Library, clients: Clients):
    set_id = adder(library)("Cleo Marsh")
    clients.keep(KNOWN)
    clients.keep_words("Cleo Marsh", "torso-swing", "Stand tall.")
    removed = take_client_out(library, "Cleo Marsh")
    assert library.clients() == []
    assert library.count() == 0
    take_back(library, removed)
    assert clients.client("Cleo Marsh") == KNOWN
    assert clients.own_words("Cleo Marsh") == {"torso-swing": "Stand tall."}
    assert library.track(set_id).frames
    take_client_out(library, "Cleo Marsh")
    forget_own(library)
    folder = library.folder
    library.close()
    left = b"".join(p.read_bytes() for p in folder.rglob("*") if p.is_file())
    assert b"Cleo" not in left
    assert b"rehearsal hall" not in left


def test_a_set_rests_on_what_was_done_before_it(library: Library, clients: Clients):
    add = adder(library)
    plan = standard("standing-barbell-curl")
    early = add("Cleo Marsh", reps=12, recorded="2031-03-01", load_kg=30.0, seed=3)
    late = add("Cleo Marsh", reps=12, recorded="2031-03-08", load_kg=30.0, seed=4)
    clients.keep(replace(KNOWN, sore=()))
    past = past_of(library, late, plan)
    assert [d.on for d in past.sets] == [date(2031, 3, 1)]
    assert past.sets[0].left_reps == 12
    assert past.rack_kg == (20.0, 22.5, 30.0)
    assert past_of(library, early, plan).sets == ()


def test_what_has_become_sore_since_the_last_set_stops_what_loads_it(
    library: Library, clients: Clients
):
    """A set of weeks ago is looked at again: the next one is not planned for that day."""
    set_id = adder(library)("Cleo Marsh", reps=5, recorded="2026-03-02", load_kg=25.0)
    own = Client("Cleo Marsh")

    def next_with(*sore: SorePlace) -> tuple[Prescription, Prescription]:
        clients.keep(replace(own, sore=sore))
        on_the_page = read_sheet(library, lambda _s: None, "Cleo Marsh").next
        assert on_the_page is not None
        return on_the_page, review_and_keep(library, set_id).next_time

    for told in next_with(SorePlace("left elbow", date(2026, 3, 20))):
        assert told.ask_first
        assert told.load_kg is None
        assert "20 Mar 2026" in told.reasons[0]
    for told in next_with(SorePlace("left knee", date(2026, 3, 20))):
        assert not told.ask_first
    for told in next_with(SorePlace("left elbow", date(2026, 3, 20), date(2026, 4, 1))):
        assert not told.ask_first


def test_a_sore_place_stops_what_loads_it_until_it_is_cleared(library: Library, clients: Clients):
    set_id = adder(library)("Cleo Marsh", reps=12, recorded="2031-03-08")
    clients.keep(KNOWN)
    assert review_and_keep(library, set_id).next_time.ask_first
    clients.keep(replace(KNOWN, sore=(replace(KNOWN.sore[0], until=date(2031, 3, 5)),)))
    assert not review_and_keep(library, set_id).next_time.ask_first


def test_a_rack_of_ones_own_is_where_the_next_weight_comes_from(library: Library, clients: Clients):
    set_id = adder(library)("Cleo Marsh", reps=12, recorded="2031-03-08", load_kg=30.0)
    clients.keep(replace(KNOWN, sore=(), rack_kg={"bar": (30.0, 31.0, 40.0)}))
    assert review_and_keep(library, set_id).next_time.load_kg == 31.0


def test_words_of_their_own_are_said_to_them_alone(library: Library, clients: Clients):
    add = adder(library)
    swings = {"faults": {"torso-swing": 22.0}}
    cleo, finn = add("Cleo Marsh", reps=5, **swings), add("Finn Adair", reps=5, seed=2, **swings)
    clients.keep_words("Cleo Marsh", "torso-swing", "Stand like a lamp post.")
    said = {
        i: next(f.cue for f in review_and_keep(library, i).findings if f.rule.name == "torso-swing")
        for i in (cleo, finn)
    }
    assert said[cleo] == "Stand like a lamp post."
    assert said[finn] != said[cleo]
    clients.keep_words("Cleo Marsh", "torso-swing", None)
    again = review_and_keep(library, cleo)
    assert all(f.cue != "Stand like a lamp post." for f in again.findings)


def test_the_page_tells_what_was_said_and_what_came_of_it(library: Library, clients: Clients):
    add = adder(library)
    first = add("Cleo Marsh", reps=5, recorded="2031-03-01", faults={"torso-swing": 22.0})
    for day in (8, 12, 15):
        add("Cleo Marsh", reps=5, recorded=f"2031-03-{day:02d}", seed=day)
    decided = {"torso-swing/both": Decision("reword", "Stand tall.", "Marit Engel", "2031-03-02")}
    library.keep_notes(first, SetNotes(decided, state="done"))
    sheet = read_sheet(library, lambda _s: None, "Cleo Marsh")
    assert [f.said.words for f in sheet.cues] == ["Stand tall."]
    assert sheet.cues[0].outcome == "worked"
    assert sheet.plan is not None
    assert sheet.plan.id == "standing-barbell-curl"
    assert sheet.next is not None


@slow
def test_two_views_of_one_set_are_reviewed_as_one(library: Library, clients: Clients):
    add = adder(library)
    front = add(
        "Dario Venn",
        "lateral-raise-dumbbell",
        reps=8,
        view="front",
        noise=1.0,
        recorded="2031-03-08",
    )
    side = add(
        "Dario Venn",
        "lateral-raise-dumbbell",
        reps=8,
        view="left",
        noise=1.0,
        recorded="2031-03-08",
        seed=9,
    )
    alone = review_and_keep(library, front)
    hidden = {f.rule.name for f in alone.findings if f.verdict == "cannot-tell"}
    assert "torso-lean" in hidden
    library.join_views(side, front)
    both = review_and_keep(library, front)
    assert {f.rule.name for f in both.findings if f.verdict == "cannot-tell"} < hidden
    assert [row.id for row in library.queue()] == [front]
    library.join_views(side, None)
    assert sorted(row.id for row in library.queue()) == sorted((front, side))
    with pytest.raises(BadInput, match="itself"):
        library.join_views(front, front)


def test_everything_of_a_client_leaves_as_files(library: Library, clients: Clients, tmp_path: Path):
    adder(library)("Cleo Marsh", reps=4, recorded="2031-03-08")
    clients.keep(KNOWN)
    assert write_client(library, "Cleo Marsh", tmp_path, lambda _s: None) == 1
    folder = tmp_path / "Cleo Marsh"
    assert {p.suffix for p in folder.iterdir()} == {".json", ".csv", ".zip"}
    assert "strength first" in (folder / "known.json").read_text()
    rows = (folder / "sets.csv").read_text().splitlines()
    assert rows[1].startswith("2031-03-08,standing-barbell-curl")


def test_sets_of_an_older_program_are_told_of(library: Library, clients: Clients):
    set_id = adder(library)("Cleo Marsh", reps=4)
    with sqlite3.connect(library.folder / "library.sqlite") as db:
        db.execute("update review set trace = ''")
    db.close()
    assert clients.untold("Cleo Marsh") == [set_id]
    assert clients.sets("Cleo Marsh") == []
    review_and_keep(library, set_id)
    assert clients.untold() == []


def test_sets_whose_review_is_kept_in_an_older_form_take_part_until_they_are_computed_again(
    library: Library, clients: Clients
):
    set_id = adder(library)("Cleo Marsh", reps=4)
    with sqlite3.connect(library.folder / "library.sqlite") as db:
        db.execute("update review set trace = '[1' || substr(trace, 3)")
    db.close()
    assert clients.untold("Cleo Marsh") == [set_id]
    assert [s.full for s in clients.sets("Cleo Marsh")] == [4]
    review_and_keep(library, set_id)
    assert clients.untold() == []


def test_one_phone_at_the_side_shows_form_held(library: Library, clients: Clients):
    """The page says what the next dose rests on: the hidden arm takes nothing away."""
    adder(library)("Cleo Marsh", reps=8, view="left", noise=0.01, load_kg=30.0)
    [kept] = clients.sets("Cleo Marsh")
    assert kept.held
    assert any(c.verdict == "cannot-tell" and c.side == "right" for c in kept.trace.checks)
    sheet = read_sheet(library, lambda _s: None, "Cleo Marsh", "standing-barbell-curl")
    assert any("Held 30 kg for 8" in words for words in sheet.sentences)


def test_own_standards_and_schools_are_part_of_the_page(library: Library):
    assert OwnStandards(library).catalogue().ids()
    assert read_sheet(library, lambda _s: None, _made(library)).plan is None


def _made(library: Library) -> str:
    Clients(library).keep(Client("Esme Rook"))
    return "Esme Rook"
