"""Over the weeks nothing is reported that scatter explains, and what is there is found: noise
clients, true changes, and a sum worked by hand."""

from __future__ import annotations

import json
from datetime import date, timedelta
from pathlib import Path

import numpy as np
import pytest

from guide_arc.cli.main import run
from guide_arc.core.planning.history import DoneSet, History, Seen
from guide_arc.core.planning.over_weeks import GivenCue, SeenSet, Weeks, weeks_of
from guide_arc.core.planning.trend import Sample, trend_of
from guide_arc.standards.loader import standard

CURL = standard("standing-barbell-curl")
DAY = date(2031, 1, 6)
SWING = "torso-swing"


def scatter(rng: np.random.Generator, count: int, carried: float) -> np.ndarray:
    """Values of scatter 1 of which each keeps so much of the one before it."""
    out = rng.normal(size=count)
    for i in range(1, count):
        out[i] = carried * out[i - 1] + np.sqrt(1.0 - carried**2) * out[i]
    return out


def told(
    values: np.ndarray,
    cued: int | None = None,
    views: tuple[str, ...] = ("left",),
    kg: float = 20.0,
) -> Weeks:
    sets = [
        SeenSet(
            DoneSet(DAY + timedelta(3 * i), kg, 10, 10),
            views[i % len(views)],
            {SWING: (8.0 + 2.0 * float(v), 1.0)},
            (GivenCue(SWING, SWING, "stand still"),) if i == cued else (),
        )
        for i, v in enumerate(values)
    ]
    return weeks_of(History(CURL, (20.0,), tuple(s.done for s in sets), sets[-1].done.on), sets)


def test_a_slope_worked_by_hand():
    # A week apart, 1 lower each week: the slope is -1, whatever view and load are noted.
    found = trend_of([Sample(7 * i, 10.0 - i, 0.1, "left", 20.0) for i in range(8)])
    assert found is not None
    assert found.per_week == pytest.approx(-1.0, abs=1e-6)
    assert found.change == pytest.approx(-7.0, abs=1e-6)
    # At least 0.7 of each recording's 0.1 scatters: over the root of the weeks' squares, 42.
    assert found.se >= 0.07 / np.sqrt(42.0)


@pytest.mark.parametrize("count", [4, 5])
def test_fewer_than_six_sets_have_no_trend(count):
    trend = told(np.linspace(4, 0, count)).trends[0]
    assert (trend.word, trend.per_week) == ("too-few", None)


@pytest.mark.parametrize(("carried", "most"), [(0.0, 0.05), (0.3, 0.09)])
def test_noise_has_no_trend(carried, most):
    rng = np.random.default_rng(5)
    words = [told(scatter(rng, 12, carried)).trends[0].word for _ in range(150)]
    assert np.mean([w != "none" for w in words]) <= most


def test_steady_progress_of_four_scatters_is_told():
    rng = np.random.default_rng(6)
    words = [told(scatter(rng, 14, 0.0) - np.linspace(0, 4, 14)).trends[0].word for _ in range(80)]
    assert words.count("better") >= 68
    assert "worse" not in words


def test_another_view_and_another_load_are_not_a_change():
    rng = np.random.default_rng(7)
    values = 0.2 * scatter(rng, 16, 0.0)
    turned = np.where(np.arange(16) < 8, 0.0, 6.0)
    sets = [
        SeenSet(
            DoneSet(DAY + timedelta(3 * i), 20.0, 10, 10),
            "left" if i < 8 else "right",
            {SWING: (8.0 + float(v), 0.5)},
        )
        for i, v in enumerate(values + turned)
    ]
    history = History(CURL, (20.0,), tuple(s.done for s in sets), sets[-1].done.on)
    assert weeks_of(history, sets).trends[0].word == "none"


def test_a_tiny_sure_change_is_not_worth_a_word():
    # The limit of a swing is 9 degrees: less than 0.9 over the weeks is nothing.
    rng = np.random.default_rng(8)
    trend = told(0.01 * scatter(rng, 14, 0.0) - np.linspace(0, 0.3, 14)).trends[0]
    assert trend.word == "none"
    assert trend.per_week is not None
    assert trend.per_week < 0.0


