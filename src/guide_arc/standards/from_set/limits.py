"""The pace of a model set, and the checks whose limits come from its own worst rep."""

from __future__ import annotations

from typing import Any, Final

import numpy as np

from guide_arc.core.checks.registry import CHECKS
from guide_arc.core.kinematics.body import Body
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import TRUNK_DRIVES, Standard
from guide_arc.core.reps.segment import RepSet, find_reps
from guide_arc.core.review.assess import context_of, review_body
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.loader import build

# What moves by less than this within a rep stayed still: check name to the unit of its own limit.
_STAYS_WITHIN: Final = {
    "upper-arm-drift": 16.0, "elbow-bend-change": 18.0, "torso-swing": 12.0, "torso-twist": 12.0,
    "shoulder-hike": 8.0, "wrist-bend": 40.0,
}  # fmt: skip
# A stay's limit is no tighter than people can hold it.
_LEAST_LIMIT: Final = {
    "upper-arm-drift": 10.0, "elbow-bend-change": 12.0, "torso-swing": 8.0, "torso-twist": 10.0,
    "shoulder-hike": 8.0, "wrist-bend": 30.0, "elbow-path": 22.0, "hand-path": 26.0,
}  # fmt: skip
# How far past the model's own worst rep a limit stands, as a share of that rep's value.
_ROOM: Final = 1.3
_HOLD_S: Final = 0.6


def keep_pace(raw: dict[str, Any], reps: tuple[Rep, ...]) -> None:
    """The tempo that the model keeps, in half seconds, and where it holds."""

    def usual(spans: list[float]) -> float:
        return float(np.floor(2.0 * np.median(spans) + 0.3) / 2.0) if spans else 0.0

    top = [r.top_hold.length_s if r.top_hold else 0.0 for r in reps]
    bottom = [r.bottom_hold.length_s if r.bottom_hold else 0.0 for r in reps[:-1]]
    tempo = {
        "lower_s": max(0.5, usual([r.lower.length_s for r in reps])),
        "lift_s": max(0.5, usual([r.lift.length_s for r in reps])),
    }
    for key, spans in (("top_s", top), ("bottom_s", bottom)):
        if spans and min(spans) >= _HOLD_S and usual(spans) >= _HOLD_S:
            tempo[key] = usual(spans)
    raw["tempo"] = tempo


def set_checks(  # noqa: PLR0913
    body: Body,
    raw: dict[str, Any],
    plan: Standard,
    repset: RepSet,
    near: Standard,
    catalogue: Catalogue,
) -> list[str]:
    """Checks with limits from the model's own worst rep: what stayed, the corridor, range and timing."""
    words = {c["name"]: c for c in catalogue.raw(near.id)["check"]}
    out: list[dict[str, Any]] = []
    stayed: list[str] = []
    for name, within in _STAYS_WITHIN.items():
        worst = _worst(body, raw, name)
        if worst is None or worst > within or _drives(name, plan.drive):
            continue
        stayed.append(name)
        unit_name = "pct" if name == "shoulder-hike" else "deg"
        out.append(_rule(words, name, unit_name, max(_LEAST_LIMIT[name], _ROOM * worst + 2.0)))
    for name in ("elbow-path", "hand-path"):
        worst = _worst(body, raw, name)
        if worst is not None and plan.drive not in (*TRUNK_DRIVES, "shoulder_hike"):
            out.append(_rule(words, name, "pct", max(_LEAST_LIMIT[name], _ROOM * worst + 4.0)))
    range_unit = "pct" if plan.drive == "shoulder_hike" else "deg"
    tolerance = next(v for k, v in raw["range"].items() if k.startswith("tolerance"))
    out.append(_rule(words, "range-short", range_unit, tolerance))
    out.append(_rule(words, "range-over", range_unit, tolerance + 2.0))
    out += [{"name": n} for n in ("too-fast-lower", "too-fast-lift", "hold-missing")]
    if plan.drive != "shoulder_hike":
        out.append(_rule(words, "momentum", "pct", 68.0))
    if repset.side == "both":
        worst = _worst(body, raw, "left-right")
        out.append(
            _rule(words, "left-right", range_unit, max(tolerance, _ROOM * (worst or 0.0) + 2.0))
        )
    out.append({"name": "fatigue-drift"})
    raw["check"] = out
    return stayed


