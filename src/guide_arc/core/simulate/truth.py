"""The ground truth of a simulated set, taken from its exact motion by the definitions alone.

This does not share code with `core/reps`: it is the judge of it.
"""

from __future__ import annotations

import itertools
from collections.abc import Mapping
from typing import Any, Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.standard import Standard
from guide_arc.core.simulate.timing import RepPlan

_EDGE: Final = 0.05
_PAUSE_S: Final = 0.15


def truth_document(
    standard: Standard,
    faults: Mapping[str, float],
    plans: dict[Side, list[RepPlan]],
    time_s: Array,
    drive: dict[Side, Array],
    fault_from: int,
) -> dict[str, Any]:
    """Reps with their phases and ranges, and the faults that were put in.

    time_s : (N,) fine and even; drive : (N,) exact driving measure of each arm
    """
    together = len(plans) == 2 and abs(plans["left"][0].start_s - plans["right"][0].start_s) < 1e-9
    if together:
        sets = {"both": (plans["left"], 0.5 * (drive["left"] + drive["right"]))}
    else:
        sets = {side: (own, drive[side]) for side, own in plans.items()}
    reps = [rep for side, (own, signal) in sets.items() for rep in _reps(side, own, time_s, signal)]
    reps.sort(key=lambda rep: rep["lift"][0])
    sizes = np.array([rep.pop("size") for rep in reps])
    usual = np.median(sizes[sizes >= 0.7 * sizes.max()])
    for rep, size in zip(reps, sizes, strict=True):
        rep["full"] = bool(size >= 0.7 * usual)
    return {
        "format": "set-truth/1",
        "standard": standard.id,
        "school": standard.school.id,
        "measure": standard.drive,
        "reps": reps,
        "faults": {
            name: {"amount": amount, "from_rep": fault_from} for name, amount in faults.items()
        },
    }


def _reps(side: str, plans: list[RepPlan], time_s: Array, signal: Array) -> list[dict[str, Any]]:
    out: list[dict[str, Any]] = []
    speed = np.abs(np.gradient(signal, time_s))
    for i, plan in enumerate(plans):
        turn = plan.start_s + plan.lift_s
        lift = _edges(time_s, speed, plan.start_s, turn)
        lower = _edges(time_s, speed, turn + plan.top_s, plan.end_s)
        level = [float(np.interp(t, time_s, signal)) for t in (*lift, *lower)]
        out.append(
            {
                "size": max(abs(level[1] - level[0]), abs(level[3] - level[2])),
                "number": i + 1,
                "side": side,
                "lift": lift,
                "top_hold": _hold(lift[1], lower[0]),
                "lower": lower,
                "bottom_hold": None,
                "range": {
                    "from_deg": round(level[0], 3),
                    "to_deg": round(level[1], 3),
                },
            }
        )
    for a, b in itertools.pairwise(out):
        a["bottom_hold"] = _hold(a["lower"][1], b["lift"][0])
    return out


def _edges(time_s: Array, speed: Array, start_s: float, end_s: float) -> list[float]:
    inside = np.flatnonzero((time_s >= start_s - 1e-9) & (time_s <= end_s + 1e-9))
    moving = inside[speed[inside] >= _EDGE * speed[inside].max()]
    return [round(float(time_s[moving[0]]), 4), round(float(time_s[moving[-1]]), 4)]


def _hold(start_s: float, end_s: float) -> list[float] | None:
    return [start_s, end_s] if end_s - start_s >= _PAUSE_S else None
