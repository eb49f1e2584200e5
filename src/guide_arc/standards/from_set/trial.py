"""The reps of a model set by the standard proposed so far."""

from __future__ import annotations

from typing import Any

from guide_arc.core.checks.registry import specs
from guide_arc.core.kinematics.body import Body
from guide_arc.core.model.standard import Standard
from guide_arc.core.reps.segment import RepSet, find_reps
from guide_arc.standards.loader import build


def cut_reps(body: Body, raw: dict[str, Any]) -> tuple[Standard, RepSet]:
    unit = "pct" if raw["drive"] == "shoulder_hike" else "deg"
    # A standard has at least one check; any of the range's serves to count reps by.
    name = next(n for n, spec in specs().items() if spec.unit == "drive")
    trial = {**raw, "check": [{"name": name, f"limit_{unit}": 20.0}]}
    plan = build(trial, "model set")
    return plan, find_reps(body, plan)
