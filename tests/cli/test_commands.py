"""The command line as other programs use it."""

from __future__ import annotations

import inspect
import json
import subprocess
import sys
from pathlib import Path

import pytest

from guide_arc.cli.main import COMMANDS, run
from guide_arc.formats.track_file import read_track
from guide_arc.lazily import load


@pytest.fixture
def curl_file(tmp_path: Path) -> Path:
    out = tmp_path / "curl.csv"
    assert (
        run(["simulate", "--standard", "standing-barbell-curl", "--reps", "3", "--out", str(out)])
        == 0
    )
    return out


def test_a_simulated_set_has_its_truth_beside_it(curl_file):
    truth = json.loads(curl_file.with_name("curl.csv.truth.json").read_text())
    assert len(truth["reps"]) == 3
    assert truth["standard"] == "standing-barbell-curl"
    assert read_track(curl_file).facts.standard == "standing-barbell-curl"


def test_review_as_json(curl_file, capsys):
    assert run(["review", str(curl_file), "--standard", "standing-barbell-curl", "--json"]) == 0
    document = json.loads(capsys.readouterr().out)
    assert len(document["reps"]) == 3
    assert document["school"] == "locked-upper-arm"


def test_review_in_words_and_by_the_files_own_standard(curl_file, capsys):
    assert run(["review", str(curl_file), "--school", "rising-upper-arm"]) == 0
    out = capsys.readouterr().out
    assert "3 full reps" in out
    assert "rising to nose height" in out
    assert "OFF        Bar stops below the nose" in out


def test_a_tempo_that_was_asked_is_held_against(curl_file, capsys):
    assert run(["review", str(curl_file), "--tempo", "5-0-x-x", "--json"]) == 0
    findings = json.loads(capsys.readouterr().out)["findings"]
    (lower,) = [f for f in findings if f["check"] == "too-fast-lower"]
    assert lower["verdict"] == "off"
    assert lower["limit"] == pytest.approx(4.0)


def test_measure_writes_a_row_per_frame(curl_file, tmp_path, capsys):
    out = tmp_path / "measures.csv"
    assert run(["measure", str(curl_file), "--out", str(out)]) == 0
    lines = out.read_text().splitlines()
    assert lines[0].startswith("time_s,left_elbow_flexion,left_elbow_flexion_u,")
    assert len(lines) == read_track(curl_file).frames + 1
    assert run(["measure", str(curl_file)]) == 0
    assert capsys.readouterr().out.splitlines()[0] == lines[0]


def test_the_list_of_commands_says_what_each_says_of_itself_and_loads_none():
    for name, entry in COMMANDS.items():
        first = str(inspect.getdoc(load(entry.run))).split("\n\n")[0].replace("\n", " ")
        assert entry.summary == first, name
    told = "from guide_arc.cli.main import run; import sys; run(['--help']); print(*sys.modules)"
    done = subprocess.run([sys.executable, "-c", told], capture_output=True, text=True, check=True)
    listed, _box, loaded = done.stdout.rpartition("╯")
    assert all(f" {name} " in listed for name in COMMANDS)
    assert "guide_arc.cli.main" in loaded.split()
    assert not {"numpy", "scipy", "sqlalchemy", "PyQt6"} & set(loaded.split())


def test_standards_are_listed(capsys):
    assert run(["standards", "--json"]) == 0
    listed = {s["id"]: s for s in json.loads(capsys.readouterr().out)}
    assert listed["rope-pushdown"]["schools"] == ["locked", "travelling"]
    assert {"name", "kit", "views"} <= set(listed["rope-pushdown"])
    assert run(["standards"]) == 0
    assert "rope-pushdown" in capsys.readouterr().out


def test_a_phone_that_stands_aside_is_simulated_and_seen(tmp_path, capsys):
    out = tmp_path / "aside.csv"
    made = ["simulate", "--standard", "standing-barbell-curl", "--view", "left", "--reps", "3"]
    assert (
        run([*made, "--aside", "25", "--jitter", "1.5", "--distance", "3", "--out", str(out)]) == 0
    )
    assert run(["review", str(out), "--standard", "standing-barbell-curl"]) == 0
    told = capsys.readouterr().out
    assert "aside of the left view" in told
    assert "pose model" in told
    straight = tmp_path / "straight.csv"
    assert run([*made, "--out", str(straight)]) == 0
    assert straight.read_text() != out.read_text()


def test_simulate_prints_the_track_without_a_file(capsys):
    assert run(["simulate", "--standard", "rope-pushdown", "--reps", "1", "--view", "left"]) == 0
    out = capsys.readouterr().out
    assert out.startswith("# landmark-track: 1\n")
    assert "# view: left" in out


