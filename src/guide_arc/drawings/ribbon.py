"""The tempo ribbon: the set on one time line as the silhouette of the driving angle.

Phases are shaded; the target tempo is an outline behind each rep.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.model.finding import Verdict
from guide_arc.core.model.rep import Rep, Span
from guide_arc.core.model.settings import Edge
from guide_arc.core.model.standard import Tempo
from guide_arc.drawings.dial import RepKey
from guide_arc.drawings.shapes import Area, Disc, Drawing, MarkShape, Points, Role, Stroke, Words

# Room for the first and last boundary, and for the numbers below, pixels.
MARGIN: Final = 14.0
_NUMBERS: Final = 22.0
# Points of the course: more than these fall on one pixel.
_MOST_POINTS: Final = 640
# What a rep's number needs, pixels; others are left out.
_NUMBER_ROOM: Final = 30.0


@dataclass(frozen=True, eq=False)
class Track:
    """One line of the ribbon: the drive of one side.

    time_s, share : (N,) the driving measure from 0 at the intended start to 1 at the turn
    """

    side: str
    time_s: Points
    share: Points
    reps: tuple[Rep, ...]


@dataclass(frozen=True, eq=False)
class RibbonState:
    """verdicts : the worst verdict by rep; marked : reps of the chosen finding
    bounds : where the coach says the set starts and ends; doubts : moments at which the count is
        doubtful
    """

    duration_s: float
    start_s: float
    tracks: tuple[Track, ...]
    tempo: Tempo
    verdicts: Mapping[RepKey, Verdict]
    chosen: RepKey | None = None
    marked: frozenset[RepKey] = frozenset()
    loop: Span | None = None
    bounds: Span | None = None
    doubts: tuple[float, ...] = ()

    @property
    def end_s(self) -> float:
        return self.start_s + self.duration_s


def x_of(state: RibbonState, width: float, at_s: float) -> float:
    """Where a time is on a ribbon of this width."""
    return MARGIN + (at_s - state.start_s) / max(state.duration_s, 1e-9) * (width - 2 * MARGIN)


def time_at(state: RibbonState, width: float, x: float) -> float:
    """The time under a point of the ribbon."""
    share = (x - MARGIN) / max(width - 2 * MARGIN, 1e-9)
    return state.start_s + float(np.clip(share, 0.0, 1.0)) * state.duration_s


def tempo_ribbon(state: RibbonState, width: float, height: float) -> Drawing:
    """Everything but the playhead, which moves."""
    out = Drawing(width, height)
    lanes = max(len(state.tracks), 1)
    lane = (height - _NUMBERS) / lanes
    if state.loop is not None:
        x0, x1 = (x_of(state, width, t) for t in (state.loop.start_s, state.loop.end_s))
        out.add(Area(_box(x0, 0, x1, height - _NUMBERS), "guide-soft", 0.6))
    for i, track in enumerate(state.tracks):
        base = (i + 1) * lane - 2
        _lane(out, state, track, width, base, lane - 12)
        if lanes > 1:
            out.add(Words(2, base - lane + 14, track.side, "muted", 11))
    if state.bounds is not None:
        _outside(out, state, state.bounds, width, height - _NUMBERS)
    for at_s in state.doubts:
        x = x_of(state, width, at_s)
        out.add(Disc(x, 9.0, 7.5, fill="panel", outline="near", width=1.4))
        out.add(Words(x, 13.0, "?", "near", 11, bold=True, anchor="middle"))
    _seconds(out, state, width, height)
    return out


def edge_near(
    state: RibbonState, width: float, x: float, within: float = 6.0
) -> tuple[Rep, Edge, float] | None:
    """The boundary of the chosen rep that is under a point, with its time; only the chosen rep's
    boundaries can be taken hold of, so that scrubbing over a set moves none."""
    found: list[tuple[float, Rep, Edge, float]] = []
    for track in state.tracks:
        for rep in track.reps:
            if rep.key == state.chosen:
                for edge, at_s in edges_of(rep):
                    found.append((abs(x_of(state, width, at_s) - x), rep, edge, at_s))
    best = min(found, key=lambda f: f[0], default=None)
    return best[1:] if best is not None and best[0] <= within else None


def edges_of(rep: Rep) -> tuple[tuple[Edge, float], ...]:
    """The four boundaries of a rep with their times."""
    return (
        ("lift-start", rep.lift.start_s),
        ("lift-end", rep.lift.end_s),
        ("lower-start", rep.lower.start_s),
        ("lower-end", rep.lower.end_s),
    )


def _outside(out: Drawing, state: RibbonState, bounds: Span, width: float, tall: float) -> None:
    """What is before the set's start and after its end, by the coach's own marks."""
    left, right = x_of(state, width, bounds.start_s), x_of(state, width, bounds.end_s)
    for a, b in ((MARGIN, left), (right, width - MARGIN)):
        if b - a > 1.0:
            out.add(Area(_box(a, 0, b, tall), "paper", 0.85))
    for x in (left, right):
        out.add(Stroke(np.array([[x, 0.0], [x, tall]]), "ink", 1.4))


def _lane(
    out: Drawing, state: RibbonState, track: Track, width: float, base: float, tall: float
) -> None:
    top = max(1.15, float(np.percentile(track.share, 99.5))) if len(track.share) else 1.15
    low = min(0.0, float(np.percentile(track.share, 0.5))) if len(track.share) else 0.0

    def y_of(share: Points | float) -> Points:
        return base - (np.clip(share, low, top) - low) / (top - low) * tall

    every = max(1, len(track.time_s) // _MOST_POINTS)
    time, share = track.time_s[::every], track.share[::every]
    x = MARGIN + (time - state.start_s) / max(state.duration_s, 1e-9) * (width - 2 * MARGIN)
    floor = float(y_of(low))
    for rep in track.reps:
        _asked(out, state, rep, width, y_of, floor)
    named = numbered(state, track.reps, width)
    for rep in track.reps:
        _rep(
            out,
            state,
            rep,
            width=width,
            line=(x, y_of(share), time),
            lane=(base - tall - 4, floor),
            named=named,
        )
    out.add(Stroke(np.stack((x, y_of(share)), axis=-1), "actual", 1.2))
    out.add(Stroke(np.array([[MARGIN, floor], [width - MARGIN, floor]]), "rule", 1.0))


def _rep(
    out: Drawing,
    state: RibbonState,
    rep: Rep,
    width: float,
    line: tuple[Points, Points, Points],
    lane: tuple[float, float],
    named: frozenset[RepKey],
) -> None:
    x, y, time = line
    _ceiling, floor = lane
    verdict = state.verdicts.get(rep.key, "ok")
    chosen = state.chosen == rep.key
    marked = rep.key in state.marked
    bad = marked or (not state.marked and verdict == "off")
    role: Role = "off-soft" if bad else "held"
    for span, strength in (
        (rep.lift, 0.55),
        (rep.top_hold, 1.0),
        (rep.lower, 0.8),
        (rep.bottom_hold, 0.25),
    ):
        if span is None:
            continue
        a, b = np.searchsorted(time, (span.start_s, span.end_s))
        a, b = max(int(a) - 1, 0), min(int(b) + 1, len(time))
        if b - a < 2:
            continue
        outline = np.concatenate(
            (np.stack((x[a:b], y[a:b]), axis=-1), [[x[b - 1], floor], [x[a], floor]])
        )
        out.add(Area(outline, role, strength))
    if chosen:
        _grips(out, state, rep, width, lane)
    if rep.key not in named:
        return
    middle = x_of(state, width, rep.turn_s)
    text_role: Role = "guide" if chosen else ("off" if bad else "muted")
    out.add(
        Words(
            middle, floor + 16, str(rep.number), text_role, 11, bold=chosen or bad, anchor="middle"
        )
    )
    if verdict != "ok":
        out.add(MarkShape(middle + (10 if rep.number < 10 else 14), floor + 12, verdict, 7))


def numbered(state: RibbonState, reps: tuple[Rep, ...], width: float) -> frozenset[RepKey]:
    """The reps whose numbers have room below the line: all, or every second, fifth, …, and the
    chosen one with room about it."""
    room = (width - 2 * MARGIN) / max(state.duration_s, 1e-9)
    gaps = [(b.turn_s - a.turn_s) * room for a, b in itertools.pairwise(reps)]
    typical = float(np.median(gaps)) if gaps else _NUMBER_ROOM
    step = next((n for n in (1, 2, 5, 10, 20, 50) if n * typical >= _NUMBER_ROOM), 100)
    out = {rep.key for rep in reps if step == 1 or rep.number % step == 0 or rep.number == 1}
    chosen = next((rep for rep in reps if rep.key == state.chosen), None)
    if chosen is not None and chosen.key not in out:
        near = {r.key for r in reps if abs(r.turn_s - chosen.turn_s) * room < _NUMBER_ROOM}
        out = (out - near) | {chosen.key}
    return frozenset(out)


def _grips(
    out: Drawing, state: RibbonState, rep: Rep, width: float, lane: tuple[float, float]
) -> None:
    """The chosen rep's frame, with a handle on each boundary."""
    ceiling, floor = lane
    box = _box(x_of(state, width, rep.start_s), ceiling, x_of(state, width, rep.end_s), floor)
    out.add(Stroke(np.concatenate((box, box[:1])), "guide", 1.2))
    for _edge, at_s in edges_of(rep):
        grip = x_of(state, width, at_s)
        out.add(Stroke(np.array([[grip, ceiling], [grip, floor]]), "guide", 0.8, dash=True))
        out.add(Area(_box(grip - 2.5, floor - 7, grip + 2.5, floor + 1), "guide"))


