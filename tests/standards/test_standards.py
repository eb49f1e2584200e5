"""Standards as files: each one loads, each school changes what it says, errors say what to do."""

from __future__ import annotations

import copy
import tomllib
from pathlib import Path

import pytest

from builders import every_school
from guide_arc.core.model.errors import BadInput
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards import loader
from guide_arc.standards.cautions import caution_words
from guide_arc.standards.errors import BadStandard
from guide_arc.standards.loader import (
    build,
    parse_toml,
    read_standard,
    shipped,
    standard,
)
from guide_arc.standards.tempo import parse_tempo

DATA = Path(loader.__file__).parent / "data"
FIRST_SIX = {
    "standing-barbell-curl": ["locked-upper-arm", "rising-upper-arm"],
    "lateral-raise-dumbbell": ["stops-level", "overhead-sweep"],
    "rope-pushdown": ["locked", "travelling"],
    "seated-row-narrow-low": ["to-the-waist"],
    "overhead-press-dumbbell": ["lockout", "constant-tension"],
    "cable-cross-raise-low": ["kept-bend"],
}


def test_the_first_standards_ship_with_their_schools():
    for id, schools in FIRST_SIX.items():
        assert [s.id for s in standard(id).schools] == schools


@pytest.mark.parametrize(("id", "school"), every_school())
def test_each_school_of_each_standard_makes_sense(id, school):
    plan = standard(id, school)
    assert plan.school.id == school
    assert plan.school.why
    for pose, trunk, asked in (
        (plan.start, plan.trunk[0], plan.range.from_deg),
        (plan.turn, plan.trunk[1], plan.range.to_deg),
    ):
        drives = {
            "elbow_flexion": pose.elbow_deg,
            "shoulder_elevation": pose.elevation_deg,
            "shoulder_plane": pose.plane_deg,
            "shoulder_hike": trunk.hike_pct,
            "trunk_lean": trunk.lean_deg,
            "trunk_side_lean": trunk.side_lean_deg,
        }
        assert drives[plan.drive] == pytest.approx(asked, abs=plan.range.tolerance_deg)
    for rule in plan.checks:
        assert 0 < rule.limit <= 100 or rule.name.startswith("too-slow")
    for id_ in (*plan.easier, *plan.harder):
        assert id_ in shipped()
        assert id_ != plan.id
    assert plan.check("too-fast-lower") is not None
    assert plan.dose.reps[0] < plan.dose.reps[1]
    assert all(rule.cue and rule.why for rule in plan.checks)
    assert all(caution in caution_words() for caution in plan.cautions)


CATALOGUE = {
    "chest-upper": (
        "cable-cross-raise-low dumbbell-diagonal-raise feet-high-overhead-dip forward-hand-push-up "
        "band-up-and-over cable-short-lever-lift reclined-cable-press standing-angled-lever-press "
        "anchored-bar-arc incline-dumbbell-press"
    ),
    "chest-lower": (
        "upright-bench-high-cable-fly arched-handle-push-up decline-machine-fly forward-lean-dip "
        "chain-fly flat-bench-press"
    ),
    "front-shoulder": (
        "overhead-press-barbell overhead-press-dumbbell rotating-dumbbell-press "
        "reclined-cable-front-raise front-raise-midline"
    ),
    "side-shoulder": (
        "lateral-raise-dumbbell leaning-lateral-raise overhead-sweep-raise incline-y-raise "
        "reclined-high-elbow-pull"
    ),
    "rear-shoulder": (
        "bent-rear-raise supported-rear-raise cross-cable-rear-fly reverse-machine-fly face-pull "
        "prone-high-row"
    ),
    "traps": "shrug",
    "back": (
        "seated-row-wide-blade-stop seated-row-narrow-low seated-row-belly seated-row-one-arm"
        " lat-pulldown-wide lat-pulldown-wide-blade-stop lat-pulldown-narrow-underhand"
        " lat-pulldown-close pulldown-machine-wide-elbow straight-arm-pulldown"
        " straight-arm-pulldown-bench bent-over-row dead-stop-row one-arm-dumbbell-row"
        " high-elbow-row chest-pad-high-row chest-supported-t-row standing-low-row"
        " cable-rear-sweep-lat"
    ),
    "elbow-flexors": (
        "standing-barbell-curl standing-cable-curl preacher-curl prone-incline-curl"
        " incline-bench-curl machine-curl-one-arm turn-over-curl cross-body-curl"
        " neutral-curl-one-arm over-bar-hang-curl"
    ),
    "triceps": (
        "rope-pushdown lying-triceps-extension incline-dumbbell-extension cable-extension-one-arm"
        " overhead-cable-extension-one-arm cross-cable-triceps-extension upright-narrow-dip"
        " seated-dip-machine"
    ),
    "trunk": "kneeling-cable-crunch cable-rotation-crunch swiss-ball-side-turn",
}


