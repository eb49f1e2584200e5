"""What a bench holds in an exercise: the back, the chest, or the upper arms (a curling pad). Its
angle is counted over level."""

from __future__ import annotations

from typing import Final, Literal

from guide_arc.core.model.standard import Standard

Holds = Literal["back", "chest", "arms"]
# A trunk that leans further from the bench than this does not rest on it.
_MOST_APART_DEG: Final = 25.0


def bench_holds(standard: Standard) -> Holds | None:
    """What rests on the bench, by which way the trunk leans with it; None without a bench."""
    if standard.bench_deg is None:
        return None
    own, off_plumb = sum(standard.trunk_lean_deg) / 2.0, 90.0 - standard.bench_deg
    apart = {"back": abs(own + off_plumb), "chest": abs(own - off_plumb)}
    nearest: Literal["back", "chest"] = "back" if apart["back"] <= apart["chest"] else "chest"
    return nearest if apart[nearest] <= _MOST_APART_DEG else "arms"


def leans_further_by(standard: Standard, bench_deg: float) -> float:
    """By how many degrees the trunk leans further ahead on a bench at another angle than the
    standard's own; of an exercise without one, on a back rest instead of as it is. 0 if the
    bench does not hold the trunk."""
    holds, own = bench_holds(standard), standard.bench_deg
    if own is None:
        return -(90.0 - bench_deg) - sum(standard.trunk_lean_deg) / 2.0
    return {"back": bench_deg - own, "chest": own - bench_deg, "arms": 0.0}[holds or "back"]


def arms_lower_by(standard: Standard, bench_deg: float) -> float:
    """By how many degrees the upper arms hang lower on a pad at another angle: a steeper pad lets
    them point further down. 0 if the bench does not hold them."""
    own = standard.bench_deg
    return bench_deg - own if own is not None and bench_holds(standard) == "arms" else 0.0
