"""How each figure changes over the set, and the rep from which the set broke down."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Final

import numpy as np

from guide_arc.core.checks.fatigue_drift import robust_line
from guide_arc.core.model.figures import BreakDown, RepFigures, Trend
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.rep import Rep, WorkSide
from guide_arc.core.review.rules import REVIEW

# Name: unit, words for growing and for falling, and the value of a rep (None where unseen).
_FIGURES: Final[dict[str, tuple[str, str, str, Callable[[RepFigures], Quantity | None]]]] = {
    "range": ("deg", "grows", "shrinks", lambda f: f.range_deg),
    "turn": ("deg", "moves up", "moves down", lambda f: f.turn_deg),
    "lift time": ("s", "gets longer", "gets shorter", lambda f: Quantity(f.lift_s, 0.05)),
    "lowering time": ("s", "gets longer", "gets shorter", lambda f: Quantity(f.lower_s, 0.05)),
    "burst": ("pct", "grows", "shrinks", lambda f: f.burst_pct),
    "arms apart": ("deg", "grows", "shrinks", lambda f: f.arms_apart_deg),
}
# The explanation of a figure whose name alone does not say enough.
_CALLED: Final = {"burst": "the burst in the lift", "turn": "the end of the lift"}


def trends_of(figures: tuple[RepFigures, ...]) -> tuple[Trend, ...]:
    """The trends of all figures, per side that carries reps; fewer than four reps have none."""
    out: list[Trend] = []
    for side in dict.fromkeys(f.rep.side for f in figures):
        own = [f for f in figures if f.rep.side == side]
        for name, (unit, up, down, value_of) in _FIGURES.items():
            out += _trend(name, side, unit, (up, down), [(f, value_of(f)) for f in own])
        stays = dict.fromkeys((s.name, s.side, s.unit) for f in own for s in f.stays)
        for name, worn, unit in stays:
            values = [
                (f, next((s.largest for s in f.stays if (s.name, s.side) == (name, worn)), None))
                for f in own
            ]
            words = ("moves more,", "moves less,")
            out += _trend(f"{name} moved", worn, unit, words, values)
        paths = dict.fromkeys((p.part, p.side) for f in own for p in f.paths)
        for part, arm in paths:
            values = [
                (f, next((p.largest_pct for p in f.paths if (p.part, p.side) == (part, arm)), None))
                for f in own
            ]
            name = "elbow off its arc" if part == "elbow" else "hand off its arc"
            out += _trend(name, arm, "pct", ("grows", "shrinks"), values)
    return tuple(out)


def _trend(
    name: str,
    side: WorkSide,
    unit: str,
    words: tuple[str, str],
    values: Iterable[tuple[RepFigures, Quantity | None]],
) -> list[Trend]:
    known = [(f.rep.number, q) for f, q in values if q is not None and np.isfinite(q.value)]
    if len(known) < REVIEW.fewest_for_trend:
        return []
    x = np.array([n for n, _ in known], dtype=float)
    y = np.array([q.value for _, q in known])
    slope, level, slope_u = robust_line(x, y)
    # The scatter of the reps, or their measurement where they scatter less than it allows.
    noise = float(np.median([q.u for _, q in known])) / float(np.sqrt(((x - x.mean()) ** 2).sum()))
    u = float(np.hypot(slope_u, noise))
    sure = abs(slope) > 2.0 * u
    unit_words = {"deg": "°", "pct": " %", "s": " s"}[unit]
    if sure:
        digits = 2 if unit == "s" else 1
        by = f"{abs(slope):.{digits}f}{unit_words} ± {2 * u:.{digits}f} a rep"
        called = _CALLED.get(name, name.removesuffix(" moved"))
        says = f"{called} {words[0] if slope > 0 else words[1]} by {by}"
    else:
        says = f"{name} holds"
    first, last = level + slope * x[0], level + slope * x[-1]
    return [
        Trend(
            name=name,
            side=side,
            unit=unit,
            per_rep=Quantity(slope, u),
            first=float(first),
            last=float(last),
            sure=sure,
            says=says,
        )
    ]


def off_by_rep(
    reps: tuple[Rep, ...], findings: Iterable[Finding]
) -> dict[tuple[WorkSide, int], set[str]]:
    """The checks that are off in each rep, by the rep's key."""
    out: dict[tuple[WorkSide, int], set[str]] = {rep.key: set() for rep in reps}
    for finding in findings:
        off = {v.rep for v in finding.per_rep if v.verdict == "off"}
        for rep in reps:
            same_arm = "both" in (finding.side, rep.side) or finding.side == rep.side
            if same_arm and rep.number in off:
                out[rep.key].add(finding.rule.name)
    return out


def broke_down(
    reps: tuple[Rep, ...], off: dict[tuple[WorkSide, int], set[str]]
) -> BreakDown | None:
    """The first rep of a run to the end of the set that is mostly off, after mostly clean ones.

    The set is cut where "clean before, off after" fits most reps; None if no cut fits well.
    """
    best: BreakDown | None = None
    for side in dict.fromkeys(rep.side for rep in reps):
        own = [rep for rep in reps if rep.side == side and rep.full] or []
        bad = np.array([bool(off[rep.key]) for rep in own])
        cuts = range(REVIEW.fewest_before_break, len(own))
        fits = [(int((~bad[:k]).sum() + bad[k:].sum()), -k) for k in cuts]
        if not fits:
            continue
        k = -max(fits)[1]
        if bad[:k].mean() > REVIEW.clean_share or bad[k:].mean() < 1.0 - REVIEW.clean_share:
            continue
        names = [n for rep in own[k:] for n in off[rep.key]]
        checks = tuple(sorted(dict.fromkeys(names), key=lambda n: -names.count(n)))
        rep = own[k]
        arm = "" if side == "both" else f" of the {side} arm"
        found = BreakDown(rep.number, side, checks, f"form holds up to rep {rep.number - 1}{arm}")
        if best is None or rep.number < best.rep:
            best = found
    return best
