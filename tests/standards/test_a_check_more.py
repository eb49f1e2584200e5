"""A check more is one file: the schema, the loader, the page of checks and the self-proof follow
from it."""

from __future__ import annotations

import sys
from pathlib import Path

import pytest

from guide_arc.core.checks.registry import shows_also, specs
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.faults import faults_known
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards.errors import BadStandard
from guide_arc.standards.loader import build, parse_toml, shipped
from guide_arc.standards.writing import as_toml, json_schema
from toys import one_file_more

SIDE_BEND = '''"""side-bend: the trunk bends to one side during the rep.

Value: largest departure of the trunk's side lean from where it is at the start of the lift.
Unit: degrees.
"""

import numpy as np

from guide_arc.core.checks.context import largest, per_trunk, whole
from guide_arc.core.checks.spec import CheckSpec, FromModel, Moves


def side_bend(ctx, rule):
    def value_of(rep):
        time, lean, u = ctx.samples("trunk_side_lean", None, whole(rep))
        start = ctx.around("trunk_side_lean", None, rep.start_s)
        return largest(rep, time, np.abs(lean - start), u)

    def words(v):
        return f"torso bends {v:.0f}° aside"

    return per_trunk(ctx, rule, "trunk_side_lean", "deg", value_of, words)


SPEC = CheckSpec(
    "side-bend", side_bend, "deg", 55, "degrees the torso bends aside in each lift",
    moves=Moves("aside", 1.0), praise="Your torso stayed upright.",
    from_model=FromModel("usual", limit=10.0),
)
'''
ROW = {
    "name": "side-bend",
    "limit_deg": 10.0,
    "harm": "joint",
    "title": "Torso bends aside",
    "cue": "Both shoulders level.",
    "why": "The side bends to help the arm.",
}


def curl_with(check: dict[str, object]) -> str:
    raw = shipped()["standing-barbell-curl"]
    return as_toml({**raw, "check": [*raw["check"], check]})


@pytest.fixture
def side_bend(tmp_path):
    kept = (specs, shows_also, faults_known)
    with one_file_more(tmp_path, "guide_arc.core.checks", "side_bend", SIDE_BEND, kept):
        yield
    assert "side-bend" not in specs()


def test_without_the_file_a_standard_may_not_name_it():
    with pytest.raises(BadStandard, match="there is no check 'side-bend'"):
        build(parse_toml(curl_with(ROW), "curl"), "curl")


def test_a_standard_may_name_it_and_its_fault_is_found_by_it_alone(side_bend):
    plan = build(parse_toml(curl_with(ROW), "curl"), "curl")
    assert faults_known()["side-bend"] == "degrees the torso bends aside in each lift"
    camera = Camera("none", 25.0, 0.0023)
    clean = perform(plan, Script(reps=6), camera, 21)
    assert {f.verdict for f in review_set(clean.track, plan).findings} == {"ok"}
    done = perform(plan, Script(reps=6, faults={"side-bend": 20.0}), camera, 5)
    (found,) = review_set(done.track, plan).with_verdict("off")
    assert (found.rule.name, found.says) == ("side-bend", "torso bends 20° aside")


def test_the_schema_and_the_page_of_checks_list_it(side_bend):
    assert '"side-bend"' in json_schema()
    sys.path.insert(0, str(Path(__file__).parents[2] / "tools"))
    import checks_doc

    page = checks_doc.section("side-bend")
    assert "## side-bend\n\nThe trunk bends to one side during the rep." in page