def test_a_fault_and_a_walk_in_can_be_asked_for(tmp_path):
    out = tmp_path / "set.json"
    code = run(
        [
            "simulate",
            "--standard",
            "rope-pushdown",
            "--reps",
            "2",
            "--fault",
            "torso-swing=20",
            "--seed",
            "9",
            "--noise",
            "0.005",
            "--walk-in",
            "--out",
            str(out),
        ]
    )
    assert code == 0
    assert (
        json.loads((tmp_path / "set.json.truth.json").read_text())["faults"]["torso-swing"][
            "amount"
        ]
        == 20
    )
    assert read_track(out).frames > 300


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["review", "gone.csv"], "no such file"),
        (["review", "{curl}", "--standard", "standing-barbel-curl"], "did you mean"),
        (["review", "{curl}", "--school", "soft"], "no school 'soft'"),
        (["review", "{curl}", "--tempo", "3-1"], "LOWER-BOTTOM-LIFT-TOP"),
        (["review"], "track"),
        (["review", "{curl}", "--colour"], "--colour"),
        (["measure", "{bad}"], "landmark-track"),
        (["measure", "{curl}", "--out", "/nowhere/x.csv"], "can't be written"),
        (["simulate", "--standard", "rope-pushdown", "--reps", "0"], "reps is 0"),
        (["simulate", "--standard", "rope-pushdown", "--reps", "many"], "reps"),
        (["simulate", "--standard", "nothing"], "no standard 'nothing'"),
        (["simulate", "--standard", "rope-pushdown", "--fault", "torso-swing"], "NAME=AMOUNT"),
        (["simulate", "--standard", "rope-pushdown", "--fault", "wobble=3"], "no fault 'wobble'"),
        (["simulate", "--standard", "rope-pushdown", "--view", "above"], "above"),
        (["simulate", "--standard", "rope-pushdown", "--noise", "10"], "metres"),
        (["simulate"], "--standard"),
        (["polish"], "polish"),
    ],
)
def test_bad_input_is_one_line_and_exit_2(arguments, words, curl_file, tmp_path, capsys):
    bad = tmp_path / "bad.csv"
    bad.write_text("time_s,nose_x\n")
    capsys.readouterr()
    filled = [a.format(curl=curl_file, bad=bad) for a in arguments]
    assert run(filled) == 2
    said = capsys.readouterr()
    assert said.out == ""
    assert said.err.count("\n") == 1
    assert words in said.err
    assert "Usage" not in said.err
    assert "Traceback" not in said.err


def test_a_track_of_one_frame_is_refused_for_review(curl_file, tmp_path, capsys):
    lines = curl_file.read_text().splitlines()
    one = tmp_path / "one.csv"
    one.write_text(
        "\n".join(lines[: next(i for i, line in enumerate(lines) if line.startswith("time_s")) + 2])
    )
    assert run(["review", str(one)]) == 2
    assert "at least 2" in capsys.readouterr().err


def test_without_a_display_a_window_is_refused_in_words(monkeypatch, capsys):
    for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"):
        monkeypatch.delenv(name, raising=False)
    for arguments in ([], ["demo"]):
        assert run(arguments) == 2
        assert "no display" in capsys.readouterr().err


def test_the_program_runs_as_a_module(curl_file):
    done = subprocess.run(
        [sys.executable, "-m", "guide_arc", "review", str(curl_file), "--json"],
        capture_output=True,
        text=True,
        check=True,
    )
    assert json.loads(done.stdout)["format"] == "set-review/1"
    assert done.stderr == ""


def test_a_review_tells_figures_trends_and_causes(tmp_path, capsys):
    out = tmp_path / "tired.csv"
    faults = ["--fault", "fatigue-drift=30", "--fault", "upper-arm-drift=26"]
    made = ["simulate", "--standard", "standing-barbell-curl", "--reps", "8", "--out", str(out)]
    assert run([*made, *faults]) == 0
    asked = ["review", str(out), "--felt", "front shoulder", "--loose-last", "8"]
    assert run([*asked, "--json"]) == 0
    document = json.loads(capsys.readouterr().out)
    assert len(document["figures"]) == 8
    assert document["figures"][0]["paths"][0]["part"] in ("elbow", "hand")
    trend = next(t for t in document["trends"] if t["what"] == "range")
    assert trend["sure"]
    assert any(cause["kind"] == "agrees" for cause in document["causes"])
    drift = [f for f in document["findings"] if f["check"] == "upper-arm-drift"]
    assert all(f["allowed"] and f["verdict"] == "off" for f in drift)
    assert run(asked) == 0
    words = capsys.readouterr().out
    assert "Range shrinks by" in words
    assert "the two agree" in words


def test_a_long_review_says_how_far_it_is(curl_file, capsys, monkeypatch):
    import guide_arc.cli.progress as progress

    monkeypatch.setattr(progress, "_QUIET_S", 0.0)
    monkeypatch.setattr(progress, "_EVERY_S", 0.0)
    assert run(["review", str(curl_file)]) == 0
    told = capsys.readouterr().err.splitlines()
    assert told[0].startswith("reviewing curl.csv: ")
    assert told[-1].endswith("100 %")


def test_a_short_review_says_nothing_on_the_side(curl_file, capsys):
    assert run(["review", str(curl_file)]) == 0
    assert capsys.readouterr().err == ""


def test_pain_stops_what_would_be_prescribed(curl_file, capsys):
    assert run(["review", str(curl_file), "--pain", "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["next"]["ask_first"] is True
    assert run(["review", str(curl_file), "--pain"]) == 0
    assert capsys.readouterr().out.startswith("Stop this exercise")


@pytest.mark.parametrize("before", [True, False])
def test_a_library_named_before_or_after_the_command_is_the_same(before, tmp_path, monkeypatch):
    monkeypatch.setenv("GUIDE_ARC_LIBRARY", str(tmp_path / "own"))
    track = tmp_path / "Cleo_Marsh_standing-barbell-curl.csv"
    assert (
        run(["simulate", "--standard", "standing-barbell-curl", "--reps", "2", "--out", str(track)])
        == 0
    )
    there = ["--library", str(tmp_path / "x")]
    command = ["import", str(track), "--client", "Cleo Marsh"]
    assert run([*there, *command] if before else [*command, *there]) == 0
    assert (tmp_path / "x" / "library.sqlite").exists()
    assert not (tmp_path / "own").exists()
    assert run([f"--library={tmp_path / 'x'}", "check"]) == 0


def test_a_command_without_a_library_says_so(capsys):
    assert run(["--library", "x", "standards"]) == 2
    assert "--library" in capsys.readouterr().err
