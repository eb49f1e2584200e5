"""A coach's own standards: kept in the library, over the shipped ones, through copies and
upgrades."""

from __future__ import annotations

import json
from typing import Any

import pytest

from builders import slow
from guide_arc.core.model.errors import BadInput
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.reviewing import compute, plan_of, review_and_keep
from guide_arc.library.store import Library
from guide_arc.library.trial import TrialResult, Trials, trial_words
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.differences import differences, school_differences
from guide_arc.standards.errors import BadStandard
from guide_arc.standards.loader import build, parse_toml, shipped, standard
from guide_arc.standards.migrate import brought_up
from guide_arc.standards.schools import Preference, preferred_school, with_preference
from guide_arc.standards.writing import as_toml, id_of, json_schema

CURL = "standing-barbell-curl"


def changed_text(limit: float, **more: Any) -> str:
    raw = {**shipped()[CURL], **more}
    checks = [{**c, "limit_deg": limit} if c["name"] == "torso-swing" else c for c in raw["check"]]
    return as_toml({**raw, "check": checks})


@pytest.fixture
def own(library: Library) -> OwnStandards:
    return OwnStandards(library)


@pytest.mark.parametrize("id", shipped())
def test_every_file_says_the_same_after_writing_it_again(id):
    again = parse_toml(as_toml(shipped()[id]), id)
    assert again == shipped()[id]
    assert build(again, id) == standard(id)


def test_an_own_file_stands_over_the_shipped_one(own):
    own.save(CURL, changed_text(5.0))
    catalogue = own.catalogue()
    assert catalogue.is_own(CURL)
    assert catalogue.overrides(CURL)
    assert catalogue.standard(CURL).check("torso-swing").limit == 5.0
    assert standard(CURL).check("torso-swing").limit == 9.0
    (only,) = differences(shipped()[CURL], catalogue.raw(CURL))
    assert (only.key, only.before, only.after) == ("check.torso-swing.limit_deg", 9, 5.0)


def test_it_is_there_again_when_the_library_is_opened_again(own, library):
    own.save(CURL, changed_text(5.0))
    again = Library.open(library.folder)
    assert OwnStandards(again).catalogue().standard(CURL).check("torso-swing").limit == 5.0
    again.close()


def test_what_a_kill_left_of_a_write_is_swept_and_the_standard_stands(own, library):
    own.save(CURL, changed_text(5.0))
    left = own.folder / f".{CURL}.toml.abc.part"
    left.write_text("half of a fi")
    library.close()  # whoever has it open may be writing
    Library.open(library.folder).close()
    assert not left.exists()
    assert own.catalogue().standard(CURL).check("torso-swing").limit == 5.0


def test_a_file_changed_by_hand_counts_at_once(own):
    own.save(CURL, changed_text(5.0))
    assert own.catalogue().standard(CURL).check("torso-swing").limit == 5.0
    (own.folder / f"{CURL}.toml").write_text(changed_text(25.5))
    assert own.catalogue().standard(CURL).check("torso-swing").limit == 25.5


def test_a_broken_own_file_is_named_and_the_shipped_one_stands(own):
    own.folder.mkdir()
    (own.folder / f"{CURL}.toml").write_text("name = oops")
    catalogue = own.catalogue()
    assert not catalogue.is_own(CURL)
    assert catalogue.standard(CURL) == standard(CURL)
    assert "not TOML" in catalogue.problems[CURL]


def test_a_text_that_is_no_standard_is_not_kept(own):
    with pytest.raises(BadInput, match="colour"):
        own.save(CURL, changed_text(5.0, colour="red"))
    with pytest.raises(BadInput, match="as its file is named"):
        own.save("another", changed_text(5.0))
    assert not own.catalogue().is_own(CURL)


def test_a_file_of_the_first_form_is_brought_up_and_stays_as_it_is(own):
    old = {
        k: v
        for k, v in shipped()[CURL].items()
        if k not in ("schema_version", "elbow_path", "harder", "easier")
    }
    old["target"] = {"muscle": "biceps"}
    text = as_toml(old)
    own.save(CURL, text)
    plan = own.catalogue().standard(CURL)
    assert (plan.line, plan.elbow_path) == ("elbow-bend", "still")
    assert own.texts()[CURL] == text
    assert brought_up(shipped()[CURL], "x") is shipped()[CURL]
    with pytest.raises(BadStandard, match="reads 1 to 2"):
        brought_up({"schema_version": 3}, "mine.toml")


