"""What two windows say of one set, and of one client, is joined; where both changed the same, both
are told."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

from guide_arc.core.model.client import Client
from guide_arc.core.model.marks import Line, Mark, Marks
from guide_arc.core.model.settings import Correction, Settings
from guide_arc.core.planning.plan import Plan, PlannedLine, PlannedSession
from guide_arc.library.clients import Clients
from guide_arc.library.merging import merged_marks, merged_notes
from guide_arc.library.planning import keep_plan, plan_of_client
from guide_arc.library.records import Decision, SetNotes
from guide_arc.library.store import Library

KEEP, DROP = Decision("keep"), Decision("drop")
BASE = SetNotes({"torso-swing/both": KEEP}, "as it was")


def test_what_only_one_changed_is_joined():
    mine = replace(BASE, note="as it was, and more", pain=True)
    theirs = replace(BASE, decisions={**BASE.decisions, "wrist/left": DROP}, state="done")
    out = merged_notes(BASE, mine, theirs)
    assert out.value == SetNotes(
        {"torso-swing/both": KEEP, "wrist/left": DROP}, "as it was, and more", "done", True
    )
    assert out.clashes == ()


def test_both_notes_are_kept_whole():
    out = merged_notes(BASE, replace(BASE, note="left arm"), replace(BASE, note="right arm"))
    assert "left arm" in out.value.note
    assert "right arm" in out.value.note
    assert "note" in out.words


def test_typing_on_after_the_other_one_s_note_was_seen_joins_nothing_twice():
    seen = replace(BASE, note="right arm")
    out = merged_notes(seen, replace(BASE, note="right arm, late"), seen)
    assert out.value.note == "right arm, late"


def test_two_decisions_about_one_finding_are_both_told_and_the_first_stays():
    mine = replace(BASE, decisions={"torso-swing/both": Decision("reword", "Stand still.")})
    theirs = replace(BASE, decisions={"torso-swing/both": DROP})
    out = merged_notes(BASE, mine, theirs)
    assert out.value.decisions["torso-swing/both"] == DROP
    assert "torso swing" in out.words
    assert "drop" in out.words
    assert "Stand still." in out.words


def test_a_decision_taken_back_here_stays_so_where_nobody_else_decided():
    out = merged_notes(BASE, replace(BASE, decisions={}), replace(BASE, note="elsewhere"))
    assert out.value == SetNotes({}, "elsewhere")


def test_corrections_of_both_are_not_mixed():
    cut, more = Correction("delete", 3.0), Correction("add", 9.0)
    mine = replace(BASE, settings=Settings((cut,), felt=("lats",)))
    theirs = replace(BASE, settings=Settings((more,), loose_last=2))
    out = merged_notes(BASE, mine, theirs)
    assert out.value.settings == Settings((more,), 2, ("lats",))
    assert "corrections" in out.words


def test_pain_noted_in_one_window_survives_the_other_s_note(library: Library, add_set):
    set_id = add_set(reps=1)
    opened = library.record(set_id).notes
    library.keep_notes(set_id, replace(opened, pain=True), opened)
    out = library.keep_notes(set_id, replace(opened, note="steady"), opened)
    assert library.record(set_id).notes == out.value == replace(opened, pain=True, note="steady")


def test_marks_are_joined_point_by_point_and_line_by_line():
    elbow, wrist = Mark(4, 100.0, 200.0), Mark(4, 150.0, 260.0)
    base = Marks("left", {"left_elbow": (elbow,)}, (Line("plumb", 0.0, 0.0, 0.0, 90.0),))
    mine = base.with_mark("left_wrist", wrist).without_line("plumb")
    theirs = base.with_mark("left_elbow", Mark(9, 110.0, 190.0)).with_line(
        Line("length", 5.0, 5.0, 95.0, 5.0, 0.45, "plate")
    )
    out = merged_marks(base, mine, theirs)
    assert out.clashes == ()
    assert out.value.points == {
        "left_elbow": (elbow, Mark(9, 110.0, 190.0)),
        "left_wrist": (wrist,),
    }
    assert [line.kind for line in out.value.lines] == ["length"]
    moved = base.with_mark("left_elbow", Mark(4, 101.0, 201.0))
    away = base.without_mark("left_elbow", 4)
    for here, there in ((moved, away), (away, moved)):
        both = merged_marks(base, here, there)
        assert both.value == there
        assert "changed the left elbow on frame 5 too" in both.words
    meant = replace(base, person=(0, 1.0, 1.0, 9.0, 9.0))
    assert merged_marks(meant, base, meant.without_line("plumb")).value == base.without_line(
        "plumb"
    )
    turned = merged_marks(
        base, replace(base, view="right"), replace(base, person=(0, 1.0, 1.0, 9.0, 9.0))
    )
    assert (turned.value.view, turned.value.person) == ("right", (0, 1.0, 1.0, 9.0, 9.0))


def test_a_plan_is_joined_session_by_session(library: Library):
    Clients(library).keep(Client("Cleo Marsh"))
    one, two = date(2031, 5, 1), date(2031, 5, 3)
    curl = PlannedLine("standing-barbell-curl", "locked-upper-arm")
    base = Plan().with_session(PlannedSession(one, (curl,)))
    assert keep_plan(library, "Cleo Marsh", base, Plan()).words == ""
    theirs = base.with_session(PlannedSession(two, (curl, curl)))
    keep_plan(library, "Cleo Marsh", theirs, base)
    mine = base.without(one)
    assert keep_plan(library, "Cleo Marsh", mine, base).words == ""
    kept = plan_of_client(library, "Cleo Marsh")
    assert [s.on for s in kept.sessions] == [two]
    told = keep_plan(library, "Cleo Marsh", base.with_session(PlannedSession(two, (curl,))), base)
    assert "03 May" in told.words
    assert plan_of_client(library, "Cleo Marsh").session_on(two) == PlannedSession(
        two, (curl, curl)
    )


def test_a_profile_changed_twice_is_joined_by_field(library: Library):
    clients = Clients(library)
    known = Client("Cleo Marsh", 1.7, goals="strength")
    clients.keep(known)
    assert clients.keep(replace(known, room="hall"), known) == ""
    told = clients.keep(replace(known, goals="size", room="cellar"), known)
    assert clients.client("Cleo Marsh") == replace(known, goals="size", room="hall")
    assert "hall" in told
    assert "cellar" in told
