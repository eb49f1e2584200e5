"""What is noted of training that nobody filmed: how a line is read, and what the next dose makes of
it."""

from __future__ import annotations

import re
from dataclasses import replace
from datetime import date, timedelta

import pytest

from guide_arc.core.model.errors import BadInput
from guide_arc.core.planning.dose import next_dose
from guide_arc.core.planning.history import DoneSet, History
from guide_arc.core.planning.training_log import (
    LoggedSet,
    Named,
    line_of,
    named_by,
    noted_of,
    read_line,
    set_typed,
)
from guide_arc.standards.loader import standard

DAY = date(2031, 5, 4)
CURL = "standing-barbell-curl"
OFFERED = (
    Named(CURL, "Standing barbell curl", "standing barbell curl elbow flexors free weight bar"),
    Named("preacher-curl", "Preacher curl", "preacher curl elbow flexors free weight bar"),
    Named("rope-pushdown", "Rope pushdown", "rope pushdown triceps cable rope"),
    Named("lean-dip", "Forward-lean dip", "forward lean dip chest"),
    Named("helped-dip", "Assisted dip", "assisted dip triceps", assisted=True),
)


def read(text: str, usual: tuple[str, ...] = ()) -> tuple[LoggedSet, ...]:
    return read_line(text, DAY, OFFERED, usual)


def figures(sets: tuple[LoggedSet, ...]) -> list[tuple[float | None, int, int]]:
    return [(s.load_kg, s.left_reps, s.right_reps) for s in sets]


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("standing curl 27.5x12x3 @2", [(27.5, 12, 12)] * 3),
        ("curl standing 27,5 x 12 x 3", [(27.5, 12, 12)] * 3),
        ("pushdown 40x10 40x10 37.5x9", [(40, 10, 10), (40, 10, 10), (37.5, 9, 9)]),
        ("pushdown 8×12/10", [(8, 12, 10)]),
        ("pushdown 0x8", [(0, 8, 8)]),
        ("lean dip bw x8 bw+10x5 bw + 12,5 kg x 3", [(0, 8, 8), (10, 5, 5), (12.5, 3, 3)]),
        ("assisted dip BW-20x8x2", [(20, 8, 8)] * 2),
        ("rope 20kgx8, 20kgx6", [(20, 8, 8), (20, 6, 6)]),
        ("rope 60lbx8", [(27.22, 8, 8)]),
    ],
)
def test_a_line_is_read_as_the_sets_it_says(text, wanted):
    assert figures(read(text)) == wanted


@pytest.mark.parametrize(
    ("text", "right"), [("lean dip bw-20x8", "bw+10"), ("assisted bw+5x8", "bw-20")]
)
def test_help_that_an_exercise_has_not_is_refused_with_what_would_be_right(text, right):
    with pytest.raises(BadInput, match=re.escape(right)):
        read(text)


def test_body_weight_in_a_row_of_the_table():
    one = set_typed("lean-dip", DAY, load="bw+10", reps="8/7")
    assert (one.load_kg, one.left_reps, one.right_reps) == (10.0, 8, 7)
    assert set_typed("helped-dip", DAY, load="bw-20", reps="8", assisted=True).load_kg == 20.0
    assert set_typed("lean-dip", DAY, load="bw", reps="8").load_kg == 0.0


def test_reserve_counts_for_all_sets_and_what_was_felt_for_the_last():
    sets = read("pushdown 40x10x2 @3 sharp in the left elbow")
    assert [s.in_reserve for s in sets] == [3, 3]
    assert [s.hurt for s in sets] == [False, True]
    assert sets[-1].felt == ("sharp in the left elbow",)
    assert read("pushdown 40x10 pain")[-1].pain
    assert not read("pushdown 40x10 no pain at all")[-1].hurt


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("curl", "no weight and reps"),
        ("27.5x12", "which exercise"),
        ("zither 27.5x12", "no exercise is found by “zither”"),
        ("curl 27.5x12", "may be Standing barbell curl, Preacher curl; write one more word"),
        ("rope 12x2750x3", "2750 reps"),
        ("rope 5000x8", "5000 kg"),
        ("rope 40x8x90", "90 sets"),
        ("rope 40x0", "no reps"),
        ("rope 40x8 @45", "0 to 20"),
    ],
)
def test_what_can_not_be_read_is_told_with_what_would_be_right(text, says):
    with pytest.raises(BadInput, match=says):
        read(text)


def test_of_several_exercises_the_one_that_the_client_does_is_meant():
    assert (
        read("curl 20x8", ("rope-pushdown", "preacher-curl", CURL))[0].standard == "preacher-curl"
    )
    assert named_by("preacher-curl", OFFERED) == "preacher-curl"


@pytest.mark.parametrize("text", ["pushdown 40x10x2 37.5x9/8 @1", "pushdown 40x10 left elbow numb"])
def test_sets_are_written_as_a_line_that_gives_them_again(text):
    sets = read(text)
    assert read(line_of(sets, "pushdown")) == sets


def test_a_row_of_fields_is_read_like_a_line():
    one = set_typed(CURL, DAY, load="27,5", reps="12/10", reserve="@2", note="fine")
    assert (one.load_kg, one.left_reps, one.right_reps, one.in_reserve) == (27.5, 12, 10, 2)
    assert set_typed(CURL, DAY, load="", reps="8").load_kg is None
    for wrong in ({"reps": "12x3"}, {"reps": "ten"}, {"load": "a", "reps": "8"}):
        with pytest.raises(BadInput, match="write 27"):
            set_typed(CURL, DAY, load=wrong.get("load", "20"), reps=wrong["reps"])


def test_a_recording_takes_the_place_of_the_set_that_was_noted_of_it():
    noted = read("pushdown 40x10x2 37.5x9")
    filmed = DoneSet(DAY, 40.0, 9, 9, one_arm=True)
    assert noted_of([("rope-pushdown", filmed)] * 3, noted) == (noted[0], noted[1], None)
    # One noted beside two recordings is a third set, however alike they are.
    assert noted_of([("rope-pushdown", filmed)] * 2, noted[:1]) == (None, None)
    for other in (replace(filmed, on=DAY + timedelta(1)), replace(filmed, load_kg=45.0)):
        assert noted_of([("rope-pushdown", other)], noted) == (None,)
    assert noted_of([(CURL, filmed)], noted) == (None,)


def history(sets: list[DoneSet]) -> History:
    return History(
        standard=standard("rope-pushdown"),
        rack_kg=tuple(10.0 + 2.5 * i for i in range(30)),
        sets=tuple(sets),
        on=DAY + timedelta(2),
        assisted=False,
        aim=None,
        sore=(),
        tempo=None,
    )


def test_what_was_only_noted_neither_raises_the_weight_nor_looks_like_less_training():
    """One of three sets was filmed, and clean: the other two are reps that were done."""
    filmed = DoneSet(DAY, 40.0, 15, 15, one_arm=True)
    noted = [s.done for s in read("pushdown 40x15x2")]
    alone, together = next_dose(history([filmed])), next_dose(history([filmed, *noted]))
    assert together.sets >= alone.sets
    assert next_dose(history(noted)).change in ("same", "more-reps")
    hurt = [s.done for s in read("pushdown 40x15 sharp in the elbow")]
    assert next_dose(history([filmed, *hurt])).change == "stop"
