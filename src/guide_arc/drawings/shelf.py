"""The rep shelf: each rep's arm at the turn, over the intended pose."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.model.rep import Rep
from guide_arc.drawings.dial import RepKey
from guide_arc.drawings.figure import Frame
from guide_arc.drawings.shapes import Drawing, Points, Role, Stroke, Words
from guide_arc.drawings.shown_set import ShownSet

# Width and height that a small arm with its number needs.
_LEAST_CELL: Final = (44.0, 40.0)
# What the number under an arm takes of its height.
_NUMBER_PX: Final = 16.0


@dataclass(frozen=True, eq=False)
class ShelfState:
    measured: ShownSet
    chosen: RepKey | None = None
    marked: frozenset[RepKey] = frozenset()


def shelf_cells(count: int, width: float, height: float) -> tuple[int, float, float]:
    """Columns, and the width and height of a cell, for this many reps: as large as they can be."""
    count = max(count, 1)

    def cell(columns: int) -> tuple[float, float]:
        return width / columns, height / int(np.ceil(count / columns))

    def size(columns: int) -> float:
        wide, tall = cell(columns)
        return min(wide, tall - _NUMBER_PX)

    columns = max(range(1, count + 1), key=lambda c: (round(size(c), 3), -c))
    return columns, *cell(columns)


def shelf_reps(
    reps: tuple[Rep, ...], chosen: RepKey | None, width: float, height: float
) -> tuple[Rep, ...]:
    """The reps that have room: all, or some evenly over the set with the chosen one among them."""
    room = max(1, int(width // _LEAST_CELL[0])) * max(1, int(height // _LEAST_CELL[1]))
    if len(reps) <= room:
        return reps
    index = np.unique(np.linspace(0, len(reps) - 1, room).round().astype(int))
    at = next((i for i, rep in enumerate(reps) if rep.key == chosen), None)
    if at is not None and at not in index:
        index[int(np.argmin(np.abs(index - at)))] = at
    return tuple(reps[i] for i in index)


def rep_at(state: ShelfState, width: float, height: float, x: float, y: float) -> Rep | None:
    """The rep whose cell is under a point."""
    reps = shelf_reps(state.measured.review.reps, state.chosen, width, height)
    columns, cell_w, cell_h = shelf_cells(len(reps), width, height)
    index = int(y // cell_h) * columns + int(x // cell_w)
    return reps[index] if 0 <= index < len(reps) and x >= 0 and y >= 0 else None


def rep_shelf(state: ShelfState, width: float, height: float) -> Drawing:
    """Small arms: the guide's turn behind, the rep's own in front."""
    out = Drawing(width, height)
    reps = shelf_reps(state.measured.review.reps, state.chosen, width, height)
    columns, cell_w, cell_h = shelf_cells(len(reps), width, height)
    for i, rep in enumerate(reps):
        x, y = (i % columns) * cell_w, (i // columns) * cell_h
        _cell(out, state, rep, x=x, y=y, w=cell_w, h=cell_h)
    return out


def _cell(
    out: Drawing, state: ShelfState, rep: Rep, x: float, y: float, w: float, h: float
) -> None:
    measured = state.measured
    side = measured.shown_side if rep.side == "both" else rep.side
    points = measured.body.points
    at = measured.index(rep.turn_s)
    arm = np.stack([points[f"{side}_{part}"][at] for part in ("shoulder", "elbow", "wrist")])
    guide = measured.guide_in_space(side, at)
    wanted = np.stack((arm[0], guide["elbow"][-1], guide["wrist"][-1]))
    if not np.isfinite(arm).all():
        out.add(Words(x + w / 2, y + h / 2, "–", "muted", 12, anchor="middle"))
    else:
        reach = measured.body.learned.upper_arm_m[side]
        scale = min(w, h - _NUMBER_PX) * 0.47 / max(reach, 1e-3)
        offset = Frame(measured.looking, scale, 0.0, 0.0)
        middle = offset.place(np.concatenate((arm, wanted))).mean(axis=0)
        frame = Frame(
            measured.looking, scale, x + w / 2 - middle[0], y + (h - _NUMBER_PX) / 2 - middle[1]
        )
        marked = rep.key in state.marked
        role: Role = "off" if marked else "actual"
        heavy = 1.0 if scale < 130 else 1.4
        out.add(Stroke(_line(frame, wanted), "guide", 1.6 * heavy, opacity=0.8))
        out.add(Stroke(_line(frame, arm), role, 2.4 * heavy))
    strong = state.chosen == rep.key
    words: Role = "guide" if strong else ("off" if rep.key in state.marked else "muted")
    label = str(rep.number) if rep.side == "both" else f"{rep.number}{rep.side[0].upper()}"
    out.add(Words(x + w / 2, y + h - 3, label, words, 11, bold=strong, anchor="middle"))


def _line(frame: Frame, points: Points) -> Points:
    return frame.place(points)
