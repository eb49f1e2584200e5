"""The numbers of each rep as a list of small charts: every rep a dot, the chosen one in words."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.model.figures import RepFigures, SetFigures, Trend
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.rep import WorkSide
from guide_arc.core.model.units import UNIT
from guide_arc.core.review.compare import HOLD_U_S
from guide_arc.drawings.dial import RepKey
from guide_arc.drawings.shapes import Disc, Drawing, Role, Stroke, Words

# A measure has two lines and a small course next to them, pixels.
ROW: Final = 50.0
_CHART: Final = 116.0


@dataclass(frozen=True)
class NumbersLine:
    """One figure over the reps: None if it was not seen."""

    name: str
    unit: str
    values: tuple[tuple[RepKey, Quantity | None], ...]
    trend: str


@dataclass(frozen=True)
class NumbersState:
    lines: tuple[NumbersLine, ...]
    chosen: RepKey | None = None


def lines_of(figures: SetFigures) -> tuple[NumbersLine, ...]:
    """All figures worth a line, per side that carries reps."""
    out: list[NumbersLine] = []
    for side in dict.fromkeys(f.rep.side for f in figures.reps):
        own = [f for f in figures.reps if f.rep.side == side]
        tail = "" if side == "both" else f", {side}"

        def line(
            name: str,
            unit: str,
            pick: Callable[[RepFigures], Quantity | None],
            own: list[RepFigures] = own,
            side: WorkSide = side,
            tail: str = tail,
        ) -> None:
            values = tuple((f.rep.key, pick(f)) for f in own)
            if any(q is not None and np.isfinite(q.value) for _, q in values):
                out.append(
                    NumbersLine(f"{name}{tail}", unit, values, _trend(figures.trends, name, side))
                )

        line("range", "deg", lambda f: f.range_deg)
        line("turn", "deg", lambda f: f.turn_deg)
        line("lift time", "s", lambda f: Quantity(f.lift_s, 0.05))
        line("hold at the turn", "s", lambda f: Quantity(f.top_s, HOLD_U_S))
        line("lowering time", "s", lambda f: Quantity(f.lower_s, 0.05))
        line("under tension", "s", lambda f: Quantity(f.under_load_s, 0.07))
        line("peak lift speed", "deg/s", lambda f: Quantity(f.lift_peak_deg_s, 3.0))
        line("mean lift speed", "deg/s", lambda f: Quantity(f.lift_mean_deg_s, 1.0))
        line("peak lowering speed", "deg/s", lambda f: Quantity(f.lower_peak_deg_s, 3.0))
        line("mean lowering speed", "deg/s", lambda f: Quantity(f.lower_mean_deg_s, 1.0))
        line("burst", "pct", lambda f: f.burst_pct)
        line("smoothness", "", lambda f: Quantity(f.smoothness, 0.05))
        line("near-stops in the lift", "", lambda f: Quantity(float(f.stops), 0.0))
        line("torso at the first tenth", "deg", lambda f: f.torso_early_deg)
        line("hand height at the turn", "pct", lambda f: f.hand_pct)
        line("arms apart", "deg", lambda f: f.arms_apart_deg)
        line("arms out of time", "s", lambda f: f.arms_apart_s)
        for name, worn, unit in dict.fromkeys(
            (s.name, s.side, s.unit) for f in own for s in f.stays
        ):
            arm = "" if worn == "both" else f", {worn}"
            values = tuple(
                (
                    f.rep.key,
                    next((s.largest for s in f.stays if (s.name, s.side) == (name, worn)), None),
                )
                for f in own
            )
            out.append(
                NumbersLine(
                    f"{name} moved{arm}",
                    unit,
                    values,
                    _trend(figures.trends, f"{name} moved", worn),
                )
            )
        for part, arm in dict.fromkeys((p.part, p.side) for f in own for p in f.paths):
            name = "elbow off its arc" if part == "elbow" else "hand off its arc"
            values = tuple(
                (
                    f.rep.key,
                    next((p.largest_pct for p in f.paths if (p.part, p.side) == (part, arm)), None),
                )
                for f in own
            )
            out.append(
                NumbersLine(f"{name}, {arm}", "pct", values, _trend(figures.trends, name, arm))
            )
    return tuple(out)


def _trend(trends: tuple[Trend, ...], name: str, side: WorkSide) -> str:
    found = next((t for t in trends if t.name == name and t.side == side), None)
    return found.says.removeprefix(f"{name} ") if found and found.sure else ""


def numbers(state: NumbersState, width: float) -> Drawing:
    """The list on a sheet as tall as it needs."""
    out = Drawing(width, max(ROW * len(state.lines) + 8, ROW))
    if not state.lines:
        out.add(Words(12, 26, "No reps to measure.", "muted", 12))
    for i, line in enumerate(state.lines):
        _row(out, state, line, 4 + i * ROW, width)
    return out


def _row(out: Drawing, state: NumbersState, line: NumbersLine, top: float, width: float) -> None:
    left = width - _CHART - 12
    chosen = next((q for key, q in line.values if key == state.chosen), None)
    out.add(Words(12, top + 17, line.name, "ink", 12))
    told = _told(chosen, line.unit) if chosen is not None else _range(line)
    out.add(
        Words(
            12,
            top + 33,
            told,
            "ink" if chosen is not None else "muted",
            12,
            bold=chosen is not None,
        )
    )
    if line.trend:
        out.add(Words(width - 12, top + 44, line.trend, "near", 11, anchor="end"))
    known = [
        (i, key, q)
        for i, (key, q) in enumerate(line.values)
        if q is not None and np.isfinite(q.value)
    ]
    if known:
        values = np.array([q.value for _, _, q in known])
        u = float(np.median([q.u for _, _, q in known]))
        low, high = float(values.min()), float(values.max())
        # A spread within the uncertainty is drawn flat: it says nothing.
        room = max(high - low, 4.0 * u, 1e-6)
        middle = 0.5 * (low + high)
        step = _CHART / max(len(line.values) - 1, 1)
        base = top + 17
        out.add(Stroke(np.array([[left, base], [left + _CHART, base]]), "rule", 1.0))
        for i, key, q in known:
            x = left + (i * step if len(line.values) > 1 else _CHART / 2)
            y = base - (q.value - middle) / room * 22.0
            strong = key == state.chosen
            role: Role = "guide" if strong else "actual"
            out.add(Disc(x, y, 4.0 if strong else 2.2, fill=role))
    out.add(Stroke(np.array([[12.0, top + ROW - 2], [width - 12, top + ROW - 2]]), "rule", 1.0))


def _told(q: Quantity, unit: str) -> str:
    if not np.isfinite(q.value):
        return "not seen"
    digits = 2 if unit == "" else 1 if unit == "s" else 0
    sign = "°/s" if unit == "deg/s" else UNIT.get(unit, "")
    if q.u == 0.0:
        return f"{q.value:.0f}"
    least = 10.0**-digits
    return f"{q.value:.{digits}f}{sign} ± {max(2 * q.u, least):.{digits}f}{sign}"


def _range(line: NumbersLine) -> str:
    values = [q.value for _, q in line.values if q is not None and np.isfinite(q.value)]
    digits = 2 if line.unit == "" else 1 if line.unit == "s" else 0
    sign = "°/s" if line.unit == "deg/s" else UNIT.get(line.unit, "")
    if not values:
        return "not seen"
    return f"{min(values):.{digits}f}{sign} to {max(values):.{digits}f}{sign}"
