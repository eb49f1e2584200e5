"""Partial reps that were asked for after the last full one are no fault and no full reps: by the
plan's scheme, by the command line, by the coach."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from typer.testing import CliRunner

import edits
from builders import slow
from guide_arc.cli.main import application
from guide_arc.core.model.settings import Correction, Settings
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.planning.plan import Plan, PlannedLine, PlannedSession
from guide_arc.core.review.assess import review_set
from guide_arc.formats.track_file import write_track
from guide_arc.library.planning import keep_plan, partials_asked
from guide_arc.library.reviewing import review_of
from guide_arc.library.store import Library
from guide_arc.standards.loader import standard

CURL, SCHOOL = "standing-barbell-curl", "locked-upper-arm"


def eight_and_four(share: float = 45.0) -> LandmarkTrack:
    """Eight whole curls, then four of which the upper part is left out."""
    take = edits.take(CURL, SCHOOL, reps=12)
    edits.short(take, share, "turn", "both", (9, 12))
    return edits.seen(take, "none", 0.002, 5)


def off(review: Any) -> set[str]:
    return {f.rule.name for f in review.with_verdict("off")}


def test_unasked_they_stop_short():
    review = review_set(eight_and_four(), standard(CURL, SCHOOL))
    assert off(review) == {"range-short"}


def test_asked_by_the_standard_they_are_no_fault():
    plan = standard(CURL, SCHOOL)
    asked = replace(plan, dose=replace(plan.dose, partials=4))
    review = review_set(eight_and_four(), asked)
    assert off(review) == set()
    assert review.full_reps == 8
    assert len(review.reps) == 12
    assert review.next_time.change != "lighter"


def test_two_more_than_were_asked_for_stop_short():
    plan = standard(CURL, SCHOOL)
    review = review_set(eight_and_four(), replace(plan, dose=replace(plan.dose, partials=2)))
    assert {f.reps for f in review.with_verdict("off")} == {(9, 10)}


def test_the_coach_says_where_they_begin():
    plain = review_set(eight_and_four(), standard(CURL, SCHOOL))
    start = plain.reps[8].lift.start_s
    settings = Settings((Correction("partials", start),))
    assert off(review_set(eight_and_four(), standard(CURL, SCHOOL), settings=settings)) == set()
    later = Settings((Correction("partials", plain.reps[10].lift.start_s),))
    review = review_set(eight_and_four(), standard(CURL, SCHOOL), settings=later)
    assert {f.reps for f in review.with_verdict("off")} == {(9, 10)}


def test_full_reps_at_the_end_are_not_let_off():
    take = edits.take(CURL, SCHOOL, reps=8)
    edits.short(take, 20.0, "turn", "both", (5, 8))  # short, and yet more than partial
    plan = standard(CURL, SCHOOL)
    asked = replace(plan, dose=replace(plan.dose, partials=4))
    assert off(review_set(edits.seen(take, "none", 0.002, 5), asked)) == {"range-short"}


def test_the_command_line_says_how_many(tmp_path: Path):
    write_track(eight_and_four(), tmp_path / "set.csv")
    told = ["review", str(tmp_path / "set.csv"), "--standard", CURL, "--json"]
    plain = json.loads(CliRunner().invoke(application(told), told).stdout)
    asked = json.loads(CliRunner().invoke(application(told), [*told, "--partials", "4"]).stdout)
    assert "off" in {f["verdict"] for f in plain["findings"]}
    assert "off" not in {f["verdict"] for f in asked["findings"]}


@slow
@pytest.mark.parametrize(("scheme", "count"), [("partials-after", 6), ("", 0)])
def test_the_plans_scheme_says_so(library: Library, scheme: str, count: int, tmp_path: Path):
    write_track(eight_and_four(), tmp_path / "set.csv")
    data = (tmp_path / "set.csv").read_bytes()
    set_id, _new = library.add_set(
        data, "a.csv", client="Ada Quill", standard=CURL, school=SCHOOL, recorded="2031-03-08T18:00"
    )
    line = PlannedLine(CURL, SCHOOL, scheme=scheme)
    keep_plan(library, "Ada Quill", Plan().with_session(PlannedSession(date(2031, 3, 8), (line,))))
    assert partials_asked(library, "Ada Quill", CURL, "2031-03-08T18:00") == count
    assert ("range-short" in off(review_of(library, set_id))) == (count == 0)