def _drives(name: str, drive: str) -> bool:
    """Whether a check is about what should move."""
    return {
        "upper-arm-drift": drive in ("shoulder_elevation", "shoulder_plane"),
        "elbow-bend-change": drive == "elbow_flexion",
        "torso-swing": drive in TRUNK_DRIVES, "torso-twist": drive in TRUNK_DRIVES,
        "shoulder-hike": drive in (*TRUNK_DRIVES, "shoulder_hike"),
    }.get(name, False)  # fmt: skip


def _rule(words: dict[str, Any], name: str, unit_name: str, limit: float) -> dict[str, Any]:
    kept = {k: v for k, v in words.get(name, {}).items() if not k.startswith("limit_")}
    return {**kept, "name": name, f"limit_{unit_name}": float(np.ceil(limit))}


def _worst(body: Body, raw: dict[str, Any], name: str) -> float | None:
    """The largest value and uncertainty of a check over the set's full reps; None without any."""
    unit_name = "pct" if name in ("shoulder-hike", "elbow-path", "hand-path") else "deg"
    if name == "left-right" and raw["drive"] == "shoulder_hike":
        unit_name = "pct"
    trial = {**raw, "check": [{"name": name, f"limit_{unit_name}": 170.0}]}
    plan = build(trial, "model set")
    repset = find_reps(body, plan)
    if not repset.reps:
        return None
    measured = body.counted_from(repset.first_lift_s)
    found = CHECKS[name](context_of(measured, repset, plan), plan.checks[0])
    values = [_reach(f) for f in found if f.value is not None]
    return max(values) if values else None


def _reach(f: Finding) -> float:
    return float(f.value or 0.0) + float(f.uncertainty or 0.0)


def settle(body: Body, raw: dict[str, Any], id: str) -> Review:
    """The model set against its own standard; a check that is not sure of it gets room, one that can't be
    told from this recording goes."""
    for _ in range(4):
        review = review_body(body, build(raw, f"{id}.toml"))[0]
        again = False
        rules = {c["name"]: c for c in raw["check"]}
        for f in review.findings:
            rule = rules.get(f.rule.name)
            if rule is None or f.verdict == "ok":
                continue
            if f.verdict == "cannot-tell" and f.value is None:
                if not _keeps_anyway(f.rule.name):
                    raw["check"].remove(rule)
                    rules.pop(f.rule.name)
                    again = True
                continue
            again |= _give_room(raw, rule, f)
        if not again:
            return review
    return review_body(body, build(raw, f"{id}.toml"))[0]


def _keeps_anyway(name: str) -> bool:
    """Checks that a few reps can't tell but a client's set will."""
    return name in ("fatigue-drift", "left-right", "range-short", "too-fast-lower", "hold-missing")


def _give_room(raw: dict[str, Any], rule: dict[str, Any], f: Finding) -> bool:
    if f.unit == "s":
        part = {"too-fast-lower": "lower_s", "too-fast-lift": "lift_s"}.get(f.rule.name)
        if part:
            raw["tempo"][part] = max(0.3, round(0.8 * raw["tempo"][part], 1))
        else:
            raw["tempo"].pop("top_s", None)
            raw["tempo"].pop("bottom_s", None)
        return True
    key = next((k for k in rule if k.startswith("limit_")), None)
    if key is None:
        key = "limit_pct"
    rule[key] = float(np.ceil(max(_reach(f), f.rule.limit) + 1.0))
    return True
