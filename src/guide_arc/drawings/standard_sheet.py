"""A standard as a figure that performs it: small for choosing, large for reading and changing
it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import numpy as np

from guide_arc.core.checks.registry import specs
from guide_arc.core.checks.spec import Stays
from guide_arc.core.kinematics.anatomy import FOREARM_OVER_UPPER_ARM
from guide_arc.core.kinematics.endpoints import TARGETS
from guide_arc.core.kinematics.guide import arm_directions, arm_path, poses_along, way_back
from guide_arc.core.kinematics.path import Part, corridor_pct
from guide_arc.core.kinematics.vectors import cross, length, unit
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.standard import TRUNK_DRIVES, Standard
from guide_arc.drawings.figure import Frame, framed, limbs, nearest_look
from guide_arc.drawings.shapes import Area, Disc, Drawing, Points, Role, Stroke, Words
from guide_arc.drawings.stage import band

Pose = Mapping[str, Points]


def stays() -> dict[str, Stays]:
    """What must stay, by the check that guards it."""
    return {name: spec.stays for name, spec in specs().items() if spec.stays is not None}


# The turn from which each best view is seen: 0 the front, 90 the left.
LOOK_DEG: Final = {"front": 0.0, "left": 90.0, "back": 180.0, "right": 270.0}
_HANDLE_PX: Final = 7.0
_FILM_FRAME_S: Final = 0.08
# An arc shorter than this, in upper-arm lengths, is a spot.
_SPOT_ARMS: Final = 0.05


@dataclass(frozen=True, eq=False)
class SheetState:
    """standard : as a school sees it; pose, extent : of the performing figure, (3,) and (N, 3)
    turn_deg : the direction of view; marked : the name of a check whose part is shown strong
    rings : whether the ends and the corridor can be taken hold of
    """

    standard: Standard
    pose: Pose
    extent: Points
    turn_deg: float
    marked: str | None = None
    rings: bool = True


def shown_part(standard: Standard) -> Part:
    """The joint whose path is the guide arc on the sheet."""
    return "wrist" if standard.drive == "elbow_flexion" else "elbow"


@dataclass(frozen=True, eq=False)
class Film:
    """A standard's movement as small pictures, placed on their sheet beforehand: one costs next to
    nothing to paint, so that a wall of them can move.

    arcs, bones : (F, K, 2) each, a line in every picture; head : (F, 2) its middle; radius : its
        size
    frame_s : from one picture to the next
    """

    arcs: tuple[Points, ...]
    bones: tuple[Points, ...]
    head: Points
    radius: float
    frame_s: float

    def index(self, at_s: float) -> int:
        return int(at_s / self.frame_s) % len(self.head)


def film(
    standard: Standard, time_s: Points, points: Pose, extent: Points, width: float, height: float
) -> Film:
    """The movement once through on sheets of a size. points : each landmark over time, (T, 3)."""
    look = standard.views[0]
    # A little off a straight side or front view, so that the arms can be distinguished.
    turn = LOOK_DEG[look] + (-25.0 if look in SIDES else 20.0)
    every = max(1, round(len(time_s) * _FILM_FRAME_S / max(float(time_s[-1]), 0.1)))
    pose = {name: place[::every] for name, place in points.items()}
    frame = _frame(SheetState(standard, pose, extent, turn), width, height, 7.0, 3.0)
    bones = [
        np.stack([frame.place(pose[f"{side}_{part}"]) for part in chain], axis=1)
        for side in SIDES
        for chain in (("shoulder", "elbow", "wrist"), ("hip", "knee", "ankle", "foot"))
    ]
    for a, b in (("left_shoulder", "right_shoulder"), ("left_hip", "right_hip")):
        bones.append(np.stack((frame.place(pose[a]), frame.place(pose[b])), axis=1))
    shoulders = 0.5 * (pose["left_shoulder"] + pose["right_shoulder"])
    hips = 0.5 * (pose["left_hip"] + pose["right_hip"])
    ears = 0.5 * (pose["left_ear"] + pose["right_ear"])
    bones.append(np.stack((frame.place(ears), frame.place(shoulders), frame.place(hips)), axis=1))
    arcs = [
        frame.place(arc)
        for side in _sides(standard)
        if (arc := _hung_over_time(standard, pose, side)) is not None
    ]
    head = frame.place(ears + 0.25 * (pose["nose"] - ears))
    step = float(time_s[-1]) / max(len(head), 1)
    return Film(tuple(arcs), tuple(bones), head, 0.095 * frame.px_per_m, step)


def _hung_over_time(standard: Standard, pose: Pose, side: Side) -> Points | None:
    """(F, K, 3) the guide arc at the shoulder in every picture; None if the joint keeps its
    spot."""
    local = _local(standard, shown_part(standard))
    if local is None:
        return None
    axes = _axes(pose)
    mirror = np.array([1.0 if side == "left" else -1.0, 1.0, 1.0])
    arm = float(np.median(length(pose[f"{side}_elbow"] - pose[f"{side}_shoulder"])))
    hung: Points = pose[f"{side}_shoulder"][:, None] + np.einsum(
        "kj,fji->fki", local * mirror * arm, axes
    )
    return hung


@lru_cache(maxsize=128)
def _local(standard: Standard, part: Part) -> Points | None:
    """(N, 3) the guide arc from the shoulder in upper-arm lengths; None if it is a spot."""
    local = arm_path(standard)[part]
    return None if float(length(local - local.mean(axis=0)).max()) < _SPOT_ARMS else local


def sheet(state: SheetState, width: float, height: float) -> Drawing:
    """The figure large: the corridor, the ends of the lift, what must stay, the end-point."""
    out = Drawing(width, height)
    plan = state.standard
    frame = _frame(state, width, height, 44.0, 46.0)
    low = float(frame.place(np.array([0.0, float(state.extent[0][1]), 0.0]))[1])
    out.add(Stroke(np.array([[20.0, low], [width - 20.0, low]]), "rule", 1.2))
    for side in _sides(plan):
        _corridor(out, frame, state, side)
    limbs(out, frame, state.pose, weight=0.8)
    _kit(out, frame, state)
    side = _sides(plan)[0]
    _stays(out, frame, state, side)
    _legend(out, plan, height)
    _end_point(out, frame, state, side)
    for end, place in handles(state, width, height).items():
        x, y = float(place[0]), float(place[1])
        out.add(Disc(x, y, _HANDLE_PX, fill="panel", outline="guide", width=2.4))
        words = {"start": "start", "turn": "turn", "corridor": "corridor"}[end]
        out.add(Words(x + 11, y + 4, words, "guide", 11, clear=True))
    return out


def handles(state: SheetState, width: float, height: float) -> dict[str, Points]:
    """Where the start, the turn and the corridor's edge can be taken hold of, (2,) each."""
    plan = state.standard
    if not state.rings or plan.drive in (*TRUNK_DRIVES, "shoulder_hike"):
        return {}
    frame = _frame(state, width, height, 44.0, 46.0)
    side, part = _sides(plan)[0], shown_part(plan)
    path = _hung(state, side, part)
    if path is None:
        return {}
    flat = frame.place(path)
    out: dict[str, Points] = {"start": flat[0], "turn": flat[-1]}
    if plan.check("elbow-path" if part == "elbow" else "hand-path"):
        half = _half_px(frame, state, side, part)
        out["corridor"] = band(flat, half)[1][0][len(flat) // 2]
    return out


def dragged(
    state: SheetState, handle: str, x: float, y: float, width: float, height: float
) -> dict[str, float]:
    """What pulling a handle to a place asks for: keys of the file with their new values."""
    plan = state.standard
    frame = _frame(state, width, height, 44.0, 46.0)
    side, part = _sides(plan)[0], shown_part(plan)
    if handle == "corridor":
        path = _hung(state, side, part)
        assert path is not None
        flat = frame.place(path)
        off = float(np.hypot(flat[:, 0] - x, flat[:, 1] - y).min())
        arm = _arm_m(state, side) * frame.px_per_m
        name = "elbow-path" if part == "elbow" else "hand-path"
        return {f"check.{name}.limit_pct": round(float(np.clip(100.0 * off / arm, 5.0, 120.0)))}
    share = np.linspace(-0.3, 1.3, 161)
    poses = poses_along(plan, share)
    flat = frame.place(_placed(state, side, poses)[part])
    # Near where the arc meets itself the nearer end is meant.
    end = 0.0 if handle == "start" else 1.0
    cost = np.hypot(flat[:, 0] - x, flat[:, 1] - y) + 4.0 * np.abs(share - end)
    best = int(np.argmin(cost))
    column = {"shoulder_elevation": 0, "shoulder_plane": 1, "elbow_flexion": 2}[plan.drive]
    key = ("elevation_deg", "plane_deg", "elbow_deg")[column]
    value = float(np.round(poses[best][column]))
    low, high = (
        (0.0, 160.0)
        if key == "elbow_deg"
        else (0.0, 180.0)
        if key == "elevation_deg"
        else (-180.0, 180.0)
    )
    value = float(np.clip(value, low, high))
    which = "from_deg" if handle == "start" else "to_deg"
    return {f"range.{which}": value, f"pose.{handle}.arm.{key}": value}


def phase_bar(
    phases: tuple[tuple[str, float, float], ...],
    length_s: float,
    at_s: float,
    width: float,
    height: float,
) -> Drawing:
    """Lift, holds and lower in true proportion, with the moment that the figure shows."""
    out = Drawing(width, height)
    left, right, top, low = 8.0, width - 8.0, 6.0, height - 20.0
    scale = (right - left) / max(length_s, 0.1)
    names = {"lift": "lift", "top_hold": "hold", "lower": "lower", "bottom_hold": "hold"}
    for name, a, b in phases:
        x0, x1 = left + a * scale, left + b * scale
        role: Role = "guide-soft" if name == "lift" else "held" if "hold" in name else "rule"
        out.add(Area(np.array([[x0, top], [x1, top], [x1, low], [x0, low]]), role))
        if x1 - x0 > 46:
            words = f"{names[name]} {b - a:.1f} s"
            out.add(Words(0.5 * (x0 + x1), low + 14, words, "muted", 11, anchor="middle"))
    x = left + at_s * scale
    out.add(Stroke(np.array([[x, top - 3], [x, low + 3]]), "guide", 2.0))
    return out


def _frame(state: SheetState, width: float, height: float, pad: float, below: float) -> Frame:
    # The circle that the body turns within keeps the scale while it is turned.
    low, high = state.extent[0], state.extent[1]
    reach = max(abs(low[0]), abs(high[0]), 0.5 * (high[2] - low[2]))
    middle = 0.5 * (low[2] + high[2])
    corners = np.array(
        [
            [sx * reach, y, middle + sz * reach]
            for sx in (-1, 1)
            for sz in (-1, 1)
            for y in (low[1], high[1])
        ]
    )
    turn = np.radians(state.turn_deg)
    flat = np.array([np.cos(turn), 0.0, -np.sin(turn)])
    # Only as wide as the body is from here, about its own middle.
    across = corners @ flat
    centre = 0.5 * (across.min() + across.max())
    extent = np.stack(
        [
            np.array([0.0, low[1], 0.0]) + (centre - reach) * flat,
            np.array([0.0, high[1], 0.0]) + (centre + reach) * flat,
        ]
    )
    return framed(
        nearest_look(state.turn_deg),
        extent,
        width,
        height=height,
        pad=pad,
        below=below,
        turn_deg=state.turn_deg,
    )


def _sides(plan: Standard) -> tuple[Side, ...]:
    return ("left",) if plan.arms == "one" else SIDES


def _arm_m(state: SheetState, side: Side) -> float:
    return float(length(state.pose[f"{side}_elbow"] - state.pose[f"{side}_shoulder"]))


def _half_px(frame: Frame, state: SheetState, side: Side, part: Part) -> float:
    return corridor_pct(state.standard, part) / 100.0 * _arm_m(state, side) * frame.px_per_m


def _axes(pose: Pose) -> Points:
    """(..., 3, 3) rows: the trunk's left, up and ahead."""
    up = unit(pose["left_shoulder"] + pose["right_shoulder"] - pose["left_hip"] - pose["right_hip"])
    line = pose["left_shoulder"] - pose["right_shoulder"]
    left = unit(line - (line * up).sum(axis=-1, keepdims=True) * up)
    return np.stack((left, up, cross(left, up)), axis=-2)


def _placed(state: SheetState, side: Side, poses: Points) -> dict[Part, Points]:
    upper, fore = arm_directions(poses)
    return {
        "elbow": _in_space(state, side, upper),
        "wrist": _in_space(state, side, upper + FOREARM_OVER_UPPER_ARM * fore),
    }


def _in_space(state: SheetState, side: Side, local: Points) -> Points:
    mirror = np.array([1.0 if side == "left" else -1.0, 1.0, 1.0])
    out: Points = state.pose[f"{side}_shoulder"] + (local * mirror * _arm_m(state, side)) @ _axes(
        state.pose
    )
    return out


def _hung(state: SheetState, side: Side, part: Part) -> Points | None:
    """(N, 3) the guide arc from the shoulder as it is now; None if the joint keeps one spot."""
    local = _local(state.standard, part)
    return None if local is None else _in_space(state, side, local)


def _corridor(out: Drawing, frame: Frame, state: SheetState, side: Side) -> None:
    part = shown_part(state.standard)
    path = _hung(state, side, part)
    if path is None:
        return
    flat, half = frame.place(path), _half_px(frame, state, side, part)
    ribbon, edges = band(flat, half)
    out.add(Area(ribbon, "guide-soft", 0.7))
    for edge in edges:
        out.add(Stroke(edge, "guide", 1.0, dash=True))
    out.add(Stroke(flat, "guide", 2.0))
    back = way_back(state.standard)
    if back is not None:
        other = frame.place(_in_space(state, side, back[part]))
        out.add(Stroke(other, "guide", 1.6, dash=True))
    span = state.standard.range
    share = min(span.tolerance_deg / max(span.size_deg, 1.0), 0.4)
    ends = max(1, round(len(flat) * share))
    for piece in (flat[: ends + 1], flat[-ends - 1 :]):
        out.add(Area(band(piece, half)[0], "guide", 0.14))


def _kit(out: Drawing, frame: Frame, state: SheetState) -> None:
    """The weight in the hands, or the cable to its pulley."""
    plan = state.standard
    if plan.held == "none":
        return
    for side in _sides(plan):
        hand = 0.5 * (state.pose[f"{side}_index"] + state.pose[f"{side}_pinky"])
        x, y = (float(v) for v in frame.place(hand))
        pulley = state.pose.get(f"{side}_pulley")
        if pulley is not None:
            end = frame.place(pulley)
            line = np.stack((frame.place(hand), end))
            # A pulley outside the sheet is shown by the way the cable leaves it.
            size = max(float(np.hypot(*(line[1] - line[0]))), 1e-6)
            line[1] = line[0] + (line[1] - line[0]) * min(1.0, 120.0 / size)
            out.add(Stroke(line, "muted", 1.2, dash=True))
        if plan.held in ("bar", "trap-bar") and side == "left" and len(_sides(plan)) == 2:
            other = 0.5 * (state.pose["right_index"] + state.pose["right_pinky"])
            ends = frame.place(np.stack((hand, other)))
            reach = 0.15 * (ends[0] - ends[1])
            out.add(Stroke(np.stack((ends[0] + reach, ends[1] - reach)), "actual", 2.0))
        out.add(Disc(x, y, 9.0 if plan.pull == "free-weight" else 5.0, outline="actual", width=2.0))


def _stays(out: Drawing, frame: Frame, state: SheetState, side: Side) -> None:
    """What must stay, as a thin accent along the part and a word next to it."""
    spots = [(n, s.words, s.between) for n, s in stays().items() if state.standard.check(n)]
    for name, words, ends in spots:
        if name not in stays():
            continue
        a, b = (frame.place(state.pose[e.format(side=side)]) for e in ends)
        strong = name == state.marked
        out.add(Stroke(np.stack((a, b)), "near", 4.0 if strong else 1.6))
        if strong:
            middle = 0.5 * (a + b)
            out.add(
                Words(
                    float(middle[0]) - 12,
                    float(middle[1]),
                    words,
                    "near",
                    12,
                    bold=True,
                    anchor="end",
                    clear=True,
                )
            )


def _legend(out: Drawing, plan: Standard, height: float) -> None:
    """What the accent on the body means."""
    names = [s.words for n, s in stays().items() if plan.check(n)]
    if names:
        y = height - 14.0
        out.add(Stroke(np.array([[16.0, y - 4.0], [36.0, y - 4.0]]), "near", 2.0))
        # Two lines where one would run off the sheet.
        half = len(names) if len(names) < 4 else (len(names) + 1) // 2
        for i, part in enumerate((names[half:], names[:half])):
            if part:
                out.add(Words(42, y - 15.0 * i * bool(names[half:]), ", ".join(part), "muted", 11))


def _end_point(out: Drawing, frame: Frame, state: SheetState, side: Side) -> None:
    rule = state.standard.check("end-point")
    if rule is None or rule.target is None:
        return
    target = TARGETS[rule.target]
    share = 0.0 if rule.at == "start" else 1.0
    part: Part = "elbow" if target.part == "elbow" else "wrist"
    spot = _placed(state, side, poses_along(state.standard, np.array([share])))[part][0]
    x, y = (float(v) for v in frame.place(spot))
    out.add(Stroke(np.array([[x - 14, y], [x + 14, y]]), "off", 2.0))
    out.add(Stroke(np.array([[x, y - 14], [x, y + 14]]), "off", 2.0))
    out.add(
        Words(
            x - 16, y - 26, f"{target.part} at {target.words}", "off", 12, anchor="end", clear=True
        )
    )
