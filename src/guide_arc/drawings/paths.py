"""The path panel: elbow and hand against the corridor in the body's own frame, all reps, the chosen
one strong."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.path import Part, corridor_pct, guide_of
from guide_arc.core.model.figures import PathFigures
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.drawings.dial import RepKey
from guide_arc.drawings.shapes import Area, Disc, Drawing, Points, Role, Stroke, Words
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.drawings.stage import band

_NAMES: Final[dict[Part, str]] = {"elbow": "elbow", "wrist": "hand"}
# (axis to the right of the plot, its sign, title, words at its right end); out, up, ahead.
_PLOTS: Final = ((0, 1.0, "seen from the front", "out"), (2, 1.0, "seen from the side", "ahead"))
_PROFILE: Final = 74.0
_HEAD: Final = 56.0
_MOST_POINTS: Final = 60


@dataclass(frozen=True, eq=False)
class PathState:
    """side : the arm whose path is shown"""

    measured: ShownSet
    side: Side
    chosen: RepKey | None = None
    marked: frozenset[RepKey] = frozenset()


def path_panel(state: PathState, width: float, height: float) -> Drawing:
    """Two views of the paths, and the departure along the arc below them."""
    out = Drawing(width, height)
    measured = state.measured
    if (state.side, "elbow") not in measured.departures:
        out.add(
            Words(
                16,
                26,
                f"The path of the {state.side} arm is not seen in this recording.",
                "muted",
                13,
            )
        )
        return out
    out.add(Words(16, 24, f"{state.side} arm, from the shoulder", "muted", 13))
    view = measured.body.cleaned.track.view
    plots = [p for p in _PLOTS if view == "none" or (p[0] == 0) == (view in ("front", "back"))]
    # One view leaves room next to it, two views below them.
    beside = len(plots) == 1
    left = 0.5 * width if beside else 0.0
    room = (left or width) / len(plots)
    top = _HEAD
    tall = height - _HEAD - (8 if beside else 2 * _PROFILE + 8)
    for k, (axis, sign, title, right) in enumerate(plots):
        _plot(out, state, axis, sign, (k * room, top, room, tall))
        out.add(Words(k * room + room / 2, top - 6, title, "muted", 11, anchor="middle"))
        out.add(Words((k + 1) * room - 10, top + tall - 6, f"{right} →", "muted", 11, anchor="end"))
    step = 1.35 * _PROFILE if beside else _PROFILE
    first = _HEAD + 20 if beside else height - 2 * _PROFILE
    for i, part in enumerate(("elbow", "wrist")):
        _profile(out, state, part, first + i * step, left, width)  # type: ignore[arg-type]
    return out


def _figures(state: PathState, part: Part) -> list[tuple[Rep, PathFigures]]:
    return [
        (f.rep, p)
        for f in state.measured.figures.reps
        for p in f.paths
        if p.part == part and p.side == state.side
    ]


def _plot(
    out: Drawing,
    state: PathState,
    axis: int,
    sign: float,
    box: tuple[float, float, float, float],
) -> None:
    measured, side = state.measured, state.side
    left, top, wide, tall = box
    body, standard = measured.body, measured.review.standard
    guides: dict[Part, Points] = {
        part: guide_of(body, standard, side, part) for part in ("elbow", "wrist")
    }
    arm = body.learned.upper_arm_m[side]
    real = {part: body.in_trunk(f"{side}_{part}", side) / arm for part in ("elbow", "wrist")}
    reps = [r for r in measured.review.reps if r.side in ("both", side)]
    inside = [real[p][_frames(measured, r)] for p in real for r in reps]
    flat = [np.stack((sign * g[:, axis], g[:, 1]), axis=-1) for g in guides.values()]
    every = [
        np.zeros((1, 2)),
        *flat,
        *(np.stack((sign * i[:, axis], i[:, 1]), axis=-1) for i in inside),
    ]
    spots = np.concatenate(every)
    spots = spots[np.isfinite(spots).all(axis=-1)]
    low, high = spots.min(axis=0), spots.max(axis=0)
    pad = 26.0
    scale = min(
        (wide - 2 * pad) / max(high[0] - low[0], 0.5), (tall - 2 * pad) / max(high[1] - low[1], 0.5)
    )
    x0 = left + 0.5 * (wide - scale * (low[0] + high[0]))
    y0 = top + 0.5 * (tall + scale * (low[1] + high[1]))

    def place(points: Points) -> Points:
        return np.stack((x0 + scale * sign * points[:, axis], y0 - scale * points[:, 1]), axis=-1)

    for part, guide in guides.items():
        half = corridor_pct(standard, part) / 100.0 * scale
        path = place(guide)
        if float(np.ptp(path, axis=0).max()) < 6.0:
            middle = path.mean(axis=0)
            out.add(Disc(float(middle[0]), float(middle[1]), half, fill="guide-soft"))
            out.add(Disc(float(middle[0]), float(middle[1]), half, outline="guide", width=1.0))
        else:
            area, edges = band(path, half)
            out.add(Area(area, "guide-soft", 0.8))
            for edge in edges:
                out.add(Stroke(edge, "guide", 1.0, dash=True))
    shoulder = place(np.zeros((1, 3)))[0]
    for rep in sorted(reps, key=lambda r: r.key == state.chosen):
        chosen = rep.key == state.chosen
        bad = rep.key in state.marked
        role: Role = "off" if bad else "actual"
        for name in real:
            path = place(real[name][_frames(measured, rep)])
            path = path[np.isfinite(path).all(axis=-1)]
            if len(path) > 1:
                out.add(Stroke(path, role, 2.4 if chosen else 1.0, opacity=1.0 if chosen else 0.35))
    out.add(
        Disc(float(shoulder[0]), float(shoulder[1]), 4.2, fill="panel", outline="actual", width=1.8)
    )
    out.add(
        Words(float(shoulder[0]) + 8, float(shoulder[1]) - 6, "shoulder", "muted", 11, clear=True)
    )
    for part, guide in guides.items():
        at = place(guide[-8:-7])[0]
        half = corridor_pct(standard, part) / 100.0 * scale
        out.add(
            Words(float(at[0]) + half + 4, float(at[1]) + 4, _NAMES[part], "guide", 11, clear=True)
        )


def _frames(measured: ShownSet, rep: Rep) -> slice:
    a, b = measured.index(rep.start_s), measured.index(rep.end_s)
    return slice(a, b + 1, max(1, (b - a) // _MOST_POINTS))


def _profile(
    out: Drawing, state: PathState, part: Part, top: float, start: float, width: float
) -> None:
    """The departure across the arc's plane along the lift, with the corridor as a strip."""
    known = _figures(state, part)
    limit = corridor_pct(state.measured.review.standard, part)
    positive = known[0][1].positive if known else "ahead"
    left, right = start + 16.0, width - 16.0
    narrow = right - left < 400.0
    middle, tall = top + 46.0, 22.0
    most = max(
        [limit * 1.4, *(float(np.nanmax(np.abs(p.signed_pct), initial=0.0)) for _, p in known)]
    )

    def line(values: Points) -> Points:
        x = np.linspace(left, right, len(values))
        return np.stack((x, middle - values / most * tall), axis=-1)

    strip = np.concatenate((line(np.full(2, limit)), line(np.full(2, -limit))[::-1]))
    out.add(Area(strip, "guide-soft", 0.8))
    out.add(Stroke(line(np.zeros(2)), "guide", 1.0, dash=True))
    for rep, p in sorted(known, key=lambda k: k[0].key == state.chosen):
        chosen = rep.key == state.chosen
        course = line(np.array(p.signed_pct))
        course = course[np.isfinite(course).all(axis=-1)]
        if len(course) > 1:
            role: Role = "off" if rep.key in state.marked else "actual"
            out.add(Stroke(course, role, 2.2 if chosen else 1.0, opacity=1.0 if chosen else 0.3))
    own = next((p for rep, p in known if rep.key == state.chosen), None)
    name, more, inside = _NAMES[part], "", ""
    if own is not None:
        where = "start" if own.at_share < 0.2 else "turn" if own.at_share > 0.8 else "middle"
        far = f"{own.largest_pct.value:.0f} % ± {max(2 * own.largest_pct.u, 1):.0f} %"
        said = f"{name}: {far} of the arm"
        more, inside = f"{own.way}, at the {where}", f"{own.inside_pct:.0f} % inside"
    elif known:
        worst = max((p for _, p in known), key=lambda p: p.largest_pct.value)
        said = f"{name}: up to {worst.largest_pct.value:.0f} % of the arm"
        more = worst.way
    else:
        said = f"{name}: not seen"
    if narrow:
        out.add(Words(left, top, said, "ink", 12), Words(left, top + 15, more, "ink", 12))
    else:
        out.add(
            Words(
                left,
                top + 14,
                " ".join((said, more)) + (f" · {inside}" if inside else ""),
                "ink",
                12,
            )
        )
    out.add(Words(left, top + 72, "start", "muted", 11))
    out.add(Words(right, top + 72, "turn", "muted", 11, anchor="end"))
    strip_words = inside if narrow else f"above the middle: {positive} · strip ± {limit:.0f} %"
    out.add(Words(0.5 * (left + right), top + 72, strip_words, "muted", 11, anchor="middle"))
