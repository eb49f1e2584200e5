"""The pace of a model set, and the checks whose limits come from its own worst rep."""

from __future__ import annotations

from typing import Any, Final

import numpy as np

from guide_arc.core.checks.registry import check_of, spec_of, specs
from guide_arc.core.checks.spec import CheckSpec, FromModel, Unit
from guide_arc.core.kinematics.body import Body
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import TRUNK_DRIVES, Standard
from guide_arc.core.reps.segment import RepSet, find_reps
from guide_arc.core.review.assess import context_of, review_body
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.loader import build

# Distance of a limit from the model's worst rep, as a share of that rep's value.
_ROOM: Final = 1.3
_FREE: Final = 2.0
_HOLD_S: Final = 0.6


def keep_pace(raw: dict[str, Any], reps: tuple[Rep, ...]) -> None:
    """The tempo that the model keeps, in half seconds, and its holds."""

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


def set_checks(
    body: Body,
    raw: dict[str, Any],
    plan: Standard,
    repset: RepSet,
    near: Standard,
    catalogue: Catalogue,
) -> list[str]:
    """Checks with limits from the model's own worst rep: what stayed, the corridor, range and
    timing."""
    words = {c["name"]: c for c in catalogue.raw(near.id)["check"]}
    out: list[dict[str, Any]] = []
    stayed: list[str] = []
    range_unit: Unit = "pct" if plan.drive == "shoulder_hike" else "deg"
    tolerance = next(v for k, v in raw["range"].items() if k.startswith("tolerance"))
    for spec, how in _in_turn():
        name, unit_name = spec.name, spec.limit_unit(range_unit)
        if plan.drive in how.not_driven_by:
            continue
        if how.way == "stays":
            worst = _worst(body, raw, name)
            if worst is not None and worst <= how.within:
                stayed.append(name)
                out.append(_rule(words, name, unit_name, max(how.least, _ROOM * worst + _FREE)))
        elif how.way == "corridor":
            worst = _worst(body, raw, name)
            if worst is not None and plan.drive not in (*TRUNK_DRIVES, "shoulder_hike"):
                limit = max(how.least, _ROOM * worst + 2.0 * _FREE)
                out.append(_rule(words, name, unit_name, limit))
        elif how.way == "tolerance":
            out.append(_rule(words, name, unit_name, tolerance + how.least))
        elif how.way == "arms":
            if repset.side == "both":
                worst = _worst(body, raw, name) or 0.0
                out.append(_rule(words, name, unit_name, max(tolerance, _ROOM * worst + how.least)))
        elif how.limit is not None:
            out.append(_rule(words, name, unit_name, how.limit))
        else:
            out.append({"name": name})
    raw["check"] = out
    return stayed


def _in_turn() -> list[tuple[CheckSpec, FromModel]]:
    """The checks whose limits are read from a model set: what stays first, then in their order."""
    found = [(s, s.from_model) for s in specs().values() if s.from_model is not None]
    return sorted(found, key=lambda f: f[1].way != "stays")


def _rule(words: dict[str, Any], name: str, unit_name: str, limit: float) -> dict[str, Any]:
    kept = {k: v for k, v in words.get(name, {}).items() if not k.startswith("limit_")}
    return {**kept, "name": name, f"limit_{unit_name}": float(np.ceil(limit))}


def _worst(body: Body, raw: dict[str, Any], name: str) -> float | None:
    """The largest value and uncertainty of a check over the set's full reps; None without any."""
    unit_name = spec_of(name).limit_unit("pct" if raw["drive"] == "shoulder_hike" else "deg")
    trial = {**raw, "check": [{"name": name, f"limit_{unit_name}": 170.0}]}
    plan = build(trial, "model set")
    repset = find_reps(body, plan)
    if not repset.reps:
        return None
    measured = body.counted_from(repset.first_lift_s)
    found = check_of(name)(context_of(measured, repset, plan), plan.checks[0])
    values = [_reach(f) for f in found if f.value is not None]
    return max(values) if values else None


def _reach(f: Finding) -> float:
    return float(f.value or 0.0) + float(f.uncertainty or 0.0)


def settle(body: Body, raw: dict[str, Any], id: str) -> Review:
    """The model set against its own standard; an uncertain check gets a wider limit, one that this
    recording does not show is removed."""
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
    """Checks that a few reps cannot show but a client's set will."""
    how = spec_of(name).from_model
    return how is not None and how.keeps


def _give_room(raw: dict[str, Any], rule: dict[str, Any], f: Finding) -> bool:
    if f.unit == "s":
        part = spec_of(f.rule.name).tempo_part
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
