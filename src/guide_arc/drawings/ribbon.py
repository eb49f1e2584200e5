"""The tempo ribbon: the set on one time line as the silhouette of the driving angle.

Phases are shaded; the tempo that was asked for stands as an outline behind each rep.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.model.finding import Verdict
from guide_arc.core.model.rep import Rep, Span
from guide_arc.core.model.standard import Tempo
from guide_arc.drawings.dial import RepKey
from guide_arc.drawings.shapes import Area, Drawing, Mark, Points, Role, Stroke, Words

MARGIN: Final = 14.0
_NUMBERS: Final = 22.0
_MOST_POINTS: Final = 640


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
    """verdicts : the worst verdict by rep; marked : reps of the chosen finding"""

    duration_s: float
    start_s: float
    tracks: tuple[Track, ...]
    tempo: Tempo
    verdicts: Mapping[RepKey, Verdict]
    chosen: RepKey | None = None
    marked: frozenset[RepKey] = frozenset()
    loop: Span | None = None

    @property
    def end_s(self) -> float:
        return self.start_s + self.duration_s


def x_of(state: RibbonState, width: float, at_s: float) -> float:
    """Where a time stands on a ribbon of this width."""
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
    _seconds(out, state, width, height)
    return out


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
    for rep in track.reps:
        _rep(out, state, track, rep, width, (x, y_of(share), time), floor)
    out.add(Stroke(np.stack((x, y_of(share)), axis=-1), "actual", 1.2))
    out.add(Stroke(np.array([[MARGIN, floor], [width - MARGIN, floor]]), "rule", 1.0))


def _rep(
    out: Drawing,
    state: RibbonState,
    track: Track,
    rep: Rep,
    width: float,
    line: tuple[Points, Points, Points],
    floor: float,
) -> None:
    x, y, time = line
    verdict = state.verdicts.get(rep.key, "ok")
    chosen = state.chosen == rep.key
    marked = rep.key in state.marked
    bad = marked or (not state.marked and verdict == "off")
    role: Role = "off-soft" if bad else "held"
    for span, strength in (
        (rep.lift, 0.55), (rep.top_hold, 1.0), (rep.lower, 0.8), (rep.bottom_hold, 0.25),
    ):  # fmt: skip
        if span is None:
            continue
        a, b = np.searchsorted(time, (span.start_s, span.end_s))
        a, b = max(int(a) - 1, 0), min(int(b) + 1, len(time))
        if b - a < 2:
            continue
        outline = np.concatenate((
            np.stack((x[a:b], y[a:b]), axis=-1), [[x[b - 1], floor], [x[a], floor]]
        ))  # fmt: skip
        out.add(Area(outline, role, strength))
    middle = x_of(state, width, rep.turn_s)
    text_role: Role = "guide" if chosen else ("off" if bad else "muted")
    out.add(
        Words(
            middle, floor + 16, str(rep.number), text_role, 11, bold=chosen or bad, anchor="middle"
        )
    )
    if verdict != "ok":
        out.add(Mark(middle + (10 if rep.number < 10 else 14), floor + 12, verdict, 7))
    if chosen:
        box = _box(x_of(state, width, rep.start_s), 2, x_of(state, width, rep.end_s), floor)
        out.add(Stroke(np.concatenate((box, box[:1])), "guide", 1.2))


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
