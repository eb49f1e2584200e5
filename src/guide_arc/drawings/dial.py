"""The arc dial: the joint at the centre, one ring a rep, the intended range as a sector.

The polar angle is the joint's angle as the body is oriented: 0 hangs down. A ring is drawn thicker
where that part was done slowly: inward for the lift, outward for the lower. Its turn end carries
the shape of the worst verdict on the rep.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.model.finding import Verdict
from guide_arc.core.model.rep import WorkSide
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import Range
from guide_arc.core.reps.segment import RepSet
from guide_arc.drawings.shapes import (
    Area,
    Disc,
    Drawing,
    MarkShape,
    Points,
    Role,
    Stroke,
    Words,
    polar,
    sector,
)

# Sectors in which an arm's time is counted.
_BINS: Final = 24
RepKey = tuple[WorkSide, int]


@dataclass(frozen=True, eq=False)
class Ring:
    """One rep on the dial.

    turn_deg : (N,) angles along the rep; lift_s, lower_s : (N,) seconds spent near each
    """

    key: RepKey
    from_deg: float
    to_deg: float
    full: bool
    verdict: Verdict
    turn_deg: Points
    lift_s: Points
    lower_s: Points


@dataclass(frozen=True, eq=False)
class DialState:
    """limit_deg : where the chosen finding's limit is on the dial, with half its band
    sign : the unit behind the scale's numbers
    """

    joint: str
    intended: Range
    rings: tuple[Ring, ...]
    chosen: RepKey | None = None
    marked: frozenset[RepKey] = frozenset()
    limit_deg: float | None = None
    limit_u_deg: float = 0.0
    line: str = ""
    line_role: Role = "ink"
    sign: str = "°"


def rings_of(review: Review, repset: RepSet) -> tuple[Ring, ...]:
    """The rings of a review, in order of time."""
    worst = worst_by_rep(review)
    out = []
    for rep in review.reps:
        drive = repset.drives[rep.side]
        edges = np.linspace(rep.from_deg, rep.to_deg, _BINS + 1)
        low, high = min(edges[0], edges[-1]), max(edges[0], edges[-1])
        counts = []
        for span in (rep.lift, rep.lower):
            inside = (drive.time_s >= span.start_s) & (drive.time_s <= span.end_s)
            value = drive.intended.direction * drive.lift_deg[inside]
            seen, _ = np.histogram(np.clip(value, low, high), bins=_BINS, range=(low, high))
            along = seen[:: 1 if edges[0] < edges[-1] else -1] / drive.rate_hz
            padded = np.pad(along, 2, mode="edge")
            counts.append(np.convolve(padded, (0.1, 0.2, 0.4, 0.2, 0.1), mode="valid"))
        middles = 0.5 * (edges[:-1] + edges[1:])
        out.append(
            Ring(
                key=rep.key,
                from_deg=rep.from_deg,
                to_deg=rep.to_deg,
                full=rep.full,
                verdict=worst.get(rep.key, "ok"),
                turn_deg=middles,
                lift_s=counts[0],
                lower_s=counts[1],
            )
        )
    return tuple(out)


def worst_by_rep(review: Review) -> dict[RepKey, Verdict]:
    """The worst verdict that any finding gives each rep."""
    out: dict[RepKey, Verdict] = {}
    for verdict in ("near", "off"):
        for finding in review.with_verdict("near", "off"):
            for judged in finding.per_rep:
                if judged.verdict != verdict:
                    continue
                for rep in review.reps:
                    same_arm = "both" in (finding.side, rep.side) or finding.side == rep.side
                    if same_arm and rep.number == judged.rep:
                        out[rep.key] = judged.verdict
    return out


def arc_dial(state: DialState, width: float, height: float) -> Drawing:
    """The full dial with its scale and one line of words."""
    out = Drawing(width, height)
    low, high = _span(state)
    inner, outer, x, y = _placed(low, high, width, height, 26.0, 44.0)
    _intended(out, state.intended, x, y, inner, outer)
    _scale(out, (low, high), x, y, outer, state.sign)
    _rings(out, state, x, y, inner, outer)
    if state.limit_deg is not None:
        _limit(out, state, x, y, inner, outer)
    out.add(Disc(x, y, 3.0, fill="ink"))
    if state.line:
        out.add(Words(14, height - 12, state.line, state.line_role, 12, bold=True))
    out.add(Words(width - 12, height - 12, "thick = slow", "muted", 11, anchor="end"))
    return out


def ring_at(state: DialState, width: float, height: float, px: float, py: float) -> RepKey | None:
    """The key of the rep whose ring is under a point, or None."""
    if not state.rings:
        return None
    low, high = _span(state)
    inner, outer, x, y = _placed(low, high, width, height, 26.0, 44.0)
    radius = float(np.hypot(px - x, py - y))
    step = (outer - inner) / len(state.rings)
    index = int((radius - inner) // step)
    return state.rings[index].key if 0 <= index < len(state.rings) else None


def _span(state: DialState) -> tuple[float, float]:
    values = [state.intended.from_deg, state.intended.to_deg]
    values += [v for ring in state.rings for v in (ring.from_deg, ring.to_deg)]
    if state.limit_deg is not None:
        values.append(state.limit_deg)
    pad = state.intended.tolerance_deg
    return min(values) - 0.4 * pad, max(values) + 0.4 * pad


def _placed(
    low: float, high: float, width: float, height: float, pad: float, below: float
) -> tuple[float, float, float, float]:
    """Inner and outer radius and the centre, so that the sector fills the sheet."""
    unit = np.concatenate((polar(0, 0, 1.0, np.linspace(low, high, 40)), [[0.0, 0.0]]))
    (left, top), (right, bottom) = unit.min(axis=0), unit.max(axis=0)
    outer = min((width - 2 * pad) / (right - left), (height - pad - below) / (bottom - top))
    x = 0.5 * (width - outer * (left + right))
    y = 0.5 * (height - below + pad - outer * (top + bottom))
    return 0.26 * outer, outer, float(x), float(y)


def _intended(
    out: Drawing,
    intended: Range,
    x: float,
    y: float,
    inner: float,
    outer: float,
    *,
    ends: bool = True,
) -> None:
    a, b, tol = intended.from_deg, intended.to_deg, intended.tolerance_deg
    out.add(Area(sector(x, y, inner, outer, a, b), "guide-soft", 0.55))
    if ends:
        sign = intended.direction
        for end, inward in ((a, sign * tol), (b, -sign * tol)):
            out.add(Area(sector(x, y, inner, outer, end - inward, end + inward), "guide-soft", 0.6))
        for end in (a, b):
            out.add(
                Stroke(
                    polar(x, y, np.array([inner, outer]), np.full(2, end)), "guide", 1.0, dash=True
                )
            )


def _scale(
    out: Drawing, span: tuple[float, float], x: float, y: float, outer: float, sign: str
) -> None:
    low, high = span
    for tick in range(-45, 181, 45):
        if low - 1 <= tick <= high + 1:
            ends = polar(x, y, np.array([outer, outer + 5]), np.full(2, float(tick)))
            out.add(Stroke(ends, "faint", 1.0))
            tx, ty = polar(x, y, outer + 15.0, np.array([float(tick)]))[0]
            out.add(Words(float(tx), float(ty) + 4, f"{tick}{sign}", "muted", 11, anchor="middle"))


def _rings(out: Drawing, state: DialState, x: float, y: float, inner: float, outer: float) -> None:
    step = (outer - inner) / max(len(state.rings), 1)
    # Turning points are always slow: the middle of the slowest phase is the full thickness.
    usual = [float(np.median(phase)) for r in state.rings for phase in (r.lift_s, r.lower_s)]
    slowest = 1.6 * max(usual, default=1.0) or 1.0
    focus = state.marked
    for i, ring in enumerate(state.rings):
        radius = inner + (i + 0.5) * step
        strong = state.chosen == ring.key
        quiet = bool(focus) and ring.key not in focus and not strong
        role: Role = "guide" if strong else "actual"
        # Nearly all of a ring's room for the slowest part, a tenth for the fastest.
        lift = radius - step * (0.05 + 0.36 * np.minimum(ring.lift_s / slowest, 1.0))
        lower = radius + step * (0.05 + 0.36 * np.minimum(ring.lower_s / slowest, 1.0))
        outline = np.concatenate(
            (polar(x, y, lower, ring.turn_deg), polar(x, y, lift, ring.turn_deg)[::-1])
        )
        out.add(Area(outline, role, 0.28 if quiet else (1.0 if ring.full else 0.72)))
        if ring.verdict != "ok" or strong:
            mx, my = polar(
                x, y, radius, np.array([ring.to_deg + 2.5 * np.sign(ring.to_deg - ring.from_deg)])
            )[0]
            out.add(
                MarkShape(
                    float(mx), float(my), ring.verdict, float(np.clip(step * 0.95, 5.0, 10.0))
                )
            )
        if strong:
            mx, my = polar(x, y, radius, np.array([ring.from_deg]))[0]
            out.add(Words(float(mx) + 8, float(my) + 4, str(ring.key[1]), "guide", 12, bold=True))


def _limit(out: Drawing, state: DialState, x: float, y: float, inner: float, outer: float) -> None:
    at = state.limit_deg or 0.0
    if state.limit_u_deg:
        band = sector(x, y, inner, outer, at - state.limit_u_deg, at + state.limit_u_deg)
        out.add(Area(band, "near", 0.25))
    out.add(
        Stroke(polar(x, y, np.array([inner - 3, outer + 3]), np.full(2, at)), "off", 1.6, dash=True)
    )