def test_every_exercise_of_the_catalogue_ships_in_its_region():
    by_region: dict[str, set[str]] = {}
    for id in shipped():
        by_region.setdefault(standard(id).region, set()).add(id)
    assert by_region == {region: set(ids.split()) for region, ids in CATALOGUE.items()}


@pytest.mark.parametrize("id", shipped())
def test_checks_that_the_trade_asks_for_are_there(id):
    plan = standard(id)
    names = {rule.name for rule in plan.checks}
    assert "too-fast-lower" in names
    assert "range-short" in names
    if plan.arms != "one" and plan.region != "trunk":
        assert "left-right" in names
    if "curl" in id or id in ("rope-pushdown", "lying-triceps-extension"):
        assert "upper-arm-drift" in names
    if "curl" in id:
        assert "shoulder-hike" in names
    if "raise" in id or "fly" in id:
        assert {"elbow-bend-change", "torso-swing", "shoulder-hike"} <= names


def test_numbers_that_the_trade_agrees_on():
    """Rules of the trade that fit an exercise are numbers in its file."""
    assert standard("over-bar-hang-curl").holds.asks(1, 8)
    assert not standard("over-bar-hang-curl").holds.asks(4, 8)
    assert standard("over-bar-hang-curl").tempo.top_s == 10.0
    assert standard("lat-pulldown-close").holds.opening_stretch_s == 10.0
    assert standard("seated-row-one-arm").tempo.bottom_s == 4.0
    assert standard("seated-row-wide-blade-stop").check("end-point").target == "fist-short"
    assert standard("chest-supported-t-row").tempo.lower_s == 3.0
    assert standard("front-raise-midline").tempo.lower_s is None
    assert standard("front-raise-midline", "slow-lowering").tempo.lower_s == 3.0
    fly = standard("decline-machine-fly")
    assert (fly.tempo.top_s, fly.tempo.bottom_s) == (2.0, 2.0)
    assert standard("forward-lean-dip").check("end-point").at == "start"
    assert -30 <= standard("reclined-cable-press").trunk_lean_deg[0] <= -20


def test_a_school_changes_its_limits_and_no_others():
    strict, rising = (
        standard("standing-barbell-curl"),
        standard("standing-barbell-curl", "rising-upper-arm"),
    )
    assert rising.check("upper-arm-drift").limit > strict.check("upper-arm-drift").limit
    assert rising.turn.elevation_deg > strict.turn.elevation_deg
    assert rising.check("end-point") is not None
    assert strict.check("end-point") is None
    assert rising.check("torso-swing") == strict.check("torso-swing")


def test_a_school_can_drop_a_check():
    assert standard("lateral-raise-dumbbell").check("range-over") is not None
    assert standard("lateral-raise-dumbbell", "overhead-sweep").check("range-over") is None


@pytest.fixture
def raw():
    return copy.deepcopy(shipped()["standing-barbell-curl"])