def test_taking_an_own_copy_out_is_refused_while_sets_follow_it(own, add_set, library):
    own.save("my-curl", changed_text(5.0, id="my-curl", name="My curl"))
    set_id = add_set(standard=CURL)
    library.change_set(set_id, standard="my-curl")
    with pytest.raises(BadInput, match="1 set follows this standard"):
        own.remove("my-curl")
    library.change_set(set_id, standard=CURL)
    own.remove("my-curl")
    assert "my-curl" not in own.catalogue()


def test_sets_are_reviewed_by_the_coachs_own_standard(own, add_set, library):
    set_id = add_set(standard=CURL)
    assert review_and_keep(library, set_id).standard.check("torso-swing").limit == 9.0
    own.save(CURL, changed_text(5.0))
    assert review_and_keep(library, set_id).standard.check("torso-swing").limit == 5.0


def test_a_set_whose_school_is_gone_follows_the_strict_one(own, add_set, library):
    set_id = add_set(standard=CURL)
    library.change_set(set_id, school="rising-upper-arm")
    raw = dict(shipped()[CURL])
    raw["school"] = raw["school"][:1]
    own.save(CURL, as_toml(raw))
    review, _body, _reps = compute(
        library.record(set_id),
        library.track(set_id),
        plan_of(library, library.record(set_id), own.catalogue()),
    )
    assert review.standard.school.id == "locked-upper-arm"


@slow
def test_the_librarys_sets_are_tried_against_a_changed_limit(own, add_set, library):
    add_set("Ada Quill", CURL, seed=1)
    add_set("Ada Quill", CURL, seed=2, faults={"torso-swing": 20.0})
    add_set("Ada Quill", "rope-pushdown")
    trials, catalogue = Trials(library.folder), own.catalogue()
    shares: list[float] = []
    found = trials.against(standard(CURL), catalogue, shares.append)
    assert len(found) == 2
    assert shares == [0.0, 0.5]
    assert trial_words(found, "torso-swing") == "1 of Ada’s last 2 sets pass"
    loose = Catalogue({CURL: changed_text(40.0)})
    again = trials.against(loose.standard(CURL), loose, lambda _share: None)
    assert trial_words(again, "torso-swing") == "2 of Ada’s last 2 sets pass"


def test_how_sets_fare_is_said_by_client():
    rows = [
        TrialResult(1, "Ada Quill", ()),
        TrialResult(2, "Ada Quill", ("momentum",)),
        TrialResult(3, "Benno Hartz", ("momentum",)),
    ]
    assert trial_words(rows) == "1 of Ada’s last 2 sets pass, Benno’s only set does not pass"
    assert (
        trial_words(rows, "torso-swing") == "2 of Ada’s last 2 sets pass, Benno’s only set passes"
    )
    assert "No set" in trial_words([])


def test_schools_side_by_side():
    (rows,) = school_differences(shipped()[CURL]).values()
    by_key = {d.key: (d.before, d.after) for d in rows}
    assert by_key["check.upper-arm-drift.limit_deg"] == (12, 64)
    assert by_key["check.end-point"] == ("not asked", "limit 12 %")
    (sweep,) = school_differences(shipped()["lateral-raise-dumbbell"]).values()
    assert ("check.range-over", "not asked") in [(d.key, d.after) for d in sweep]


def test_the_nearest_preference_decides_the_school(own):
    plan = standard(CURL)
    coach = Preference("rising-upper-arm")
    client = Preference("locked-upper-arm", client="Ada Quill")
    here = Preference("rising-upper-arm", "Ada Quill", CURL)
    assert preferred_school((), plan, "Ada Quill") == "locked-upper-arm"
    assert preferred_school((coach,), plan, None) == "rising-upper-arm"
    assert preferred_school((coach, client), plan, "Ada Quill") == "locked-upper-arm"
    assert preferred_school((coach, client), plan, "Benno Hartz") == "rising-upper-arm"
    assert preferred_school((coach, client, here), plan, "Ada Quill") == "rising-upper-arm"
    assert preferred_school((Preference("lockout"),), plan, None) == "locked-upper-arm"
    other = Preference("locked-upper-arm", "Ada Quill", CURL)
    assert with_preference((coach, here), other) == (coach, other)
    own.keep_preferences((coach, here))
    assert own.preferences() == (coach, here)


def test_ids_are_made_of_names():
    assert id_of("Ädá curl, 2nd") == "ada-curl-2nd"
    assert id_of("Rope pushdown", shipped()) == "rope-pushdown-2"
    assert id_of("???") == "my-standard"


def test_the_json_schema_names_every_key_of_a_file():
    schema = json.loads(json_schema())
    assert set(shipped()[CURL]) <= set(schema["properties"])
    assert schema["$defs"]["CheckForm"]["required"] == ["name"]
    assert "elevation_deg" in schema["$defs"]["ArmForm"]["properties"]
