"""What should have stayed in a rep: the torso, the shoulders, the elbow's bend, the upper arm."""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import SetContext, whole
from guide_arc.core.checks.upper_arm_drift import upper_arm_departure
from guide_arc.core.kinematics.vectors import span_of
from guide_arc.core.model.figures import Stay
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.rep import Rep, WorkSide

# Name to (measure, belongs to an arm, unit). A limb's entry counts only where the standard asks it
# to stay.
NAMES: Final[dict[str, tuple[str, bool, str]]] = {
    "torso lean": ("trunk_lean", False, "deg"),
    "torso side lean": ("trunk_side_lean", False, "deg"),
    "torso twist": ("trunk_rotation", False, "deg"),
    "shoulder height": ("shoulder_hike", True, "pct"),
    "elbow bend": ("elbow_flexion", True, "deg"),
    "wrist bend": ("wrist_bend", True, "deg"),
}
_ONLY_WITH: Final = {"elbow bend": "elbow-bend-change", "wrist bend": "wrist-bend"}
_FEWEST: Final = 3


def stays_of(ctx: SetContext, rep: Rep, arms: list[Side]) -> tuple[Stay, ...]:
    """All that should have stayed and was seen, in one rep."""
    out: list[Stay] = []
    for name, (measure, limb, unit) in NAMES.items():
        if name in _ONLY_WITH and ctx.standard.check(_ONLY_WITH[name]) is None:
            continue
        for side in arms if limb else (None,):
            if ctx.body.shows(measure, side):
                stay = _stay(ctx, rep, name, measure, side, unit)
                out += [stay] if stay else []
    if ctx.standard.check("upper-arm-drift"):
        out += [s for side in arms if (s := _upper_arm(ctx, rep, side))]
    return tuple(out)


def _stay(
    ctx: SetContext, rep: Rep, name: str, measure: str, side: Side | None, unit: str
) -> Stay | None:
    _time, value, u = ctx.samples(measure, side, whole(rep))
    if len(value) < _FEWEST:
        return None
    start = float(np.median(value[: max(_FEWEST, len(value) // 20)]))
    off = np.abs(value - start)
    i = int(np.argmax(off))
    worn: WorkSide = side or "both"
    return Stay(name, worn, Quantity(float(off[i]), float(u[i])), float(off.mean()), unit)


def _upper_arm(ctx: SetContext, rep: Rep, side: Side) -> Stay | None:
    if ctx.body.cleaned.track.view in ("front", "back") or not ctx.body.shows(
        "shoulder_elevation", side
    ):
        return None
    window = span_of(ctx.body.time_s, rep.start_s, rep.end_s)
    off = upper_arm_departure(ctx, side)[window]
    u = ctx.body.measure("shoulder_elevation", side).u[window]
    seen = np.isfinite(off)
    if seen.sum() < _FEWEST:
        return None
    i = int(np.argmax(off[seen]))
    largest = Quantity(float(off[seen][i]), float(u[seen][i]))
    return Stay("upper arm", side, largest, float(off[seen].mean()), "deg")