@pytest.mark.parametrize(
    ("change", "key", "words"),
    [
        (lambda r: r.pop("drive"), "drive", "missing"),
        (lambda r: r.update(colour="red"), "colour", "not known"),
        (lambda r: r["range"].update(tolerance_deg=-1), "range.tolerance_deg", "greater than 0"),
        (lambda r: r["range"].update(to_deg=12), "range", "15 degrees apart"),
        (lambda r: r["range"].update(to_pct=12), "range", "all three in _deg"),
        (lambda r: r["target"].update(line="bicep"), "target", "no line 'bicep'"),
        (lambda r: r.update(schema_version=9), "schema_version", "reads 1 to 2"),
        (lambda r: r["school"][1]["set"].update({"tempo.lowr_s": 3}), "tempo.lowr_s", "not known"),
        (lambda r: r["check"][0].update(name="elbow-wobble"), "check", "no check 'elbow-wobble'"),
        (lambda r: r["check"][0].update(limit_pct=5), "check.upper-arm-drift", "needs limit_deg"),
        (lambda r: r["check"].append(dict(r["check"][0])), "file", "stands twice"),
        (lambda r: r["pose"].pop(0), "file", "at = 'start'"),
        (
            lambda r: r["pose"][0]["arm"].update(forearm_toward="sideways"),
            "pose.start",
            "must be one of",
        ),
        (lambda r: r["kit"].update(pull="cable"), "kit", "needs a pulley"),
        (lambda r: r["posture"].update(trunk_lean_deg=[10, 3]), "posture", "smaller"),
        (
            lambda r: r["school"][1]["set"].update({"check.none.limit_deg": 3}),
            "set.check.none",
            "no 'none'",
        ),
    ],
)
def test_a_wrong_file_is_named_with_its_key_and_remedy(raw, change, key, words):
    change(raw)
    with pytest.raises(BadStandard) as caught:
        build(raw, "mine.toml", "rising-upper-arm")
    said = str(caught.value)
    assert said.startswith("mine.toml")
    assert key in said
    assert words in said
    assert "\n" not in said


def test_a_file_that_is_no_toml_is_named_with_its_line():
    with pytest.raises(BadStandard, match=r"mine.toml.*line 2"):
        parse_toml("id = 'a'\nname = oops\n", "mine.toml")


def test_a_coachs_own_file_is_read(tmp_path: Path):
    import guide_arc.standards as package

    text = (Path(package.__path__[0]) / "data/triceps/rope-pushdown.toml").read_text()
    own = tmp_path / "my-pushdown.toml"
    own.write_text(text.replace('id = "rope-pushdown"', 'id = "my-pushdown"'))
    assert read_standard(own, "travelling").id == "my-pushdown"
    with pytest.raises(BadStandard, match="can't be read"):
        read_standard(tmp_path / "gone.toml")


def test_an_unknown_standard_offers_the_nearest():
    with pytest.raises(BadInput, match="did you mean 'rope-pushdown'"):
        standard("rope-pushdwn")


@pytest.mark.parametrize("text", ["3-1-1-0", "x-0-x-2", "2.5-0-1-0"])
def test_a_tempo_reads_as_people_write_it(text):
    assert str(parse_tempo(text)) == text


@pytest.mark.parametrize(
    "text", ["", "3-1-1", "3-1-1-0-1", "a-b-c-d", "3--1-0", "-3-1-1-0", "1e3-0-0-0"]
)
def test_a_malformed_tempo_is_said(text):
    with pytest.raises(BadInput, match="LOWER-BOTTOM-LIFT-TOP"):
        parse_tempo(text)


def test_a_school_may_drive_by_another_measure():
    """The reps of such a school are counted by its own measure."""
    raw = tomllib.loads((DATA / "front-shoulder" / "overhead-press-dumbbell.toml").read_text())
    raw["school"].append(
        {
            "id": "by-the-arm",
            "name": "counted by the arm's rise",
            "set": {"drive": "shoulder_elevation", "range.from_deg": 67, "range.to_deg": 162},
        }
    )
    plan = build(raw, "press", "by-the-arm")
    assert plan.drive == "shoulder_elevation"
    done = perform(plan, Script(reps=4), Camera(noise=0.004), 2)
    review = review_set(done.track, plan)
    assert {rep.measure for rep in review.reps} == {"shoulder_elevation"}
    assert len(review.reps) == 4
    assert build(raw, "press").drive == "elbow_flexion"