def _asked(
    out: Drawing,
    state: RibbonState,
    rep: Rep,
    width: float,
    y_of: Callable[[float], Points],
    floor: float,
) -> None:
    """The asked tempo as an outline that starts with the rep's lift."""
    tempo = state.tempo
    if not any((tempo.lower_s, tempo.lift_s, tempo.top_s)):
        return
    lift = tempo.lift_s or rep.lift.length_s
    top = tempo.top_s or 0.0
    lower = tempo.lower_s or rep.lower.length_s
    times = np.cumsum([rep.start_s, lift, top, lower])
    xs = [x_of(state, width, float(t)) for t in times]
    ys = [floor, float(y_of(1.0)), float(y_of(1.0)), floor]
    out.add(Stroke(np.stack((xs, ys), axis=-1), "guide", 1.0, dash=True))


def _seconds(out: Drawing, state: RibbonState, width: float, height: float) -> None:
    step = next(
        (s for s in (1, 2, 5, 10, 30, 60, 120, 300, 600) if state.duration_s / s <= 14), 1200
    )
    at = np.ceil(state.start_s / step) * step
    while at <= state.end_s:
        x = x_of(state, width, float(at))
        out.add(
            Stroke(np.array([[x, height - _NUMBERS], [x, height - _NUMBERS + 3]]), "faint", 1.0)
        )
        at += step


def _box(x0: float, y0: float, x1: float, y1: float) -> Points:
    return np.array([[x0, y0], [x1, y0], [x1, y1], [x0, y1]])
