"""Marks on a clip's picture, and the strip that shows where along the clip they are and where the
tracker doubts."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.calibrate import length_px
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.marks import Line, Marks
from guide_arc.drawings.on_picture import Placed
from guide_arc.drawings.shapes import Area, Disc, Drawing, Points, Role, Stroke, Words

_LIMBS: Final = (
    ("ear", "shoulder"),
    ("shoulder", "elbow"),
    ("elbow", "wrist"),
    ("wrist", "knuckles"),
    ("shoulder", "hip"),
    ("hip", "knee"),
    ("knee", "ankle"),
    ("hip", "ankle"),
)
_KIT_WORDS: Final = {
    "neck": "Base of the neck",
    "mid_spine": "Back at the lowest rib",
    "anchor": "Band anchor",
    "bench_head": "Bench, head end",
    "bench_foot": "Bench, foot end",
    "bar_left": "Bar, left end",
    "bar_right": "Bar, right end",
}
_LINE_WORDS: Final = {"plumb": "plumb", "level": "level"}


def point_words(name: str) -> str:
    """`Left shoulder`, `Band anchor`."""
    return _KIT_WORDS.get(name) or name.replace("_", " ").capitalize()


@dataclass(frozen=True, eq=False)
class MarkingState:
    """What the picture shows: a frame's marks, what the tracker found there, what is to be marked
    next.

    found : where each point was found on this frame, in picture pixels, and how sure that is
    people : the boxes of the people to choose from
    drawing : the line or box that is being drawn, from where to where, in picture pixels
    """

    marks: Marks
    frame: int
    placed: Placed
    point: str
    found: Mapping[str, tuple[Points, float]]
    drawing: tuple[Points, Points] | None = None
    boxing: bool = False
    doubt_below: float = 0.3
    people: tuple[tuple[float, float, float, float], ...] = ()


def marking(state: MarkingState, width: float, height: float) -> Drawing:
    """The drawing over the picture."""
    out = Drawing(width, height)
    spots = _spots(state)
    _limbs(out, state, spots)
    for line in state.marks.lines:
        _line(out, state.placed, line)
    if state.marks.person is not None:
        _, *corners = state.marks.person
        _box(out, state.placed, np.array(corners).reshape(2, 2), "guide")
    for i, box in enumerate(state.people, 1):
        _box(out, state.placed, np.array(box).reshape(2, 2), "near", f"{i}: this one?")
    if state.drawing is not None:
        ends = np.array(state.drawing)
        if state.boxing:
            _box(out, state.placed, ends, "near")
        else:
            out.add(Stroke(state.placed.to_sheet(ends), "near", 2.0))
    for name, (spot, sure) in spots.items():
        _point(out, state, name, spot, sure)
    return out


def _spots(state: MarkingState) -> dict[str, tuple[Points, float]]:
    """Where every point is on this frame: the marked place, or else the tracked one."""
    out = dict(state.found)
    for name in state.marks.points:
        mark = state.marks.marked(name, state.frame)
        if mark is not None:
            out[name] = (np.array([mark.x, mark.y]), 2.0)
    return out


def _limbs(out: Drawing, state: MarkingState, spots: Mapping[str, tuple[Points, float]]) -> None:
    for side in SIDES:
        for a, b in _LIMBS:
            if (a, b) == ("hip", "ankle") and f"{side}_knee" in spots:
                continue
            ends = [spots.get(f"{side}_{part}") for part in (a, b)]
            if ends[0] is not None and ends[1] is not None:
                line = state.placed.to_sheet(np.stack((ends[0][0], ends[1][0])))
                out.add(Stroke(line, "actual", 1.6, opacity=0.75))
        _cable(out, state, spots, side)


def _cable(
    out: Drawing, state: MarkingState, spots: Mapping[str, tuple[Points, float]], side: str
) -> None:
    hand = (
        spots.get(f"{side}_handle") or spots.get(f"{side}_knuckles") or spots.get(f"{side}_wrist")
    )
    origin = spots.get(f"{side}_pulley") or spots.get("anchor")
    if hand is not None and origin is not None:
        line = state.placed.to_sheet(np.stack((hand[0], origin[0])))
        out.add(Stroke(line, "guide", 1.6, dash=True))


def _point(out: Drawing, state: MarkingState, name: str, spot: Points, sure: float) -> None:
    if not np.isfinite(spot).all():
        return
    x, y = (float(v) for v in state.placed.to_sheet(spot))
    marked, doubted = sure > 1.0, sure < state.doubt_below
    role: Role = "off" if doubted else "guide" if marked else "actual"
    out.add(Disc(x, y, 6.5, outline="panel", width=3.4))
    out.add(Disc(x, y, 6.5, outline=role, width=2.0))
    out.add(Disc(x, y, 2.0, fill=role))
    if doubted:
        out.add(Words(x + 11, y + 4, "?", "off", 14, bold=True, clear=True))
    if name == state.point:
        out.add(Disc(x, y, 11.0, outline="near", width=1.6))
        words = point_words(name) if marked or not state.found else f"{point_words(name)}, found"
        out.add(Words(x + 15, y - 8, words, "near", 12, bold=True, clear=True))


def _line(out: Drawing, placed: Placed, line: Line) -> None:
    ends = placed.to_sheet(np.array([[line.ax, line.ay], [line.bx, line.by]]))
    out.add(Stroke(ends, "near", 2.0))
    for x, y in ends:
        out.add(Disc(float(x), float(y), 4.0, fill="panel", outline="near", width=1.8))
    words = _LINE_WORDS.get(line.kind, "")
    if line.kind == "length":
        words = f"{line.what or 'known length'}, {length_px(line) / line.metres:.0f} px a metre"
    x, y = (float(v) for v in ends.mean(axis=0))
    if x > 0.7 * out.width:  # there is no room to the right
        out.add(Words(x - 8, y, words, "near", 12, anchor="end", clear=True))
    else:
        out.add(Words(x + 8, y, words, "near", 12, clear=True))


def _box(
    out: Drawing, placed: Placed, corners: Points, role: Role, words: str = "this person"
) -> None:
    (ax, ay), (bx, by) = placed.to_sheet(corners)
    around = np.array([[ax, ay], [bx, ay], [bx, by], [ax, by], [ax, ay]])
    out.add(Stroke(around, role, 1.8, dash=True))
    out.add(Words(float(min(ax, bx)) + 5, float(min(ay, by)) + 15, words, role, 12, clear=True))


@dataclass(frozen=True, eq=False)
class StripState:
    """The clip's length as a strip: doubts as (start, stop) frames, the frames with marks, the
    clock."""

    frames: int
    doubts: tuple[tuple[int, int], ...]
    marked: tuple[int, ...]
    at: int
    has_track: bool


# Room next to the strip for a mark on the first or last frame, pixels.
_PAD: Final = 14.0


def frame_at(state: StripState, x: float, width: float) -> int:
    """The frame at a place of the strip."""
    share = (x - _PAD) / max(width - 2 * _PAD, 1.0)
    return int(np.clip(round(share * (state.frames - 1)), 0, state.frames - 1))


def marking_strip(state: StripState, width: float, height: float) -> Drawing:
    """The strip under the picture."""
    out = Drawing(width, height)
    span = max(width - 2 * _PAD, 1.0)
    last = max(state.frames - 1, 1)

    def x(frame: float) -> float:
        return _PAD + span * frame / last

    top, low = 0.30 * height, 0.62 * height

    def box(a: float, b: float) -> Points:
        return np.array([[a, top], [b, top], [b, low], [a, low]])

    out.add(Area(box(x(0), x(last)), "guide-soft" if state.has_track else "held", 0.9))
    for start, stop in state.doubts:
        end = min(max(x(stop), x(start) + 3), x(last))
        out.add(Area(box(min(x(start), end - 3), end), "off", 0.85))
    for frame in state.marked:
        out.add(Stroke(np.array([[x(frame), top - 6], [x(frame), low + 6]]), "ink", 1.8))
        out.add(Disc(x(frame), top - 6, 3.0, fill="ink"))
    out.add(Stroke(np.array([[x(state.at), 2.0], [x(state.at), height - 14]]), "guide", 2.0))
    words = f"frame {state.at + 1} of {state.frames}"
    out.add(Words(_PAD, height - 2, words, "muted", 11))
    told = "nothing found yet" if not state.has_track else _doubt_words(len(state.doubts))
    out.add(Words(width - _PAD, height - 2, told, "muted", 11, anchor="end"))
    return out


def _doubt_words(count: int) -> str:
    if not count:
        return "followed without a doubt"
    return f"{count} place{'' if count == 1 else 's'} to look at again (Q)"
