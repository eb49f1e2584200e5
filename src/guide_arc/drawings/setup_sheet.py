"""A setup: the body with the pull from the front, the side or above, the load over the arc, and the
torque."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.mechanics.kit import AnchoredBar, Band, Cable, Kit
from guide_arc.core.mechanics.path_load import PathLoad
from guide_arc.core.mechanics.statics import Curve
from guide_arc.core.model.landmarks import SIDES
from guide_arc.drawings.free_spot import free_spot
from guide_arc.drawings.shapes import Area, Disc, Drawing, Role, Stroke, Words

Look = Literal["front", "side", "top"]
LOOKS: Final[tuple[Look, ...]] = ("front", "side", "top")
# How large the lever's words are, and how wide a letter is of that.
_LEVER_PX: Final = 11.5
_LETTER_SHARE: Final = 0.58
SHOE_M: Final = 0.30
# World axes that a look shows: (to the right, sign), (up, sign).
_AXES: Final[dict[Look, tuple[tuple[int, float], tuple[int, float]]]] = {
    "front": ((0, 1.0), (1, 1.0)),
    "side": ((2, -1.0), (1, 1.0)),
    "top": ((0, 1.0), (2, 1.0)),
}
_LIMBS: Final = (
    ("left_shoulder", "right_shoulder"),
    ("left_hip", "right_hip"),
    *((f"{s}_shoulder", f"{s}_elbow") for s in SIDES),
    *((f"{s}_elbow", f"{s}_wrist") for s in SIDES),
    *((f"{s}_hip", f"{s}_knee") for s in SIDES),
    *((f"{s}_knee", f"{s}_ankle") for s in SIDES),
)
# What the picture shows of the room's height: the highest pulley and a hand.
_ROOM_M: Final = 2.55


@dataclass(frozen=True)
class ViewFrame:
    """Where the world is on a sheet of a look."""

    look: Look
    x: float
    y: float
    scale: float

    def place(self, world: Array) -> Array:
        """(..., 2) on the sheet of (..., 3) in the world."""
        (a, sa), (b, sb) = _AXES[self.look]
        return np.stack(
            (self.x + sa * self.scale * world[..., a], self.y - sb * self.scale * world[..., b]),
            axis=-1,
        )

    def world(self, px: float, py: float, before: Sequence[float]) -> tuple[float, float, float]:
        """A place in the world from one on the sheet; the axis that a look hides stays as it
        was."""
        (a, sa), (b, sb) = _AXES[self.look]
        out = [float(v) for v in before]
        out[a], out[b] = sa * (px - self.x) / self.scale, sb * (self.y - py) / self.scale
        return out[0], out[1], out[2]


def frame_of(look: Look, width: float, height: float) -> ViewFrame:
    """The whole room of a body on a sheet."""
    scale = min((height - 64.0) / _ROOM_M, width / 3.4)
    floor = height - 40.0 if look != "top" else 0.5 * height
    return ViewFrame(look, 0.5 * width, floor, scale)


@dataclass(frozen=True, eq=False)
class SetupState:
    """points : landmarks along the path; at : which of them is shown; found : another setup next to
    the present one"""

    points: Mapping[str, Array]
    at: int
    kit: Kit
    load: PathLoad
    holes_m: tuple[float, ...]
    found: PathLoad | None = None
    found_kit: Kit | None = None
    held: bool = False


def setup_view(state: SetupState, look: Look, width: float, height: float) -> Drawing:
    """The body at one share of the lift, where the pull comes from, its line and its lever arm."""
    out, frame = Drawing(width, height), frame_of(look, width, height)
    if look != "top":
        out.add(Stroke(np.array([(14, frame.y), (width - 14, frame.y)]), "rule"))
        for n in range(-4, 5):
            x = frame.x + n * SHOE_M * frame.scale
            out.add(Stroke(np.array([(x, frame.y), (x, frame.y + 4)]), "muted"))
            if n % 2 == 0:
                out.add(Words(x, frame.y + 16, str(abs(n)), "muted", 10.5, anchor="middle"))
        out.add(Words(width - 16, frame.y + 32, "shoe lengths", "muted", 10.5, anchor="end"))
    _columns(out, state, frame)
    _guide(out, state, frame)
    _body(out, state, frame)
    if state.found_kit is not None and state.found is not None:
        _pull(out, state.found, state.found_kit, state.at, frame, "guide", dash=True)
    _pull(out, state.load, state.kit, state.at, frame, "ink", dash=False)
    _lever(out, state.load, state.at, frame)
    return out


def spots_of(kit: Kit) -> dict[str, tuple[float, float, float]]:
    """The places that can be dragged, by arm."""
    if isinstance(kit, Cable):
        return {str(s): p for s, p in kit.pulley_m.items()}
    if isinstance(kit, Band):
        return {str(s): p for s, p in kit.anchor_m.items()}
    return {"pivot": kit.pivot_m} if isinstance(kit, AnchoredBar) else {}


def _columns(out: Drawing, state: SetupState, frame: ViewFrame) -> None:
    """The columns with the holes that exist, from where they are seen as such."""
    if frame.look == "top" or not isinstance(state.kit, Cable | Band) or not state.holes_m:
        return
    for spot in dict.fromkeys(spots_of(state.kit).values()):
        low, high = min(state.holes_m), max(state.holes_m)
        ends = frame.place(
            np.array([(spot[0], max(low - 0.08, 0), spot[2]), (spot[0], high + 0.08, spot[2])])
        )
        out.add(Stroke(ends, "muted", 4.0, opacity=0.35))
        for k, hole in enumerate(state.holes_m, 1):
            x, y = frame.place(np.array((spot[0], hole, spot[2])))
            out.add(Disc(float(x), float(y), 1.4, "panel"))
            if k % 4 == 0:
                out.add(Words(float(x) - 9, float(y) + 4, str(k), "muted", 10.5, anchor="end"))


def _guide(out: Drawing, state: SetupState, frame: ViewFrame) -> None:
    for arm in state.load.path.arms.values():
        way = frame.place(arm.grip)
        out.add(Stroke(way, "guide-soft", 12.0))
        out.add(Stroke(way, "guide", 1.0, dash=True))


def _body(out: Drawing, state: SetupState, frame: ViewFrame) -> None:
    at = {name: frame.place(p[state.at]) for name, p in state.points.items()}
    middle = (
        0.5 * (at["left_shoulder"] + at["right_shoulder"]),
        0.5 * (at["left_hip"] + at["right_hip"]),
    )
    out.add(Stroke(np.array(middle), "actual", 4.0))
    for a, b in _LIMBS:
        out.add(Stroke(np.array((at[a], at[b])), "actual", 4.0))
    head = 0.5 * (at["left_ear"] + at["right_ear"])
    out.add(Disc(float(head[0]), float(head[1]), 0.095 * frame.scale, "panel", "actual", 3.5))
    for side in SIDES:
        for part in ("shoulder", "elbow", "wrist"):
            x, y = at[f"{side}_{part}"]
            out.add(Disc(float(x), float(y), 4.0, "panel", "actual", 2.0))


def _pull(
    out: Drawing,
    load: PathLoad,
    kit: Kit,
    at: int,
    frame: ViewFrame,
    role: Role,
    *,
    dash: bool,
) -> None:
    spots = spots_of(kit)
    for side, own in load.loads.items():
        arm = load.path.arms[side]
        grip = arm.grip[at]
        force = own.force_n[at]
        size = float(np.linalg.norm(force))
        spot = spots.get(side) or spots.get("pivot")
        end = np.asarray(spot) if spot is not None else grip + 0.45 * force / max(size, 1e-9)
        line = frame.place(np.array((grip, end)))
        out.add(Stroke(line, role, 1.6, dash=dash))
        if spot is not None:
            x, y = line[1]
            out.add(Disc(float(x), float(y), 8.5, "panel", role, 2.4))
            out.add(Disc(float(x), float(y), 2.2, outline=role, width=1.4))
        elif size > 1e-6:
            _arrow(out, line[0], line[1], role)


def _lever(out: Drawing, load: PathLoad, at: int, frame: ViewFrame) -> None:
    """The lever arm of each hand's pull about the working joint; the left one's length in words,
    where they cover nothing."""
    about: tuple[Array, str] | None = None
    for side, own in load.loads.items():
        arm, force = load.path.arms[side], own.force_n[at]
        size = float(np.linalg.norm(force))
        if size <= 1e-6:
            continue
        grip = arm.grip[at]
        joint = (arm.elbow if load.path.joint == "elbow" else arm.shoulder)[at]
        foot = grip + float((joint - grip) @ force) / size**2 * force
        out.add(Stroke(frame.place(np.array((joint, foot))), "near", 1.6))
        if side == "left" or about is None:
            words = f"lever {100 * float(own.lever_m[at]):.0f} cm"
            about = frame.place(0.5 * (joint + foot)), words
    if about is not None:
        point, words = about
        box = (_LETTER_SHARE * _LEVER_PX * len(words), 1.3 * _LEVER_PX)
        x, y = free_spot(out, point, box, (out.width, out.height))
        out.add(Words(x, y + _LEVER_PX, words, "near", _LEVER_PX, clear=True))


def _arrow(out: Drawing, start: Array, end: Array, role: Role) -> None:
    way = end - start
    size = float(np.hypot(*way))
    if size < 6:
        return
    along = way / size
    across = np.array((-along[1], along[0]))
    out.add(
        Area(np.array((end, end - 11 * along + 5 * across, end - 11 * along - 5 * across)), role)
    )


@dataclass(frozen=True, eq=False)
class LoadRing:
    """One kit on the dial. words : its name; nm : along the path"""

    words: str
    load: PathLoad
    role: Role


def load_dial(
    width: float, height: float, rings: Sequence[LoadRing], shown: int, *, alike: bool = True
) -> Drawing:
    """A ring for each kit over the arc of the joint, as thick as it is heavy. alike : each to its
    own peak, else all to the highest, in newton-metres"""
    out = Drawing(width, height)
    if not rings:
        return out
    angles = rings[0].load.path.angle_deg
    low, high = float(angles.min()), float(angles.max())
    x, y = 70.0, 34.0
    most = min(width - x - 16.0, height - y - 40.0)
    step = most / (len(rings) + 0.6)

    def turn(angle: Array) -> Array:
        share = (angle - low) / max(high - low, 1e-9)
        return np.radians(4.0 + 82.0 * share)

    out.add(Disc(x, y, 4.0, "actual"))
    out.add(Words(x - 4, y - 10, rings[0].load.path.joint, "muted", 11))
    common = max(float(_against(r.load).max()) for r in rings)
    for n, ring in enumerate(rings):
        nm = _against(ring.load)
        peak = max(float(nm.max()) if alike else common, 1e-9)
        base = step * (n + 0.75)
        thick = np.clip(nm / peak, 0.0, 1.0) * 0.62 * step
        t = turn(angles)
        inner, outer = base - 0.5 * thick, base + 0.5 * thick
        shape = np.concatenate((_polar(x, y, outer, t), _polar(x, y, inner, t)[::-1]))
        out.add(Area(shape, ring.role, 0.9))
        for a, b in ring.load.curve.slack:
            part = (ring.load.path.share >= a) & (ring.load.path.share <= b)
            if part.sum() > 1:
                out.add(
                    Stroke(
                        _polar(x, y, np.full(part.sum(), base), t[part]), ring.role, 1.4, dash=True
                    )
                )
        i = int(nm.argmax())
        px, py = _polar(x, y, np.array([base]), t[i : i + 1])[0]
        out.add(Disc(float(px), float(py), 3.6, "panel", ring.role, 2.0))
        # Beside the ring's lower end, where no other ring runs.
        words_role = "muted" if ring.role == "faint" else ring.role
        out.add(Words(x - 6, y + base + 4, ring.words, words_role, 10.5, anchor="end"))
    at = turn(angles[shown : shown + 1])
    out.add(
        Stroke(
            np.concatenate(
                (_polar(x, y, np.array([12.0]), at), _polar(x, y, np.array([most]), at))
            ),
            "near",
            1.2,
        )
    )
    told = ("thick = heavy", "ring = hardest", "dashes = slack")
    # A narrow sheet says it on two lines.
    lines = (" · ".join(told),) if width > 246 else (" · ".join(told[:2]), told[2])
    for i, words in enumerate(reversed(lines)):
        out.add(Words(12, height - 8 - 13 * i, words, "muted", 10.5))
    return out


def _polar(x: float, y: float, radius: Array, turn: Array) -> Array:
    """From straight down, round to the right."""
    return np.stack((x + radius * np.sin(turn), y + radius * np.cos(turn)), axis=-1)


@dataclass(frozen=True, eq=False)
class StripLine:
    """A torque along the lift. words : written at its end; empty for none"""

    words: str
    nm: Array
    role: Role


def torque_strip(width: float, height: float, rings: Sequence[LoadRing], shown: int) -> Drawing:
    """Newton-metres against the lift over the share of the range, a line for each kit."""
    if not rings:
        return Drawing(width, height)
    lines = [StripLine("", _against(r.load), r.role) for r in rings]
    return joint_strip(width, height, lines, rings[0].load.path.share, shown)


def joint_strip(
    width: float, height: float, lines: Sequence[StripLine], share: Array, shown: int
) -> Drawing:
    """Newton-metres over the share of the range, a line for each joint or kit."""
    out = Drawing(width, height)
    top = max(max(float(line.nm.max()) for line in lines), 1.0)
    low = min(min(float(line.nm.min()) for line in lines), 0.0)
    named = any(line.words for line in lines)
    left, right, floor, roof = 34.0, width - (62.0 if named else 12.0), height - 24.0, 10.0

    def y_of(nm: Array | float) -> Array:
        return floor - (floor - roof) * (np.asarray(nm) - low) / (top - low)

    for mark in (0.0, 0.5 * top, top):
        y = float(y_of(mark))
        out.add(Stroke(np.array([(left, y), (right, y)]), "rule"))
        out.add(Words(left - 6, y + 4, f"{mark:.0f}", "muted", 10.5, anchor="end"))
    for line in lines:
        xs = left + (right - left) * share
        dash = line.role == "muted"
        out.add(Stroke(np.stack((xs, y_of(line.nm)), axis=-1), line.role, 1.8, dash=dash))
    # Names at the lines' ends, apart from one another.
    last = -100.0
    for line in sorted(lines, key=lambda one: float(y_of(one.nm[-1]))):
        if line.words:
            last = max(float(y_of(line.nm[-1])) + 4.0, last + 12.0)
            out.add(Words(right + 5, last, line.words, line.role, 10.5))
    x = left + (right - left) * float(share[shown])
    out.add(Stroke(np.array([(x, roof), (x, floor)]), "near", 1.2))
    out.add(Words(left, height - 6, "stretched", "muted", 10.5))
    out.add(Words(right, height - 6, "shortened", "muted", 10.5, anchor="end"))
    return out


def _against(load: PathLoad) -> Array:
    out: Array = np.mean([a.against_nm for a in load.loads.values()], axis=0)
    return out


def curve_words(curve: Curve) -> str:
    """`hardest at 35°, never below 69 %, no slack`"""
    if curve.hardest is None or curve.hardest.nm <= 0:
        return "nothing resists the lift"
    slack = sum(b - a for a, b in curve.slack)
    tail = f", slack for {100 * slack:.0f} % of the way" if slack > 0.005 else ", no slack"
    return (
        f"hardest at {curve.hardest.angle_deg:.0f}°, never below {curve.least_pct:.0f} % of"
        f" it{tail}"
    )
