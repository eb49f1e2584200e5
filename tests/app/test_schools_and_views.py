"""What Review offers of its own: the school that a set fits better, and another side of the same
set."""

from __future__ import annotations

from builders import slow
from guide_arc.library.store import Library


@slow
def test_a_set_done_as_another_school_is_offered_to_be_judged_so(
    library: Library, add_set, open_window
):
    set_id = add_set("Cleo Marsh", school="rising-upper-arm", reps=5)
    library.change_set(set_id, school="locked-upper-arm")
    window = open_window()
    window.open_set(set_id)
    assert "rising to nose height" in window.said
    assert "upper-arm-drift" in {
        f.rule.name for f in window.review.doc.measured.review.with_verdict("off")
    }
    window.do("review.fit")
    assert window.review.doc.record.school == "rising-upper-arm"
    assert not window.review.doc.measured.review.with_verdict("off")
    assert not window.can("review.fit")
    window.undo()
    assert window.review.doc.record.school == "locked-upper-arm"
    assert "upper arm leaves its place”, limit 12° (64°)" in window.said


def test_a_change_of_school_says_what_is_asked_otherwise(library: Library, add_set, open_window):
    """Also where the set keeps both schools' limits, and nothing else on the screen would tell."""
    set_id = add_set("Ada Quill", "bent-over-row", reps=3)
    window = open_window()
    window.open_set(set_id)
    off = window.review.doc.measured.review.with_verdict("off")
    window.program.set_changes.change(set_id, {"school": "to-the-navel"}, {"school": "loose-last"})
    window.settle()
    assert "“torso rocks”, limit 14° (10°)" in window.said
    assert [f.key for f in off] == [
        f.key for f in window.review.doc.measured.review.with_verdict("off")
    ]


def test_a_set_that_breaks_in_every_school_is_offered_none(add_set, open_window):
    set_id = add_set("Cleo Marsh", reps=5, faults={"torso-swing": 22.0})
    window = open_window()
    window.open_set(set_id)
    assert not window.can("review.fit")


@slow
def test_two_views_become_one_set_and_two_again(library: Library, add_set, open_window):
    raise_ = "lateral-raise-dumbbell"
    front = add_set(
        "Dario Venn", raise_, reps=6, view="front", noise=1.0, recorded="2031-03-08T18:00"
    )
    side = add_set(
        "Dario Venn", raise_, reps=6, view="left", noise=1.0, recorded="2031-03-08T18:00", seed=9
    )
    window = open_window()
    window.open_set(front)
    hidden = {f.rule.name for f in window.review.doc.measured.review.with_verdict("cannot-tell")}
    window.program.set_changes.join_views(side, front)
    window.settle()
    both = window.review.doc.measured.review
    assert {f.rule.name for f in both.with_verdict("cannot-tell")} < hidden
    assert "and from the left" in both.trust.view.lower()
    told_by = {f.rule.name: f.seen_from for f in both.findings}
    assert (told_by["torso-lean"], told_by["shoulder-hike"]) == ("from the left", "from the front")
    row = next(r for r in window.review_place.findings.rows if r.finding.rule.name == "torso-lean")
    assert row.number.text().endswith("seen from the left")
    assert [row.id for row in window.sets.doc.rows] == [front]
    window.do("review.part-views")
    assert len(window.sets.doc.rows) == 2
    window.undo()
    assert [row.id for row in window.sets.doc.rows] == [front]


@slow
def test_what_one_recording_hides_is_told_from_another_of_that_day(add_set, open_window):
    raise_ = "lateral-raise-dumbbell"
    said = {"reps": 6, "noise": 1.0}
    front = add_set("Dario Venn", raise_, view="front", recorded="2031-03-08T18:00", seed=2, **said)
    add_set("Dario Venn", raise_, view="left", recorded="2031-03-08T18:07", seed=9, **said)
    add_set("Dario Venn", raise_, view="left", recorded="2031-03-07T18:07", seed=9, **said)
    window = open_window()
    window.open_set(front)
    rows = {r.finding.rule.name: r.number.text() for r in window.review_place.findings.rows}
    assert rows["torso-lean"].endswith("held in the set at 18:07, seen from the left")


def test_the_clients_years_are_one_key_away(add_set, open_window):
    set_id = add_set("Cleo Marsh", reps=4)
    window = open_window()
    window.open_set(set_id)
    window.do("review.client")
    assert window.place == "clients"
    assert window.head("title") == "Cleo Marsh"
