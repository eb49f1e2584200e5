"""How to film an exercise: the phone's place seen from above, and the picture that it should
show."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.track import View
from guide_arc.drawings.figure import framed, limbs, nearest_look
from guide_arc.drawings.shapes import Anchor, Area, Disc, Drawing, Points, Stroke, Words
from guide_arc.drawings.standard_sheet import LOOK_DEG, Pose

# Seen from above the body faces up the sheet: its left is on the left. By view the way from it to
# the phone.
_TOWARDS: Final = {
    "front": (0.0, -1.0),
    "back": (0.0, 1.0),
    "left": (-1.0, 0.0),
    "right": (1.0, 0.0),
}
# Half of what a phone held upright, or on its side, films from left to right, degrees.
_HALF_SEEN_DEG: Final = {True: 20.0, False: 32.5}
_ASPECT: Final = 16.0 / 9.0
_MARGIN_PX: Final = 30.0
_PHONE_M: Final = 0.16


@dataclass(frozen=True)
class PlacedPhone:
    """A phone on the plan. view : the side of the body that faces it; upright : how it is held"""

    number: int
    view: View
    distance_m: float
    upright: bool


def plan(phones: Sequence[PlacedPhone], pose: Pose, width: float, height: float) -> Drawing:
    """The room from above, to scale: the body faces up the sheet, each phone with what it sees and
    its distance.

    pose : landmarks (3,) each
    """
    out = Drawing(width, height)
    body = {name: np.array([-place[0], -place[2]]) for name, place in pose.items()}
    middle = 0.25 * sum(body[f"{s}_{part}"] for s in SIDES for part in ("shoulder", "hip"))
    places = [middle + phone.distance_m * np.array(_TOWARDS[phone.view]) for phone in phones]
    corners = np.stack([*places, *(body[n] for n in body if not n.endswith("pulley"))])
    low, high = corners.min(axis=0), corners.max(axis=0)
    room = np.array([width, height]) - 2.0 * _MARGIN_PX
    scale = float((room / np.maximum(high - low, 0.8)).min())
    shift = 0.5 * (np.array([width, height]) - scale * (low + high))
    at = {name: scale * place + shift for name, place in body.items()}
    spots = [scale * place + shift for place in places]
    for phone, spot in zip(phones, spots, strict=True):
        _sight(out, phone, spot, scale)
    _from_above(out, at, scale)
    for phone, spot in zip(phones, spots, strict=True):
        way = np.array(_TOWARDS[phone.view])
        _phone(out, spot, way, scale)
        _label(out, phone, spot, way)
    return out


def _from_above(out: Drawing, at: dict[str, Points], scale: float) -> None:
    """The body, the lowest parts first."""
    for side in SIDES:
        for chain in (("hip", "knee", "ankle", "foot"), ("shoulder", "elbow", "wrist")):
            out.add(Stroke(np.stack([at[f"{side}_{part}"] for part in chain]), "muted", 2.4))
    trunk = np.stack([at[n] for n in ("left_shoulder", "right_shoulder", "right_hip", "left_hip")])
    out.add(Area(trunk, "held", outline="actual"))
    for part in ("shoulder", "hip"):
        out.add(Stroke(np.stack([at[f"{s}_{part}"] for s in SIDES]), "actual", 3.6))
    ears = 0.5 * (at["left_ear"] + at["right_ear"])
    out.add(Disc(float(ears[0]), float(ears[1]), 0.11 * scale, "panel", "actual", 2.0))
    out.add(Stroke(np.stack((ears, at["nose"])), "actual", 2.4))


def _sight(out: Drawing, phone: PlacedPhone, spot: Points, scale: float) -> None:
    """What the phone sees, as a wedge to a little beyond the body."""
    way = -np.array(_TOWARDS[phone.view])
    across = np.array([-way[1], way[0]])
    far = (phone.distance_m + 0.3) * scale
    half = far * np.tan(np.radians(_HALF_SEEN_DEG[phone.upright]))
    half = min(half, 0.9 * scale)
    ends = np.stack((spot, spot + far * way + half * across, spot + far * way - half * across))
    out.add(Area(ends, "guide-soft", 0.55))


def _phone(out: Drawing, spot: Points, way: Points, scale: float) -> None:
    across = np.array([-way[1], way[0]])
    long, thick = max(_PHONE_M * scale, 9.0), 3.5
    corners = ((-1, -1), (1, -1), (1, 1), (-1, 1))
    box = [spot + a * long * across + b * thick * way for a, b in corners]
    out.add(Area(np.array(box), "guide", outline="guide"))


def _label(out: Drawing, phone: PlacedPhone, spot: Points, way: Points) -> None:
    words = f"{phone.number}: {phone.distance_m:g} m"
    x, y = float(spot[0]), float(spot[1])
    if way[0]:
        out.add(Words(x, y - 18.0, words, "guide", 12, bold=True, anchor="middle"))
    else:
        left = x > 0.5 * out.width  # the wider side of the sheet
        beside = x - 20.0 if left else x + 20.0
        anchor: Anchor = "end" if left else "start"
        out.add(Words(beside, y + 4.0, words, "guide", 12, bold=True, anchor=anchor))


def picture(
    start: Pose,
    turn: Pose,
    extent: Points,
    view: View,
    width: float,
    height: float,
    *,
    upright: bool,
) -> Drawing:
    """What the phone's picture should show: the whole body at the turn, and faintly at the start,
    with room about it.

    start, turn : landmarks (3,) each; extent : (2, 3) of the whole movement
    """
    out = Drawing(width, height)
    tall = min(height - 4.0, (width - 4.0) * (_ASPECT if upright else 1.0 / _ASPECT))
    wide = tall / _ASPECT if upright else tall * _ASPECT
    left, top = 0.5 * (width - wide), 0.5 * (height - tall)
    edge = np.array(
        [
            [left, top],
            [left + wide, top],
            [left + wide, top + tall],
            [left, top + tall],
            [left, top],
        ]
    )
    out.add(Area(edge[:-1], "paper", outline="muted"))
    look = LOOK_DEG[view]
    inside = framed(
        nearest_look(look),
        _seen(extent, view),
        wide,
        height=tall,
        pad=0.09 * wide,
        below=0.07 * tall,
        turn_deg=look,
    )
    figure = Drawing(wide, tall)
    floor = float(inside.place(np.array([0.0, float(extent[0][1]), 0.0]))[1])
    figure.add(Stroke(np.array([[0.0, floor], [wide, floor]]), "rule", 1.2))
    limbs(figure, inside, start, weight=0.5, role="faint", head=False)
    limbs(figure, inside, turn, weight=0.62)
    out.extend(_moved(figure, left, top))
    return out


def _seen(extent: Points, view: View) -> Points:
    """The corners of the movement as the view has them about the body's own middle."""
    low, high = extent[0].copy(), extent[1].copy()
    hidden = 0 if view in SIDES else 2
    middle = 0.5 * (low[hidden] + high[hidden])
    low[hidden] = high[hidden] = middle
    return np.stack((low, high))


def _moved(drawing: Drawing, dx: float, dy: float) -> list[Area | Disc | Stroke]:
    shift = np.array([dx, dy])
    out: list[Area | Disc | Stroke] = []
    for item in drawing.items:
        if isinstance(item, Stroke):
            out.append(Stroke(item.points + shift, item.role, item.width, item.dash, item.opacity))
        elif isinstance(item, Area):
            out.append(Area(item.points + shift, item.role, item.opacity, item.outline, item.dash))
        elif isinstance(item, Disc):
            out.append(
                Disc(
                    x=item.x + dx,
                    y=item.y + dy,
                    radius=item.radius,
                    fill=item.fill,
                    outline=item.outline,
                    width=item.width,
                    height_ratio=item.height_ratio,
                )
            )
    return out
