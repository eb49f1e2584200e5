"""How rep values become one finding, how findings are ranked, and what is prescribed after them."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from guide_arc.core.checks.context import RepValue, cannot_tell, settled, summarise
from guide_arc.core.checks.fatigue_drift import robust_line
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep, Span
from guide_arc.core.model.standard import CheckRule, Tempo
from guide_arc.core.review.prescribe import next_time
from guide_arc.core.review.rank import excess, proposed_cues, ranked
from guide_arc.standards.loader import standard

RULE = CheckRule(
    "torso-swing", 10.0, "spine", "Torso swings", "The back pays for it.", "Stand still."
)


def values(*pairs: tuple[float, float]) -> list[RepValue]:
    return [RepValue(i, v, u, float(i)) for i, (v, u) in enumerate(pairs, 1)]


def says(value: float) -> str:
    return f"swings {value:.0f}°"


def test_the_worst_verdict_is_carried_and_its_reps_named():
    found = summarise(RULE, "both", values((4, 0.5), (14, 0.5), (18, 0.5), (9.5, 0.5)), "deg", says)
    assert found.verdict == "off"
    assert found.reps == (2, 3)
    assert found.value == 18
    assert found.uncertainty == pytest.approx(1.0)  # 95 %: twice the standard uncertainty
    assert found.at_s == 3.0
    assert found.says == "swings 18°"
    assert [j.verdict for j in found.per_rep] == ["ok", "off", "off", "near"]


def test_a_least_that_is_asked_turns_the_order_round():
    found = summarise(
        RULE,
        "both",
        values((2.0, 0.05), (1.0, 0.05), (0.6, 0.05)),
        "s",
        says,
        limit=1.5,
        least=True,
    )
    assert found.verdict == "off"
    assert found.reps == (2, 3)
    assert found.value == pytest.approx(0.6)


def test_noise_larger_than_the_limit_gives_no_verdict():
    found = summarise(RULE, "both", values((8, 7)), "deg", says)
    assert found.verdict == "cannot-tell"
    assert "too noisy" in found.why


def test_missing_values_are_no_values():
    found = summarise(RULE, "both", values((np.nan, 1.0)), "deg", says)
    assert found.verdict == "cannot-tell"
    assert "missing" in found.why


def test_settling_keeps_a_level_and_takes_a_spike_down():
    time = np.arange(60) / 30
    level = np.full(60, 7.0)
    assert settled(time, level) == pytest.approx(level)
    level[30] = 27.0
    assert settled(time, level).max() < 10.0
    assert settled(time[:2], level[:2]) == pytest.approx(level[:2])


def test_one_bad_rep_does_not_tilt_the_trend():
    x = np.arange(10.0)
    y = 120.0 - 2.0 * x
    y[4] = 40.0
    slope, start, u = robust_line(x, y)
    assert slope == pytest.approx(-2.0, abs=0.1)
    assert start == pytest.approx(120.0, abs=1.0)
    assert u < 0.3


def finding(name: str, harm: str, verdict: str, value: float, limit: float, reps: int) -> Finding:
    rule = replace(RULE, name=name, harm=harm, limit=limit)  # type: ignore[arg-type]
    return Finding(
        rule,
        verdict,  # type: ignore[arg-type]
        "both",
        tuple(range(1, reps + 1)),
        value,
        1.0,
        limit,
        "deg",
        1.0,
        "",
    )


def test_harm_then_size_then_reach_decide_the_order():
    effect = finding("range-short", "effect", "off", 90, 10, 8)
    joint = finding("shoulder-hike", "joint", "off", 11, 10, 1)
    spine = finding("torso-swing", "spine", "off", 12, 10, 1)
    worse_joint = finding("momentum", "joint", "off", 20, 10, 1)
    fine = finding("wrist-bend", "joint", "ok", 1, 10, 8)
    near = finding("torso-lean", "spine", "near", 10, 10, 8)
    order = [f.rule.name for f in ranked([fine, effect, joint, near, spine, worse_joint])]
    assert order == [
        "torso-swing",
        "momentum",
        "shoulder-hike",
        "range-short",
        "torso-lean",
        "wrist-bend",
    ]
    assert [
        f.rule.name for f in proposed_cues([fine, effect, joint, near, spine, worse_joint])
    ] == order[:3]


def test_excess_is_a_share_of_the_limit():
    assert excess(finding("torso-swing", "spine", "off", 15, 10, 1)) == pytest.approx(0.5)
    assert excess(replace(finding("torso-swing", "spine", "ok", 1, 10, 1), value=None)) == 0.0


def reps(count: int, side: str = "both") -> tuple[Rep, ...]:
    return tuple(
        Rep(
            i + 1,
            side,  # type: ignore[arg-type]
            True,
            Span(i, i + 0.4),
            None,
            Span(i + 0.4, i + 0.9),
            None,
            "elbow_flexion",
            10,
            130,
        )
        for i in range(count)
    )


PLAN = standard("standing-barbell-curl")
# A check of harm that was seen to hold: without any, nobody knows how the set was done.
HELD = finding("torso-lean", "spine", "ok", 1, 10, 12)
NOTHING = Tempo(2.0, None, 1.0, None)


@pytest.mark.parametrize(
    ("count", "off", "load", "next_load", "words"),
    [
        (12, (), 30.0, 32.5, "next weight step"),
        (12, (), 10.0, 10.0, "add reps first"),
        (12, (), None, None, "no weight was noted, so add reps"),
        (9, (), 30.0, 30.0, "add reps before weight"),
        (12, ("torso-swing",), 30.0, 30.0, "form did not hold"),
        (12, ("torso-swing", "momentum"), 30.0, 27.5, "lighter"),
        (12, ("torso-swing", "momentum"), 2.5, 2.5, "form gave way"),
        (0, (), 30.0, 30.0, "film it again"),
    ],
)
def test_the_next_set_follows_from_this_one(count, off, load, next_load, words):
    found = [HELD, *(finding(name, "spine", "off", 20, 10, 3) for name in off)]
    plan = next_time(PLAN, NOTHING, reps(count), found, load)
    assert plan.load_kg == next_load
    assert words in plan.reason


def test_alternating_reps_are_counted_for_one_arm():
    both = (*reps(9, "left"), *reps(9, "right"))
    assert next_time(PLAN, NOTHING, both, [HELD], 20.0).reps == (10, 12)


def unsure(name: str, harm: str, verdict: str) -> Finding:
    why = (
        "hidden from the front; film from the side to see it" if verdict == "cannot-tell" else None
    )
    return replace(finding(name, harm, verdict, 9.5, 10, 3), why=why)


@pytest.mark.parametrize(
    ("name", "harm", "verdict", "words"),
    [
        ("torso-swing", "spine", "near", "too close to tell"),
        ("torso-swing", "spine", "cannot-tell", "film from the side"),
        ("wrist-bend", "joint", "cannot-tell", "film from the side"),
        ("range-over", "joint", "near", "too close to tell"),
    ],
)
def test_a_load_never_rises_on_what_was_not_seen(name, harm, verdict, words):
    plan = next_time(PLAN, NOTHING, reps(12), [unsure(name, harm, verdict)], 30.0)
    assert plan.load_kg == 30.0
    assert words in plan.reason


def test_what_was_not_seen_of_the_effect_alone_does_not_hold_the_weight():
    plan = next_time(PLAN, NOTHING, reps(12), [HELD, unsure("elbow-path", "effect", "near")], 30.0)
    assert plan.load_kg == 32.5


def test_the_weaker_arm_sets_the_number():
    uneven = (*reps(12, "left"), *reps(9, "right"))
    plan = next_time(PLAN, NOTHING, uneven, [HELD], 30.0)
    assert (plan.load_kg, plan.reps) == (30.0, (10, 12))
    too_few = (*reps(12, "left"), *reps(6, "right"))
    assert next_time(PLAN, NOTHING, too_few, [HELD], 30.0).load_kg == 27.5
    # One arm that worked alone has no weaker one beside it.
    assert next_time(PLAN, NOTHING, reps(12, "left"), [HELD], 30.0).load_kg == 32.5


@pytest.mark.parametrize(
    ("load", "up", "down"),
    [(83.7, 85.0, 77.5), (40.0, 42.5, 37.5), (25.0, 27.5, 22.5), (24.0, 25.0, 22.5)],
)
def test_steps_fit_the_rack_and_are_no_more_than_a_tenth(load, up, down):
    assert next_time(PLAN, NOTHING, reps(12), [HELD], load).load_kg == up
    gave_way = [finding(n, "spine", "off", 20, 10, 3) for n in ("torso-swing", "momentum")]
    assert next_time(PLAN, NOTHING, reps(12), gave_way, load).load_kg == down
    assert abs(up - load) <= 0.1 * load
    assert abs(down - load) <= 0.1 * load


def test_assistance_counts_the_other_way_round():
    helped = standard("upright-narrow-dip")
    step, high = helped.dose.load_step_kg, helped.dose.reps[1]
    load = 20 * step
    done = tuple(replace(r, side="both") for r in reps(high))
    assert next_time(helped, NOTHING, done, [HELD], load).load_kg == load - step
    gave_way = [finding(n, "spine", "off", 20, 10, 3) for n in ("torso-swing", "momentum")]
    assert next_time(helped, NOTHING, done, gave_way, load).load_kg == load + 2 * step


@pytest.mark.parametrize(
    ("felt", "stops"),
    [
        ("lower back, sharp", True),
        ("Pinch in the front of the shoulder", True),
        ("numb fingers", True),
        ("dizzy", True),
        ("elbow aches", True),
        ("stings at the top", True),
        ("front shoulder", False),
        ("a good burn in the upper arm", False),
        ("not in the muscle but sharp in the elbow", True),
        ("no warm-up and then a pinch", True),
        ("no pain but numb fingers", True),
        ("no pain, only tired", False),
        ("upper arm, without any ache", False),
    ],
)
def test_pain_stops_every_prescription(felt, stops):
    plan = next_time(PLAN, NOTHING, reps(12), [], 30.0, felt=(felt,))
    assert plan.ask_first is stops
    assert (plan.load_kg is None) is stops
    assert ("clinician" in plan.reason) is stops


def test_pain_comes_before_all_that_was_measured():
    gave_way = [finding(n, "spine", "off", 20, 10, 3) for n in ("torso-swing", "momentum")]
    assert next_time(PLAN, NOTHING, reps(12), gave_way, 30.0, felt=("elbow, sharp",)).ask_first
    assert next_time(PLAN, NOTHING, (), [], 30.0, felt=("elbow, sharp",)).ask_first


def test_a_probability_by_hand():
    """One standard uncertainty (half of what is said) past the limit: 84.1 % of a normal
    distribution."""
    rule = standard("standing-barbell-curl").check("torso-swing")
    assert rule is not None
    past = summarise(rule, "both", [RepValue(1, rule.limit + 2.0, 2.0, 1.0)], "deg", str)
    assert past.verdict == "near"
    assert past.p == pytest.approx(0.8413, abs=1e-4)
    assert past.hint
    within = summarise(rule, "both", [RepValue(1, rule.limit - 2.0, 2.0, 1.0)], "deg", str)
    assert within.p == pytest.approx(0.1587, abs=1e-4)
    assert not within.hint


def test_of_a_least_that_is_asked_less_is_past_it():
    rule = standard("standing-barbell-curl").check("too-fast-lower")
    assert rule is not None
    short = summarise(rule, "both", [RepValue(1, 1.4, 0.1, 1.0)], "s", str, limit=1.5, least=True)
    assert short.p == pytest.approx(0.8413, abs=1e-4)


def test_what_is_likely_is_read_after_what_is_off_and_before_what_is_near():
    rules = standard("standing-barbell-curl").checks
    swing, drift, short = (
        next(r for r in rules if r.name == n)
        for n in ("torso-swing", "upper-arm-drift", "range-short")
    )
    near = summarise(swing, "both", [RepValue(1, swing.limit - 1.0, 2.0, 1.0)], "deg", str)
    likely = summarise(drift, "left", [RepValue(1, drift.limit + 2.5, 2.0, 1.0)], "deg", str)
    off = summarise(short, "left", [RepValue(1, short.limit + 9.0, 2.0, 1.0)], "deg", str)
    assert [f.rule.name for f in ranked([near, likely, off])] == [
        "range-short",
        "upper-arm-drift",
        "torso-swing",
    ]
    assert [f.rule.name for f in proposed_cues([near, likely, off])] == ["range-short"]


def test_a_finding_that_can_not_be_told_has_no_probability():
    rule = standard("standing-barbell-curl").checks[0]
    blocked = cannot_tell(rule, "left", rule.limit, "deg", "hidden from here")
    assert blocked.p is None
    assert not blocked.hint
