"""`guide-arc dose` and `guide-arc session`, as other programs use them."""

from __future__ import annotations

import copy
import json
from pathlib import Path
from typing import Any

import pytest

from guide_arc.cli.main import run

SET: dict[str, Any] = {
    "on": "2031-03-24",
    "load_kg": 30,
    "left_reps": 12,
    "right_reps": 12,
    "partial_reps": 0,
    "findings": [{"check": "torso-swing", "verdict": "ok", "harm": "spine"}],
    "pain": False,
    "felt": [],
}
HISTORY: dict[str, Any] = {
    "standard": "standing-barbell-curl",
    "school": "locked-upper-arm",
    "rack_kg": {"from": 10, "to": 60, "step": 2.5},
    "assisted": False,
    "sore": [],
    "sets": [SET],
}
LINE: dict[str, Any] = {
    "standard": "standing-barbell-curl",
    "sets": 3,
    "reps": 10,
    "tempo": "3-0-1-0",
    "rest_s": 60,
    "arms": "both",
}


def given(folder: Path, document: Any) -> str:
    path = folder / "given.json"
    path.write_text(document if isinstance(document, str) else json.dumps(document))
    return str(path)


def changed(document: dict[str, Any], **keys: Any) -> dict[str, Any]:
    return {**copy.deepcopy(document), **keys}


def test_a_dose_as_json(tmp_path, capsys):
    assert run(["dose", given(tmp_path, HISTORY), "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert found["format"] == "dose/1"
    assert (found["change"], found["load_kg"], found["reps"], found["sets"]) == (
        "up",
        32.5,
        [8, 12],
        3,
    )
    assert found["tempo"] == "2-x-1-x"
    assert found["rest_s"] == 90
    assert found["reasons"]
    assert found["then"]


def test_a_dose_in_words(tmp_path, capsys):
    aim = changed(HISTORY, aim={"reps": [12, 15], "sets": 4})
    assert run(["dose", given(tmp_path, aim)]) == 0
    out = capsys.readouterr().out
    assert out.startswith("More reps: 30 kg, 4 × 13–15, tempo 2-x-1-x, 90 s of rest\n")
    assert "because the weakest set came to 12 of 15 reps" in out
    assert "what would change it:" in out


def test_pain_stops_in_words_and_as_json(tmp_path, capsys):
    hurt = changed(HISTORY, sets=[changed(SET, pain=True)])
    assert run(["dose", given(tmp_path, hurt), "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert (found["change"], found["load_kg"]) == ("stop", None)
    assert run(["dose", given(tmp_path, hurt)]) == 0
    out = capsys.readouterr().out
    assert out.startswith("Stop\n")
    assert "kg" not in out
    assert "licensed clinician" in out


def test_a_place_that_is_sore_on_the_day_stops(tmp_path, capsys):
    sore = changed(
        HISTORY, on="2031-03-27", sore=[{"place": "left elbow", "from": "2031-03-20", "to": None}]
    )
    assert run(["dose", given(tmp_path, sore), "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["change"] == "stop"


def test_a_session_as_json_and_in_words(tmp_path, capsys):
    plan = {"warm_up_s": 300, "lines": [LINE, changed(LINE, standard="bent-over-row", sets=2)]}
    assert run(["session", given(tmp_path, plan), "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert found["format"] == "session/1"
    assert found["lines"][0] == {"work_s": 120.0, "under_tension_s": 120.0}
    assert found["rest_s"] == 180.0
    assert found["length_s"] == 300 + 120 + 120 + 80 + 60 + 90
    assert found["regions"] == {"elbow-flexors": 3, "back": 2}
    assert run(["session", given(tmp_path, plan)]) == 0
    assert "Standing barbell curl: 2 min 00 s" in capsys.readouterr().out


WRONG = [
    ("dose", "no json at all", "this is not JSON"),
    ("dose", "[1]", "a history starts with {"),
    ("dose", changed(HISTORY, sets=[]), "sets"),
    ("dose", changed(HISTORY, standard="standing-barbel-curl"), "standing-barbell-curl"),
    ("dose", changed(HISTORY, school="no-such"), "no school"),
    ("dose", changed(HISTORY, rack_kg=[]), "the rack has no weight"),
    ("dose", changed(HISTORY, rack_kg={"from": 10, "to": 5, "step": 1}), "from must come first"),
    (
        "dose",
        changed(HISTORY, rack_kg={"from": 0, "to": 2000, "step": 0.001}),
        "more than 2000 steps",
    ),
    ("dose", changed(HISTORY, rak_kg=[1]), "rak_kg"),
    (
        "dose",
        changed(HISTORY, sore=[{"place": "tooth", "from": "2031-03-01", "to": None}]),
        "'tooth'",
    ),
    ("dose", changed(HISTORY, aim={"reps": [12, 8], "sets": 3}), "lower number comes first"),
    ("dose", changed(HISTORY, sets=[changed(SET, on="24 March")]), "sets.0.on"),
    ("dose", changed(HISTORY, sets=[changed(SET, left_reps=-1)]), "sets.0.left_reps"),
    ("dose", changed(HISTORY, sets=[changed(SET, load_kg="NaN")]), "sets.0.load_kg"),
    ("dose", changed(HISTORY, sets=[changed(SET, on="2031-03-25"), SET]), "oldest first"),
    ("dose", "[" * 100_000, "nested too deep"),
    ("session", {"lines": []}, "lines"),
    ("session", {"lines": [changed(LINE, tempo="3-1")]}, "lines.0: the tempo is '3-1'"),
    ("session", {"lines": [changed(LINE, standard="nothing")]}, "lines.0: there is no standard"),
    ("session", {"lines": [changed(LINE, pair="a")]}, "the pair 'a' has 1 line"),
    ("session", {"lines": [changed(LINE, rest_s=-5)]}, "lines.0.rest_s"),
]


@pytest.mark.parametrize(("command", "document", "words"), WRONG)
def test_bad_input_is_one_line_that_says_where(tmp_path, capsys, command, document, words):
    assert run([command, given(tmp_path, document), "--json"]) == 2
    told = capsys.readouterr()
    assert told.out == ""
    assert told.err.count("\n") == 1
    assert words in told.err


def test_a_file_that_is_not_there_is_one_line(tmp_path, capsys):
    assert run(["dose", str(tmp_path / "none.json")]) == 2
    assert "can't be read" in capsys.readouterr().err
