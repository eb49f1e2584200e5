"""`rig`, `pull` and `find-setup` as other programs read them."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from builders import filmed
from guide_arc.cli.main import run
from guide_arc.formats.track_file import write_track


def says(arguments: list[str], capsys: pytest.CaptureFixture[str]) -> tuple[int, str, str]:
    code = run(arguments)
    out, err = capsys.readouterr()
    return code, out, err


def file(tmp_path: Path, document: object) -> str:
    path = tmp_path / "in.json"
    path.write_text(document if isinstance(document, str) else json.dumps(document))
    return str(path)


CABLE = {"pull": "cable", "kg": 20, "pulley_m": [0.0, 0.1, -1.0]}


def test_rig_has_the_contracts_keys(tmp_path, capsys):
    kit = file(tmp_path, {**CABLE, "body_kg": 75})
    code, out, _err = says(
        ["rig", "--standard", "standing-cable-curl", "--kit", kit, "--json"], capsys
    )
    got = json.loads(out)
    assert (code, got["format"], len(got["points"])) == (0, "rig/1", 201)
    assert [got["points"][i]["share"] for i in (0, 200)] == [0.0, 1.0]
    arm = got["points"][100]["left"]
    assert set(arm) == {
        "force_n",
        "elbow_nm",
        "shoulder_nm",
        "limb_elbow_nm",
        "limb_shoulder_nm",
        "against_nm",
        "lever_m",
        "off_plane_deg",
    }
    assert sum(f**2 for f in arm["force_n"]) ** 0.5 == pytest.approx(10 * 9.80665, rel=1e-6)
    assert set(got["hardest"]) == {"share", "angle_deg", "nm"}
    assert {"slack", "fibre_pct"} <= set(got)


def test_rig_of_one_arm_leaves_the_other_null_and_takes_the_whole_load(capsys):
    _code, out, _err = says(
        ["rig", "--standard", "cable-extension-one-arm", "--load", "10", "--json"], capsys
    )
    point = json.loads(out)["points"][50]
    assert point["right"] is None
    assert sum(f**2 for f in point["left"]["force_n"]) ** 0.5 == pytest.approx(98.0665, rel=1e-6)


def test_a_pulley_a_load_a_stature_and_a_bench_change_what_they_should(capsys):
    def hardest(*more: str) -> dict:
        _code, out, _err = says(
            ["rig", "--standard", "incline-bench-curl", "--json", *more], capsys
        )
        return json.loads(out)["hardest"]

    plain = hardest()
    assert hardest("--load", "20")["nm"] == pytest.approx(2 * plain["nm"], rel=1e-4)
    assert hardest("--stature", "1.925")["nm"] == pytest.approx(1.1 * plain["nm"], rel=1e-3)
    assert hardest("--bench", "30")["share"] != plain["share"]
    moved = says(
        ["rig", "--standard", "standing-cable-curl", "--pulley", "0,0.1,0.9", "--json"], capsys
    )[1]
    assert json.loads(moved)["hardest"]["nm"] > 0


def test_pull_numbers_reps_as_review_does(tmp_path, capsys):
    track = tmp_path / "t.csv"
    write_track(filmed("standing-barbell-curl", reps=3).track, track)
    kit = file(tmp_path, {"pull": "free-weight", "kg": 30, "held": "bar"})
    code, out, _err = says(
        ["pull", str(track), "--standard", "standing-barbell-curl", "--kit", kit, "--json"], capsys
    )
    got = json.loads(out)
    assert (code, got["format"]) == (0, "pull/1")
    assert [(r["number"], r["side"]) for r in got["reps"]] == [
        (1, "both"),
        (2, "both"),
        (3, "both"),
    ]
    assert set(got["reps"][0]) == {"number", "side", "hardest", "slack", "mean_nm"}
    args = ["pull", str(track), "--standard", "standing-barbell-curl", "--kit", kit]
    more = json.loads(says([*args, "--json", "--details"], capsys)[1])
    assert 0.0 < more["reps"][0]["momentum_pct"] < 60.0
    assert more["frames"][100]["left"]["against_u_nm"] > 0.0
    words = says(args, capsys)[1]
    assert "N·m on average" in words
    assert "momentum: up to" in words
    assert got["frames"][0]["left"]["limb_elbow_nm"] is None
    assert got["frames"][60]["left"]["force_n"] == [0.0, pytest.approx(-15 * 9.80665), 0.0]


def test_setups_have_the_contracts_keys(tmp_path, capsys):
    wish = file(
        tmp_path,
        {
            "hardest": "middle",
            "no_slack": True,
            "room": {"pulley_heights_m": [0.1, 1.0], "distance_m": [0.3, 1.2]},
        },
    )
    code, out, _err = says(
        ["find-setup", "--standard", "standing-cable-curl", "--wish", wish, "--json"], capsys
    )
    got = json.loads(out)
    assert (code, got["format"]) == (0, "setups/1")
    first = got["setups"][0]
    assert set(first) == {
        "kit",
        "stand",
        "bench_deg",
        "hardest",
        "slack",
        "least_pct",
        "off_plane_deg",
        "if_off_by_hand",
        "score",
    }
    assert 0.3 <= first["stand"]["distance_m"] <= 1.2
    assert first["kit"]["pulley_m"][1] in (0.1, 1.0)
    scores = [s["score"] for s in got["setups"]]
    assert scores == sorted(scores, reverse=True)


def test_in_words_with_the_usual_care(tmp_path, capsys):
    out = says(["rig", "--standard", "lateral-raise-dumbbell"], capsys)[1]
    assert "hardest at" in out
    assert "no medical or safety limits" in out
    wish = file(tmp_path, {"hardest": "even"})
    assert (
        "bench"
        in says(
            [
                "find-setup",
                "--standard",
                "incline-bench-curl",
                "--wish",
                file(tmp_path, {"room": {"bench_deg": [45, 60]}}),
            ],
            capsys,
        )[1]
    )
    assert wish


@pytest.mark.parametrize(
    ("document", "words"),
    [
        ({"pull": "cable", "kg": 1}, "pulley_m"),
        ({"pull": "rope"}, "pull"),
        ("[]", "object"),
        ("{", "JSON"),
        ({**CABLE, "kg": -1}, "kg"),
        ({**CABLE, "colour": 1}, "colour"),
        ({"pull": "band", "anchor_m": [0, 0, 0], "rest_m": 1}, "newton_per_m or a table"),
        (
            {"pull": "band", "anchor_m": [0, 0, 0], "rest_m": 1, "table": [[1, 2], [0.5, 3]]},
            "rises",
        ),
        ({"pull": "body-weight", "kg": 50, "assist_kg": 60}, "assist_kg"),
    ],
)
def test_kit_that_can_not_be_is_one_line(tmp_path, capsys, document, words):
    code, out, err = says(
        ["rig", "--standard", "standing-cable-curl", "--kit", file(tmp_path, document)], capsys
    )
    assert (code, out) == (2, "")
    assert words in err
    assert err.count("\n") == 1


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["rig", "--standard", "nothing"], "no standard"),
        (["rig", "--standard", "standing-cable-curl", "--pulley", "1,2"], "three numbers"),
        (["rig", "--standard", "standing-barbell-curl", "--pulley", "1,2,3"], "has none"),
        (
            ["find-setup", "--standard", "standing-cable-curl", "--wish", "/nowhere.json"],
            "can't be read",
        ),
    ],
)
def test_a_command_that_can_not_be_is_one_line(capsys, arguments, words):
    code, out, err = says(arguments, capsys)
    assert (code, out) == (2, "")
    assert words in err
    assert err.count("\n") == 1