@pytest.mark.parametrize("carried", [0.0, 0.3])
def test_a_cue_without_effect_is_not_said_to_have_worked(carried):
    """Given after the first bad set, as coaches give them: the next ones are better by chance."""
    rng, words = np.random.default_rng(9), []
    for _ in range(150):
        values = scatter(rng, 12, carried)
        bad = [i for i in range(8) if values[i] > 0.8]
        if bad:
            words.append(told(values, bad[0]).cues[0].word)
    assert len(words) > 100
    assert np.mean([w in ("worked", "worse") for w in words]) <= 0.06


def test_a_cue_that_helps_by_two_scatters_is_told():
    rng, words = np.random.default_rng(10), []
    for _ in range(100):
        values = scatter(rng, 12, 0.0)
        values[6:] -= 2.0
        words.append(told(values, 5).cues[0].word)
    assert words.count("worked") >= 60
    assert "worse" not in words


def test_two_sets_after_a_cue_are_too_soon():
    cue = told(np.array([0.0, 0.2, -0.1, 2.0, -3.0, -3.0]), 3).cues[0]
    assert (cue.word, cue.sets_after) == ("too-soon", 2)


def test_the_command_prints_what_the_contract_asks(tmp_path: Path, capsys):
    seen = [{"check": SWING, "verdict": "ok", "harm": "spine"}]
    broke = [{"check": SWING, "verdict": "off", "harm": "spine"}]
    sets = [
        {
            "on": (DAY + timedelta(7 * i)).isoformat(),
            "load_kg": kg,
            "left_reps": 10,
            "right_reps": 9,
            "findings": findings,
            "view": "left",
            "measures": {SWING: [9.0 - i, 0.5], "range": [120, 2]},
            "cues": [{"check": SWING, "measure": SWING, "words": "stand still"}] if i == 1 else [],
        }
        for i, (kg, findings) in enumerate([(20, seen)] * 6 + [(20, broke), (25, broke)])
    ]
    document = {"standard": "standing-barbell-curl", "rack_kg": [20, 25, 30], "sets": sets}
    path = tmp_path / "h.json"
    path.write_text(json.dumps(document))
    assert run(["weeks", str(path), "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert found["format"] == "weeks/1"
    assert found["held"][0] == {"on": "2031-01-06", "load_kg": 20, "reps": 9, "reps_held": 9}
    assert found["held"][-1]["reps_held"] is None
    assert found["loads"] == [{"check": SWING, "held_kg": 20, "broke_kg": 20}]
    words = {t["measure"]: t["word"] for t in found["trends"]}
    assert words == {SWING: "better", "range": "none"}
    assert found["cues"][0]["sets_after"] == 5
    assert run(["weeks", str(path)]) == 0
    assert "torso-swing: getting better" in capsys.readouterr().out
    assert run(["dose", str(path)]) == 0  # the same file is a history for the next dose
    document["sets"][0]["measures"] = {SWING: [9.0]}
    path.write_text(json.dumps(document))
    assert run(["weeks", str(path)]) == 2
    assert "sets.0.measures" in capsys.readouterr().err


def test_what_was_seen_to_hold_is_told_by_load():
    held, broke = (Seen(SWING, verdict, "spine") for verdict in ("ok", "off"))
    loads = [(20.0, held), (25.0, held), (30.0, broke), (27.5, broke)]
    sets = [
        SeenSet(DoneSet(DAY + timedelta(i), kg, 9, 9, findings=(f,)))
        for i, (kg, f) in enumerate(loads)
    ]
    history = History(CURL, (20.0,), tuple(s.done for s in sets), sets[-1].done.on)
    (told_load,) = weeks_of(history, sets).loads
    assert (told_load.held_kg, told_load.broke_kg) == (25.0, 27.5)
